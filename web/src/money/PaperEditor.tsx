import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { buildQuery, operationsQuery, paperPageQuery, photosQuery, useMay } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { dateOf, day, hours, linesOf, money, STAGE_ORDER, stageName, TRADES, tradeName } from "../format";
import { ChecksField } from "../ui/ChecksField";
import { AreaField, ChoiceField, NumberField, ProblemNote, TextField } from "../ui/Field";
import { Clashes, FormSheet } from "../ui/FormSheet";
import { ListField } from "../ui/ListField";
import { useForm } from "../ui/useForm";
import { useLeavingGuard } from "../ui/useLeavingGuard";
import { useSend } from "../ui/useSend";
import type { Paper } from "./PapersTab";
import { choiceDays, KIND_NAMES } from "./PaperView";

/** The words around the figures of a draft; saving refreshes the preview, sending freezes it. */
export function PaperEditor({ paper }: { paper: Paper }) {
  const card = useThisBuild();
  const may = useMay();
  const photos = (useQuery(photosQuery(card.id)).data ?? []).filter((p) => p.clientMaySee);
  const page = useQuery(paperPageQuery(paper.id, paper.version)).data;
  const [line, setLine] = useState<Schemas["PaperLineView"] | "new" | null>(null);
  const [sending, setSending] = useState(false);
  const w = paper.words;
  const kept = { ...w, choices: w.choices.map(asChoice), notIncluded: w.notIncluded.join("\n"), terms: w.terms.join("\n") };
  const [f, set, , clashes] = useForm(kept);
  const unsaved = JSON.stringify(f) !== JSON.stringify(kept);
  const guard = useLeavingGuard(() => unsaved);
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
  const error = save.error;
  const estimate = paper.kind === "estimate";
  return (
    <>
      {guard.question}
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
          label={estimate ? "Opening (optional)" : "Why: what was found, and why it matters"}
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
            <ChoiceRows rows={f.choices} onChange={set("choices")} priced={w.choices} />
            <AreaField
              className="col-span-2"
              label="Not included, one per line"
              name="notIncluded"
              value={f.notIncluded}
              onChange={set("notIncluded")}
              problem={error}
            />
            <AreaField
              className="col-span-2"
              label="Terms, one per line"
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
              <button type="button" className="btn btn-ink" disabled={unsaved || save.isPending || !page} onClick={() => setSending(true)}>
                Send to the client
              </button>
            )}
            {unsaved && <span className="self-center text-ink2">Save, and look at the page, before it is sent.</span>}
          </div>
        </div>
      </form>
      {/* Beside the form, not in it: a form within a form would send both. */}
      {sending && page?.seen && <SendSheet paper={paper} page={page} onClose={() => setSending(false)} />}
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

type Choice = Schemas["ChoiceBody"];
type Work = NonNullable<Choice["work"]>;

const NO_WORK: Work = { minutes: 0, trade: null, stage: null, parts: 0, outside: 0, outsideDays: 0, materials: 0, leaves: [] };

const asChoice = (c: Schemas["PaperChoice"]): Choice => ({ letter: c.letter, text: c.text, work: c.work ?? NO_WORK });

function ChoiceRows({ rows, onChange, priced }: { rows: Choice[]; onChange: (rows: Choice[]) => void; priced: Schemas["PaperChoice"][] }) {
  return (
    <ListField
      legend="For the client to choose"
      rows={rows}
      onChange={onChange}
      add="Add a choice"
      next={() => ({ letter: String.fromCharCode(65 + rows.length), text: "", work: NO_WORK })}
    >
      {(c, change) => {
        const p = priced.find((x) => x.letter === c.letter && JSON.stringify(x.work ?? NO_WORK) === JSON.stringify(c.work ?? NO_WORK));
        return (
          <div className="grid grid-cols-4 gap-1 flex-1 border-t border-p2 pt-1">
            <TextField label="Letter" value={c.letter} onChange={(letter) => change({ letter })} />
            <TextField className="col-span-3" label="What" value={c.text} onChange={(text) => change({ text })} />
            <WorkFields work={c.work ?? NO_WORK} onChange={(work) => change({ work })} />
            <p className="col-span-4 text-ink2">
              {p
                ? `${p.adds < 0 ? "Saves" : "Adds"} ${money(Math.abs(p.adds))} net, ${choiceDays(p.days)}.`
                : "Price and days follow when it is saved."}
            </p>
          </div>
        );
      }}
    </ListField>
  );
}

/** New work with its goods, and work that is left out: price and days follow from it, and it comes into the sequence when it is agreed. */
function WorkFields({ work: w, onChange, problem }: { work: Work; onChange: (w: Work) => void; problem?: unknown }) {
  const card = useThisBuild();
  const operations = (useQuery(operationsQuery(card.id)).data ?? []).filter((o) => !o.doneAt && o.kind !== "gate");
  const set = (to: Partial<Work>) => onChange({ ...w, ...to });
  const amount = (label: string, key: "parts" | "outside" | "materials") => (
    <NumberField label={label} name={key} value={w[key]} onChange={(v) => set({ [key]: v ?? 0 })} problem={problem} />
  );
  return (
    <>
      <NumberField
        label="Hours"
        name="minutes"
        value={w.minutes / 60}
        onChange={(v) =>
          set({ minutes: Math.round((v ?? 0) * 60), trade: w.trade ?? (v ? "hand" : null), stage: w.stage ?? (v ? "assembly" : null) })
        }
        problem={problem}
      />
      <ChoiceField
        label="By"
        name="trade"
        value={w.trade ?? ""}
        onChange={(trade) => set({ trade: trade || null })}
        options={[["", "–"], ...TRADES.map((t) => [t, tradeName(t)] as [typeof t, string])]}
        problem={problem}
      />
      <ChoiceField
        label="In the stage"
        name="stage"
        value={w.stage ?? ""}
        onChange={(stage) => set({ stage: stage || null })}
        options={[["", "–"], ...STAGE_ORDER.map((s) => [s, stageName(s)] as [typeof s, string])]}
        problem={problem}
      />
      {amount("Parts, net", "parts")}
      {amount("Materials, net", "materials")}
      {amount("Work sent out, net", "outside")}
      <NumberField
        label="Days away"
        name="outsideDays"
        value={w.outsideDays}
        onChange={(v) => set({ outsideDays: v ?? 0, stage: w.stage ?? (v ? "assembly" : null) })}
        problem={problem}
      />
      <details className="col-span-4">
        <summary className="cursor-pointer text-ink2">
          {w.leaves.length === 0 ? "Work that is left out then" : `Left out then: ${w.leaves.length}`}
        </summary>
        <ChecksField legend="Not done then" named={operations} chosen={w.leaves} onChange={(leaves) => set({ leaves })} />
      </details>
    </>
  );
}

/** Sent by: by a letter to the known address, or printed and handed over. Nothing is called sent unless it left. */
function SendSheet({ paper, page, onClose }: { paper: Paper; page: Schemas["PaperPage"]; onClose: () => void }) {
  const build = useQuery(buildQuery(useThisBuild().id)).data;
  return build ? <SendForm paper={paper} page={page} build={build} onClose={onClose} /> : null;
}

function SendForm({
  paper,
  page,
  build,
  onClose,
}: {
  paper: Paper;
  page: Schemas["PaperPage"];
  build: Schemas["BuildView"];
  onClose: () => void;
}) {
  const [way, setWay] = useState<Schemas["SentWay"]>("letter");
  const [email, setEmail] = useState(build.clientEmail ?? "");
  // What was looked at when the sheet was opened; another page by now is told.
  const [seen] = useState(page.seen ?? "");
  const send = useSend(
    async () => {
      if (way === "letter" && email !== build.clientEmail)
        await ask(
          api.PUT("/api/builds/{id}/client", {
            params: { path: { id: build.id } },
            body: { name: build.clientName, email, phone: build.clientPhone ?? "", version: build.clientVersion },
          }),
        );
      return ask(api.POST("/api/papers/{id}/send", { params: { path: { id: paper.id } }, body: { seen, way } }));
    },
    {
      says:
        way === "letter"
          ? "The letter has left. The page can no longer be changed."
          : "The page can no longer be changed. Print it and hand it over.",
      onDone: onClose,
      quiet: true,
    },
  );
  return (
    <FormSheet
      title={`${paper.name} to ${build.clientName}`}
      note={`${money(page.totals.net)} before tax, ${money(page.totals.gross)} with tax. Once it has gone, the page stands still.`}
      action={way === "letter" ? "Send the letter" : "Mark as handed over"}
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      <ChoiceField
        label="Sent by"
        value={way}
        onChange={setWay}
        options={[
          ["letter", "by a letter with a private link"],
          ["byHand", "printed, handed over"],
        ]}
      />
      {way === "letter" && <TextField label="To the address" name="email" value={email} onChange={setEmail} />}
    </FormSheet>
  );
}

function LineSheet({ paper, line, onClose }: { paper: Paper; line: Schemas["PaperLineView"] | null; onClose: () => void }) {
  const card = useThisBuild();
  const operations = (useQuery(operationsQuery(card.id)).data ?? []).filter((o) => !o.doneAt && o.kind === "work");
  const [id] = useState(line?.id ?? newId());
  const [f, set] = useForm({ text: line?.text ?? "", work: line?.work ?? NO_WORK, operations: line?.operations ?? [] });
  const put = useSend(
    (gone: boolean) =>
      ask(
        api.PUT("/api/papers/{id}/lines/{lineId}", {
          params: { path: { id: paper.id, lineId: id } },
          body: gone ? { text: f.text, work: null, operations: [], version: null } : { ...f, version: null },
        }),
      ),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  const waits = f.operations.length > 0;
  return (
    <FormSheet
      title={line ? line.text : "A line of the change"}
      note={
        waits
          ? "Its hours and money are those of the work that waits for the answer, at the trades’ rates."
          : "Its money is its hours at the trade’s rate, and its goods. It comes into the sequence when the client agrees."
      }
      onClose={onClose}
      onSubmit={() => put.mutate(false)}
      problem={put.error}
      busy={put.isPending}
      more={
        line && (
          <button type="button" className="btn" onClick={() => put.mutate(true)}>
            Remove the line
          </button>
        )
      }
    >
      <TextField className="col-span-2" label="What" name="text" value={f.text} onChange={set("text")} problem={put.error} autoFocus />
      <div className="col-span-2 grid grid-cols-4 gap-2">
        <WorkFields work={f.work} onChange={set("work")} problem={put.error} />
      </div>
      <ChecksField
        legend="Operations that are this change and wait for the answer"
        named={operations}
        chosen={f.operations}
        onChange={set("operations")}
      />
    </FormSheet>
  );
}
