import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, Problem, type Schemas } from "../api/client";
import { bagsQuery, operationsQuery, outsideQuery, shopQuery, useMay } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { day, money, today } from "../format";
import { ChecksField } from "../ui/ChecksField";
import { ChoiceField, choices, NumberField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { ListField } from "../ui/ListField";
import { Empty, Shown } from "../ui/States";
import { newest, useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";

type Job = Schemas["JobView"];

export function OutsideTab() {
  const card = useThisBuild();
  const jobs = useQuery(outsideQuery(card.id));
  const shop = useQuery(shopQuery).data;
  const may = useMay();
  const [editing, setEditing] = useState<Job | "new" | null>(null);
  const [sending, setSending] = useState<Job | null>(null);
  const [counting, setCounting] = useState<Job | null>(null);
  const supplier = (id: string) => shop?.suppliers.find((s) => s.id === id)?.name ?? "";
  return (
    <div className="px-5 pt-3 pb-10 max-w-[1100px]">
      <div className="flex items-baseline gap-4 mb-1">
        <h1>Outside work</h1>
        <p className="text-ink2 flex-1">Each batch with its list of pieces, counted out and counted in.</p>
        {may.desk && (
          <button type="button" className="btn" onClick={() => setEditing("new")}>
            New batch
          </button>
        )}
      </div>
      <Shown of={jobs}>
        {(list) =>
          list.length === 0 ? (
            <Empty>Nothing has gone out.</Empty>
          ) : (
            <table className="rows">
              <thead>
                <tr>
                  <th>Batch</th>
                  <th>At</th>
                  <th>Pieces</th>
                  <th>Sent</th>
                  <th>Promised</th>
                  <th>Back</th>
                  {may.desk && <th className="num">Their price / to the client</th>}
                  <th />
                </tr>
              </thead>
              <tbody>
                {list.map((j) => (
                  <tr key={j.id}>
                    <td className="font-[620]">{j.title}</td>
                    <td>{supplier(j.supplierId)}</td>
                    <td>
                      {j.pieces.map((p) => `${p.count} ${p.name}`).join(", ")}
                      {j.missing > 0 && <span className="block text-oxide font-[620]">{j.missing} missing</span>}
                    </td>
                    <td className="whitespace-nowrap">{day(j.sentOn)}</td>
                    <td className={j.late ? "text-oxide font-[620]" : ""}>{day(j.promisedOn)}</td>
                    <td>{j.backOn ? `${day(j.backOn)}, ${j.countedIn} of ${j.sent}` : "–"}</td>
                    {may.desk && (
                      <td className="num">
                        {money(j.billed ?? j.quoted ?? 0)}
                        {j.billed === null && <span className="text-ink2"> quoted</span>} / {money(j.toClient ?? 0)}
                      </td>
                    )}
                    <td className="whitespace-nowrap text-right">
                      {may.desk && !j.backOn && (
                        <button
                          type="button"
                          className="btn"
                          aria-label={`${j.sentOn ? "New promise" : "Send"}: ${j.title}`}
                          onClick={() => setSending(j)}
                        >
                          {j.sentOn ? "New promise" : "Send"}
                        </button>
                      )}{" "}
                      {j.sentOn && (
                        <button type="button" className="btn" aria-label={`Count in: ${j.title}`} onClick={() => setCounting(j)}>
                          Count in
                        </button>
                      )}{" "}
                      {may.desk && (
                        <button type="button" className="btn" aria-label={`Edit: ${j.title}`} onClick={() => setEditing(j)}>
                          Edit
                        </button>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )
        }
      </Shown>
      {editing && (
        <JobSheet buildId={card.id} job={newest(editing === "new" ? null : editing, jobs.data)} onClose={() => setEditing(null)} />
      )}
      {sending && <SendSheet job={newest(sending, jobs.data) ?? sending} onClose={() => setSending(null)} />}
      {counting && <CountSheet job={newest(counting, jobs.data) ?? counting} onClose={() => setCounting(null)} />}
    </div>
  );
}

function JobSheet({ buildId, job, onClose }: { buildId: string; job: Job | null; onClose: () => void }) {
  const shop = useQuery(shopQuery).data;
  const suppliers = shop?.suppliers ?? [];
  const markup = shop?.settings.outsideMarkup ?? 0;
  const operations = (useQuery(operationsQuery(buildId)).data ?? []).filter((o) => o.kind === "outside");
  const bags = useQuery(bagsQuery(buildId)).data?.bags ?? [];
  const [id] = useState(job?.id ?? newId());
  const [form, set, , clashes] = useForm({
    title: job?.title ?? "",
    supplierId: job?.supplierId ?? "",
    operationId: job?.operationId ?? "",
    pieces: job?.pieces.filter((p) => !p.bagId).map((p) => ({ name: p.name, count: p.count })) ?? [{ name: "", count: 1 }],
    bags: job?.pieces.map((p) => p.bagId).filter((b): b is string => !!b) ?? ([] as string[]),
    quotedDays: job?.quotedDays ?? 14,
    quoted: job?.quoted ?? 0,
    billed: job?.billed ?? null,
  });
  const save = useSend(
    () =>
      ask(
        api.PUT("/api/builds/{id}/outside/{jobId}", {
          params: { path: { id: buildId, jobId: id } },
          body: {
            ...form,
            pieces: [
              ...form.pieces.filter((p) => p.name.trim()).map((p) => ({ ...p, bagId: null })),
              ...form.bags.map((bagId) => ({ name: "", count: 1, bagId })),
            ],
            operationId: form.operationId || null,
            version: job?.version ?? null,
          },
        }),
      ),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={job ? job.title : "New batch"}
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <TextField className="col-span-2" label="What" name="title" value={form.title} onChange={set("title")} autoFocus />
      <ChoiceField
        label="Supplier"
        name="supplierId"
        value={form.supplierId}
        onChange={set("supplierId")}
        options={choices(suppliers, "choose")}
      />
      <ChoiceField
        label="Which operation it is"
        value={form.operationId}
        onChange={set("operationId")}
        options={choices(operations, "none")}
      />
      <ListField
        legend="Pieces"
        rows={form.pieces}
        onChange={set("pieces")}
        add="Another kind"
        next={() => ({ name: "", count: 1 })}
        disabled={job?.sentOn != null}
      >
        {(piece, change) => (
          <>
            <TextField className="flex-1" label="kind" value={piece.name} onChange={(name) => change({ name })} />
            <NumberField className="w-20" label="count" value={piece.count} onChange={(v) => change({ count: v ?? 0 })} />
          </>
        )}
      </ListField>
      {job?.sentOn == null && (
        <ChecksField
          legend="Bags that go; each is at the supplier from the day the batch leaves"
          named={bags
            .filter((b) => b.state === "onShelf" || b.state === "onCar" || form.bags.includes(b.id))
            .map((b) => ({ id: b.id, name: `${b.label} ${b.what}` }))}
          chosen={form.bags}
          onChange={set("bags")}
          none="No bag of this build is here."
        />
      )}
      <NumberField label="Their days" name="quotedDays" value={form.quotedDays} onChange={(v) => set("quotedDays")(v ?? 0)} />
      <NumberField label="Their price as quoted, net" name="quoted" value={form.quoted} onChange={(v) => set("quoted")(v ?? 0)} />
      <NumberField label="Their price as billed, net" name="billed" value={form.billed} onChange={set("billed")} />
      <p className="self-end text-ink2 pb-1">{markup > 0 ? `The client pays it with ${markup} % on top.` : "The client pays the same."}</p>
    </FormSheet>
  );
}

function SendSheet({ job, onClose }: { job: Job; onClose: () => void }) {
  const [on, setOn] = useState(today());
  const [promised, setPromised] = useState(job.promisedOn ?? today());
  const [why, setWhy] = useState("");
  const path = { params: { path: { id: job.id } } };
  const send = useSend(
    () =>
      job.sentOn
        ? ask(api.POST("/api/outside/{id}/promise", { ...path, body: { promised } }))
        : ask(api.POST("/api/outside/{id}/send", { ...path, body: { on, promised, why } })),
    { says: "Noted", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={job.sentOn ? `New promise for ${job.title}` : `Send ${job.title}`}
      action="Note it"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      {send.error instanceof Problem && send.error.field === "reason" && (
        <TextField label="Why it leaves before that" name="reason" value={why} onChange={setWhy} className="col-span-2" />
      )}
      {!job.sentOn && <TextField label="Leaves on" type="date" value={on} onChange={setOn} name="on" />}
      <TextField label="Promised for" type="date" value={promised} onChange={setPromised} name="promisedOn" />
    </FormSheet>
  );
}

function CountSheet({ job, onClose }: { job: Job; onClose: () => void }) {
  const [counts, setCounts] = useState(job.pieces.map((p) => (job.backOn ? p.countedIn : p.count)));
  const send = useSend(() => ask(api.POST("/api/outside/{id}/count", { params: { path: { id: job.id } }, body: { on: null, counts } })), {
    says: "Counted in",
    onDone: onClose,
    onKept: onClose,
    quiet: true,
  });
  return (
    <FormSheet
      afterEnd
      title={`Count in ${job.title}`}
      note="What was sent stands beside each."
      action="Counted"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      {job.pieces.map((p, i) => (
        <NumberField
          key={p.name}
          label={`${p.name}, of ${p.count}`}
          value={counts[i] ?? 0}
          onChange={(v) => setCounts((c) => c.map((x, j) => (i === j ? (v ?? 0) : x)))}
        />
      ))}
    </FormSheet>
  );
}
