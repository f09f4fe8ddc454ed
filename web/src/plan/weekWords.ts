import type { Schemas } from "../api/client";
import { counted, dateOf, day, hours, shortDay, timeOf, weekday } from "../format";

export type Week = Schemas["WeekView"];
export type WeekPerson = Week["people"][number];
export type WeekBlock = WeekPerson["blocks"][number];
export type WeekState = WeekBlock["state"];

/** Days that are shown: on which the shop works, or on which somebody did. */
export const shownDays = (week: Week) => {
  const used = new Set(week.people.flatMap((p) => p.blocks.map((b) => dateOf(b.from))));
  const days = week.days.filter((d) => d.opens || used.has(d.date));
  return days.length > 0 ? days : week.days.slice(0, 5);
};

export const STATE_WORDS: Record<WeekState, string> = {
  promised: "promised",
  kept: "kept",
  slips: "cannot be kept as the plan stands",
  missed: "not kept",
  offered: "offered, promised by nobody",
  worked: "worked, promised by nobody",
};

/** The week in one sentence. */
export function weekText(week: Week): string {
  const days = shownDays(week);
  const [first, last] = [days[0]?.date ?? week.of, days.at(-1)?.date ?? week.of];
  const span = `${shortDay(first)} to ${day(last)}`;
  if (!week.committedAt) return `${span}, not committed yet.`;
  const when = `committed ${weekday(dateOf(week.committedAt))} ${timeOf(week.committedAt)} by ${week.committedBy}`;
  const counts = `${counted(week.promised, "promise")}: ${week.kept} kept, ${week.not} not`;
  return week.countedAt
    ? `${span}, counted ${weekday(dateOf(week.countedAt))}. ${counts}${week.percent === null ? "" : `, ${Math.round(week.percent)} %`}.`
    : `${span}, ${when}. ${counts}.`;
}

/** A promise in words. */
export const promiseText = (p: { name: string; minutes: number; whole: boolean }, build: number) =>
  `${build} ${p.name}, ${hours(p.minutes)} h${p.whole ? ", to be done" : " of it"}`;

/** Half hours of the rest of the week in which the plan works on builds that fill in. */
export function fillIns(week: Week) {
  const fill = new Map(week.builds.filter((b) => b.fillIn).map((b) => [b.id, b]));
  return week.people
    .flatMap((p) => p.blocks.map((block) => ({ block, person: p.name, build: fill.get(block.buildId) })))
    .filter((x) => x.build && x.block.to > week.now && x.block.state !== "worked" && x.block.state !== "kept")
    .toSorted((a, b) => (a.block.from < b.block.from ? -1 : 1));
}
