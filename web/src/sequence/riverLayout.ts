import { followersOf, inTime, type Operation, type Strand, strandsOf } from "./strands";

/** Where an operation stands: before the operations that are looked at, among them, or after them. */
export type Zone = "before" | "near" | "after";

/** One operation as it is drawn. Lengths in pixels; y is the middle of its strand. */
export type Reach = {
  work: Operation;
  zone: Zone;
  lane: number;
  x1: number;
  x2: number;
  /** Where the water leaves it: past its cure, its way to a supplier, or its gate. */
  end: number;
  y: number;
  /** Its likely hours. */
  width: number;
  /** Lines of its name, where it is looked at. */
  lines: string[];
};

export type Lane = { y: number; top: number; bottom: number };

export type River = {
  reaches: Reach[];
  byId: Map<string, Reach>;
  /** x where the near zone begins and ends. */
  near: [number, number];
  /** x of what separates what is done from what is not; null: nothing is done, or all is. */
  now: number | null;
  /** Pixels an hour is wide. */
  perHour: number;
  /** Pixels a day is long, in the near zone. */
  perDay: number;
  lanes: Lane[];
  strands: { strand: Strand; lane: number }[];
  height: number;
};

export type Frame = { width: number; height: number; from: number; count: number };

const PER_DAY: Record<Zone, number> = { before: 0.8, near: 3, after: 0.5 };
const GATE: Record<Zone, number> = { before: 8, near: 22, after: 8 };
/** From the edges of the picture, and between the zones. */
const EDGE = 18;
const BETWEEN = 16;
/** Space above the river for the dates and for how the shell is held; and below it. */
const TOP = 112;
const BOTTOM = 26;
const LINE = 13;
/** Work that is shorter than this has no room for its name. */
const NAMED = 52;
/** Below this width the picture is a phone's. */
export const NARROW = 700;
const MOST_PER_HOUR = 1.9;
const LEAST_WIDTH = 3;
const GAP = 12;

/** Days on the calendar that it takes by the plan, or took; an end without its own dates takes none. */
const daysOf = (o: Operation) =>
  o.starts && o.finishes ? Math.max(0, Date.parse(o.finishes) - Date.parse(o.starts)) / 86_400_000 : o.clockMinutes / 1440;

/** Drawn by its length alone: nobody works on it. */
export const isWait = (o: Operation) => o.kind === "cure" || o.kind === "outside";

/** Words broken into lines of so many letters, at most three; what does not fit ends in a dot. */
export function broken(name: string, letters: number): string[] {
  const lines: string[] = [];
  let line = "";
  for (const word of name.split(" ")) {
    const longer = line ? `${line} ${word}` : word;
    if (longer.length > letters && line) {
      lines.push(line);
      line = word;
    } else line = longer;
  }
  lines.push(line);
  const cut = (s: string) => (s.length > letters ? `${s.slice(0, letters - 1)}.` : s);
  return lines.length > 3 ? [...lines.slice(0, 2), `${lines[2]}…`].map(cut) : lines.map(cut);
}

/** Lays a sequence out as a river. Order is from left to right: what starts later stands further right, whatever its strand. */
export function layOut(all: readonly Operation[], frame: Frame): River {
  const order = inTime(all);
  const index = new Map(order.map((o, i) => [o.id, i]));
  const zoneOf = (o: Operation): Zone => {
    const i = index.get(o.id) ?? 0;
    return i < frame.from ? "before" : i < frame.from + frame.count ? "near" : "after";
  };
  const counts = { before: 0, near: 0, after: 0 };
  for (const o of order) counts[zoneOf(o)]++;
  const zones = zonesOf(counts, frame.width);
  const reaches = acrossOf(order, zoneOf, zones);
  const strands = strandsOf(all);
  const laneOf = lanesOf(strands, reaches, all);
  for (const r of reaches.values()) r.lane = laneOf.get(r.work.id) ?? 0;
  const pitch = pitchOf(reaches);
  const letters = Math.max(9, Math.floor(pitch / 5.6));
  if (pitch >= NAMED)
    for (const s of strands) {
      // What all names of a strand begin with is said once, at its first.
      const named = s.works.map((o) => reaches.get(o.id) as Reach).filter((r) => r.zone === "near" && !isWait(r.work));
      named.forEach((r, i) => {
        r.lines = broken(s.name && i > 0 ? r.work.name.slice(s.name.length + 1).trim() : r.work.name, letters);
      });
    }
  const { lanes, perHour, height } = downOf([...reaches.values()], frame.height);
  for (const r of reaches.values()) {
    r.y = lanes[r.lane]?.y ?? TOP;
    r.width = isWait(r.work) || r.work.kind === "gate" ? 0 : Math.max(LEAST_WIDTH, (r.work.budgetMinutes / 60) * perHour);
  }
  const done = order.filter((o) => o.doneAt !== null).length;
  const last = Math.max(...order.slice(0, done).map((o) => reaches.get(o.id)?.end ?? 0));
  const next = Math.min(...order.slice(done).map((o) => reaches.get(o.id)?.x1 ?? Number.POSITIVE_INFINITY));
  return {
    reaches: order.map((o) => reaches.get(o.id) as Reach),
    byId: reaches,
    near: zones.near,
    now: done === 0 || done === order.length ? null : Math.max(EDGE, Math.min(next - 5, Math.max(last + 3, next - 9))),
    perHour,
    perDay: PER_DAY.near,
    lanes,
    strands: strands.map((strand) => ({ strand, lane: laneOf.get(strand.works[0]?.id ?? "") ?? 0 })),
    height,
  };
}

/** Widths of the three zones: those without operations have none. */
function zonesOf(counts: Record<Zone, number>, width: number): Record<Zone, [number, number]> {
  const room = width - 2 * EDGE;
  // On a phone the others are only hinted at.
  const narrow = width < NARROW ? 0.3 : 1;
  const share = (n: number, most: number) => ((n === 0 ? 0 : Math.min(most, 34 + n * 7)) / 1000) * narrow;
  const before = counts.near === 0 ? room : room * share(counts.before, 200);
  const after = room * share(counts.after, 260);
  const [a, b] = [EDGE + before, EDGE + room - after];
  return {
    before: [EDGE, a],
    near: [a + (before > 0 ? BETWEEN : 0), b - (after > 0 ? BETWEEN : 0)],
    after: [b + (after > 0 ? BETWEEN / 2 : 0), EDGE + room],
  };
}

/** From left to right: in each zone the length of an operation is found so that the zone is just filled. */
function acrossOf(order: readonly Operation[], zoneOf: (o: Operation) => Zone, zones: Record<Zone, [number, number]>) {
  const reaches = new Map<string, Reach>();
  for (const zone of ["before", "near", "after"] as const) {
    const mine = order.filter((o) => zoneOf(o) === zone);
    if (mine.length === 0) continue;
    const [from, to] = zones[zone];
    const lay = (pitch: number) => {
      let furthest = from;
      let last = from;
      let lastAt = "";
      for (const o of mine) {
        let x = from;
        for (const a of o.after) {
          const before = reaches.get(a.operation);
          if (before?.zone === zone)
            x = Math.max(x, a.fromStart ? before.x1 + 6 : before.end + Math.min(a.lagMinutes / 1440, 5) * PER_DAY[zone]);
        }
        const at = o.doneAt ?? o.starts ?? "";
        x = Math.max(x, at === lastAt ? last : last + (at && lastAt ? pitch * 0.16 : 0));
        if (zone === "near" && o.kind !== "gate") [last, lastAt] = [x, at];
        const days = Math.min(daysOf(o), 60) * PER_DAY[zone];
        const long = o.kind === "gate" ? GATE[zone] : isWait(o) ? Math.max(zone === "near" ? 26 : 4, days) : pitch + Math.min(days, pitch);
        reaches.set(o.id, { work: o, zone, lane: 0, x1: x, x2: x + long, end: x + long, y: 0, width: 0, lines: [] });
        furthest = Math.max(furthest, x + long);
      }
      return furthest;
    };
    let [least, most] = [0.5, 220];
    for (let i = 0; i < 40; i++) {
      const middle = (least + most) / 2;
      if (lay(middle) > to) most = middle;
      else least = middle;
    }
    lay(least);
  }
  return reaches;
}

/** The length of the shortest work that is looked at. */
const pitchOf = (reaches: ReadonlyMap<string, Reach>) =>
  Math.min(
    ...[...reaches.values()]
      .filter((r) => r.zone === "near" && r.width === 0 && !isWait(r.work) && r.work.kind !== "gate")
      .map((r) => r.x2 - r.x1),
    120,
  );

/** Each strand gets a lane beside the trunk in which nothing else runs at the same length; left above it, right below it. */
function lanesOf(strands: readonly Strand[], reaches: ReadonlyMap<string, Reach>, all: readonly Operation[]): Map<string, number> {
  const next = followersOf(all);
  const extent = (s: Strand): [number, number] => {
    const first = s.works[0] as Operation;
    const last = s.works.at(-1) as Operation;
    const starts = first.after.map((a) => reaches.get(a.operation)?.end).filter((x) => x !== undefined);
    const ends = (next.get(last.id) ?? []).map((o) => reaches.get(o.id)?.x1).filter((x) => x !== undefined);
    return [
      Math.min(reaches.get(first.id)?.x1 ?? 0, ...starts.map((x) => x + 4)),
      Math.max(reaches.get(last.id)?.end ?? 0, ...ends.map((x) => x - 4)),
    ];
  };
  const taken = new Map<number, [number, number][]>();
  const lane = new Map<string, number>();
  strands.forEach((s, i) => {
    const [a, b] = extent(s);
    const side = /\bleft\b/i.test(s.name || s.works[0]?.name || "")
      ? -1
      : /\bright\b/i.test(s.name || s.works[0]?.name || "")
        ? 1
        : i % 2
          ? -1
          : 1;
    let at = 0;
    for (let n = 0; ; n++) {
      at = i === 0 ? 0 : (n % 2 === 0 ? side : -side) * (1 + Math.floor(n / 2));
      if (!(taken.get(at) ?? []).some(([c, d]) => a < d + 6 && c < b + 6)) break;
    }
    taken.set(at, [...(taken.get(at) ?? []), [a, b]]);
    for (const o of s.works) lane.set(o.id, at);
  });
  const used = [...new Set(lane.values())].toSorted((a, b) => a - b);
  return new Map([...lane].map(([id, at]) => [id, used.indexOf(at)]));
}

/** From top to bottom: an hour is as wide as the height allows, everywhere the same. */
function downOf(reaches: readonly Reach[], height: number) {
  const count = Math.max(1, ...reaches.map((r) => r.lane + 1));
  const lanes = Array.from({ length: count }, (_, i) => {
    const mine = reaches.filter((r) => r.lane === i && !isWait(r.work) && r.work.kind !== "gate");
    const hoursOf = (of: readonly Reach[]) => Math.max(0, ...of.map((r) => r.work.budgetMinutes / 60));
    const near = mine.filter((r) => r.zone === "near");
    const lines = Math.max(0, ...near.map((r) => r.lines.length));
    return {
      hours: hoursOf(mine),
      nearHours: hoursOf(near),
      // Names above, the day below; a lane without names needs air only.
      above: near.length > 0 ? lines * LINE + LINE + 6 : 6,
      below: near.length > 0 ? LINE + 4 : 6,
      waits: reaches.some((r) => r.lane === i && (isWait(r.work) || r.work.kind === "gate")),
    };
  });
  const words = lanes.reduce((sum, l) => sum + l.above + l.below + GAP, 0);
  const hours = lanes.reduce((sum, l) => sum + l.hours, 0) || 1;
  const perHour = Math.max(0.35, Math.min(MOST_PER_HOUR, (height - TOP - BOTTOM - words) / hours));
  const tall = lanes.map((l) => Math.max(l.hours * perHour, l.waits ? 34 : 8));
  const used = words + tall.reduce((sum, t) => sum + t, 0) + TOP + BOTTOM;
  const air = Math.max(0, Math.min(26, (height - used) / count));
  let y = TOP + air / 2;
  const placed = lanes.map((l, i) => {
    const t = tall[i] as number;
    const lane: Lane = { top: y, y: y + l.above + t / 2, bottom: y + l.above + t + l.below };
    y = lane.bottom + GAP + air;
    return lane;
  });
  return { lanes: placed, perHour, height: Math.max(height, Math.ceil(y - air / 2 + BOTTOM)) };
}

/** Room that a strand's name takes on its line. */
const NAME_ROOM = 76;

/** What the lines lead to that run past now without work, each by the stage that waits at its end: where, and which. */
export function waitingStrands(river: River, all: readonly Operation[]): { y: number; stage: Operation["stage"] }[] {
  const now = river.now;
  if (now === null) return [];
  const next = followersOf(all);
  const named = new Map<number, { y: number; stage: Operation["stage"] }>();
  for (const r of river.reaches) {
    const ahead = (next.get(r.work.id) ?? [])
      .map((o) => river.byId.get(o.id))
      .filter((x) => x !== undefined && x.x1 > now)
      .toSorted((a, b) => (a?.x1 ?? 0) - (b?.x1 ?? 0))[0];
    // A name stands on a line only: neither over what was done, nor over what comes.
    const crowded = river.reaches.some((x) => x.lane === r.lane && x.end > now - NAME_ROOM && x.x1 < now + NAME_ROOM);
    if (ahead && r.end < now - NAME_ROOM && !crowded) named.set(r.lane, { y: r.y, stage: ahead.work.stage });
  }
  return [...named.values()];
}
