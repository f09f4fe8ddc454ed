import { useQuery } from "@tanstack/react-query";
import { useContext, useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { bodyQuery, Ended, fitQuery, gateQuery, operationsQuery, useMay, useUser } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { PanelMap } from "../pictures/PanelMap";
import { GateAsks, SignSheet, signedBy } from "../sequence/GateAsks";
import { BenchLink } from "../ui/BenchLink";
import { TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { PlaceLink } from "../ui/PlaceLink";
import { Shown } from "../ui/States";
import { useSend } from "../ui/useSend";
import { AdvicePanel, Changes, useAdvice } from "./Advice";
import { type Fit, type Line, lastRound, mm, roundName, verdictWords } from "./fitWords";
import { discOf, GapMarks, numbersOf } from "./GapMarks";
import { LimitsSheet } from "./LimitsSheet";
import { LineProfile, ProfileKey } from "./LineProfile";
import { LineRows } from "./LineRows";
import { ReadPad } from "./ReadPad";
import { useReader } from "./useReader";

type Body = Schemas["BodyView"];

/** Gap and flush of a build: the lines on the body, one opened, the sheet of all, the gate that asks it. */
export function GapsTab() {
  const card = useThisBuild();
  const fit = useQuery(fitQuery(card.id));
  const body = useQuery(bodyQuery(card.id));
  return <Shown of={fit}>{(f) => <Shown of={body}>{(b) => <Gaps fit={f} body={b.body} states={b.panels} />}</Shown>}</Shown>;
}

/** The line that most needs a look: the least even of those that are out, then what is to be read. */
const worstOf = (lines: readonly Line[]) =>
  lines.filter((l) => l.verdict === "out").sort((a, b) => (lastRound(b)?.rangeMm ?? 0) - (lastRound(a)?.rangeMm ?? 0))[0] ??
  lines.find((l) => l.verdict === "readAgain") ??
  lines.find((l) => l.verdict === "partlyRead") ??
  lines[0];

function Gaps({ fit, body, states }: { fit: Fit; body: Body; states: Schemas["PanelState"][] }) {
  const card = useThisBuild();
  const mayRead = useMayRead();
  const [key, setKey] = useState<string | null>(null);
  const [reading, setReading] = useState(false);
  const line = fit.lines.find((l) => l.key === key) ?? worstOf(fit.lines);
  if (!line) return <p className="p-5 text-ink2">This body has no shut lines to read.</p>;
  const read = fit.lines.reduce((sum, l) => sum + (lastRound(l)?.stations.filter((s) => s.gap).length ?? 0), 0);
  const newest = fit.lines.map((l) => lastRound(l)?.round).filter((r) => r !== undefined);
  return (
    <div className="gaps">
      <div className="gaps-map bg-guide text-chalk on-guide">
        <p className="px-4 pt-3">
          <b className="text-[15px]">Gaps, mm</b>{" "}
          <span className="text-chalk2">
            target {mm(fit.painted.targetMm)} ± {mm(fit.painted.toleranceMm)}, drawn 7.2 times life
          </span>
        </p>
        <PanelMap
          body={body}
          states={states}
          paint={card.colourHex}
          width={440}
          height={640}
          ruler={false}
          legend={false}
          overlay={(one) => <GapMarks lines={fit.lines} one={one} chosen={line.key} onPick={setKey} />}
          marked={[...fit.lines.map(discOf), ...numbersOf(fit.lines, 14 * ((body.maxY - body.minY) / 614), false)]}
        />
        <p className="px-4 pb-3 text-chalk2 text-[12.5px]">
          Bright edge: off by more than it may. Letter: its line in the sheet. Panels wear the coat they have today.
        </p>
      </div>
      <Opened fit={fit} body={body} line={line} mayRead={mayRead} reading={reading} setReading={setReading} setKey={setKey} />
      <section className="side px-5 pt-[14px] pb-6">
        <h1 className="text-[16px] font-[720] flare">
          Sheet{" "}
          <small className="font-[450] text-ink2 text-[12.5px]">
            {fit.lines.length} lines, {read === 0 ? "nothing read yet" : `${read} readings`}
            {newest.includes("afterPaint") ? ", after paint" : newest.includes("afterWeld") ? ", after weld" : ""}
          </small>
        </h1>
        <LineRows lines={fit.lines} chosen={line.key} onPick={setKey} />
        <Limits fit={fit} />
        <Gates fit={fit} />
        <Changes fit={fit} lines={fit.lines} may={mayRead} />
      </section>
    </div>
  );
}

/** Figures are read by whoever works on the vehicles. */
function useMayRead() {
  const role = useUser()?.role;
  const ended = useContext(Ended);
  return (role === "manager" || role === "technician") && !ended;
}

function Opened({
  fit,
  body,
  line,
  mayRead,
  reading,
  setReading,
  setKey,
}: {
  fit: Fit;
  body: Body;
  line: Line;
  mayRead: boolean;
  reading: boolean;
  setReading: (on: boolean) => void;
  setKey: (key: string) => void;
}) {
  const card = useThisBuild();
  const reader = useReader(card.id, line);
  // A door tells more than the wing beside it.
  const hung = line.hung.find((k) => k.startsWith("door")) ?? line.hung[0] ?? null;
  const advice = useAdvice(card.id, hung, fit);
  const [accepting, setAccepting] = useState(false);
  const moved = advice.look.data?.lines.find((l) => l.key === line.key)?.gaps;
  const now = reader.round;
  const panelName = (k: string) => body.panels.find((p) => p.key === k)?.name ?? k;
  const walk = (by: number) => {
    const at = fit.lines.indexOf(line);
    const to = fit.lines[(at + by + fit.lines.length) % fit.lines.length];
    if (to) setKey(to.key);
  };
  const takeBack = useSend((id: string) => ask(api.POST("/api/fit-readings/{id}/take-back", { params: { path: { id } } })), {
    says: "Taken back",
  });
  const here = reader.at && now.stations[reader.at.station - 1];
  const kept = reader.at?.measure === "flush" ? here?.flush : here?.gap;
  return (
    <div className="gaps-line bg-guide text-chalk on-guide">
      <div className="px-4 pt-3 flex items-baseline gap-2 flex-wrap">
        <h2 className="text-[16px] font-[700] flare">
          {line.letter} {line.name}
        </h2>
        <span className="text-chalk2">
          {roundName(now.round)}, station 1 at the {line.from}
        </span>
        <span className="flex-1" />
        {now.taperMmPerM != null && (
          <b className={`text-[15px] ${now.faults.includes("notUniform") ? "text-oxide-lt" : ""}`}>
            taper {now.taperMmPerM < 0 ? "−" : ""}
            {mm(Math.abs(now.taperMmPerM))} mm/m
          </b>
        )}
        {now.meanMm != null && (
          <BenchLink sum="gap" build={card.number} from={`line-${line.letter}`}>
            On the bench
          </BenchLink>
        )}
      </div>
      <p className="px-4 text-chalk2">
        {line.words || verdictWords(line)}
        {now.rangeMm != null && `; range ${mm(now.rangeMm)}, allowed ${mm(line.limits.rangeMm)}`}
      </p>
      <LineProfile line={line} width={440} moved={moved} at={reader.at} onAt={reader.goTo} />
      <div className="px-4">
        <ProfileKey line={line} moved={moved !== undefined} />
      </div>
      {mayRead && (
        <form
          className="read-row"
          onSubmit={(e) => {
            e.preventDefault();
            reader.enter();
          }}
        >
          <label className="field">
            <span>
              {reader.at
                ? `${reader.at.measure === "gap" ? "Gap" : "Flush"} at station ${reader.at.station}, ${reader.unit === "inch" ? "in" : reader.unit}`
                : "All of this line is read"}
            </span>
            <input
              ref={reader.field}
              inputMode="decimal"
              autoComplete="off"
              disabled={!reader.at}
              value={reader.typed}
              aria-invalid={reader.wrong !== ""}
              onChange={(e) => reader.setTyped(e.target.value)}
              onKeyDown={(e) => {
                if (reader.typed === "" && (e.key === "ArrowRight" || e.key === "ArrowLeft")) {
                  e.preventDefault();
                  reader.step(e.key === "ArrowRight" ? 1 : -1);
                }
                if (e.key === "ArrowUp" || e.key === "ArrowDown") {
                  e.preventDefault();
                  walk(e.key === "ArrowDown" ? 1 : -1);
                }
              }}
            />
          </label>
          <button type="submit" className="btn btn-chalk" disabled={!reader.at}>
            Enter
          </button>
          <button
            type="button"
            className="btn btn-guide"
            aria-pressed={reader.at?.measure === "flush"}
            disabled={!reader.at}
            onClick={() => reader.at && reader.goTo({ ...reader.at, measure: reader.at.measure === "gap" ? "flush" : "gap" })}
          >
            {reader.at?.measure === "flush" ? "To the gap" : "To the flush"}
          </button>
          {kept && (
            <button type="button" className="btn btn-guide" onClick={() => takeBack.mutate(kept.id)}>
              Take {kept.typed} back
            </button>
          )}
          <button type="button" className="btn btn-guide" aria-pressed={reader.gauge} onClick={() => reader.setGauge(!reader.gauge)}>
            Gauge
          </button>
          <button type="button" className="btn btn-guide read-open" onClick={() => setReading(true)}>
            Read with large keys
          </button>
          {reader.wrong && (
            <p role="alert" className="w-full text-oxide-lt">
              {reader.wrong}
            </p>
          )}
        </form>
      )}
      <Verdict line={line} may={mayRead} onAccept={() => setAccepting(true)} />
      {hung && (
        <>
          <h3 className="px-4 mt-3 text-[15px] font-[680]">How {panelName(hung)} would have to move</h3>
          <AdvicePanel buildId={card.id} fit={fit} panel={hung} panelName={panelName(hung)} of={advice} may={mayRead} />
        </>
      )}
      {!hung && (
        <p className="px-4 pb-4 text-chalk2 mt-3">
          Neither side of this line hangs on hinges: it is set by its bolts, or the edge is dressed.
        </p>
      )}
      {reading && <ReadPad line={line} reader={reader} onClose={() => setReading(false)} />}
      {accepting && <AcceptSheet buildId={card.id} line={line} onClose={() => setAccepting(false)} />}
    </div>
  );
}

/** A line that is out stays as it is only by a name and a reason. */
function Verdict({ line, may, onAccept }: { line: Line; may: boolean; onAccept: () => void }) {
  const manager = useMay().manager;
  const accept = useSend((id: string) => ask(api.POST("/api/fit-acceptances/{id}/accept", { params: { path: { id } } })), {
    says: "Accepted",
  });
  const back = useSend((id: string) => ask(api.POST("/api/fit-acceptances/{id}/take-back", { params: { path: { id } } })), {
    says: "Taken back",
  });
  const a = line.acceptance;
  if (line.verdict !== "out" && line.verdict !== "accepted") return null;
  return (
    <div className="px-4 mt-2">
      {a ? (
        <p>
          {a.acceptedBy ? `${a.acceptedBy} has accepted it: ` : `${a.by} proposes to leave it: `}
          {a.why}.{" "}
          {!a.acceptedBy && manager && (
            <button type="button" className="btn btn-chalk" onClick={() => accept.mutate(a.id)}>
              Accept it
            </button>
          )}{" "}
          {(manager || (may && !a.acceptedBy)) && (
            <button type="button" className="btn btn-guide" onClick={() => back.mutate(a.id)}>
              Take it back
            </button>
          )}
        </p>
      ) : (
        may && (
          <button type="button" className="btn btn-guide" onClick={onAccept}>
            {manager ? "Leave it as it is, say why" : "Propose to leave it, say why"}
          </button>
        )
      )}
    </div>
  );
}

function AcceptSheet({ buildId, line, onClose }: { buildId: string; line: Line; onClose: () => void }) {
  const [why, setWhy] = useState("");
  const [id] = useState(newId);
  const send = useSend(
    () => ask(api.POST("/api/builds/{id}/fit/acceptances", { params: { path: { id: buildId } }, body: { id, line: line.key, why } })),
    { says: "Kept with your name", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={`${line.letter} ${line.name} stays as it is`}
      note={`${line.words}. Your name and the reason stay on the sheet; a new reading asks again.`}
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      <TextField className="col-span-2" label="Why" name="why" value={why} onChange={setWhy} autoFocus />
    </FormSheet>
  );
}

function Limits({ fit }: { fit: Fit }) {
  const manager = useMay().manager;
  const [open, setOpen] = useState(false);
  const bright = fit.lines.filter((l) => l.terms.isBright);
  return (
    <p className="text-ink2 mt-2">
      Painted edges {mm(fit.painted.targetMm)} ± {mm(fit.painted.toleranceMm)}, range {mm(fit.painted.rangeMm)}, flush{" "}
      {mm(fit.painted.flushMm)}
      {bright.length > 0 &&
        `; bright ones (${bright.map((l) => l.letter).join(", ")}) ± ${mm(fit.bright.toleranceMm)}, range ${mm(fit.bright.rangeMm)}, flush ${mm(fit.bright.flushMm)}`}
      {fit.filmUm != null ? `; ${fit.filmUm} µm still to come on an edge` : "; nobody has said how much film is still to come"}.{" "}
      {manager && (
        <button type="button" className="btn btn-quiet !px-0" onClick={() => setOpen(true)}>
          Change
        </button>
      )}
      {open && <LimitsSheet fit={fit} onClose={() => setOpen(false)} />}
    </p>
  );
}

/** The gates that ask the sheet, with what stands against each. */
function Gates({ fit }: { fit: Fit }) {
  return fit.gates.map((g) => <Gate key={g.id} gate={g} />);
}

function Gate({ gate }: { gate: Schemas["FitGateView"] }) {
  const card = useThisBuild();
  const view = useQuery({ ...gateQuery(gate.id), enabled: !gate.isDone });
  const operation = useQuery(operationsQuery(card.id)).data?.find((o) => o.id === gate.id);
  const [signing, setSigning] = useState(false);
  const ended = useContext(Ended);
  const names = operation?.signatures.map(signedBy).join(", ");
  return (
    <section>
      <h2>
        Gate: {gate.name} {operation?.gate === "fitUp" && <small>nothing is welded out before it</small>}
      </h2>
      {gate.isDone ? (
        <p>
          {operation?.signatures.some((s) => s.overrideReason) ? "Opened without a signature" : "Signed"}
          {names && `: ${names}`}.
        </p>
      ) : (
        <>
          {names && <p className="font-[620]">Signed: {names}. The other side is open.</p>}
          {view.data && <GateAsks of={view.data} />}
          <p className="flex gap-2 mt-2">
            {!ended && operation && (
              <button type="button" className="btn btn-ink" onClick={() => setSigning(true)}>
                Sign
              </button>
            )}
            <PlaceLink to={`/builds/${card.number}/sequence?at=${gate.id}`} className="btn">
              In the sequence
            </PlaceLink>
          </p>
        </>
      )}
      {signing && operation && <SignSheet gate={operation} onClose={() => setSigning(false)} />}
    </section>
  );
}
