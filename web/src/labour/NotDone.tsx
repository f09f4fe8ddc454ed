import { useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { TextField } from "../ui/Field";
import { useSend } from "../ui/useSend";

/** A job whose clock was stopped as done, and what kept it from being marked so. */
export type NotDoneJob = { job: Schemas["ClockJob"]; words: string; asks: boolean };

/** Said until it is read: the clock stands, the job is not marked done. Where only the order is another, a reason marks it. */
export function NotDone({ of, onClose }: { of: NotDoneJob; onClose: () => void }) {
  const [why, setWhy] = useState("");
  const send = useSend(() => ask(api.POST("/api/operations/{id}/done", { params: { path: { id: of.job.operationId }, query: { why } } })), {
    onDone: onClose,
    quiet: true,
  });
  return (
    <section className="p-5 bg-p0 border-b border-p3" role="alert" aria-label="Not marked done">
      <h2 className="!text-[22px] mb-2">The clock has stopped. “{of.job.name}” is not marked done.</h2>
      <p className="wrong text-[17px] mb-3">{of.words}</p>
      {of.asks && <TextField label="Why it was done out of order" name="reason" value={why} onChange={setWhy} problem={send.error} />}
      <div className="flex gap-2 mt-3">
        {of.asks && (
          <button
            type="button"
            className="btn btn-ink flex-1 min-h-13 text-[17px]"
            disabled={!why.trim() || send.isPending}
            onClick={() => send.mutate(undefined)}
          >
            Mark it done anyway
          </button>
        )}
        <button type="button" className="btn flex-1 min-h-13 text-[17px]" onClick={onClose}>
          {of.asks ? "Leave it open" : "Understood"}
        </button>
      </div>
    </section>
  );
}
