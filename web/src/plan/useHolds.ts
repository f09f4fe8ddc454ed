import { api, ask, type Schemas } from "../api/client";
import { day } from "../format";
import { useSteps } from "../ui/useSteps";

type Work = Schemas["LaneWork"];

/** Holding work until a day, with each step taken back and done again in turn. */
export function useHolds() {
  const { make, ...steps } = useSteps<string | null>(
    (c) => ask(api.POST("/api/operations/{id}/hold-until", { params: { path: { id: c.id } }, body: { on: c.to, version: c.version } })),
    (name, on) => (on ? `${name} is held until ${day(on)}` : `${name} is let go`),
  );
  const hold = async (work: Work, on: string | null) => {
    if (work.operationId && on !== work.heldUntil)
      await make({ id: work.operationId, name: work.name, before: work.heldUntil, after: on, version: work.version });
  };
  return { hold, ...steps };
}
