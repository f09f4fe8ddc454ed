import { useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { dateOf, weekday } from "../format";
import { Dab } from "../ui/Dab";
import { AreaField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";

type Row = Schemas["FlagRow"];

/** What was done although a rule stood against it: kept, and for the manager to settle. */
export function Flagged({ rows }: { rows: Row[] }) {
  const [settling, setSettling] = useState<Row | null>(null);
  if (rows.length === 0) return null;
  return (
    <div className="border-t border-p3 pt-2 mb-2">
      <b>Done against a rule</b>
      <ul>
        {rows.slice(0, 4).map((f) => (
          <li key={f.id} className="py-1">
            <span className="flex flex-wrap items-center gap-1">
              <Dab number={f.buildNumber} colour={f.colourHex} w={26} h={15} size={11} />
              {f.hours ? "Hours on" : "Noted on"} {f.what}, {f.by}, {weekday(dateOf(f.at))}.
            </span>
            <span className="block text-oxide">{f.against}</span>
            <button type="button" className="btn mt-1" aria-label={`Settle ${f.what}, ${f.by}`} onClick={() => setSettling(f)}>
              Settle
            </button>
          </li>
        ))}
      </ul>
      {rows.length > 4 && <p className="text-ink2">{rows.length - 4} more wait behind these.</p>}
      {settling && <SettleFlag row={settling} onClose={() => setSettling(null)} />}
    </div>
  );
}

function SettleFlag({ row: f, onClose }: { row: Row; onClose: () => void }) {
  const [form, set] = useForm({ reason: "" });
  const path = { params: { path: { id: f.id } } };
  const send = useSend(
    () =>
      f.hours
        ? ask(api.POST("/api/hours/{id}/settle", { ...path, body: form }))
        : ask(api.POST("/api/panel-events/{id}/settle", { ...path, body: form })),
    { says: "Settled", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={f.hours ? `Hours of ${f.by}` : `Noted by ${f.by}`}
      note={`${f.against} ${f.hours ? "The hours count all the same." : "Settled, it counts; until then the panel stays as it was."}`}
      action="Settle"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      <AreaField label="What holds, and why" name="reason" value={form.reason} onChange={set("reason")} className="col-span-2" />
    </FormSheet>
  );
}
