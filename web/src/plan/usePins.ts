import { api, ask, type Schemas } from "../api/client";
import { dateOf, timeOf, weekday } from "../format";
import { movesText } from "../plannedMoves";
import { useSteps } from "../ui/useSteps";

type View = Schemas["LanesView"];
type Work = Schemas["LaneWork"];

/** What is settled of when, by whom and where work is done; null: the plan settles it. */
export type Pin = { on: string | null; personId: string | null; placeId: string | null };

export const pinOf = (w: Work): Pin => ({ on: w.pinnedOn, personId: w.pinnedTo, placeId: w.pinnedAt });

export const isSame = (a: Pin, b: Pin) => a.on === b.on && a.personId === b.personId && a.placeId === b.placeId;

/** How work is pinned, in words; nothing: the plan settles all of it. */
export const pinWords = (h: Pin, view: View): string =>
  [
    h.on && weekday(h.on),
    h.personId && `${view.people.find((p) => p.id === h.personId)?.name ?? "somebody who is gone"}`,
    h.placeId && `${view.places.find((p) => p.id === h.placeId)?.name ?? "a place that is gone"}`,
  ]
    .filter(Boolean)
    .join(", ");

/** What the plan would say of work that is pinned so, before it is. */
export const tryPin = (work: Work, pin: Pin) =>
  ask(
    api.POST("/api/operations/{id}/pin/try", {
      params: { path: { id: work.operationId ?? "" } },
      body: { ...pin, version: work.version },
    }),
  );

/** Whether it was to start sooner and cannot. */
export const isTooSoon = (work: Work, pin: Pin, then: Schemas["TrialView"]) =>
  pin.on !== null && pin.on < dateOf(work.start) && (then.start === null || then.start >= work.start);

/** Who gains and who loses how many days, or which rule is against it. */
export function pinCost(work: Work, pin: Pin, then: Schemas["TrialView"]): string {
  const when = (at: string) => `${weekday(dateOf(at))} ${timeOf(at)}`;
  if (isTooSoon(work, pin, then))
    return `It cannot start sooner than ${when(work.start)}${then.reason ? `: ${then.reason}` : ": see what holds it"}.`;
  if (then.start === null || then.finish === null) return "It would have no date then.";
  return `Planned ${when(then.start)} to ${when(then.finish)}. ${movesText(then.moves)}`;
}

/** Pinning work, with each step taken back and done again in turn. */
export function usePins(view: View) {
  const { make, ...steps } = useSteps<Pin>(
    (c) => ask(api.POST("/api/operations/{id}/pin", { params: { path: { id: c.id } }, body: { ...c.to, version: c.version } })),
    (name, to) => {
      const how = pinWords(to, view);
      return how ? `${name} is pinned: ${how}` : `${name} is unpinned`;
    },
  );
  const pin = async (work: Work, to: Pin) => {
    const before = pinOf(work);
    if (work.operationId && !isSame(before, to))
      await make({ id: work.operationId, name: work.name, before, after: to, version: work.version });
  };
  return { pin, ...steps };
}
