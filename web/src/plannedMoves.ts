import type { Schemas } from "./api/client";
import { days } from "./format";

/** Who gains and who loses how many days, by planned finishes. */
export function movesText(moves: readonly Schemas["PlannedMove"][]): string {
  if (moves.length === 0) return "No build’s planned finish moves.";
  const told = moves.map((m) => {
    const n = Math.abs(m.days);
    return `${m.buildNumber}: ${days(n)} ${n === 1 ? "day" : "days"} ${m.days > 0 ? "later" : "sooner"}`;
  });
  return `Planned finishes: ${told.join(", ")}.`;
}

/** So many are named; of the rest it is said how many they are. */
const NAMED = 4;
export const someOf = (all: readonly string[]) =>
  all.length <= NAMED + 1 ? all.join(", ") : `${all.slice(0, NAMED).join(", ")} and ${all.length - NAMED} more`;
