import { useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { day } from "../format";
import { say } from "../ui/say";
import { useSend } from "../ui/useSend";

type Work = Schemas["LaneWork"];
/** One hold that was set or taken away, as it was and as it became. */
type Change = { id: string; name: string; before: string | null; after: string | null; version: number };

/** Holding work until a day, with each step taken back and done again in turn; a step that somebody else has overtaken is refused. */
export function useHolds() {
  const [done, setDone] = useState<Change[]>([]);
  const [undone, setUndone] = useState<Change[]>([]);
  const send = useSend((c: { id: string; on: string | null; version: number | null }) =>
    ask(api.POST("/api/operations/{id}/hold-until", { params: { path: { id: c.id } }, body: { on: c.on, version: c.version } })),
  );
  const words = (name: string, on: string | null) => (on ? `${name} is held until ${day(on)}` : `${name} is let go`);
  const hold = async (work: Work, on: string | null) => {
    if (!work.operationId || on === work.heldUntil) return;
    const saved = await send.mutateAsync({ id: work.operationId, on, version: work.version }).catch(() => null);
    if (!saved) return;
    setDone((d) => [...d, { id: saved.id, name: work.name, before: work.heldUntil, after: on, version: saved.version }]);
    setUndone([]);
    say.done(words(work.name, on));
  };
  /** @param back Whether it is taken back or done again. */
  const step = async (back: boolean) => {
    const [from, setFrom, setTo] = back ? [done, setDone, setUndone] : [undone, setUndone, setDone];
    const c = from.at(-1);
    if (!c) return;
    const on = back ? c.before : c.after;
    const saved = await send.mutateAsync({ id: c.id, on, version: c.version }).catch(() => null);
    setFrom((all) => all.slice(0, -1));
    if (!saved) return;
    // Earlier steps of the same work go on from the version that this one made.
    const renewed = (all: Change[]) => all.map((x) => (x.id === c.id ? { ...x, version: saved.version } : x));
    setFrom(renewed);
    setTo((all) => [...renewed(all), { ...c, version: saved.version }]);
    say.done(words(c.name, on));
  };
  return {
    hold,
    undo: done.length > 0 ? () => step(true) : null,
    redo: undone.length > 0 ? () => step(false) : null,
    busy: send.isPending,
  };
}
