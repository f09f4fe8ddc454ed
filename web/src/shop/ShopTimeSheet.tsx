import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { shopTimeQuery } from "../api/queries";
import { dateOf, day, hm, instantOf, timeOf, today } from "../format";
import { ChoiceField, choices, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";

/** Hours on work that is nobody's build: entered by the manager, and the last four weeks of them. */
export function ShopTimeSheet({ shop, onClose }: { shop: Schemas["ShopView"]; onClose: () => void }) {
  const rows = useQuery(shopTimeQuery).data ?? [];
  const [id, setId] = useState(() => newId());
  const [f, set] = useForm({ personId: "", job: shop.jobs[0] ?? "", date: today(), from: "08:00", to: "09:00", note: "" });
  const [voiding, setVoiding] = useState<Schemas["ShopTimeRow"] | null>(null);
  const save = useSend(
    () =>
      ask(
        api.POST("/api/shop-time", {
          body: { id, personId: f.personId, job: f.job, start: instantOf(f.date, f.from), stop: instantOf(f.date, f.to), note: f.note },
        }),
      ),
    { says: "Entered", quiet: true, onDone: () => setId(newId()) },
  );
  if (voiding) return <VoidSheet row={voiding} onClose={() => setVoiding(null)} />;
  return (
    <FormSheet
      title="Hours on shop jobs"
      action="Enter"
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending || f.personId === ""}
    >
      <ChoiceField
        label="Who"
        name="personId"
        value={f.personId}
        onChange={set("personId")}
        options={choices(
          shop.people.filter((p) => p.active),
          "choose",
        )}
      />
      <ChoiceField label="On what" name="job" value={f.job} onChange={set("job")} options={shop.jobs.map((j) => [j, j] as const)} />
      <TextField label="Day" type="date" value={f.date} onChange={set("date")} />
      <span />
      <TextField label="From" type="time" name="start" value={f.from} onChange={set("from")} />
      <TextField label="To" type="time" name="stop" value={f.to} onChange={set("to")} />
      <TextField className="col-span-2" label="Note" name="note" value={f.note} onChange={set("note")} />
      <ul className="col-span-2">
        {rows.map((r) => (
          <li key={r.id} className={`flex gap-2 items-baseline border-t border-p2 py-1 ${r.voidWhy ? "text-ink2" : ""}`}>
            <span className="flex-1">
              {day(dateOf(r.start))}, {timeOf(r.start)} {r.stop ? `to ${timeOf(r.stop)}` : "until now"}: {r.person}, {r.job}
              {r.voidWhy && `; not worked: ${r.voidWhy}`}
            </span>
            <span className="num">{hm(r.minutes)}</span>
            {r.stop && !r.voidWhy && (
              <button type="button" className="btn" onClick={() => setVoiding(r)}>
                Not worked
              </button>
            )}
          </li>
        ))}
      </ul>
    </FormSheet>
  );
}

function VoidSheet({ row, onClose }: { row: Schemas["ShopTimeRow"]; onClose: () => void }) {
  const [reason, setReason] = useState("");
  const send = useSend(() => ask(api.POST("/api/shop-time/{id}/void", { params: { path: { id: row.id } }, body: { reason } })), {
    says: "Noted; it stays on record",
    onDone: onClose,
    quiet: true,
  });
  return (
    <FormSheet
      title={`${row.person}, ${row.job}, ${hm(row.minutes)}: not worked`}
      action="Note it"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      <TextField className="col-span-2" label="Why" name="reason" value={reason} onChange={setReason} autoFocus />
    </FormSheet>
  );
}
