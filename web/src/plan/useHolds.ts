import { api, ask, type Schemas } from "../api/client";
import { dateOf, day, timeOf, weekday } from "../format";
import { useSteps } from "../ui/useSteps";
import { movesText } from "./moves";

type View = Schemas["LanesView"];
type Work = Schemas["LaneWork"];

/** What is settled of when, by whom and where work is done; null: the plan settles it. */
export type Hold = { on: string | null; personId: string | null; placeId: string | null };

export const holdOf = (w: Work): Hold => ({ on: w.heldUntil, personId: w.heldBy, placeId: w.heldAt });

export const isSame = (a: Hold, b: Hold) => a.on === b.on && a.personId === b.personId && a.placeId === b.placeId;

/** How work is held, in words; nothing: the plan settles all of it. */
export const holdWords = (h: Hold, view: View): string =>
  [
    h.on && `until ${weekday(h.on)}`,
    h.personId && `for ${view.people.find((p) => p.id === h.personId)?.name ?? "somebody who is gone"}`,
    h.placeId && `in ${view.places.find((p) => p.id === h.placeId)?.name ?? "a place that is gone"}`,
  ]
    .filter(Boolean)
    .join(", ");

/** What the plan would say of work that is held so, before it is. */
export const tryHold = (work: Work, hold: Hold) =>
  ask(
    api.POST("/api/operations/{id}/hold/try", {
      params: { path: { id: work.operationId ?? "" } },
      body: { ...hold, version: work.version },
    }),
  );

/** Whether it was to start sooner and cannot. */
export const isTooSoon = (work: Work, hold: Hold, then: Schemas["TrialView"]) =>
  hold.on !== null && hold.on < dateOf(work.start) && (then.start === null || then.start >= work.start);

/** Who gains and who loses how many days, or which rule is against it. */
export function holdCost(work: Work, hold: Hold, then: Schemas["TrialView"]): string {
  const when = (at: string) => `${weekday(dateOf(at))} ${timeOf(at)}`;
  if (isTooSoon(work, hold, then))
    return `It cannot start sooner than ${when(work.start)}${then.reason ? `: ${then.reason}` : ": see what holds it"}.`;
  if (then.start === null || then.finish === null) return "It would have no date then.";
  return `Planned ${when(then.start)} to ${when(then.finish)}. ${movesText(then.moves)}`;
}

/** Holding work, with each step taken back and done again in turn. */
export function useHolds(view: View) {
  const { make, ...steps } = useSteps<Hold>(
    (c) => ask(api.POST("/api/operations/{id}/hold", { params: { path: { id: c.id } }, body: { ...c.to, version: c.version } })),
    (name, to) => {
      const words = holdWords(to.on ? { ...to, on: null } : to, view);
      const how = [to.on && `until ${day(to.on)}`, words].filter(Boolean).join(", ");
      return how ? `${name} is held ${how}` : `${name} is let go`;
    },
  );
  const hold = async (work: Work, to: Hold) => {
    const before = holdOf(work);
    if (work.operationId && !isSame(before, to))
      await make({ id: work.operationId, name: work.name, before, after: to, version: work.version });
  };
  return { hold, ...steps };
}
