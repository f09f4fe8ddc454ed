import type { Schemas } from "./api/client";

/**
 * The reader's own way with dates and numbers, in the application's language: a browser set to German for Austria
 * reads English words and Austrian figures.
 */
export function localeOf(language: string): string {
  try {
    return `en-${new Intl.Locale(language).maximize().region ?? "001"}`;
  } catch {
    return "en-001";
  }
}

let locale = localeOf(globalThis.navigator?.language ?? "");
/** Takes the reader's language; without it, the browser's is taken once. */
export const readIn = (language: string) => {
  locale = localeOf(language);
};

/** The shop's zone for every wall time. */
let zone = "UTC";
let currency = "GBP";
let units: Schemas["UnitSystem"] = "metric";
let offsetMs = 0;

/**
 * Takes the shop's ways, and the server's time: the browser never asks its own clock what time it is. Called where they
 * arrive, before anything is drawn with them.
 */
export function takeShopWays(
  shop: { timeZone: string; currency: string; units?: Schemas["UnitSystem"] } | null,
  serverNow: string | undefined,
) {
  if (shop) {
    zone = shop.timeZone;
    currency = shop.currency;
    units = shop.units ?? "metric";
  }
  if (serverNow) offsetMs = new Date(serverNow).getTime() - Date.now();
}

/** What a client reads has its own currency, and its times stand in it as words. */
export function takePageWays<T extends { page: { currency: string } }>(answer: T): T {
  takeShopWays({ timeZone: "UTC", currency: answer.page.currency }, undefined);
  return answer;
}

export const serverNow = () => new Date(Date.now() + offsetMs);

const dayFormat = (options: Intl.DateTimeFormatOptions) => new Intl.DateTimeFormat(locale, { ...options, timeZone: "UTC" });
const asDay = (date: string) => new Date(`${date}T00:00:00Z`);

/** "14 Oct", with the year when it is another one. */
export function day(date: string | null | undefined): string {
  if (!date) return "–";
  const sameYear = date.slice(0, 4) === today().slice(0, 4);
  return dayFormat({ day: "numeric", month: "short", ...(sameYear ? {} : { year: "numeric" }) })
    .format(asDay(date))
    .replace("Sept", "Sep");
}

/** "14 Oct", or in another year "Mar 2027": where there is little room. */
export const shortDay = (date: string) =>
  date.slice(0, 4) === today().slice(0, 4)
    ? day(date)
    : dayFormat({ month: "short", year: "numeric" }).format(asDay(date)).replace("Sept", "Sep");

/** A date ahead where there is little room: "14 Oct" within the next eleven months, beyond that "Mar 2028". */
export const soonDay = (date: string) =>
  date < addDays(today(), 334)
    ? dayFormat({ day: "numeric", month: "short" }).format(asDay(date)).replace("Sept", "Sep")
    : dayFormat({ month: "short", year: "numeric" }).format(asDay(date)).replace("Sept", "Sep");

/** From one day to another, the month said once where it is the same. */
export const dayRange = ({ from, to }: { from: string; to: string }) =>
  from.slice(0, 7) === to.slice(0, 7) ? `${Number(from.slice(8))} to ${soonDay(to)}` : `${soonDay(from)} to ${soonDay(to)}`;

/** The short name of a date's month. */
export const month = (date: string) => dayFormat({ month: "short" }).format(asDay(date)).slice(0, 3);

export const weekday = (date: string) => dayFormat({ weekday: "short", day: "numeric", month: "short" }).format(asDay(date));
/** "Tue 13", "Tue": where the month is said beside it, and where the day is. */
export const dayOfMonth = (date: string) => dayFormat({ weekday: "short", day: "numeric" }).format(asDay(date));
export const dayOfWeek = (date: string) => dayFormat({ weekday: "short" }).format(asDay(date));
export const longDay = (date: string) => dayFormat({ weekday: "long", day: "numeric", month: "long", year: "numeric" }).format(asDay(date));

/** Whoever reads it: dates and times that are also read by the code. */
const ISO = "en-CA";

/** The shop's wall date of an instant, as 2026-10-14. */
export const dateOf = (at: string | Date) =>
  new Intl.DateTimeFormat(ISO, { timeZone: zone, year: "numeric", month: "2-digit", day: "2-digit" }).format(new Date(at));

export const today = () => dateOf(serverNow());

/** A date some days on. */
export const addDays = (date: string, days: number) => new Date(asDay(date).getTime() + days * 86_400_000).toISOString().slice(0, 10);

/** The shop's wall time of an instant, as 10:42. */
export const timeOf = (at: string | Date) =>
  new Intl.DateTimeFormat(ISO, { timeZone: zone, hour: "2-digit", minute: "2-digit", hourCycle: "h23" }).format(new Date(at));

/** The instant of a wall date and time in the shop's zone. */
export function instantOf(date: string, time: string): string {
  const wall = Date.parse(`${date}T${time}:00Z`);
  const ahead = (at: Date) => Date.parse(`${dateOf(at)}T${timeOf(at)}:00Z`) - at.getTime();
  // The zone may change its clocks between the first guess and the answer, so what holds at the answer is taken.
  const near = new Date(wall - ahead(new Date(wall)));
  return new Date(wall - ahead(near)).toISOString();
}

/** Logged minutes as h:mm. */
export const hm = (minutes: number) =>
  `${minutes < 0 ? "−" : ""}${Math.floor(Math.abs(minutes) / 60)}:${String(Math.abs(minutes) % 60).padStart(2, "0")}`;

/** Planned minutes as hours, with a decimal where it matters. */
export function hours(minutes: number): string {
  const h = minutes / 60;
  return number(h, Math.abs(h) < 10 ? 1 : 0, false);
}

/** A figure with so many decimals at most. */
export const number = (value: number, most = 0, grouped = true) =>
  new Intl.NumberFormat(locale, { maximumFractionDigits: most, useGrouping: grouped, signDisplay: "negative" })
    .format(value)
    .replace("-", "−");

/** Time that was logged, as it is spoken: minutes under an hour. */
export const logged = (minutes: number) => (Math.abs(minutes) < 60 ? `${minutes} min` : `${hm(minutes)} h`);

/** A wait on the clock, in the largest unit that says it whole: "6 weeks", "10 days", "12 h". */
export function wait(minutes: number): string {
  const inDays = minutes / 1440;
  if (inDays < 2 || inDays % 1 !== 0) return `${hours(minutes)} h`;
  return inDays % 7 === 0 && inDays > 7 ? `${inDays / 7} weeks` : `${inDays} days`;
}

export const money = (amount: number) =>
  new Intl.NumberFormat(locale, { style: "currency", currency, currencyDisplay: "narrowSymbol", minimumFractionDigits: 2 })
    .format(amount)
    .replace("-", "−");

const INCH = 25.4;
const FOOT = 304.8;
const decimals = (value: number, most: number) => number(value, most, false);

/** How lengths are written and entered in this shop; they are kept in whole millimetres. */
export const lengthUnit = () => (units === "us" ? "in" : "mm");

/** A length kept in millimetres, as the number a person writes: hundredths of an inch give back the same millimetre. */
export const lengthShown = (mm: number) => (units === "us" ? Number((mm / INCH).toFixed(2)) : mm);
export const lengthKept = (shown: number) => (units === "us" ? Math.round(shown * INCH) : shown);

/** A size of a place: metres, or feet. */
export const size = (...mm: number[]) =>
  units === "us" ? `${mm.map((m) => decimals(m / FOOT, 1)).join(" x ")} ft` : `${mm.map((m) => decimals(m / 1000, 3)).join(" x ")} m`;

/** A scale for pictures: what one and two marks of it are, in millimetres, and its unit. */
export const scaleMark = () => (units === "us" ? { mm: FOOT, unit: "ft", bar: 6 } : { mm: 1000, unit: "m", bar: 2 });

export const percent = (share: number) => `${Math.round(share * 100)} %`;

export function days(value: number): string {
  return number(value, value < 10 ? 1 : 0, false);
}

const STAGES: Record<Schemas["Stage"], string> = {
  teardown: "Teardown, record",
  strip: "Strip, blast",
  metal: "Metalwork",
  epoxy: "Epoxy, fit-up",
  fill: "Fill, block",
  colour: "Colour, clear",
  polish: "Flat, polish",
  driveline: "Driveline, wiring",
  trim: "Trim, glass",
  assembly: "Assembly, road",
};
export const stageName = (s: Schemas["Stage"]) => STAGES[s];
export const WEEKDAYS = ["monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"] as const;
/** A day of the week as it is written: Monday. */
export const dayName = (d: string) => d.charAt(0).toUpperCase() + d.slice(1);
export const STAGE_ORDER = Object.keys(STAGES) as Schemas["Stage"][];

const COATS: Record<Schemas["Coat"], string> = {
  asFound: "as found",
  bareSteel: "bare steel",
  blasted: "blasted",
  etch: "etch primer",
  epoxy: "epoxy",
  filler: "filler",
  highBuild: "high-build",
  blocked: "blocked",
  sealer: "sealer",
  base: "base coat",
  clear: "clear coat",
  polished: "polished",
  weatheredAsh: "weathered ash",
  newAsh: "new ash",
  varnished: "varnished",
};
export const coatName = (c: Schemas["Coat"]) => COATS[c];
export const COAT_ORDER = Object.keys(COATS) as Schemas["Coat"][];

const HELD: Record<Schemas["Held"], string> = {
  away: "away",
  loose: "loose",
  clamped: "clamped",
  screwed: "screwed",
  bolted: "bolted",
  tacked: "tacked",
  weldedOut: "welded out",
  dressed: "dressed",
};
export const heldName = (h: Schemas["Held"]) => HELD[h];
export const HELD_ORDER = Object.keys(HELD) as Schemas["Held"][];

/** The lines of a text that say something. */
export const linesOf = (text: string) =>
  text
    .split("\n")
    .map((l) => l.trim())
    .filter(Boolean);

/** An enum value in plain words: "separateChassis" as "separate chassis". */
export const words = (value: string) => value.replace(/([A-Z])/g, " $1").toLowerCase();

/** A trade as people of the shop say it. */
export const tradeName = (trade: Schemas["Trade"]) => (trade === "hand" ? "helper" : trade);

export const TRADES: Schemas["Trade"][] = ["strip", "metal", "body", "paint", "mechanic", "electric", "trim", "wood", "hand"];
export const STATIONS: Schemas["StationKind"][] = [
  "bay",
  "prep",
  "booth",
  "blast",
  "jig",
  "lift",
  "bench",
  "engine",
  "mix",
  "stores",
  "office",
  "yard",
];

export const KINDS: Schemas["FindingKind"][] = [
  "rustThrough",
  "thinning",
  "pitting",
  "dent",
  "crease",
  "earlierPatch",
  "panelOverPanel",
  "filler",
  "leadedSeam",
  "missing",
  "wrongPart",
  "crack",
  "twisted",
  "collision",
  "addedMetal",
  "foam",
];
export const PROBES: Schemas["Probe"][] = ["rings", "dents", "goesThrough"];
export const probeName = (p: Schemas["Probe"]) => ({ rings: "rings, sound", dents: "dents, thin", goesThrough: "goes through" })[p];
export const VERDICTS: Schemas["Verdict"][] = ["leave", "repair", "replace", "fabricate"];
export const HINTS: Schemas["HistoryHint"][] = [
  "stoodOutside",
  "crashedFront",
  "crashedRear",
  "crashedLeft",
  "crashedRight",
  "paintedOver",
  "repairedBefore",
  "saltAir",
];

/** A share of futures as it is spoken; under one in twenty and over nineteen it is neither never nor certain, however many were drawn. */
export function inTen(share: number): string {
  const tenths = Math.round(share * 10);
  if (tenths === 0) return "hardly ever";
  if (tenths === 1) return "once in ten";
  return tenths === 10 ? "nearly always" : `${tenths} times in 10`;
}

export const SUPPORTS: Schemas["SupportState"][] = ["ownChassis", "jig", "cart", "rotisserie", "wheels"];
const SUPPORT_NAMES: Record<Schemas["SupportState"], string> = {
  ownChassis: "on its own chassis",
  jig: "on the jig",
  cart: "on the cart",
  rotisserie: "in the rotisserie",
  wheels: "on its wheels",
};
export const supportName = (s: Schemas["SupportState"]) => SUPPORT_NAMES[s];
export const WORK_KINDS: Schemas["WorkKind"][] = [
  "grinding",
  "blasting",
  "wetCoat",
  "hotWork",
  "openFuel",
  "liveBattery",
  "heavy",
  "highVoltage",
];
export const BODY_USES: Record<Schemas["BodyUse"], string> = {
  beside: "on the bench",
  onBody: "on the vehicle",
  takesAway: "takes the vehicle out of the shop",
};
export const TEMPLATE_SCHOOLS = {
  hold: SUPPORTS.map((s) => [s, supportName(s)] as const),
  blast: [
    ["bareFirst", "bare, before metalwork"],
    ["afterFabrication", "once, after all fabrication"],
    ["whereNeeded", "only where needed"],
  ],
  sides: [
    ["oneAtATime", "one side at a time"],
    ["both", "both sides opened together"],
  ],
  filler: [
    ["epoxyFirst", "on scuffed epoxy"],
    ["fillerFirst", "on bare metal, epoxy over it"],
  ],
  gaps: [
    ["both", "before any finish and after a uniform coat"],
    ["beforeFinish", "before any finish"],
    ["afterUniformCoat", "after a uniform coat"],
  ],
  wiring: [
    ["afterPaint", "after paint"],
    ["onBareMetal", "roughed in on bare metal"],
  ],
  trim: [
    ["inHouse", "in house"],
    ["visiting", "by an upholsterer who comes here"],
  ],
} as const;

/** A count with its word: 1 bag, 2 bags. */
export const counted = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`;

/** When something was worked out: futures follow what is logged within minutes, and each night. */
export const reckoned = (at: string) => (dateOf(at) === today() ? `at ${timeOf(at)}` : `on ${weekday(dateOf(at))}`);
