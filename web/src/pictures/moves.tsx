import type { Schemas } from "../api/client";
import { stageName, weekday } from "../format";
import { f } from "../geometry";
import { INK, P0 } from "../tokens";

type Station = Schemas["StationView"];
type Card = Schemas["BuildCard"];

/**
 * The next place of a vehicle. Free: the place stands empty and is taken by this move. Drawn: an arrow to it crosses no
 * other vehicle, and ends in an empty place or at the edge of one straight across. What goes out to the yard is said in words.
 */
export type Move = { build: Card; from: Station; to: Station; on: string; free: boolean; drawn: boolean };

const middle = (s: Station) => ({ x: s.xMm + s.widthMm / 2, y: s.yMm + s.depthMm / 2 });
/** Where two places face each other from above and below: left and right end. */
const facing = (a: Station, b: Station): [number, number] => [Math.max(a.xMm, b.xMm), Math.min(a.xMm + a.widthMm, b.xMm + b.widthMm)];
const face = (a: Station, b: Station) => facing(a, b)[1] - facing(a, b)[0] > 1500;
const inside = (s: Station, x: number, y: number) => x > s.xMm && x < s.xMm + s.widthMm && y > s.yMm && y < s.yMm + s.depthMm;

function crosses(from: Station, to: Station, others: Station[]) {
  const [a, b] = [middle(from), middle(to)];
  return Array.from({ length: 23 }, (_, i) => (i + 1) / 24).some((t) =>
    others.some((o) => inside(o, a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t)),
  );
}

/** Where each vehicle goes next, soonest first; the server knows the place, the picture whether an arrow can be drawn to it. */
export function movesOf(builds: Card[], stations: Station[]): Move[] {
  const standing = new Set(builds.map((b) => b.stationId));
  return builds
    .flatMap((build) => {
      const from = stations.find((s) => s.id === build.stationId);
      const to = stations.find((s) => s.id === build.move?.stationId);
      if (!from || !to || !build.move) return [];
      const { on, free } = build.move;
      const others = stations.filter((s) => s !== from && s !== to && standing.has(s.id));
      return [
        {
          build,
          from,
          to,
          on,
          free,
          drawn: from.kind !== "yard" && to.kind !== "yard" && (free || face(from, to)) && !crosses(from, to, others),
        },
      ];
    })
    .sort((a, b) => a.on.localeCompare(b.on));
}

type Way = { d: string; tip: { x: number; y: number; turn: number }; label: { x: number; y: number } };

/** The line of a move in pixels: straight where the places face each other, else with one bend; up to the edge of what is not free yet. */
function wayOf({ from, to, free }: Move, px: (mm: number) => number): Way {
  const [a, b] = [middle(from), middle(to)];
  const across = Math.abs(b.x - a.x) > Math.abs(b.y - a.y);
  const [dx, dy] = [Math.sign(b.x - a.x), Math.sign(b.y - a.y)];
  const within = free ? 0.22 : -0.02;
  if (across) {
    const y = px(a.y - from.depthMm * 0.14);
    const [x0, x1] = [px(a.x + dx * from.widthMm * 0.4), px(b.x - dx * to.widthMm * (0.5 - within))];
    const end = px(b.y + to.depthMm * (free ? 0.1 : 0));
    return {
      d: `M${f(x0)},${f(y)}Q${f(x1)},${f(y)} ${f(x1)},${f(end)}`,
      tip: { x: x1, y: end, turn: Math.abs(end - y) > 14 ? Math.sign(end - y) * 90 : dx > 0 ? 0 : 180 },
      label: { x: x1 + 8, y: end - 4 },
    };
  }
  const [left, right] = facing(from, to);
  const straight = face(from, to);
  const x0 = px(straight ? left + (right - left) * (dy < 0 ? 0.2 : 0.7) : a.x);
  const x1 = straight ? x0 : px(b.x);
  const [y0, y1] = [px(a.y + dy * from.depthMm * 0.46), px(b.y - dy * to.depthMm * (0.5 - within))];
  return {
    d: straight ? `M${f(x0)},${f(y0)}V${f(y1)}` : `M${f(x0)},${f(y0)}Q${f(x1)},${f(y0)} ${f(x1)},${f(y1)}`,
    tip: { x: x1, y: y1, turn: dy * 90 },
    label: { x: x1 + 8, y: (y0 + y1) / 2 + 4 },
  };
}

/** What it is taken there for: in the yard nothing is done, so it makes room. */
export const forWhat = ({ build, to }: Move) =>
  to.kind === "yard"
    ? "makes room"
    : (stageName(build.move?.stage ?? "teardown")
        .split(",")[0]
        ?.toLowerCase() ?? "");

/** A dashed line from the vehicle to the place it goes to, with what for and when. */
export function MoveArrow({ move, px }: { move: Move; px: (mm: number) => number }) {
  const way = wayOf(move, px);
  return (
    <g aria-hidden="true" fill="none" stroke={INK} strokeWidth="1.4">
      <path d={way.d} strokeDasharray="6 4" />
      <path d="M-9,-4.5L0,0L-9,4.5" transform={`translate(${f(way.tip.x)},${f(way.tip.y)}) rotate(${way.tip.turn})`} />
      <text x={f(way.label.x)} y={f(way.label.y)} className="wh" stroke={P0} strokeWidth="4" paintOrder="stroke" fill={INK}>
        {forWhat(move)}, {weekday(move.on)}
      </text>
    </g>
  );
}
