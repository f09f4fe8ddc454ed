import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { paperPageQuery, papersQuery, useMay } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { dateOf, day, days, money } from "../format";
import { AreaField, CheckField, ChoiceField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { Empty, Shown } from "../ui/States";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import { PaperEditor } from "./PaperEditor";
import { PaperView } from "./PaperView";

export type Paper = Schemas["PaperRow"];

/** What the client must agree to: the estimate, then change orders; each as the client sees it beside its words. */
export function PapersTab() {
  const card = useThisBuild();
  const papers = useQuery(papersQuery(card.id));
  const [shown, setShown] = useState<string | null>(null);
  const [asking, setAsking] = useState(false);
  const draft = useSend((id: string) => ask(api.POST("/api/builds/{id}/estimates", { params: { path: { id: card.id } }, body: { id } })), {
    onDone: (r) => setShown(r.id),
  });
  return (
    <Shown of={papers}>
      {(view) => {
        const all = [...view.papers].reverse();
        const current = all.find((p) => p.id === shown) ?? all.find((p) => p.state === "draft" || p.state === "sent") ?? all[0];
        const drafting = all.some((p) => p.kind === "estimate" && p.state === "draft");
        return (
          <div className="grid grid-cols-1 min-[900px]:grid-cols-[420px_minmax(0,1fr)]">
            <section className="px-5 pt-3 pb-10" aria-label="Papers">
              <div className="flex items-baseline gap-3">
                <h1 className="flex-1">Estimates and changes</h1>
                {view.acceptedAt ? (
                  <button type="button" className="btn" onClick={() => setAsking(true)}>
                    New change order
                  </button>
                ) : (
                  !drafting && (
                    <button type="button" className="btn" disabled={draft.isPending} onClick={() => draft.mutate(newId())}>
                      {all.length > 0 ? "A newer estimate" : "Draft an estimate"}
                    </button>
                  )
                )}
              </div>
              <p className="text-ink2 mb-2">
                {view.acceptedAt
                  ? `${money(view.agreed)} net, since ${day(dateOf(view.acceptedAt))} with its changes. What is found now goes to the client as a change.`
                  : "Nothing is agreed yet. What is found goes into the estimate until the client has accepted one."}
              </p>
              {all.length === 0 && (
                <Empty>No estimate yet. It is made from the sequence, the verdicts and what such work took before.</Empty>
              )}
              <ul>
                {all.map((p) => (
                  <PaperLine key={p.id} paper={p} current={p.id === current?.id} onShow={() => setShown(p.id)} />
                ))}
              </ul>
              {current && <Steps key={`${current.id}${current.state}`} paper={current} />}
            </section>
            <div className="border-l border-p3">{current && <Preview paper={current} />}</div>
            {asking && <NewChange onClose={() => setAsking(false)} onMade={setShown} />}
          </div>
        );
      }}
    </Shown>
  );
}

/** How a paper stands, in words. */
export function standing(p: Paper): string {
  switch (p.state) {
    case "draft":
      return "not sent yet";
    case "sent":
      return `${p.sentAs === "byHand" ? "handed over" : "letter sent"} ${day(dateOf(p.sentAt ?? ""))}, answer by ${day(p.words.answerBy)}`;
    case "withdrawn":
      return `taken back: ${p.withdrawnWhy}`;
    default:
      return `${p.answer?.yes ? "agreed" : "declined"} by ${p.answer?.name}, ${day(dateOf(p.answer?.at ?? ""))}, ${p.answer?.way === "code" ? "with a code" : "on paper"}`;
  }
}

function PaperLine({ paper: p, current, onShow }: { paper: Paper; current: boolean; onShow: () => void }) {
  const waits = (p.state === "draft" || p.state === "sent") && p.kind === "changeOrder";
  return (
    <li className="border-t border-p2">
      <button
        type="button"
        aria-pressed={current}
        className={`block w-full text-left py-1 ${current ? "font-[680]" : ""}`}
        onClick={onShow}
      >
        <span className="flex gap-2">
          <span className="flex-1">
            {p.name}
            {p.words.title && `: ${p.words.title}`}
          </span>
          <span className="num">{p.kind === "estimate" && p.state === "draft" ? "" : money(p.net)}</span>
        </span>
        <span className={`block font-[450] ${waits ? "text-oxide" : "text-ink2"}`}>
          {standing(p)}
          {waits && p.days > 0 && `; the wait moves the finish ${days(p.days)} days, ${money(p.perWeek)} a week`}
        </span>
      </button>
    </li>
  );
}

function Preview({ paper }: { paper: Paper }) {
  const page = useQuery(paperPageQuery(paper.id, paper.version));
  return (
    <section className="paper-page" aria-label="As the client sees it">
      {page.data ? <PaperView page={page.data} photo={(hash) => `/api/photos/file/${hash}`} /> : <p className="p-5">Loading…</p>}
    </section>
  );
}

/** What can be done with a paper as it stands. */
function Steps({ paper }: { paper: Paper }) {
  const may = useMay();
  const [open, setOpen] = useState<"answer" | "back" | null>(null);
  const close = () => setOpen(null);
  return (
    <>
      {paper.state === "draft" && <PaperEditor paper={paper} />}
      <p className="mt-3 flex flex-wrap gap-2">
        {paper.state === "sent" && (
          <button type="button" className="btn btn-ink" onClick={() => setOpen("answer")}>
            Answered on paper
          </button>
        )}
        {may.manager && (paper.state === "sent" || paper.state === "draft") && (
          <button type="button" className="btn" onClick={() => setOpen("back")}>
            Take it back
          </button>
        )}
        {paper.state !== "draft" && (
          <>
            <a className="btn" href={`/api/papers/${paper.id}/pdf?paper=a4`} download>
              PDF, A4
            </a>
            <a className="btn" href={`/api/papers/${paper.id}/pdf?paper=letter`} download>
              PDF, Letter
            </a>
          </>
        )}
      </p>
      {open === "answer" && <OnPaper paper={paper} onClose={close} />}
      {open === "back" && <TakeBack paper={paper} onClose={close} />}
    </>
  );
}

function OnPaper({ paper, onClose }: { paper: Paper; onClose: () => void }) {
  const card = useThisBuild();
  const [f, set] = useForm({ yes: "yes", name: card.client, note: "", choices: [] as string[] });
  const send = useSend(
    () =>
      ask(
        api.POST("/api/papers/{id}/answer", {
          params: { path: { id: paper.id } },
          body: { yes: f.yes === "yes", name: f.name, note: f.note, choices: f.choices },
        }),
      ),
    { says: "Noted", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={`${paper.name}, answered on paper`}
      note="It is kept with your name and the time, and cannot be changed."
      action="Note it"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      <ChoiceField
        label="The client says"
        value={f.yes}
        onChange={set("yes")}
        options={[
          ["yes", "yes"],
          ["no", "no"],
        ]}
      />
      <TextField label="Signed by" name="name" value={f.name} onChange={set("name")} />
      <TextField className="col-span-2" label="Where the paper lies" name="note" value={f.note} onChange={set("note")} autoFocus />
      {paper.words.choices.map((c) => (
        <CheckField
          key={c.letter}
          label={`with ${c.letter}: ${c.text}`}
          value={f.choices.includes(c.letter)}
          onChange={(on) => set("choices")(on ? [...f.choices, c.letter] : f.choices.filter((x) => x !== c.letter))}
        />
      ))}
    </FormSheet>
  );
}

function TakeBack({ paper, onClose }: { paper: Paper; onClose: () => void }) {
  const [reason, setReason] = useState("");
  const send = useSend(() => ask(api.POST("/api/papers/{id}/withdraw", { params: { path: { id: paper.id } }, body: { reason } })), {
    says: "Taken back",
    onDone: onClose,
    quiet: true,
  });
  return (
    <FormSheet
      title={`Take ${paper.name.toLowerCase()} back`}
      note={paper.kind === "changeOrder" ? "What nobody has begun of it goes out of the sequence." : undefined}
      action="Take it back"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      <AreaField className="col-span-2" label="Why" name="reason" value={reason} onChange={setReason} />
    </FormSheet>
  );
}

function NewChange({ onClose, onMade }: { onClose: () => void; onMade: (id: string) => void }) {
  const card = useThisBuild();
  const [id] = useState(() => newId());
  const [f, set] = useForm({ title: "", reason: "" });
  const send = useSend(() => ask(api.POST("/api/builds/{id}/change-orders", { params: { path: { id: card.id } }, body: { id, ...f } })), {
    onDone: () => {
      onMade(id);
      onClose();
    },
    quiet: true,
  });
  return (
    <FormSheet
      title="New change order"
      note="What was found comes in by its verdict; this is for what the client or the shop asks for."
      action="Draft it"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      <TextField className="col-span-2" label="What" name="title" value={f.title} onChange={set("title")} autoFocus />
      <AreaField className="col-span-2" label="Why" name="reason" value={f.reason} onChange={set("reason")} />
    </FormSheet>
  );
}
