import type { Schemas } from "../api/client";
import { day, month } from "../format";

const DAY = 86_400_000;
/** The share of the width that lies before the fold. */
const NEAR_SHARE = 0.8;
/** A day is never longer than this, in pixels. */
export const MOST = 640;
/** As long as a day is at first: seven weeks on a desk. */
export const USUAL = 14.4;

type Day = Schemas["LaneDay"];

/**
 * Two scales on one axis: days of one length up to the fold, and the rest of the plan, shorter, behind it. Dates stay
 * where they are; only the ruler changes.
 */
export type Axis = {
  /** The instant at the left edge, in ms. */
  from: number;
  /** Pixels a day before the fold, and behind it. */
  near: number;
  far: number;
  /** Where the fold is, as an instant and in pixels; at the right edge where all days are of one length. */
  foldAt: number;
  foldX: number;
  width: number;
  /** The first and the last instant there is. */
  first: number;
  last: number;
};

const midnights = new WeakMap<readonly Day[], number[]>();

/** The instants at which days begin; read once, since each drawing asks for all of them. */
export function startsOf(days: readonly Day[]): number[] {
  let starts = midnights.get(days);
  if (!starts) {
    starts = days.map((d) => Date.parse(d.from));
    midnights.set(days, starts);
  }
  return starts;
}

export function axisOf(days: readonly Day[], width: number, from: number, near: number): Axis {
  const starts = startsOf(days);
  const [first, last] = [starts[0] ?? 0, (starts.at(-1) ?? 0) + DAY];
  const least = (width * DAY) / (last - first);
  const scale = Math.min(MOST, Math.max(least, near));
  const shown = (width * DAY) / scale;
  const start = Math.max(first, Math.min(from, last - shown));
  const foldX = width * NEAR_SHARE;
  const foldAt = start + (foldX * DAY) / scale;
  const far = ((width - foldX) * DAY) / Math.max(1, last - foldAt);
  // Where the rest would be drawn no shorter than what is before it, nothing is folded.
  return far < scale
    ? { from: start, near: scale, far, foldAt, foldX, width, first, last }
    : { from: start, near: scale, far: scale, foldAt: start + shown, foldX: width, width, first, last };
}

/** Where an instant is. */
export const xOf = (a: Axis, at: number) => (at <= a.foldAt ? ((at - a.from) / DAY) * a.near : a.foldX + ((at - a.foldAt) / DAY) * a.far);

/** Which instant is there. */
export const atX = (a: Axis, x: number) => (x <= a.foldX ? a.from + (x / a.near) * DAY : a.foldAt + ((x - a.foldX) / a.far) * DAY);

/** The axis moved by pixels. */
export const panned = (days: readonly Day[], a: Axis, px: number) => axisOf(days, a.width, a.from + (px / a.near) * DAY, a.near);

/** The axis at another scale, with what is under a pixel staying there. */
export function zoomed(days: readonly Day[], a: Axis, x: number, by: number): Axis {
  const near = Math.min(MOST, a.near * by);
  const at = atX(a, Math.min(x, a.foldX));
  return axisOf(days, a.width, at - (Math.min(x, a.foldX) / near) * DAY, near);
}

/** The axis with an instant in sight, moved only where it is not. */
export function showing(days: readonly Day[], a: Axis, at: number): Axis {
  const x = xOf(a, at);
  return x >= 0 && x <= a.foldX ? a : axisOf(days, a.width, at - ((a.foldX * 0.3) / a.near) * DAY, a.near);
}

export type Tick = { x: number; text: string; strong: boolean };

const WEEKDAYS = ["M", "T", "W", "T", "F", "S", "S"];
const weekdayOf = (date: string) => (new Date(`${date}T00:00:00Z`).getUTCDay() + 6) % 7;

/** Dates over the lanes: each Monday with its day, a month's first one with its name; behind the fold the months. */
export function ticksOf(days: readonly Day[], a: Axis): { dates: Tick[]; letters: Tick[] } {
  const [dates, letters]: [Tick[], Tick[]] = [[], []];
  let named = "";
  let room = -Infinity;
  const starts = startsOf(days);
  for (const [i, d] of days.entries()) {
    const at = starts[i] ?? 0;
    const x = xOf(a, at);
    if (x < -a.near || x > a.width) continue;
    const weekday = weekdayOf(d.date);
    if (at < a.foldAt) {
      if (a.near >= 10 && x < a.foldX - 6) letters.push({ x, text: WEEKDAYS[weekday] ?? "", strong: false });
      const due = a.near >= 60 || weekday === 0;
      if (due && x >= room && x < a.foldX - 24) {
        const first = d.date.slice(0, 7) !== named;
        dates.push({ x, text: first ? day(d.date) : String(Number(d.date.slice(8))), strong: first });
        named = d.date.slice(0, 7);
        room = x + (first ? 56 : 28);
      }
    } else if (d.date.endsWith("-01") && x >= room && x < a.width - 20) {
      dates.push({ x, text: d.date.endsWith("-01-01") ? d.date.slice(0, 4) : month(d.date), strong: false });
      room = x + 34;
    }
  }
  return { dates, letters };
}
