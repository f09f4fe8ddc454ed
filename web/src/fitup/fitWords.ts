import type { Schemas } from "../api/client";

export type Line = Schemas["FitLineView"];
export type Round = Schemas["LineRoundView"];
export type Fit = Schemas["FitView"];
export type Measure = Schemas["FitMeasure"];
export type Unit = Schemas["LengthUnit"];
export type Move = Schemas["FitMove"];

export const ROUNDS: readonly Schemas["GapRound"][] = ["beforeWeld", "afterWeld", "afterPaint"];

export const roundName = (r: Schemas["GapRound"]) => ({ beforeWeld: "before weld", afterWeld: "after weld", afterPaint: "after paint" })[r];

export const mm = (v: number) => v.toFixed(1);

/** With its sign: a step out is +, a step in is −. */
export const signed = (v: number) => `${v > 0 ? "+" : v < 0 ? "−" : ""}${Math.abs(v).toFixed(1)}`;

export const lastRound = (l: Line): Round | undefined => l.rounds.at(-1);

/** How a line stands, in a word or two. */
export const verdictWords = (l: Line): string =>
  ({
    notRead: "not read",
    partlyRead: l.words,
    readAgain: "to be read again",
    inLimits: "in limits",
    out: "out",
    accepted: "accepted as it is",
    leftOut: "not read here",
  })[l.verdict];

/** Whether a line stops the work behind its gate. */
export const isOpen = (l: Line) => l.verdict !== "inLimits" && l.verdict !== "accepted" && l.verdict !== "leftOut";

/** The round that is read now, with nothing in it yet where it has not been begun. */
export function roundNow(l: Line): Round {
  const last = lastRound(l);
  if (last && ROUNDS.indexOf(last.round) >= ROUNDS.indexOf(l.next)) return last;
  return {
    round: l.next,
    stations: l.stationsMm.map((_, i) => ({ number: i + 1, gap: null, flush: null, touched: "" })),
    meanMm: null,
    rangeMm: null,
    taperMmPerM: null,
    faults: [],
    off: [],
    flushOff: [],
    worstMm: null,
    worstFlushMm: null,
    isComplete: false,
  };
}

/** Where on a line something is read. */
export type At = { station: number; measure: Measure };

/** What is to be read on a line, in the order in which one walks along it: the gaps, then flush where it is asked for. */
export const walkOf = (l: Line): At[] => [
  ...l.stationsMm.map((_, i): At => ({ station: i + 1, measure: "gap" })),
  ...l.flushAt.map((station): At => ({ station, measure: "flush" })),
];

/** The next place on the walk that is open, after one; none is left: null. */
export function nextOpen(l: Line, round: Round, after: At | null, read: ReadonlySet<string>): At | null {
  const walk = walkOf(l);
  const open = (a: At) => {
    if (read.has(placeOf(a))) return false;
    const s = round.stations[a.station - 1];
    return a.measure === "gap" ? !s?.gap || s.touched !== "" : !s?.flush;
  };
  const from = after ? walk.findIndex((a) => placeOf(a) === placeOf(after)) + 1 : 0;
  return [...walk.slice(from), ...walk.slice(0, from)].find(open) ?? null;
}

export const placeOf = (a: At) => `${a.measure} ${a.station}`;

/** A figure as it is typed or sent by a gauge: "4.7", "4,7 mm", "0.157in", "157 thou"; null where it is none. */
export function parseReading(typed: string, unit: Unit): { value: number; unit: Unit } | null {
  const m = /^\s*([-+−]?)\s*(\d+(?:[.,]\d*)?|[.,]\d+)\s*(mm|in|inch|"|thou)?\s*$/i.exec(typed);
  if (!m) return null;
  const value = Number(m[2]?.replace(",", ".")) * (m[1] === "-" || m[1] === "−" ? -1 : 1);
  const said = m[3]?.toLowerCase();
  return { value, unit: said === undefined ? unit : said === "mm" ? "mm" : said === "thou" ? "thou" : "inch" };
}

const MM: Record<Unit, number> = { mm: 1, inch: 25.4, thou: 0.0254 };
export const inMm = (r: { value: number; unit: Unit }) => r.value * MM[r.unit];
