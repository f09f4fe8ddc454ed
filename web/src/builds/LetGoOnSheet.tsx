import { useQuery } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../api/client";
import { operationsQuery } from "../api/queries";
import { AreaField, ChoiceField, choices } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import { useThisBuild } from "./useBuild";

/** Lets work go on although its question is open; the reason stays beside it. */
export function LetGoOnSheet({ decision: d, onClose }: { decision: Schemas["DecisionView"]; onClose: () => void }) {
  const card = useThisBuild();
  const held = (useQuery(operationsQuery(card.id)).data ?? []).filter(
    (o) => d.holds.includes(o.id) && !d.letGo.some((l) => l.operation === o.id),
  );
  const [f, set] = useForm({ operationId: "", reason: "" });
  const send = useSend(
    () =>
      ask(
        api.POST("/api/decisions/{id}/let-go-on", {
          params: { path: { id: d.id } },
          body: { operationId: f.operationId || (held[0]?.id ?? ""), reason: f.reason },
        }),
      ),
    { says: "It may go on", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title="Let work go on without the answer"
      note={`${d.question}. Hours on a change that is declined are not billed.`}
      action="Release"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      <ChoiceField
        className="col-span-2"
        label="Which work"
        value={f.operationId}
        onChange={set("operationId")}
        options={held.length === 1 ? [["", held[0]?.name ?? ""]] : choices(held, "choose")}
      />
      <AreaField className="col-span-2" label="Why" name="reason" value={f.reason} onChange={set("reason")} />
    </FormSheet>
  );
}
