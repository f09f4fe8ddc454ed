import { useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { say } from "../ui/say";
import { useSend } from "../ui/useSend";
import { bodyOf, type OperationForm } from "./operationBody";
import type { Operation } from "./strands";

/** Takes a change of the order of work back, or makes it again. */
export const turn = (id: string, back: boolean) => {
  const to = { params: { path: { id } } };
  return ask(back ? api.POST("/api/sequence-changes/{id}/undo", to) : api.POST("/api/sequence-changes/{id}/redo", to));
};

/** Changes of a build's order of work that were made here: each can be taken back and made again in turn. */
export function useEdits(buildId: string) {
  const [done, setDone] = useState<string[]>([]);
  const [undone, setUndone] = useState<string[]>([]);
  const put = useSend(({ o, form }: { o: Operation; form: OperationForm }) =>
    ask(
      api.PUT("/api/builds/{id}/operations/{operationId}", {
        params: { path: { id: buildId, operationId: o.id } },
        body: bodyOf(form, o.version),
      }),
    ),
  );
  const turning = useSend(({ id, back }: { id: string; back: boolean }) => turn(id, back));
  /** Notes a change that somebody here has just made. */
  const made = ({ changeId }: Schemas["KeptChange"]) => {
    if (!changeId) return;
    setDone((d) => [...d, changeId]);
    setUndone([]);
  };
  /** @returns Whether it was kept. */
  const save = async (o: Operation, form: OperationForm) => {
    const kept = await put.mutateAsync({ o, form }).catch(() => null);
    if (kept) {
      made(kept);
      say.done(`${form.name} is changed`);
    }
    return kept !== null;
  };
  const step = async (back: boolean) => {
    const [from, setFrom, setTo] = back ? [done, setDone, setUndone] : [undone, setUndone, setDone];
    const id = from.at(-1);
    if (!id) return;
    const turned = await turning.mutateAsync({ id, back }).catch(() => null);
    // What somebody else has overtaken is refused, and leaves the row.
    setFrom((all) => all.slice(0, -1));
    if (!turned) return;
    setTo((all) => [...all, id]);
    say.done(back ? "Taken back" : "Made again");
  };
  return {
    save,
    made,
    undo: done.length > 0 ? () => step(true) : null,
    redo: undone.length > 0 ? () => step(false) : null,
    busy: turning.isPending,
  };
}
