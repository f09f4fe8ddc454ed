import { api, ask } from "../api/client";
import { useSteps } from "../ui/useSteps";
import { bodyOf, formOf, type OperationForm } from "./operationBody";
import type { Operation } from "./strands";

const WORDS = { made: "is changed", back: "is as it was", again: "is changed again" };

/** Changes of operations, each of which can be taken back and done again in turn. */
export function useEdits(buildId: string) {
  const { make, ...steps } = useSteps<OperationForm>(
    (c) =>
      ask(
        api.PUT("/api/builds/{id}/operations/{operationId}", {
          params: { path: { id: buildId, operationId: c.id } },
          body: bodyOf(c.to, c.version),
        }),
      ),
    (name, _, how) => `${name} ${WORDS[how]}`,
  );
  const save = (o: Operation, form: OperationForm) =>
    make({ id: o.id, name: form.name, before: formOf(o), after: form, version: o.version });
  return { save, ...steps };
}
