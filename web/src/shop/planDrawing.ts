import type { Schemas } from "../api/client";

/** Geometry of drawing the shop's plan by hand, in millimetres. */

export type Spot = { xMm: number; yMm: number; widthMm: number; depthMm: number };
export type Point = { x: number; y: number };
export type Wall = Schemas["PlanWall"];

/** Everything lies on a raster of this. */
export const STEP = 100;
/** A hand may cover as much of its neighbour as a painted line is wide. */
const LINE = 100;
/** Smaller than this nobody meant a place. */
export const LEAST = 500;

export const snap = (v: number) => Math.round(v / STEP) * STEP;
const within = (v: number, most: number) => Math.min(Math.max(v, 0), most);

/** The place between two corners, whichever way it was drawn, inside the plan. */
export function between(a: Point, b: Point, plan: { w: number; d: number }): Spot {
  const [x1, x2] = [a.x, b.x].map((v) => within(snap(v), plan.w)).sort((p, q) => p - q) as [number, number];
  const [y1, y2] = [a.y, b.y].map((v) => within(snap(v), plan.d)).sort((p, q) => p - q) as [number, number];
  return { xMm: x1, yMm: y1, widthMm: x2 - x1, depthMm: y2 - y1 };
}

/** The place moved, kept whole inside the plan. */
export const moved = (s: Spot, dx: number, dy: number, plan: { w: number; d: number }): Spot => ({
  ...s,
  xMm: within(snap(s.xMm + dx), plan.w - s.widthMm),
  yMm: within(snap(s.yMm + dy), plan.d - s.depthMm),
});

/** The place with a side or corner taken elsewhere: `side` is a compass point, such as "ne". */
export function sized(s: Spot, side: string, to: Point, plan: { w: number; d: number }): Spot {
  const right = s.xMm + s.widthMm;
  const bottom = s.yMm + s.depthMm;
  const [x, y] = [within(snap(to.x), plan.w), within(snap(to.y), plan.d)];
  const left = side.includes("w") ? Math.min(x, right - LEAST) : s.xMm;
  const top = side.includes("n") ? Math.min(y, bottom - LEAST) : s.yMm;
  const r = side.includes("e") ? Math.max(x, left + LEAST) : right;
  const b = side.includes("s") ? Math.max(y, top + LEAST) : bottom;
  return { xMm: left, yMm: top, widthMm: r - left, depthMm: b - top };
}

/** Whether two places cover the same ground. */
export const overlap = (a: Spot, b: Spot) =>
  a.xMm + a.widthMm - b.xMm > LINE &&
  b.xMm + b.widthMm - a.xMm > LINE &&
  a.yMm + a.depthMm - b.yMm > LINE &&
  b.yMm + b.depthMm - a.yMm > LINE;

/** The first free ground for a place of a size, row by row; null: the plan is full. */
export function freeSpot(size: { widthMm: number; depthMm: number }, taken: readonly Spot[], plan: { w: number; d: number }): Spot | null {
  for (let y = 0; y + size.depthMm <= plan.d; y += 500)
    for (let x = 0; x + size.widthMm <= plan.w; x += 500) {
      const spot = { xMm: x, yMm: y, ...size };
      if (!taken.some((t) => overlap(spot, t))) return spot;
    }
  return null;
}

/** A wall from one point to another: along the plan's edges where it nearly is. */
export function wallBetween(a: Point, b: Point, plan: { w: number; d: number }): Wall {
  const from = { x: within(snap(a.x), plan.w), y: within(snap(a.y), plan.d) };
  const to = { x: within(snap(b.x), plan.w), y: within(snap(b.y), plan.d) };
  const [dx, dy] = [Math.abs(to.x - from.x), Math.abs(to.y - from.y)];
  if (dy < dx * 0.18) to.y = from.y;
  else if (dx < dy * 0.18) to.x = from.x;
  return { fromXMm: from.x, fromYMm: from.y, toXMm: to.x, toYMm: to.y };
}

export const lengthOf = (w: Wall) => Math.hypot(w.toXMm - w.fromXMm, w.toYMm - w.fromYMm);

/** How a door lies where somebody touched: in the nearest wall or edge of the plan, if one is near. */
export function doorAt(p: Point, walls: readonly Wall[], plan: { w: number; d: number }): Schemas["PlanDoor"] | null {
  const edges: Wall[] = [
    { fromXMm: 0, fromYMm: 0, toXMm: plan.w, toYMm: 0 },
    { fromXMm: 0, fromYMm: plan.d, toXMm: plan.w, toYMm: plan.d },
    { fromXMm: 0, fromYMm: 0, toXMm: 0, toYMm: plan.d },
    { fromXMm: plan.w, fromYMm: 0, toXMm: plan.w, toYMm: plan.d },
  ];
  let best: { by: number; x: number; y: number; along: boolean; long: number } | null = null;
  for (const w of [...walls, ...edges]) {
    const [dx, dy] = [w.toXMm - w.fromXMm, w.toYMm - w.fromYMm];
    const t = within(((p.x - w.fromXMm) * dx + (p.y - w.fromYMm) * dy) / (dx * dx + dy * dy), 1);
    const [x, y] = [w.fromXMm + t * dx, w.fromYMm + t * dy];
    const by = Math.hypot(p.x - x, p.y - y);
    if (!best || by < best.by) best = { by, x, y, along: Math.abs(dx) >= Math.abs(dy), long: Math.hypot(dx, dy) };
  }
  if (!best || best.by > 1200) return null;
  const widthMm = Math.max(800, Math.min(3400, snap(best.long * 0.8)));
  const half = widthMm / 2;
  return {
    xMm: best.along ? Math.max(half, within(snap(best.x), plan.w - half)) : snap(best.x),
    yMm: best.along ? snap(best.y) : Math.max(half, within(snap(best.y), plan.d - half)),
    widthMm,
    along: best.along,
    heightMm: 3000,
  };
}

/** A name that nobody has yet: Bay 1, Bay 2. */
export function nextName(kind: string, taken: readonly string[]): string {
  const word = kind.charAt(0).toUpperCase() + kind.slice(1);
  if (!["bay", "prep", "bench"].includes(kind) && !taken.includes(word)) return word;
  let n = 1;
  while (taken.includes(`${word} ${n}`)) n++;
  return `${word} ${n}`;
}
