import type { Schemas } from "../api/client";

type View = Schemas["LanesView"];
export type Work = Schemas["LaneWork"];

/** A stretch of a block as it is drawn, in ms. */
export type Stretch = { from: number; to: number };

/** A block in its lane. */
export type Block = { key: string; work: Work; y: number; h: number; parts: Stretch[] };

/** @param kind What the lane is of. */
export type Row = {
  key: string;
  name: string;
  kind: "place" | "person" | "build" | "away";
  y: number;
  h: number;
  blocks: Block[];
  /** The build whose lane it is, or whose batch. */
  build?: string;
  person?: Schemas["LanePerson"];
  away?: Schemas["LaneAway"];
};

/** Work in somebody's hand: the day and the lane over which it is. */
export type Carried = { work: Work; on: string; lane: Row | null };

/** Which lanes are drawn. */
export type Lanes = "shop" | "builds";

const PLACE = 27;
const PERSON = 18;
const SUPPLIER = 19;
/** Room above the first lane of each kind, for its name. */
export const HEAD = 18;

const ms = (at: string) => Date.parse(at);

/** From the first to the last of it. */
const whole = (w: Work): Stretch[] => [{ from: ms(w.start), to: ms(w.finish) }];

/** The rows from top to bottom, each with its blocks; work at the same time in one lane lies under each other. */
export function rowsOf(view: View, lanes: Lanes): { rows: Row[]; heads: { y: number; text: string }[]; height: number } {
  const rows: Row[] = [];
  const heads: { y: number; text: string }[] = [];
  let y = 0;
  const head = (text: string) => {
    heads.push({ y, text });
    y += HEAD;
  };
  const lane = (row: Omit<Row, "y" | "h" | "blocks">, works: Work[], h: number, parts: (w: Work) => Stretch[]) => {
    // Nobody is at two things at once: what is somebody's lies in one layer.
    const made = packed(works, parts, h, row.key, row.kind === "person");
    rows.push({ ...row, y, h: made.height, blocks: made.blocks.map((b) => ({ ...b, y: y + b.y })) });
    y += made.height;
  };
  const inShop = view.work.filter((w) => !w.away);
  if (lanes === "builds") {
    head("Builds");
    for (const b of view.builds) {
      const own = view.work.filter((w) => w.buildId === b.id && (w.worked || w.finish > view.now));
      lane({ key: b.id, name: b.title, kind: "build", build: b.id }, own, PERSON, whole);
    }
  } else {
    const used = new Set([...inShop.map((w) => w.placeId), ...view.held.map((h) => h.placeId)]);
    const places = view.places.filter((p) => used.has(p.id));
    if (places.length > 0) head("Places");
    for (const p of places) {
      const there = inShop.filter((w) => w.placeId === p.id);
      lane({ key: p.id, name: p.name, kind: "place" }, gathered(there), PLACE, whole);
    }
    if (view.people.length > 0) head("People");
    for (const p of view.people) {
      const theirs = inShop.filter((w) => w.people.includes(p.id) && w.hours.length > 0);
      lane({ key: p.id, name: p.name, kind: "person", person: p }, theirs, PERSON, (w) =>
        w.hours.map((h) => ({ from: ms(h.from), to: ms(h.to) })),
      );
    }
  }
  if (view.away.length > 0) {
    head("Away at suppliers");
    for (const a of view.away) {
      rows.push({ key: a.jobId, name: a.title, kind: "away", y, h: SUPPLIER, blocks: [], build: a.buildId, away: a });
      y += SUPPLIER;
    }
  }
  return { rows, heads, height: y };
}

/** What several people worked on at one operation is one block of its place. */
function gathered(works: Work[]): Work[] {
  const behind = new Map<string, Work>();
  const rest: Work[] = [];
  for (const w of works) {
    const key = w.operationId ?? w.key;
    const one = behind.get(key);
    if (!w.worked) rest.push(w);
    else if (!one) behind.set(key, w);
    else
      behind.set(key, {
        ...one,
        start: [one.start, w.start].sort()[0] ?? one.start,
        finish: [one.finish, w.finish].sort()[1] ?? one.finish,
        people: [...one.people, ...w.people],
      });
  }
  return [...behind.values(), ...rest];
}

/** Puts work into as few layers as it takes without one over another. */
function packed(works: Work[], parts: (w: Work) => Stretch[], h: number, row: string, flat: boolean) {
  const ends: number[] = [];
  const at = works
    .map((w) => ({ w, parts: parts(w) }))
    .sort((a, b) => (a.parts[0]?.from ?? 0) - (b.parts[0]?.from ?? 0))
    .map(({ w, parts: p }) => {
      const [from, to] = [p[0]?.from ?? 0, p.at(-1)?.to ?? 0];
      const free = flat ? 0 : ends.findIndex((e) => e <= from);
      const layer = free < 0 ? ends.length : free;
      ends[layer] = to;
      return { work: w, parts: p, layer };
    });
  // The lane of one layer is as high as it is; each further one takes two thirds of that.
  const layers = Math.max(1, ends.length);
  const each = layers === 1 ? h : Math.max(14, h * 0.66);
  const gap = Math.min(3.5, each * 0.14);
  return {
    height: each * layers,
    blocks: at.map(({ work, parts: p, layer }) => ({
      key: `${row} ${work.key}`,
      work,
      parts: p,
      y: layer * each + gap,
      h: each - 2 * gap,
    })),
  };
}

/** Stretches with less than so much between them as one: nights and breaks where a day is short. */
export function joined(parts: readonly Stretch[], gap: number): Stretch[] {
  const out: Stretch[] = [];
  for (const p of parts) {
    const last = out.at(-1);
    if (last && p.from - last.to < gap) last.to = p.to;
    else out.push({ ...p });
  }
  return out;
}

/** The block to which a key of the keyboard leads; none: there is nothing that way. */
export function beside(rows: readonly Row[], from: string | null, way: "left" | "right" | "up" | "down"): Block | undefined {
  const at = rows.findIndex((r) => r.blocks.some((b) => b.key === from));
  const row = rows[at];
  const here = row?.blocks.find((b) => b.key === from);
  if (!row || !here) return rows.find((r) => r.blocks.length > 0)?.blocks.find((b) => !b.work.worked) ?? rows[0]?.blocks[0];
  const start = (b: Block) => b.parts[0]?.from ?? 0;
  if (way === "left" || way === "right") {
    const inOrder = row.blocks.toSorted((a, b) => start(a) - start(b) || a.y - b.y);
    return inOrder[inOrder.indexOf(here) + (way === "right" ? 1 : -1)];
  }
  const step = way === "down" ? 1 : -1;
  for (let i = at + step; i >= 0 && i < rows.length; i += step) {
    const near = rows[i]?.blocks.toSorted((a, b) => Math.abs(start(a) - start(here)) - Math.abs(start(b) - start(here)))[0];
    if (near) return near;
  }
  return undefined;
}
