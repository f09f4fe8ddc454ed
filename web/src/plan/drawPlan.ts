import type { Schemas } from "../api/client";
import { days as daysText } from "../format";
import { CHALK, GUIDE, GUIDE3, INK, INK2, inkOn, mix, OXIDE, OXIDE_LT, onGuide, P0, P1, P2, P3, seeded } from "../tokens";
import { type Axis, startsOf, ticksOf, xOf } from "./axis";
import { type Block, HEAD, joined, type Row } from "./laneRows";

type View = Schemas["LanesView"];
type Build = Schemas["LaneBuild"];
export type Pen = CanvasRenderingContext2D;

const DAY = 86_400_000;
const HOUR = DAY / 24;
const FONT = '"Encode Sans Variable", "Encode Sans", sans-serif';
/** Height of the dates over the board, and of a promise on it. */
export const DATES = 38;
export const PROMISE = 23;
/** Nothing is drawn narrower. */
const LEAST = 2.5;
const LABEL_FROM = 60;
/** So far the names of the promises lie over their board, as the style sheet has it. */
const NAMES_OVER = 156;

const ms = (at: string) => Date.parse(at);
const font = (pen: Pen, size: number, weight: number) => {
  pen.font = `${weight} ${size}px ${FONT}`;
};

const widths = new Map<string, number>();
/** So many widths are remembered at most. */
const MOST_WIDTHS = 5000;

/** How wide a text is in the pen's present font; asked again at each drawing, so it is remembered. */
function widthOf(pen: Pen, text: string): number {
  const key = `${pen.font} ${text}`;
  let wide = widths.get(key);
  if (wide === undefined) {
    if (widths.size >= MOST_WIDTHS) widths.clear();
    wide = pen.measureText(text).width;
    widths.set(key, wide);
  }
  return wide;
}

/** What was measured before the fonts had come is of other letters. */
export const forgetWidths = () => widths.clear();

const mixed = new Map<string, string>();
/** A paint mixed with the ground; there are as many as there are builds. */
function pale(paint: string, ground: string, share: number): string {
  const key = `${paint} ${ground} ${share}`;
  let made = mixed.get(key);
  if (!made) {
    made = mix(paint, ground, share);
    mixed.set(key, made);
  }
  return made;
}

/** Makes a canvas as sharp as the screen and gives the pen for it, with all of it wiped. */
export function penOf(canvas: HTMLCanvasElement, width: number, height: number): Pen | null {
  const sharp = window.devicePixelRatio || 1;
  if (canvas.width !== Math.round(width * sharp) || canvas.height !== Math.round(height * sharp)) {
    canvas.width = Math.round(width * sharp);
    canvas.height = Math.round(height * sharp);
  }
  const pen = canvas.getContext("2d");
  if (!pen) return null;
  pen.setTransform(sharp, 0, 0, sharp, 0, 0);
  pen.clearRect(0, 0, width, height);
  return pen;
}

/** Dates, and what day it is now. */
export function drawDates(pen: Pen, a: Axis, view: View, nowLabel: string) {
  const { dates, letters } = ticksOf(view.days, a);
  pen.textBaseline = "alphabetic";
  pen.strokeStyle = P3;
  const nowX = xOf(a, ms(view.now));
  for (const t of dates.filter((d) => d.x > -3)) {
    if (Math.abs(t.x - nowX) > 60 || t.x > nowX + 8 || t.x < nowX - 40) {
      font(pen, 12, t.strong ? 700 : 480);
      pen.fillStyle = t.strong ? INK : INK2;
      pen.fillText(t.text, t.x + 4, 13);
    }
    pen.beginPath();
    pen.moveTo(t.x, 18);
    pen.lineTo(t.x, DATES);
    pen.stroke();
  }
  font(pen, 10.5, 480);
  pen.fillStyle = INK2;
  for (const t of letters) pen.fillText(t.text, t.x + Math.min(4, a.near / 2 - 4), 31);
  if (nowX >= 0 && nowX <= a.width) {
    font(pen, 11.5, 700);
    const w = pen.measureText(nowLabel).width + 8;
    const x = Math.min(a.width - w, Math.max(0, nowX - w / 2));
    pen.fillStyle = INK;
    pen.fillRect(x, 20, w, 16);
    pen.fillStyle = CHALK;
    pen.fillText(nowLabel, x + 4, 32);
  }
}

/** The torn edge behind which months are short. */
function fold(pen: Pen, a: Axis, h: number, colour: string) {
  if (a.foldX >= a.width) return;
  const r = seeded(7);
  pen.strokeStyle = colour;
  pen.lineWidth = 1;
  pen.beginPath();
  pen.moveTo(a.foldX, 0);
  for (let y = 0; y <= h; y += 7) pen.lineTo(a.foldX + (r() - 0.5) * 4, y);
  pen.stroke();
}

function nowLine(pen: Pen, a: Axis, view: View, h: number, colour: string) {
  const x = xOf(a, ms(view.now));
  if (x < 0 || x > a.width) return;
  pen.strokeStyle = colour;
  pen.lineWidth = 1.6;
  pen.beginPath();
  pen.moveTo(x, 0);
  pen.lineTo(x, h);
  pen.stroke();
}

/** Noon of a day, where a finish on that day stands. */
const dayAt = (date: string) => Date.parse(`${date}T12:00:00Z`);

/** The board of promises: a spray from now that thins out as it grows more likely that the build is finished, the likely
 * day as an upright mark with a whisker to the day of eight in ten, the promise as a flag. */
export function drawPromises(pen: Pen, a: Axis, view: View, h: number) {
  pen.fillStyle = GUIDE;
  pen.fillRect(0, 0, a.width, h);
  pen.strokeStyle = GUIDE3;
  pen.lineWidth = 1;
  pen.beginPath();
  for (const t of ticksOf(view.days, a).dates) {
    pen.moveTo(t.x, 0);
    pen.lineTo(t.x, h);
  }
  pen.stroke();
  fold(pen, a, h, GUIDE3);
  view.builds.forEach((b, i) => {
    promise(pen, a, view, b, (i + 0.5) * PROMISE + 6);
  });
  nowLine(pen, a, view, h, CHALK);
}

/** Of a build that is late: the work on which its day hangs most, at the thin end of its spray. */
function carrier(pen: Pen, a: Axis, now: number, c: NonNullable<Build["carrier"]>, y: number) {
  const x = Math.max(now, NAMES_OVER) + 6;
  if (x > a.width - 200) return;
  font(pen, 11, 480);
  const text = `${c.name}, ${daysText(c.days)} d`;
  const wide = widthOf(pen, text);
  const room = 220;
  const told = shortened(text, wide, room);
  pen.fillStyle = GUIDE;
  pen.globalAlpha = 0.82;
  pen.fillRect(x, y - 8, Math.min(wide, room) + 8, 16);
  pen.globalAlpha = 1;
  pen.fillStyle = CHALK;
  pen.fillText(told, x + 4, y + 4, room);
}

function promise(pen: Pen, a: Axis, view: View, b: Build, y: number) {
  const x = (date: string) => xOf(a, dayAt(date));
  if (b.p20 && b.p50 && b.p80 && b.p95) {
    const now = xOf(a, ms(view.now));
    const [x20, x50, x80, x95] = [x(b.p20), x(b.p50), x(b.p80), x(b.p95)];
    // Fat and short is unsure: the height grows with the days between one in five and eight in ten.
    const most = (PROMISE / 2 - 0.5) * Math.min(1, 0.42 + (dayAt(b.p80) - dayAt(b.p20)) / DAY / 60);
    const edge: [number, number][] = [
      [now, 0.4],
      [Math.max(now, x20), most],
      [Math.max(now, x50), most * 0.7],
      [Math.max(now, x80), most * 0.25],
      [Math.max(now, x95), 0],
    ];
    pen.fillStyle = onGuide(b.colourHex);
    pen.globalAlpha = b.partly ? 0.35 : 1;
    pen.beginPath();
    for (const [px, dy] of edge) pen.lineTo(px, y - dy);
    for (const [px, dy] of edge.toReversed()) pen.lineTo(px, y + dy);
    pen.fill();
    pen.globalAlpha = 1;
    if (!b.partly) {
      pen.strokeStyle = CHALK;
      pen.lineWidth = 1.2;
      pen.beginPath();
      pen.moveTo(x50, y);
      pen.lineTo(x80, y);
      pen.moveTo(x80, y - 3.5);
      pen.lineTo(x80, y + 3.5);
      pen.stroke();
      pen.lineWidth = 2;
      pen.beginPath();
      pen.moveTo(x50, y - 8);
      pen.lineTo(x50, y + 8);
      pen.stroke();
    }
  }
  if (b.daysLate && b.carrier) carrier(pen, a, xOf(a, ms(view.now)), b.carrier, y);
  if (b.promised) {
    const px = x(b.promised);
    pen.strokeStyle = b.daysLate ? OXIDE_LT : CHALK;
    pen.fillStyle = b.daysLate ? OXIDE_LT : CHALK;
    pen.lineWidth = 1.4;
    pen.beginPath();
    pen.moveTo(px, y + 9);
    pen.lineTo(px, y - 9);
    pen.stroke();
    pen.beginPath();
    pen.moveTo(px, y - 9);
    pen.lineTo(px - 10, y - 5.5);
    pen.lineTo(px, y - 2.5);
    if (b.daysLate) pen.fill();
    else pen.stroke();
  }
}

/** What the lanes need besides the plan. */
export type Marked = {
  /** The block the reader is at. */
  at: string | null;
  /** What holds what, to the root of the block the reader is at, and what that holds; by work. */
  links: readonly Link[];
  hover: string | null;
  /** The block that is carried to another day, by pixels. */
  carried: { key: string; dx: number; dy: number } | null;
};

/** @param from The work that holds the other back. */
export type Link = { from: string; to: string };

type Where = { block: Block; x0: number; x1: number; y0: number; y1: number };

/** The lanes, with where each block was drawn. */
export function drawLanes(pen: Pen, a: Axis, view: View, rows: readonly Row[], h: number, marked: Marked): Where[] {
  const paint = new Map(view.builds.map((b) => [b.id, b]));
  ground(pen, a, view, rows, h);
  for (const row of rows) {
    if (row.kind === "place") held(pen, a, view, row, paint);
    if (row.person) absences(pen, a, row, paint);
    if (row.away) away(pen, a, row, paint.get(row.build ?? ""));
  }
  freight(pen, a, view, rows);
  const where: Where[] = [];
  const chain = new Set(marked.links.flatMap((l) => [l.from, l.to]));
  // Work lies in several lanes: of the chosen one in the chosen lane, of others in the first.
  const ends = new Map<string, Where>();
  for (const row of rows) {
    for (const block of row.blocks) {
      const b = paint.get(block.work.buildId);
      if (!b) continue;
      const drawn = drawBlock(pen, a, block, b, row.kind === "person");
      if (!drawn) continue;
      where.push(drawn);
      if (block.key === marked.at || (chain.has(block.work.key) && !ends.has(block.work.key))) ends.set(block.work.key, drawn);
    }
  }
  nowLine(pen, a, view, h, INK);
  fold(pen, a, h, P3);
  for (const l of marked.links) {
    const [from, to] = [ends.get(l.from), ends.get(l.to)];
    if (from && to) link(pen, from, to);
  }
  for (const w of ends.values()) {
    if (w.block.key === marked.at) box(pen, w);
    else under(pen, w);
  }
  const carried = where.find((w) => w.block.key === marked.carried?.key);
  if (carried && marked.carried) {
    pen.strokeStyle = INK;
    pen.lineWidth = 2;
    pen.setLineDash([5, 3]);
    pen.strokeRect(
      carried.x0 + marked.carried.dx,
      carried.y0 - 1 + marked.carried.dy,
      carried.x1 - carried.x0,
      carried.y1 - carried.y0 + 2,
    );
    pen.setLineDash([]);
  }
  const over = where.find((w) => w.block.key === marked.hover);
  if (over && over.block.key !== marked.at) {
    pen.strokeStyle = INK;
    pen.lineWidth = 1;
    pen.strokeRect(over.x0 - 1.5, over.y0 - 1.5, over.x1 - over.x0 + 3, over.y1 - over.y0 + 3);
  }
  return where;
}

function ground(pen: Pen, a: Axis, view: View, rows: readonly Row[], h: number) {
  pen.fillStyle = P1;
  pen.fillRect(0, 0, a.width, h);
  const [top, bottom] = [rows[0]?.y ?? 0, rows.at(-1) ? (rows.at(-1)?.y ?? 0) + (rows.at(-1)?.h ?? 0) : 0];
  for (const row of rows) {
    pen.fillStyle = P0;
    pen.fillRect(0, row.y, Math.min(a.foldX, a.width), row.h);
    pen.fillStyle = P2;
    if (a.foldX < a.width) pen.fillRect(a.foldX, row.y, a.width - a.foldX, row.h);
  }
  // Closed days lie over all rows of a kind as one band; behind the fold they are too thin to tell.
  pen.fillStyle = "rgba(34, 39, 42, 0.075)";
  const starts = startsOf(view.days);
  const bands = joined(
    rows.map((r) => ({ from: r.y, to: r.y + r.h })),
    1,
  );
  for (const [i, d] of view.days.entries()) {
    if (!d.closed) continue;
    const [x0, x1] = [xOf(a, starts[i] ?? 0), xOf(a, starts[i + 1] ?? (starts[i] ?? 0) + DAY)];
    if (x1 < 0 || x0 > a.foldX) continue;
    for (const b of bands) pen.fillRect(x0, b.from, Math.min(x1, a.foldX) - x0, b.to - b.from);
  }
  pen.strokeStyle = P3;
  pen.lineWidth = 1;
  pen.beginPath();
  for (const t of ticksOf(view.days, a).dates) {
    pen.moveTo(t.x, top);
    pen.lineTo(t.x, bottom);
  }
  for (const row of rows) {
    pen.moveTo(0, row.y + row.h);
    pen.lineTo(a.width, row.y + row.h);
  }
  pen.stroke();
}

/** Vehicles that stand in a place: a line under its blocks, so that a place that is held without work shows. */
function held(pen: Pen, a: Axis, view: View, row: Row, paint: ReadonlyMap<string, Build>) {
  for (const s of view.held) {
    const b = paint.get(s.buildId);
    if (s.placeId !== row.key || !b) continue;
    const [x0, x1] = [Math.max(0, xOf(a, ms(s.from))), Math.min(a.width, s.to ? xOf(a, ms(s.to)) : a.width)];
    if (x1 <= x0) continue;
    pen.fillStyle = pale(b.colourHex, P0, 0.72);
    pen.fillRect(x0, row.y + 1, x1 - x0, row.h - 2);
    pen.fillStyle = b.colourHex;
    pen.fillRect(x0, row.y + row.h - 3.5, x1 - x0, 2.5);
    const covered = row.blocks.some((k) => xOf(a, k.parts[0]?.from ?? 0) < x0 + 22 && xOf(a, k.parts.at(-1)?.to ?? 0) > x0 + 2);
    if (x1 - x0 > 26 && x0 < a.foldX && !covered) {
      font(pen, 11.5, 560);
      pen.fillStyle = INK2;
      pen.fillText(String(b.number), x0 + 4, row.y + row.h / 2 + 4);
    }
  }
}

function absences(pen: Pen, a: Axis, row: Row, paint: ReadonlyMap<string, Build>) {
  const middle = row.y + row.h / 2;
  for (const s of row.person?.absent ?? []) {
    const [x0, x1] = [Math.max(0, xOf(a, ms(s.from))), Math.min(a.width, xOf(a, ms(s.to)))];
    if (x1 <= x0) continue;
    pen.strokeStyle = INK2;
    pen.lineWidth = 1;
    pen.setLineDash([2, 3]);
    pen.beginPath();
    pen.moveTo(x0, middle);
    pen.lineTo(x1, middle);
    pen.stroke();
    pen.setLineDash([]);
    if (x1 - x0 > 40) {
      font(pen, 11, 480);
      const w = pen.measureText("away").width;
      pen.fillStyle = P0;
      pen.fillRect((x0 + x1) / 2 - w / 2 - 3, row.y + 2, w + 6, row.h - 4);
      pen.fillStyle = INK2;
      pen.fillText("away", (x0 + x1) / 2 - w / 2, middle + 4);
    }
  }
  for (const k of row.person?.kept ?? []) {
    const [x0, x1] = [xOf(a, ms(k.from)), xOf(a, ms(k.to))];
    if (x1 < 0 || x0 > a.foldX) continue;
    pen.strokeStyle = k.why ? OXIDE : (paint.get(k.buildId)?.colourHex ?? INK2);
    pen.lineWidth = 1.5;
    pen.beginPath();
    pen.moveTo(x0, row.y + 1.5);
    pen.lineTo(Math.max(x1, x0 + 3), row.y + 1.5);
    pen.stroke();
  }
}

/** Solid until it is likely here, a whisker to eight in ten, a caret where the plan needs it; oxide where that is past. */
function away(pen: Pen, a: Axis, row: Row, b: Build | undefined) {
  const w = row.away;
  if (!w || !b) return;
  const y = row.y + row.h / 2;
  const x = (date: string) => xOf(a, dayAt(date));
  const [from, likely, high] = [Math.max(0, x(w.sentOn)), x(w.likely), x(w.high)];
  pen.fillStyle = b.colourHex;
  pen.fillRect(from, y - 3, Math.max(LEAST, likely - from), 6);
  const needed = w.neededOn ? x(w.neededOn) : null;
  const turns = needed === null ? high : Math.max(likely, Math.min(high, needed));
  pen.lineWidth = 1.4;
  pen.strokeStyle = INK;
  pen.beginPath();
  pen.moveTo(likely, y);
  pen.lineTo(turns, y);
  pen.moveTo(high, y - 3);
  pen.lineTo(high, y + 3);
  pen.stroke();
  if (turns < high) {
    pen.strokeStyle = OXIDE;
    pen.lineWidth = 2.6;
    pen.beginPath();
    pen.moveTo(turns, y);
    pen.lineTo(high, y);
    pen.stroke();
  }
  pen.strokeStyle = INK;
  pen.lineWidth = 2;
  pen.beginPath();
  pen.moveTo(likely, y - 5);
  pen.lineTo(likely, y + 5);
  pen.stroke();
  if (needed === null) return;
  pen.fillStyle = w.daysOver ? OXIDE : INK;
  pen.beginPath();
  pen.moveTo(needed - 4, y - 7);
  pen.lineTo(needed + 4, y - 7);
  pen.lineTo(needed, y - 1);
  pen.fill();
  font(pen, 11, w.daysOver ? 680 : 460);
  const text = "needed";
  const at = Math.max(high, needed) + 8;
  if (at + 44 < a.width) pen.fillText(text, at, y + 4);
}

/** Above the batches, a wave on each day on which something can come from those who have them. */
function freight(pen: Pen, a: Axis, view: View, rows: readonly Row[]) {
  const first = rows.find((r) => r.away);
  if (!first) return;
  const y = first.y - HEAD / 2;
  pen.strokeStyle = INK2;
  pen.lineWidth = 1.3;
  for (const d of view.days) {
    if (!d.freight) continue;
    const x = xOf(a, dayAt(d.date));
    if (x < 0 || x > a.foldX - 8) continue;
    pen.beginPath();
    pen.moveTo(x - 5, y + 1);
    pen.quadraticCurveTo(x - 2.5, y - 4, x, y);
    pen.quadraticCurveTo(x + 2.5, y + 4, x + 5, y - 1);
    pen.stroke();
  }
}

/** How the end of a block is torn: the same each time. */
const TORN = (() => {
  const r = seeded(23);
  return Array.from({ length: 7 }, () => r());
})();

function outline(pen: Pen, x0: number, x1: number, y0: number, y1: number) {
  const tear = Math.min(3.2, (x1 - x0) * 0.12);
  pen.beginPath();
  pen.moveTo(x0, y0);
  for (let i = 0; i < TORN.length; i++) pen.lineTo(x1 - tear * (TORN[i] ?? 0), y0 + ((y1 - y0) * i) / (TORN.length - 1));
  pen.lineTo(x0, y1);
  pen.closePath();
}

function drawBlock(pen: Pen, a: Axis, block: Block, b: Build, nights: boolean): Where | null {
  const w = block.work;
  const parts = nights ? joined(block.parts, a.near < 60 ? 20 * HOUR : 2 * HOUR) : block.parts;
  const [first, last] = [xOf(a, parts[0]?.from ?? 0), xOf(a, parts.at(-1)?.to ?? 0)];
  const [y0, y1] = [block.y, block.y + block.h];
  if (last < 0 || first > a.width) return w.dryUntil && !nights ? dry(pen, a, w, b, y0, y1, last) : null;
  if (w.cures) return cures(pen, a, block, b, first, last, y0, y1);
  const fill = w.worked ? pale(b.colourHex, P0, 0.62) : w.asks ? pale(b.colourHex, P0, 0.78) : b.colourHex;
  for (const p of parts) {
    const [x0, x1] = [xOf(a, p.from), xOf(a, p.to)];
    if (x1 < 0 || x0 > a.width) continue;
    // Behind the fold blocks are slivers: paler, so that they read as a texture of how full it is.
    pen.fillStyle = x0 > a.foldX ? pale(fill, P2, 0.35) : fill;
    // A sliver has no edge that could be torn.
    if (x1 - x0 < 6 && !w.asks) {
      pen.fillRect(x0, y0, Math.max(LEAST, x1 - x0), y1 - y0);
      continue;
    }
    outline(pen, x0, Math.max(x1, x0 + LEAST), y0, y1);
    pen.fill();
    if (w.asks && !w.worked) {
      pen.strokeStyle = b.colourHex;
      pen.lineWidth = 1.3;
      pen.setLineDash([3, 2]);
      pen.stroke();
      pen.setLineDash([]);
    } else {
      // Neighbours of one build stay apart.
      pen.fillStyle = P0;
      pen.globalAlpha = 0.7;
      pen.fillRect(x0, y0, 0.8, y1 - y0);
      pen.globalAlpha = 1;
    }
  }
  if (w.dryUntil && !nights) dry(pen, a, w, b, y0, y1, last);
  if ((w.pinnedOn || w.pinnedTo || w.pinnedAt) && !w.worked && first >= 0) peg(pen, first, y0, y1, w.broken.length > 0);
  label(pen, w, b, fill, Math.max(0, first), xOf(a, parts[0]?.to ?? 0), y0, y1);
  return { block, x0: Math.max(0, first), x1: Math.max(last, first + LEAST), y0, y1 };
}

/** Held by somebody: a peg at its start; broken in two where the plan cannot keep it. */
function peg(pen: Pen, x: number, y0: number, y1: number, broken: boolean) {
  pen.fillStyle = broken ? OXIDE : INK;
  const middle = (y0 + y1) / 2;
  pen.fillRect(x - 3.5, y0 - 3.5, 7, 2.4);
  if (!broken) {
    pen.fillRect(x - 1.2, y0 - 3, 2.4, y1 - y0 + 6);
    return;
  }
  pen.fillRect(x - 1.2, y0 - 3, 2.4, middle - y0 + 1);
  pen.fillRect(x + 2.4, middle, 2.4, y1 - middle + 3);
}

/** Work of nobody: as what dries after a coat, with a thin edge so that it can be found. */
function cures(pen: Pen, a: Axis, block: Block, b: Build, x0: number, x1: number, y0: number, y1: number): Where {
  stipple(pen, b, x0, x1, y0, y1, Math.round(ms(block.work.finish) / HOUR));
  pen.strokeStyle = mix(b.colourHex, P0, 0.5);
  pen.lineWidth = 1;
  pen.strokeRect(Math.max(-1, x0), y0 + 0.5, Math.min(a.width + 1, Math.max(x1, x0 + LEAST)) - Math.max(-1, x0), y1 - y0 - 1);
  return { block, x0: Math.max(0, x0), x1: Math.max(x1, x0 + LEAST), y0, y1 };
}

/** As much of a text as there is room for, by its share of letters; what is a little too wide is drawn narrower. */
function shortened(text: string, full: number, room: number): string {
  if (full <= room) return text;
  return `${text.slice(0, Math.max(0, Math.floor((text.length * room) / full) - 1)).trimEnd()}…`;
}

function label(pen: Pen, w: Block["work"], b: Build, fill: string, x0: number, x1: number, y0: number, y1: number) {
  const size = Math.min(12.5, (y1 - y0) * 0.86);
  const room = x1 - x0 - 6;
  if (room < 15 || size < 8.5) return;
  pen.fillStyle = inkOn(fill);
  font(pen, size, 720);
  const number = String(b.number);
  const wide = widthOf(pen, number);
  if (wide > room) return;
  const y = (y0 + y1) / 2 + size * 0.36;
  pen.fillText(number, x0 + 3, y);
  if (x1 - x0 < LABEL_FROM) return;
  font(pen, size, 480);
  const left = room - wide - 5;
  const text = shortened(w.name, widthOf(pen, w.name), left);
  if (text.length > 4) pen.fillText(text, x0 + 3 + wide + 5, y, left);
}

/** Wet is dense, dry is bare: dots whose distance follows a falling curve, smaller as they go. */
function dry(pen: Pen, a: Axis, w: Block["work"], b: Build, y0: number, y1: number, from: number): null {
  const to = xOf(a, ms(w.dryUntil ?? w.finish));
  if (to <= Math.max(0, from) || from > a.width) return null;
  stipple(pen, b, from, to, y0, y1, Math.round(ms(w.finish) / HOUR));
  return null;
}

function stipple(pen: Pen, b: Build, from: number, to: number, y0: number, y1: number, seed: number) {
  const r = seeded(b.number * 31 + seed);
  const wide = to - from;
  pen.fillStyle = b.colourHex;
  const dots = Math.min(400, Math.ceil((wide * (y1 - y0)) / 16));
  for (let i = 0; i < dots; i++) {
    // A truncated exponential with rate 2.
    const share = -Math.log(1 - r() * (1 - Math.exp(-2))) / 2;
    const size = 1.9 - 1.1 * share;
    pen.fillRect(from + share * wide, y0 + r() * (y1 - y0 - size), size, size);
  }
}

/** A box as if drawn by hand round the block the reader is at. */
function box(pen: Pen, w: Where) {
  const r = seeded(5);
  const j = () => (r() - 0.5) * 3;
  const [x0, x1, y0, y1] = [w.x0 - 5, w.x1 + 5, w.y0 - 5, w.y1 + 5];
  pen.strokeStyle = INK;
  pen.lineWidth = 2;
  pen.beginPath();
  pen.moveTo(x0 - 3, y0 + 2);
  pen.quadraticCurveTo((x0 + x1) / 2, y0 + j() - 1, x1 + j(), y0 + j());
  pen.quadraticCurveTo(x1 + 1 + j(), (y0 + y1) / 2, x1 + j(), y1 + j());
  pen.quadraticCurveTo((x0 + x1) / 2, y1 + 1 + j(), x0 + j(), y1 + j());
  pen.quadraticCurveTo(x0 - 1 + j(), (y0 + y1) / 2, x0 + 2, y0 - 3);
  pen.stroke();
}

/** A line of ink from the end of what holds to the start of what it holds; oxide where an open question stops it. */
function link(pen: Pen, from: Where, to: Where) {
  const [x0, y0] = [from.x1, (from.y0 + from.y1) / 2];
  const [x1, y1] = [to.x0, (to.y0 + to.y1) / 2];
  const bend = Math.max(12, Math.min(60, Math.abs(x1 - x0) / 2));
  pen.strokeStyle = from.block.work.asks ? OXIDE : INK;
  pen.fillStyle = pen.strokeStyle;
  pen.lineWidth = 1.5;
  pen.beginPath();
  pen.arc(x0, y0, 3, 0, Math.PI * 2);
  pen.fill();
  pen.beginPath();
  pen.moveTo(x0, y0);
  if (Math.abs(y1 - y0) < 3) pen.lineTo(x1, y1);
  else pen.bezierCurveTo(x0 + bend, y0, x1 - bend, y1, x1, y1);
  pen.stroke();
}

/** Underlined: it belongs to the chain of the block the reader is at. */
function under(pen: Pen, w: Where) {
  pen.fillStyle = INK;
  pen.fillRect(w.x0, w.y1 + 1, w.x1 - w.x0, 2);
}
