import type { Schemas } from "../api/client";

export type Datum = Schemas["DatumView"];
export type Point = Schemas["DatumPointView"];
export type PointRound = Schemas["PointRoundView"];

export const DATUM_ROUNDS = ["beforeCut", "afterCut"] as const;
export const datumRoundName = (r: Schemas["DatumRound"]) => ({ beforeCut: "before the cut", afterCut: "after the cut" })[r];

export const TOOLS: readonly (readonly [Schemas["DatumTool"], string])[] = [
  ["plumbBob", "plumb bob"],
  ["tape", "tape"],
  ["laser", "laser"],
  ["other", "something else"],
];

export const roundOf = (p: Point, round: Schemas["DatumRound"]) => p.rounds.find((r) => r.round === round);

/** The last round of a sheet in which anything was read. */
export const lastRoundOf = (d: Datum): Schemas["DatumRound"] => d.fits.at(-1)?.round ?? "beforeCut";

/** Which way a point is off, in words: "up 2.5, in 1.2, back 1.1"; what is under a tenth is left out. */
export function wayWords(off: Schemas["OffsetView"], side: Schemas["PanelSide"]): string {
  const out = side === "left" ? off.y : side === "right" ? -off.y : null;
  const parts: [number, string, string][] = [
    [off.z, "up", "down"],
    ...(out === null ? [[off.y, "left", "right"] as [number, string, string]] : [[out, "out", "in"] as [number, string, string]]),
    [off.x, "back", "forward"],
  ];
  return (
    parts
      .filter(([v]) => Math.abs(v) >= 0.05)
      .map(([v, more, less]) => `${v > 0 ? more : less} ${Math.abs(v).toFixed(1)}`)
      .join(", ") || "in its place"
  );
}

/** A point with its place: "D R, spring front eye". */
export const pointName = (p: Point) => [p.key, p.typed.name].filter(Boolean).join(", ");
