import { lengthUnit } from "../format";

/** A row of a table on the bench, as typed. */
export type Row = Record<string, string | boolean>;

/** All that is typed for one sum; `unit` says in what lengths are. */
export type Figures = Record<string, string | boolean | Row[]>;

/** One figure that is typed. */
export type FigureSpec = {
  key: string;
  label: string;
  /** "length" follows the bench's unit; any other is shown as it is. */
  unit: string;
  /** Where it stands on the drawing, in the drawing's own units; none: below it. */
  at?: [number, number];
  wide?: number;
  /** Up and down change it by so much. */
  step?: number;
  text?: boolean;
};

export type ColumnSpec = { key: string; label: string; kind: "text" | "length" | "number" | "check" };
export type TableSpec = { key: string; label: string; columns: ColumnSpec[]; one: string };
export type FlagSpec = { key: string; label: string };

/** What is known of a sum before anything is typed. */
export type SumSpec = {
  key: string;
  name: string;
  /** What the drawing shows and how to use it. */
  hint: string;
  /** Height of its drawing, in the drawing's own units; none: the usual one. */
  high?: number;
  figures: FigureSpec[];
  flags?: FlagSpec[];
  tables?: TableSpec[];
  /** Figures to begin with, lengths in millimetres. */
  start: Figures;
};

/** What the core answers for the drawing; lengths in millimetres. */
export type Out = Record<string, unknown>;

export const num = (out: Out, key: string): number => (typeof out[key] === "number" ? (out[key] as number) : 0);
export const nums = (out: Out, key: string): number[] => (Array.isArray(out[key]) ? (out[key] as number[]) : []);
export const list = <T>(out: Out, key: string): T[] => (Array.isArray(out[key]) ? (out[key] as T[]) : []);

const INCH = 25.4;

export const textOf = (figures: Figures, key: string) => (typeof figures[key] === "string" ? (figures[key] as string) : "");
export const rowsOf = (figures: Figures, key: string): Row[] => (Array.isArray(figures[key]) ? (figures[key] as Row[]) : []);

const changed = (text: string, by: number, places: number) => {
  const value = Number(text);
  return text.trim() === "" || !Number.isFinite(value) ? text : String(Number((value * by).toFixed(places)));
};

/** The same figures with their lengths in another unit. */
export function inUnit(spec: SumSpec, figures: Figures, unit: "mm" | "inch"): Figures {
  if ((figures.unit ?? "mm") === unit) return { ...figures, unit };
  const [by, places] = unit === "inch" ? [1 / INCH, 4] : [INCH, 3];
  const next: Figures = { ...figures, unit };
  for (const s of spec.figures) {
    if (s.unit === "length" && typeof next[s.key] === "string") next[s.key] = changed(next[s.key] as string, by, places);
  }
  for (const t of spec.tables ?? []) {
    next[t.key] = rowsOf(next, t.key).map((row) =>
      Object.fromEntries(
        Object.entries(row).map(([k, v]) => [
          k,
          typeof v === "string" && t.columns.find((c) => c.key === k)?.kind === "length" ? changed(v, by, places) : v,
        ]),
      ),
    );
  }
  return next;
}

export const unitOf = (figures: Figures): "mm" | "inch" => (figures.unit === "inch" ? "inch" : "mm");
export const unitName = (figures: Figures) => (unitOf(figures) === "inch" ? "in" : "mm");

/** What a sum begins with, in the shop's unit. */
export const startOf = (spec: SumSpec): Figures => inUnit(spec, { unit: "mm", ...spec.start }, lengthUnit() === "in" ? "inch" : "mm");

/** A row in which nothing is typed, to go on with. */
export const isBlank = (row: Row) => Object.values(row).every((v) => v === "" || v === false);
