import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { operationsQuery, photosQuery, useMay } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { dateOf, day, hours, linesOf, money } from "../format";
import { ChecksField } from "../ui/ChecksField";
import { AreaField, ChoiceField, NumberField, ProblemNote, TextField } from "../ui/Field";
import { Clashes, FormSheet } from "../ui/FormSheet";
import { ListField } from "../ui/ListField";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import type { Paper } from "./PapersTab";
import { KIND_NAMES } from "./PaperView";

/** The words around the figures of a draft; saving refreshes the preview, sending freezes it. */
export function PaperEditor({ paper }: { paper: Paper }) {
  const card = useThisBuild();
  const may = useMay();
  const photos = (useQuery(photosQuery(card.id)).data ?? []).filter((p) => p.clientMaySee);
  const [line, setLine] = useState<Schemas["PaperLineView"] | "new" | null>(null);
  const w = paper.words;
  const [f, set, , clashes] = useForm({ ...w, notIncluded: w.notIncluded.join("\n"), terms: w.terms.join("\n") });
  const path = { params: { path: { id: paper.id } } };
  const save = useSend(
    () =>
      ask(
        api.PUT("/api/papers/{id}", {
          ...path,
          body: { ...f, notIncluded: linesOf(f.notIncluded), terms: linesOf(f.terms), version: paper.version },
        }),
      ),
    { says: "Saved", quiet: true },
  );
  const send = useSend(() => ask(api.POST("/api/papers/{id}/send", { ...path, body: { version: null } })), {
    says: "Sent. It can no longer be changed.",
    quiet: true,
  });
  const error = save.error ?? send.error;
  const estimate = paper.kind === "estimate";
  return (
    <>
      <form
        className="grid grid-cols-2 gap-2 mt-3 border-t-2 border-ink pt-3"
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate(undefined);
        }}
      >
        <TextField className="col-span-2" label="Title" name="title" value={f.title} onChange={set("title")} problem={error} />
        <AreaField
          className="col-span-2"
          label={estimate ? "Opening, where something needs saying" : "Why: what was found, and why it matters"}
          name="reason"
          rows={4}
          value={f.reason}
          onChange={set("reason")}
          problem={error}
        />
        <TextField
          label={estimate ? "Good until" : "Answer by"}
          name="answerBy"
          type="date"
          value={f.answerBy}
          onChange={set("answerBy")}
          problem={error}
        />
        {estimate && (
          <NumberField label="Deposit, tax included" name="deposit" value={f.deposit} onChange={set("deposit")} problem={error} />
        )}
        {estimate ? (
          <>
            <GoodsRows rows={f.goods} onChange={set("goods")} />
            <ChoiceRows rows={f.choices} onChange={set("choices")} />
            <AreaField
              className="col-span-2"
              label="Not in it, a line each"
              name="notIncluded"
              value={f.notIncluded}
              onChange={set("notIncluded")}
              problem={error}
            />
            <AreaField
              className="col-span-2"
              label="Terms, a line each"
              name="terms"
              rows={4}
              value={f.terms}
              onChange={set("terms")}
              problem={error}
            />
          </>
        ) : (
          <div className="col-span-2">
            <ul>
              {paper.lines.map((l) => (
                <li key={l.id} className="border-t border-p2 py-1 flex gap-2 items-baseline">
                  <span className="flex-1">
                    {l.text}
                    <span className="text-ink2">
                      {l.minutes > 0 && `, ${hours(l.minutes)} h`}
                      {l.findingId && ", by its verdict"}
                    </span>
                  </span>
                  <span className="num">{money(l.net)}</span>
                  {!l.findingId && (
                    <button type="button" className="btn" aria-label={`Change: ${l.text}`} onClick={() => setLine(l)}>
                      Change
                    </button>
                  )}
                </li>
              ))}
            </ul>
            <button type="button" className="btn mt-1" onClick={() => setLine("new")}>
              Add a line
            </button>
          </div>
        )}
        <ChecksField
          legend="Photos that go with it"
          named={photos.map((p) => ({ id: p.id, name: `${day(dateOf(p.takenAt))}, ${p.caption || "no caption"}` }))}
          chosen={f.photos}
          onChange={set("photos")}
          none="No photo that the client may see."
        />
        <div className="col-span-2">
          <ProblemNote problem={error} except={["title", "reason", "answerBy", "deposit", "notIncluded", "terms"]} />
          <Clashes clashes={clashes} />
          <div className="flex gap-2">
            <button type="submit" className="btn" disabled={save.isPending}>
              Save and preview
            </button>
            {may.manager && (
              <button
                type="button"
                className="btn btn-ink"
                disabled={send.isPending || save.isPending}
                onClick={() => save.mutate(undefined, { onSuccess: () => send.mutate(undefined) })}
              >
                Send to the client
              </button>
            )}
          </div>
        </div>
      </form>
      {/* Beside the form, not in it: a form within a form would send both. */}
      {line && <LineSheet paper={paper} line={line === "new" ? null : line} onClose={() => setLine(null)} />}
    </>
  );
}

function GoodsRows({ rows, onChange }: { rows: Schemas["PaperGoods"][]; onChange: (rows: Schemas["PaperGoods"][]) => void }) {
  return (
    <ListField
      legend="Beside labour, net"
      rows={rows}
      onChange={onChange}
      add="Add goods"
      next={() => ({ kind: "parts" as const, text: "", low: 0, likely: 0, high: 0, restsOn: "" })}
    >
      {(g, change) => (
        <div className="grid grid-cols-3 gap-1 flex-1 border-t border-p2 pt-1">
          <ChoiceField
            label="Kind"
            value={g.kind}
            onChange={(kind) => change({ kind })}
            options={(["parts", "outside", "materials"] as const).map((k) => [k, KIND_NAMES[k]] as const)}
          />
          <TextField label="What" value={g.text} onChange={(text) => change({ text })} />
          <TextField label="Rests on" value={g.restsOn} onChange={(restsOn) => change({ restsOn })} />
          <NumberField label="Low" value={g.low} onChange={(v) => change({ low: v ?? 0 })} />
          <NumberField label="Likely" value={g.likely} onChange={(v) => change({ likely: v ?? 0 })} />
          <NumberField label="High" value={g.high} onChange={(v) => change({ high: v ?? 0 })} />
        </div>
      )}
    </ListField>
  );
}

function ChoiceRows({ rows, onChange }: { rows: Schemas["PaperChoice"][]; onChange: (rows: Schemas["PaperChoice"][]) => void }) {
  return (
    <ListField
      legend="For the client to choose"
      rows={rows}
      onChange={onChange}
      add="Add a choice"
      next={() => ({ letter: String.fromCharCode(65 + rows.length), text: "", adds: 0, days: 0 })}
    >
      {(c, change) => (
        <div className="grid grid-cols-[46px_minmax(0,1fr)_84px_60px] gap-1 flex-1">
          <TextField label="letter" value={c.letter} onChange={(letter) => change({ letter })} />
          <TextField label="What" value={c.text} onChange={(text) => change({ text })} />
          <NumberField label="Adds, net" value={c.adds} onChange={(v) => change({ adds: v ?? 0 })} />
          <NumberField label="Days" value={c.days} onChange={(v) => change({ days: v ?? 0 })} />
        </div>
      )}
    </ListField>
  );
}

function LineSheet({ paper, line, onClose }: { paper: Paper; line: Schemas["PaperLineView"] | null; onClose: () => void }) {
  const card = useThisBuild();
  const operations = (useQuery(operationsQuery(card.id)).data ?? []).filter((o) => !o.doneAt && o.kind === "work");
  const [id] = useState(line?.id ?? newId());
  const [f, set] = useForm({
    text: line?.text ?? "",
    hours: (line?.minutes ?? 0) / 60,
    labour: line?.labour ?? 0,
    parts: line?.parts ?? 0,
    outside: line?.outside ?? 0,
    materials: line?.materials ?? 0,
    operations: line?.operations ?? [],
  });
  const put = useSend(
    (gone: boolean) =>
      ask(
        api.PUT("/api/papers/{id}/lines/{lineId}", {
          params: { path: { id: paper.id, lineId: id } },
          body: gone
            ? { text: f.text, minutes: 0, labour: 0, parts: 0, outside: 0, materials: 0, operations: [], version: null }
            : {
                text: f.text,
                minutes: Math.round(f.hours * 60),
                labour: f.labour,
                parts: f.parts,
                outside: f.outside,
                materials: f.materials,
                operations: f.operations,
                version: null,
              },
        }),
      ),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  const amount = (label: string, name: "hours" | "labour" | "parts" | "outside" | "materials") => (
    <NumberField
      label={label}
      name={name === "hours" ? "minutes" : name}
      value={f[name]}
      onChange={(v) => set(name)(v ?? 0)}
      problem={put.error}
    />
  );
  return (
    <FormSheet
      title={line ? line.text : "A line of the change"}
      note="Amounts net; a negative one takes work out."
      onClose={onClose}
      onSubmit={() => put.mutate(false)}
      problem={put.error}
      except={["text", "minutes", "labour", "parts", "outside", "materials"]}
      busy={put.isPending}
      more={
        line && (
          <button type="button" className="btn" onClick={() => put.mutate(true)}>
            Take it out
          </button>
        )
      }
    >
      <TextField className="col-span-2" label="What" name="text" value={f.text} onChange={set("text")} problem={put.error} autoFocus />
      {amount("Hours", "hours")}
      {amount("Labour", "labour")}
      {amount("Parts", "parts")}
      {amount("Work sent out", "outside")}
      {amount("Materials", "materials")}
      <ChecksField legend="Work that waits for the answer" named={operations} chosen={f.operations} onChange={set("operations")} />
    </FormSheet>
  );
}
