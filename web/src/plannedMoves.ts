import type { Schemas } from "./api/client";
import { days } from "./format";

/** Who gains and who loses how many days, by planned finishes. */
export function movesText(moves: readonly Schemas["PlannedMove"][]): string {
  if (moves.length === 0) return "No build’s planned finish moves.";
  const told = moves.map((m) => {
    const n = Math.abs(m.days);
    return `${m.buildNumber} ${days(n)} ${n === 1 ? "day" : "days"} ${m.days > 0 ? "later" : "sooner"}`;
  });
  return `Planned finishes: ${told.join(", ")}.`;
}
