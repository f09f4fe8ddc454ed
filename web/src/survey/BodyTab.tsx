import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { bodyQuery, buildQuery, chancesQuery, fitQuery, gateQuery, operationsQuery, shopQuery, surveyQuery, useMay } from "../api/queries";
import { BuildActions } from "../builds/BuildActions";
import { BuildHead, HeadFigure } from "../builds/BuildHead";
import { LetGoOnSheet } from "../builds/LetGoOnSheet";
import { reasonText } from "../builds/reason";
import { useThisBuild } from "../builds/useBuild";
import { GapMarks, numbersOf } from "../fitup/GapMarks";
import { COAT_ORDER, coatName, dateOf, day, HELD_ORDER, heldName, stageName, weekday, words } from "../format";
import { PanelMap } from "../pictures/PanelMap";
import { Strata } from "../pictures/Strata";
import { CHALK } from "../tokens";
import { CheckField, ChoiceField, ProblemNote, TextField } from "../ui/Field";
import { PlaceLink } from "../ui/PlaceLink";
import { Shown } from "../ui/States";
import { say } from "../ui/say";
import { useSend } from "../ui/useSend";
import { findingWords } from "./Findings";
import { FindingDisc, Overlay } from "./Marks";
import { verdictName } from "./VerdictBars";

export function BodyTab() {
  const card = useThisBuild();
  const body = useQuery(bodyQuery(card.id));
  const [picked, setPicked] = useState<string | null>(null);
  const survey = useQuery(surveyQuery(card.id)).data;
  const places = new Set(survey?.places.filter((p) => p.group === "outside").map((p) => p.key));
  const read = useQuery(fitQuery(card.id)).data?.lines.filter((l) => l.rounds.length > 0) ?? [];
  const outside = survey?.findings.filter((f) => places.has(f.place)) ?? [];
  return (
    <div className="build">
      <div className="bg-guide">
        <Shown of={body}>
          {(b) => (
            <PanelMap
              body={b.body}
              states={b.panels}
              paint={card.colourHex}
              width={792}
              height={652}
              hands={card.onIt}
              selected={picked}
              onPick={(p) => setPicked((old) => (old === p ? null : p))}
              overlay={(one) => (
                <>
                  <GapMarks lines={read} one={one} bare />
                  <Overlay marks={[]} findings={outside} one={one} />
                </>
              )}
              marked={[...outside.map((x) => x.at), ...numbersOf(read, 14 * ((b.body.maxY - b.body.minY) / 626), false)]}
            />
          )}
        </Shown>
        <GateStrip />
      </div>
      <section className="side px-5 pt-[14px] pb-6">
        <Head />
        {picked && body.data ? <PanelCard view={body.data} panel={picked} onClose={() => setPicked(null)} /> : null}
        <h2>
          Strata <small>thickness is budget, fill is earned, the ink line is spent</small>
        </h2>
        <Strata layers={card.layers} paint={card.colourHex} />
        <Questions />
        {survey && <Found findings={survey.findings} />}
        <Next />
        {body.data && <TemporaryMetal view={body.data} />}
      </section>
    </div>
  );
}

function Head() {
  const card = useThisBuild();
  const late = card.promised && card.likely && card.likely > card.promised;
  const chance = useQuery(chancesQuery).data?.find((c) => c.id === card.id);
  return (
    <BuildHead
      figures={
        <>
          <HeadFigure name="Promised" value={day(card.promised)} />
          <HeadFigure name="Likely" value={day(card.likely)} alarm={Boolean(late)} />
          {chance && !chance.partly && (
            <HeadFigure name="8 in 10 by" value={day(chance.p80)} alarm={Boolean(card.promised && chance.p80 > card.promised)} />
          )}
        </>
      }
    >
      <p className="col-span-3 mt-2 text-ink2">
        {card.status === "paused" ? (
          <>
            <b className="text-ink">Paused:</b> {card.leftAt}. <b className="text-ink">First move:</b> {card.firstMove}.
          </>
        ) : (
          <>
            <b className="text-ink">Now:</b>{" "}
            {card.onIt.length > 0 ? card.onIt.map((o) => `${o.name} on “${o.operation}”`).join(", ") : card.holds || "nothing holds it"}.
            {card.untouchedDays !== null && card.untouchedDays >= 7 ? ` Untouched for ${card.untouchedDays} days.` : ""}
          </>
        )}
      </p>
      <BuildActions />
    </BuildHead>
  );
}

/** What was found and is not mended yet, with its number on the map. */
function Found({ findings }: { findings: Schemas["FindingView"][] }) {
  const card = useThisBuild();
  const open = findings.filter((f) => !f.mended);
  if (open.length === 0) return null;
  return (
    <section className="mt-4">
      <h2>
        Findings <small>{open.length} open</small>
      </h2>
      <ul>
        {open.slice(0, 7).map((f) => (
          <li key={f.id} className="border-t border-p2 py-[3px] flex gap-3 items-start">
            <svg width="22" height="22" viewBox="-13 -13 26 26" aria-hidden="true" className="flex-none mt-[2px]">
              <FindingDisc number={f.number} />
            </svg>
            <span className="flex-1 leading-[1.25]">
              <b className="font-[660]">{f.placeName}</b> {findingWords(f)}
              <span className="block text-ink2">
                {f.choice ? `${verdictName(f.choice)}${f.agreedBy ? "" : ", not agreed to yet"}` : "no verdict yet"}
                {f.note && `. ${f.note}`}
              </span>
            </span>
          </li>
        ))}
      </ul>
      <PlaceLink to={`/builds/${card.number}/survey`} className="font-[620]">
        To the survey
      </PlaceLink>
    </section>
  );
}

/** What the plan does next on this build, when and why not earlier; after it the days that matter. */
function Next() {
  const card = useThisBuild();
  const operations = useQuery(operationsQuery(card.id)).data ?? [];
  const people = useQuery(shopQuery).data?.people ?? [];
  const milestones = useQuery(buildQuery(card.id)).data?.milestones ?? [];
  const next = operations
    .filter((o) => !o.doneAt && o.starts)
    .sort((a, b) => (a.starts ?? "").localeCompare(b.starts ?? ""))
    .slice(0, 6);
  if (next.length === 0) return null;
  return (
    <section className="mt-4">
      <h2>
        Next <small>by today's plan</small>
      </h2>
      <table className="rows">
        <tbody>
          {next.map((o) => (
            <tr key={o.id}>
              <td className="w-[58px] font-[640]">{day(dateOf(o.starts ?? ""))}</td>
              <td>
                {o.name}
                <span className="block text-ink2">{reasonText(o.reason)}</span>
              </td>
              <td className="text-right whitespace-nowrap">
                {people.find((p) => p.id === o.plannedPersonId)?.name.split(" ")[0] ?? (o.kind === "work" ? "" : words(o.kind))}
              </td>
            </tr>
          ))}
          {milestones.map((m) => (
            <tr key={m.name}>
              <td className="font-[640]">{day(m.on)}</td>
              <td colSpan={2} className="text-ink2">
                {m.name}, as agreed
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** The next gate with what it still waits for, counted from the sequence. */
/** One thing that a gate asks for, met or open. */
const Condition = ({ words: what, met }: { words: string; met: boolean }) => (
  <li className="flex items-center gap-2">
    <svg width="14" height="14" aria-hidden="true">
      {met ? (
        <path d="M1,7l4,6l8,-12" fill="none" stroke={CHALK} strokeWidth="1.9" />
      ) : (
        <rect x="1.5" y="2.5" width="10" height="10" fill="none" stroke={CHALK} strokeWidth="1.4" />
      )}
    </svg>
    <span>
      {what}
      <span className="sr-only">{met ? ", done" : ", open"}</span>
    </span>
  </li>
);

function GateStrip() {
  const card = useThisBuild();
  const operations = useQuery(operationsQuery(card.id)).data;
  const gate = operations?.find((o) => o.kind === "gate" && !o.doneAt);
  const asked = useQuery({ ...gateQuery(gate?.id ?? ""), enabled: gate !== undefined }).data;
  if (!operations || !gate) return null;
  const byId = new Map(operations.map((o) => [o.id, o]));
  const before: Schemas["OperationView"][] = [];
  const walk = (o: Schemas["OperationView"]) => {
    for (const link of o.after) {
      const b = byId.get(link.operation);
      if (b && !before.includes(b)) {
        before.push(b);
        walk(b);
      }
    }
  };
  walk(gate);
  const open = before.filter((b) => !b.doneAt);
  // What it asks besides the work before it, as the gate itself says.
  const asks = asked?.asks.filter((a) => a.must && !a.of) ?? [];
  const unmet = asks.some((a) => a.missing !== "");
  return (
    <div className="text-chalk border-t border-guide3 px-5 py-3 grid grid-cols-[220px_1fr] gap-4">
      <div>
        <b className="text-[14px] font-[680]">Gate: {gate.name}</b>
        <p className="text-chalk2 text-[12px]">
          {open.length > 0
            ? `${before.length - open.length} of ${before.length} before it are done`
            : unmet
              ? "what it asks of the sheets is not there yet"
              : "ready to be signed"}
        </p>
      </div>
      <ul className="flex flex-wrap gap-x-5 gap-y-1 text-[12.5px]">
        {gate.after.map((a) => {
          const b = byId.get(a.operation);
          return b ? <Condition key={b.id} words={b.name} met={b.doneAt !== null} /> : null;
        })}
        {asks.map((a) => (
          <Condition key={a.words} words={a.words} met={a.missing === ""} />
        ))}
      </ul>
    </div>
  );
}

function Questions() {
  const card = useThisBuild();
  const build = useQuery(buildQuery(card.id)).data;
  const may = useMay();
  const settle = useSend(
    (a: { id: string; answer: string }) =>
      ask(api.POST("/api/decisions/{id}/answer", { params: { path: { id: a.id } }, body: { answer: a.answer } })),
    { says: "Settled" },
  );
  const [letting, setLetting] = useState<Schemas["DecisionView"] | null>(null);
  const open = build?.decisions.filter((d) => !d.settledAt) ?? [];
  if (open.length === 0) return null;
  return (
    <>
      <h2>
        Waits for an answer <small>{open.length} open</small>
      </h2>
      <ul>
        {open.map((d) => (
          <li key={d.id} className="border-t border-p2 py-1 first:border-t-0">
            <b className="text-oxide font-[680]">{d.question}</b>
            <span className="block text-ink2">
              {d.detail} {d.for === "client" ? `${card.client}'s decision` : "The manager's decision"} by {weekday(d.dueOn)}.
            </span>
            {may.desk && (
              <span className="flex flex-wrap gap-2 mt-1">
                {d.paperId && (
                  <PlaceLink className="btn" to={`/builds/${card.number}/estimate`}>
                    See the change order
                  </PlaceLink>
                )}
                {may.manager && d.holds.length > d.letGo.length && (
                  <button type="button" className="btn" onClick={() => setLetting(d)}>
                    Let work go on
                  </button>
                )}
                {d.options.map((o) => (
                  <button key={o} type="button" className="btn" onClick={() => settle.mutate({ id: d.id, answer: o })}>
                    {o}
                  </button>
                ))}
              </span>
            )}
          </li>
        ))}
      </ul>
      {letting && <LetGoOnSheet decision={letting} onClose={() => setLetting(null)} />}
    </>
  );
}

function TemporaryMetal({ view }: { view: Schemas["BodyStateView"] }) {
  const card = useThisBuild();
  const names = new Map(view.body.panels.map((p) => [p.key, p.name]));
  const out = useSend((a: { panel: string; note: string }) =>
    ask(
      api.POST("/api/builds/{id}/panel-events", {
        params: { path: { id: card.id } },
        body: {
          id: newId(),
          panel: a.panel,
          zone: null,
          fact: "temporaryMetalOut",
          coat: null,
          held: null,
          note: a.note,
          outBy: null,
          blocksHanging: null,
        },
      }),
    ),
  );
  const metal = view.panels.flatMap((p) => p.temporaryMetal.map((note) => ({ panel: p.panel, note })));
  if (metal.length === 0) return null;
  return (
    <>
      <h2>
        Temporary metal <small>in the way of hanging, or of the coats</small>
      </h2>
      <ul>
        {metal.map((m) => (
          <li key={m.panel + m.note} className="border-t border-p2 py-1 first:border-t-0 flex gap-2">
            <span className="flex-1">
              <b className="font-[660]">{names.get(m.panel)}</b> {m.note}
            </span>
            <button type="button" className="btn self-start" onClick={() => out.mutate(m)}>
              It is out
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}

/** One panel: what it wears, how it is held, and a correction by hand that carries the name of who makes it. */
function PanelCard({ view, panel, onClose }: { view: Schemas["BodyStateView"]; panel: string; onClose: () => void }) {
  const card = useThisBuild();
  const shape = view.body.panels.find((p) => p.key === panel);
  const state = view.panels.find((p) => p.panel === panel);
  const [zone, setZone] = useState("");
  const [note, setNote] = useState("");
  const [outBy, setOutBy] = useState<Schemas["Stage"]>("fill");
  const [blocks, setBlocks] = useState(true);
  const send = useSend(
    (a: Partial<Schemas["PanelEventBody"]> & { fact: Schemas["PanelFact"] }) =>
      ask(
        api.POST("/api/builds/{id}/panel-events", {
          params: { path: { id: card.id } },
          body: {
            id: newId(),
            panel,
            zone: a.fact === "held" ? null : zone || null,
            coat: null,
            held: null,
            note: "",
            outBy: null,
            blocksHanging: null,
            ...a,
          },
        }),
      ),
    { quiet: true, onDone: (r) => r.against && say.note(`Kept for the manager to settle: ${r.against}`) },
  );
  if (!shape || !state) return null;
  return (
    <section aria-label={shape.name} className="mt-3 border-t-2 border-ink pt-2">
      <div className="flex items-baseline gap-3">
        <h2 className="!border-0 !m-0 !p-0">{shape.name}</h2>
        <span className="text-ink2 flex-1">
          {state.held === "away" ? "away" : `${coatName(state.coat)}, ${heldName(state.held)}`}
          {state.coats.length > 0 && ` · coats so far: ${state.coats.map(coatName).join(", ")}`}
        </span>
        <button type="button" className="btn" onClick={onClose}>
          Close
        </button>
      </div>
      <div className="grid grid-cols-2 gap-2 mt-2">
        <ChoiceField
          label="Zone"
          value={zone}
          onChange={setZone}
          options={[["", "whole panel"], ...Object.keys(shape.zones).map((z) => [z, z] as [string, string])]}
        />
        <ChoiceField
          label="Wears now"
          value=""
          onChange={(v) => v && send.mutate({ fact: "coat", coat: v as Schemas["Coat"] })}
          options={[["", "change the coat…"], ...COAT_ORDER.map((c) => [c, coatName(c)] as [string, string])]}
        />
        <ChoiceField
          label="Held"
          value={state.held}
          onChange={(v) => send.mutate({ fact: "held", held: v })}
          options={HELD_ORDER.map((h) => [h, heldName(h)] as const)}
        />
        <div className="flex items-end gap-2">
          <button type="button" className="btn" onClick={() => send.mutate({ fact: "replace" })}>
            To be replaced
          </button>
          <button type="button" className="btn" onClick={() => send.mutate({ fact: "newMetal" })}>
            New metal in
          </button>
        </div>
        <TextField label="Temporary metal: what for, what it blocks" name="note" value={note} onChange={setNote} problem={send.error} />
        <ChoiceField
          label="Out before"
          value={outBy}
          onChange={(v) => setOutBy(v as Schemas["Stage"])}
          options={(["epoxy", "fill", "colour", "polish"] as const).map((x) => [x, stageName(x)])}
        />
        <CheckField label="In the way of hanging it" value={blocks} onChange={setBlocks} />
        <button
          type="button"
          className="btn self-end justify-self-start"
          onClick={() =>
            send.mutate({ fact: "temporaryMetalIn", note, zone: null, outBy, blocksHanging: blocks }, { onSuccess: () => setNote("") })
          }
        >
          Put in
        </button>
      </div>
      <ProblemNote problem={send.error} except={["note"]} />
    </section>
  );
}
