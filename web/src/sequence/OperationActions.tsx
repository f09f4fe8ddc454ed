import { useContext, useState } from "react";
import { api, ask, Problem } from "../api/client";
import { Ended, useMay, useUser } from "../api/queries";
import { TextField } from "../ui/Field";
import { Sheet } from "../ui/Sheet";
import { say } from "../ui/say";
import { useSend } from "../ui/useSend";
import { SignSheet } from "./GateAsks";
import { ChangedSheet } from "./Ripples";
import type { Operation } from "./strands";

/** What can be done with an operation, by whoever looks: end it, sign it, open it, change it. */
export function OperationActions({ operation: o, onEdit }: { operation: Operation; onEdit: () => void }) {
  const may = useMay();
  const user = useUser();
  const path = { params: { path: { id: o.id } } };
  const [outOfOrder, setOutOfOrder] = useState<string | null>(null);
  const [why, setWhy] = useState("");
  const done = useSend((why: string) => ask(api.POST("/api/operations/{id}/done", { params: { ...path.params, query: { why } } })), {
    says: "Done",
    quiet: true,
    onDone: () => setOutOfOrder(null),
  });
  const finish = () =>
    done.mutate(why, {
      // What comes before is not done: that is asked, and a reason stays with it.
      onError: (e) => (e instanceof Problem && e.field === "reason" ? setOutOfOrder(e.message) : say.wrong(e.message)),
    });
  const reopen = useSend(() => ask(api.POST("/api/operations/{id}/reopen", path)));
  const [signing, setSigning] = useState(false);
  const [changed, setChanged] = useState(false);
  const override = useSend((reason: string) => ask(api.POST("/api/operations/{id}/override", { ...path, body: { reason } })));
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState("");
  if (useContext(Ended)) return null;
  return (
    <span className="flex gap-1 justify-end flex-wrap">
      {!o.doneAt && o.kind !== "gate" && (
        <button type="button" className="btn" aria-label={`Done: ${o.name}`} onClick={finish}>
          Done
        </button>
      )}
      {outOfOrder && (
        <span className="basis-full text-left">
          <span className="block text-oxide">{outOfOrder}</span>
          <span className="flex gap-1 mt-1">
            <input aria-label="Why it was done out of order" value={why} onChange={(e) => setWhy(e.target.value)} className="flex-1" />
            <button type="button" className="btn" disabled={!why.trim()} onClick={finish}>
              Mark it done anyway
            </button>
            <button type="button" className="btn" onClick={() => setOutOfOrder(null)}>
              Not yet
            </button>
          </span>
        </span>
      )}
      {!o.doneAt && o.kind === "gate" && user?.personId && (
        <button type="button" className="btn" aria-label={`Sign: ${o.name}`} onClick={() => setSigning(true)}>
          Sign
        </button>
      )}
      {!o.doneAt && o.kind === "gate" && may.manager && o.canOverride && (
        <button type="button" className="btn" aria-label={`Open without signature: ${o.name}`} onClick={() => setAsking(true)}>
          Open…
        </button>
      )}
      {o.doneAt && o.kind !== "gate" && may.manager && (
        <button type="button" className="btn btn-quiet" aria-label={`Open again: ${o.name}`} onClick={() => reopen.mutate(undefined)}>
          open again
        </button>
      )}
      {o.doneAt && o.kind !== "gate" && may.manager && (
        <button type="button" className="btn btn-quiet" aria-label={`It has changed: ${o.name}`} onClick={() => setChanged(true)}>
          it has changed
        </button>
      )}
      {may.manager && (
        <button type="button" className="btn" aria-label={`Edit: ${o.name}`} onClick={onEdit}>
          Edit
        </button>
      )}
      {changed && <ChangedSheet operation={o} onClose={() => setChanged(false)} />}
      {signing && <SignSheet gate={o} onClose={() => setSigning(false)} />}
      {asking && (
        <Sheet title={`Open “${o.name}” without a signature`} note="The reason stays visible for good." onClose={() => setAsking(false)}>
          <TextField label="Reason" name="reason" value={reason} onChange={setReason} problem={override.error} />
          <button type="button" className="btn btn-ink mt-3" onClick={() => override.mutate(reason, { onSuccess: () => setAsking(false) })}>
            Open the gate
          </button>
        </Sheet>
      )}
    </span>
  );
}
