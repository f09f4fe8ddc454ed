import { useState } from "react";
import { api, ask } from "../api/client";
import { say } from "../ui/say";
import { useSend } from "../ui/useSend";
import { bodyOf, formOf, type OperationForm } from "./operationBody";
import type { Operation } from "./strands";

type Edit = { id: string; name: string; before: OperationForm; after: OperationForm; version: number };

/** Changes of operations, each of which can be taken back and done again in turn; a step that somebody else has overtaken is refused. */
export function useEdits(buildId: string) {
  const [done, setDone] = useState<Edit[]>([]);
  const [undone, setUndone] = useState<Edit[]>([]);
  const send = useSend(
    (c: { id: string; form: OperationForm; version: number }) =>
      ask(
        api.PUT("/api/builds/{id}/operations/{operationId}", {
          params: { path: { id: buildId, operationId: c.id } },
          body: bodyOf(c.form, c.version),
        }),
      ),
    {},
  );
  const save = async (operation: Operation, form: OperationForm) => {
    const saved = await send.mutateAsync({ id: operation.id, form, version: operation.version }).catch(() => null);
    if (!saved) return false;
    setDone((d) => [...d, { id: operation.id, name: form.name, before: formOf(operation), after: form, version: saved.version }]);
    setUndone([]);
    say.done(`${form.name} is changed`);
    return true;
  };
  /** @param back Whether it is taken back or done again. */
  const step = async (back: boolean) => {
    const [from, setFrom, setTo] = back ? [done, setDone, setUndone] : [undone, setUndone, setDone];
    const c = from.at(-1);
    if (!c) return;
    const saved = await send.mutateAsync({ id: c.id, form: back ? c.before : c.after, version: c.version }).catch(() => null);
    setFrom((all) => all.slice(0, -1));
    if (!saved) return;
    const renewed = (all: Edit[]) => all.map((x) => (x.id === c.id ? { ...x, version: saved.version } : x));
    setFrom(renewed);
    setTo((all) => [...renewed(all), { ...c, version: saved.version }]);
    say.done(back ? `${c.name} is as it was` : `${c.name} is changed again`);
  };
  return {
    save,
    undo: done.length > 0 ? () => step(true) : null,
    redo: undone.length > 0 ? () => step(false) : null,
    busy: send.isPending,
  };
}
