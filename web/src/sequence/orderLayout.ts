import type { Schemas } from "../api/client";
import { stageName } from "../format";
import { followersOf, strandsOf } from "./strands";

export type WayWork = Schemas["WayWork"];

/** A piece of work as it is drawn: by its days, on a lane; lanes are counted from the trunk, up negative. */
export type Stretch = { work: WayWork; lane: number; x1: number; x2: number };

/** From one piece of work to one that waits for it. */
export type Thread = { from: Stretch; to: Stretch; late: boolean };

export type Order = {
  stretches: Stretch[];
  threads: Thread[];
  above: number;
  below: number;
  names: { x: number; lane: number; text: string }[];
};

export type Axis = { from: number; to: number; width: number };

/** Pixels between two strands that share a lane. */
const AIR = 14;
const LETTER = 5.6;

/** What is still to come of a sequence; what has no date cannot be drawn. */
export const dated = (works: readonly WayWork[]) => works.filter((o) => o.doneAt === null && o.starts !== null && o.finishes !== null);

export const xOf = (axis: Axis, at: string | number) =>
  ((typeof at === "number" ? at : Date.parse(at)) - axis.from) * (axis.width / Math.max(1, axis.to - axis.from));

/** One axis for several orders, so that their ends can be compared; null: nothing of them has a date. */
export function axisOf(orders: readonly (readonly WayWork[])[], width: number): Axis | null {
  const all = orders.flatMap(dated);
  if (all.length === 0) return null;
  const at = (o: WayWork, end: "starts" | "finishes") => Date.parse(o[end] as string);
  return { from: Math.min(...all.map((o) => at(o, "starts"))), to: Math.max(...all.map((o) => at(o, "finishes"))), width };
}

/** Lays an order of work out by days: the trunk in the middle, each other strand on the nearest lane that is free while it lasts. */
export function layOrder(works: readonly WayWork[], axis: Axis): Order {
  const open = dated(works);
  const strands = strandsOf(open);
  const taken = new Map<number, [number, number][]>();
  const at = new Map<string, Stretch>();
  strands.forEach((s, i) => {
    const xs = s.works.map((o) => [xOf(axis, o.starts as string), xOf(axis, o.finishes as string)] as const);
    const [from, to] = [Math.min(...xs.map((x) => x[0])) - AIR, Math.max(...xs.map((x) => x[1])) + AIR];
    const free = (lane: number) => (taken.get(lane) ?? []).every(([a, b]) => to <= a || from >= b);
    let lane = 0;
    if (i > 0)
      for (let n = 1; ; n++) {
        lane = n % 2 === 1 ? -(n + 1) / 2 : n / 2;
        if (free(lane)) break;
      }
    taken.set(lane, [...(taken.get(lane) ?? []), [from, to]]);
    s.works.forEach((work, k) => {
      const [x1, x2] = xs[k] as readonly [number, number];
      at.set(work.id, { work, lane, x1, x2: Math.max(x2, x1 + (work.kind === "gate" ? 0 : 1.5)) });
    });
  });
  const stretches = [...at.values()];
  const next = followersOf(open);
  const threads = stretches.flatMap((from) =>
    (next.get(from.work.id) ?? [])
      .map((o) => at.get(o.id) as Stretch)
      // What comes later by another way round needs no line of its own.
      .filter((to) => to.lane === from.lane || isEnd(from, to))
      .map((to) => ({ from, to, late: Math.abs(from.lane) > Math.abs(to.lane) })),
  );
  const lanes = stretches.map((s) => s.lane);
  return {
    stretches,
    threads,
    above: -Math.min(0, ...lanes),
    below: Math.max(0, ...lanes),
    names: namesOf(
      strands.map((s) => s.works),
      at,
      axis.width,
    ),
  };

  function isEnd(from: Stretch, to: Stretch) {
    const strand = (x: Stretch) => strands.find((s) => s.works.includes(x.work))?.works ?? [];
    return strand(from).at(-1) === from.work || strand(to)[0] === to.work;
  }
}

/** A stage is named where it begins on its strand, if there is room for its name. */
function namesOf(strands: readonly WayWork[][], at: ReadonlyMap<string, Stretch>, width: number) {
  const names: Order["names"] = [];
  for (const works of strands) {
    let before: Schemas["Stage"] | null = null;
    for (const o of works.filter((w) => w.kind === "work")) {
      const s = at.get(o.id);
      if (!s || o.stage === before) continue;
      before = o.stage;
      const text = shortStage(o.stage);
      const long = text.length * LETTER + 4;
      const x = Math.max(0, Math.min(s.x1, width - long));
      if (names.every((n) => n.lane !== s.lane || n.x + n.text.length * LETTER + 4 < x || x + long < n.x))
        names.push({ x, lane: s.lane, text });
    }
  }
  return names;
}

const shortStage = (stage: Schemas["Stage"]) => stageName(stage).split(",")[0] as string;
