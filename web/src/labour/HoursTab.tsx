import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { hoursQuery, operationsQuery, shopQuery, useMay, useUser } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { dateOf, hm, instantOf, timeOf, today, weekday } from "../format";
import { ChoiceField, choices, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { Empty, Shown } from "../ui/States";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";

type Entry = Schemas["EntryView"];
const KINDS: Schemas["LabourKind"][] = ["billable", "rework", "warranty", "goodwill", "shop"];

export function HoursTab() {
  const card = useThisBuild();
  const hours = useQuery(hoursQuery(card.id));
  const may = useMay();
  const user = useUser();
  const [editing, setEditing] = useState<Entry | "new" | null>(null);
  return (
    <div className="px-5 pt-3 pb-10 max-w-[1100px]">
      <div className="flex items-baseline gap-4 mb-1">
        <h1>Hours</h1>
        <p className="text-ink2 flex-1">
          {may.desk ? "Every entry, corrections with what they replaced." : "Your own entries, corrections with what they replaced."}
        </p>
        {may.settle && (
          <button type="button" className="btn" onClick={() => setEditing("new")}>
            Enter hours
          </button>
        )}
      </div>
      <Shown of={hours}>
        {(list) =>
          list.length === 0 ? (
            <Empty>{may.desk ? "Nobody has worked on it yet." : "You have not worked on it yet."}</Empty>
          ) : (
            <table className="rows">
              <thead>
                <tr>
                  <th>Day</th>
                  <th>Who</th>
                  <th>On what</th>
                  <th>From, to</th>
                  <th className="num">h:mm</th>
                  <th>Kind</th>
                  <th />
                </tr>
              </thead>
              <tbody>
                {list.map((e) => {
                  const gone = e.replacedBy !== null || e.void;
                  return (
                    <tr key={e.id} className={gone ? "text-ink2 line-through decoration-1" : ""}>
                      <td>{weekday(dateOf(e.start))}</td>
                      <td>{e.person}</td>
                      <td>
                        {e.operation}
                        {e.flag && (
                          <span className={`block no-underline ${e.flag.settledAt ? "text-ink2" : "text-oxide"}`}>
                            {e.flag.settledAt
                              ? `settled by ${e.flag.settledBy}: ${e.flag.settledWhy}`
                              : `against a rule: ${e.flag.against}`}
                          </span>
                        )}
                        {e.note && <span className="block text-ink2 no-underline">{e.replaces ? `correction: ${e.note}` : e.note}</span>}
                      </td>
                      <td>
                        {timeOf(e.start)} to {e.stop ? timeOf(e.stop) : "now"}
                      </td>
                      <td className="num">{hm(e.minutes)}</td>
                      <td>{e.kind}</td>
                      <td>
                        {!gone && e.stop && (may.settle || (e.personId === user?.personId && dateOf(e.start) === today())) && (
                          <button
                            type="button"
                            className="btn"
                            aria-label={`Correct ${e.person}, ${e.operation}`}
                            onClick={() => setEditing(e)}
                          >
                            Correct
                          </button>
                        )}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          )
        }
      </Shown>
      {editing && <HoursSheet buildId={card.id} entry={editing === "new" ? null : editing} onClose={() => setEditing(null)} />}
    </div>
  );
}

function HoursSheet({ buildId, entry, onClose }: { buildId: string; entry: Entry | null; onClose: () => void }) {
  const people = useQuery(shopQuery).data?.people ?? [];
  const operations = (useQuery(operationsQuery(buildId)).data ?? []).filter((o) => o.kind === "work");
  const [id] = useState(() => newId());
  const [form, set] = useForm({
    personId: entry?.personId ?? "",
    operationId: entry?.operationId ?? "",
    date: entry ? dateOf(entry.start) : today(),
    from: entry ? timeOf(entry.start) : "08:00",
    to: entry?.stop ? timeOf(entry.stop) : "12:00",
    kind: entry?.kind ?? ("billable" as Schemas["LabourKind"]),
    reason: "",
  });
  const start = () => instantOf(form.date, form.from);
  const stop = () => instantOf(form.date, form.to);
  const save = useSend(
    (unworked: boolean) =>
      entry
        ? ask(
            api.POST("/api/hours/{id}/correct", {
              params: { path: { id: entry.id } },
              body: {
                id,
                operationId: form.operationId,
                start: unworked ? null : start(),
                stop: unworked ? null : stop(),
                kind: form.kind,
                void: unworked,
                reason: form.reason,
              },
            }),
          )
        : ask(
            api.POST("/api/hours", {
              body: {
                id,
                personId: form.personId,
                operationId: form.operationId,
                start: start(),
                stop: stop(),
                kind: form.kind,
                note: form.reason,
              },
            }),
          ),
    { says: entry ? "Corrected; the original is kept" : "Entered", onDone: onClose, onKept: onClose, quiet: true },
  );
  return (
    <FormSheet
      afterEnd
      title={entry ? `Correct ${entry.person}'s hours` : "Enter hours"}
      note={entry ? "The original stays; the correction stands beside it." : undefined}
      action={entry ? "Save the correction" : "Enter"}
      onClose={onClose}
      onSubmit={() => save.mutate(false)}
      problem={save.error}
      busy={save.isPending}
      more={
        entry && (
          <button type="button" className="btn" onClick={() => save.mutate(true)}>
            This was not worked
          </button>
        )
      }
    >
      {!entry && (
        <ChoiceField label="Who" name="personId" value={form.personId} onChange={set("personId")} options={choices(people, "choose")} />
      )}
      <ChoiceField
        className={entry ? "col-span-2" : ""}
        label="On what"
        name="operationId"
        value={form.operationId}
        onChange={set("operationId")}
        options={choices(operations, "choose")}
      />
      <TextField label="Day" type="date" value={form.date} onChange={set("date")} />
      <ChoiceField label="Kind" value={form.kind} onChange={set("kind")} options={KINDS.map((k) => [k, k] as const)} />
      <TextField label="From" type="time" name="start" value={form.from} onChange={set("from")} />
      <TextField label="To" type="time" name="stop" value={form.to} onChange={set("to")} />
      <TextField
        className="col-span-2"
        label={entry ? "Reason for the correction" : "Note"}
        name="reason"
        value={form.reason}
        onChange={set("reason")}
      />
    </FormSheet>
  );
}
