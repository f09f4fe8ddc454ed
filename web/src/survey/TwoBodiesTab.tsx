import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { bodiesQuery, operationsQuery } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { addDays, day, money, today } from "../format";
import { CHALK, CHALK2, GUIDE3, INK, P3 } from "../tokens";
import { ChecksField } from "../ui/ChecksField";
import { TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { PlaceLink } from "../ui/PlaceLink";
import { Empty, Shown } from "../ui/States";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import { OtherBodySheet } from "./OtherBodySheet";

type Compared = Schemas["ComparedView"];
type Rung = Schemas["Rung"];
const LONG = 190;

/** The body that came beside another one, zone by zone by the same sums, what crosses the years, and which to save. */
export function TwoBodiesTab() {
  const card = useThisBuild();
  const bodies = useQuery(bodiesQuery(card.id));
  const [editing, setEditing] = useState<Compared | "new" | null>(null);
  const [shown, setShown] = useState<string | null>(null);
  return (
    <Shown of={bodies}>
      {(all) => {
        const current = all.find((b) => b.id === shown) ?? all[0];
        return (
          <>
            <div className="flex flex-wrap gap-2 items-center px-5 py-2 border-b border-p3">
              {all.map((b) => (
                <button
                  key={b.id}
                  type="button"
                  className={`btn ${b.id === current?.id ? "btn-ink" : ""}`}
                  aria-pressed={b.id === current?.id}
                  onClick={() => setShown(b.id)}
                >
                  {b.name}
                </button>
              ))}
              <button type="button" className="btn" onClick={() => setEditing("new")}>
                Another body
              </button>
              <span className="flex-1" />
              {current && (
                <button type="button" className="btn" onClick={() => setEditing(current)}>
                  What this body needs
                </button>
              )}
            </div>
            {!current && <Empty>Only the body that came. Where another one is offered, judge it here by the same sums.</Empty>}
            {current && <Both body={current} />}
            {editing && <OtherBodySheet body={editing === "new" ? null : editing} onClose={() => setEditing(null)} onKept={setShown} />}
          </>
        );
      }}
    </Shown>
  );
}

function Both({ body: b }: { body: Compared }) {
  const card = useThisBuild();
  const most = Math.max(1, ...b.rungs.flatMap((r) => [r.own.total ?? 0, r.other.total ?? 0]), b.purchase + b.freight);
  // Both sound, or neither looked at: a rung says nothing then, and a line tells how many there are.
  const telling = b.rungs.filter(
    (r) => (r.own.total ?? 0) > 0 || (r.other.total ?? 0) > 0 || (r.own.total === null) !== (r.other.total === null),
  );
  return (
    <>
      <section className="bg-guide text-chalk px-5 py-3" aria-label="Zone by zone">
        <div className="grid grid-cols-[minmax(0,1fr)_170px_minmax(0,1fr)] max-[640px]:grid-cols-[minmax(0,1fr)_96px_minmax(0,1fr)] gap-x-3 max-w-[980px] mx-auto items-center">
          <h1 className="text-right">{card.number}, as it came</h1>
          <span className="text-center text-chalk2 text-[12.5px]">cheaper side wins the rung</span>
          <h1>{b.name}</h1>
          {telling.map((r) => (
            <RungRow key={r.zone} rung={r} most={most} />
          ))}
          <span className="text-right text-chalk2">nothing to pay</span>
          <b className="text-center border border-guide3 py-1">Buy, bring</b>
          <Bar
            cost={{
              total: b.purchase + b.freight,
              how: "",
              parts: { labour: 0, bought: b.purchase + b.freight, wait: 0, hidden: 0 },
            }}
            most={most}
            wins={false}
            right
          />
          <b className="text-right text-[22px] num">{b.ownTotal === null ? "no total" : money(b.ownTotal)}</b>
          <span className="text-center text-chalk2">
            {b.ownWon} to {b.otherWon} rungs
          </span>
          <b className="text-[22px] num">{b.otherTotal === null ? "no total" : money(b.otherTotal)}</b>
        </div>
        <p className="text-center text-chalk2 text-[12.5px] mt-2">
          Solid: labour. Ruled: bought. Dotted: wait. Hatched: hidden. {b.rungs.length - telling.length} more zones are alike on both.
        </p>
      </section>
      <div className="grid grid-cols-1 min-[900px]:grid-cols-2 gap-8 px-5 py-3">
        <Years body={b} />
        <Sentence body={b} />
      </div>
    </>
  );
}

function RungRow({ rung: r, most }: { rung: Rung; most: number }) {
  const wins = r.ownWins;
  return (
    <>
      <Bar cost={r.own} most={most} wins={wins === true} />
      <b className="text-center border border-guide3 py-1 flex items-center justify-center gap-1">
        <span aria-hidden="true">{wins === true ? "◀" : ""}</span>
        <span className="flex-1">{r.name}</span>
        <span aria-hidden="true">{wins === false ? "▶" : ""}</span>
      </b>
      <Bar cost={r.other} most={most} wins={wins === false} right />
    </>
  );
}

function Bar({ cost, most, wins, right = false }: { cost: Schemas["ZoneCost"]; most: number; wins: boolean; right?: boolean }) {
  const w = (v: number) => (v / most) * LONG;
  const total = cost.total;
  const p = cost.parts;
  const parts = [
    { key: "labour", v: p.labour, fill: wins ? CHALK : "#7E8B8C" },
    { key: "bought", v: p.bought, fill: "url(#ruled)" },
    { key: "wait", v: p.wait, fill: "url(#dotted)" },
    { key: "hidden", v: p.hidden, fill: "url(#hidden)" },
  ];
  let at = 0;
  const says = total === null || total === undefined ? cost.how : total === 0 ? cost.how : `${money(total)} ${cost.how}`;
  return (
    <span
      className={`flex gap-2 items-center max-[640px]:flex-col max-[640px]:gap-0 ${right ? "max-[640px]:items-start" : "flex-row-reverse max-[640px]:items-end"} ${wins ? "" : "text-chalk2"}`}
    >
      <svg width={LONG} height="16" aria-hidden="true" style={{ transform: right ? undefined : "scaleX(-1)" }} className="flex-none">
        <defs>
          <pattern id="ruled" width="4" height="4" patternUnits="userSpaceOnUse">
            <rect width="4" height="4" fill={GUIDE3} />
            <path d="M1,0V4" stroke={CHALK2} strokeWidth="1.6" />
          </pattern>
          <pattern id="dotted" width="6" height="6" patternUnits="userSpaceOnUse">
            <rect width="6" height="6" fill={GUIDE3} />
            <circle cx="3" cy="3" r="1.2" fill={CHALK2} />
          </pattern>
          <pattern id="hidden" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <path d="M1,0V5" stroke={CHALK2} strokeWidth="1.4" />
          </pattern>
        </defs>
        {parts.map((x) => {
          const from = at;
          at += w(x.v);
          return <rect key={x.key} x={from} y="2" width={Math.max(0, w(x.v))} height="12" fill={x.fill} />;
        })}
      </svg>
      <span className={`text-[13px] ${wins ? "font-[680]" : ""}`}>{says}</span>
    </span>
  );
}

/** A bar for each span of model years over which a part interchanges; it fits when one span holds both years. */
/** Years that are written over the spans: those of the two bodies, then the first and the last where there is room. */
export function yearMarks(bodies: (number | null)[], ends: number[], at: (year: number) => number) {
  const marks: { year: number; x: number; own: boolean }[] = [];
  for (const [year, own] of [...bodies.map((y) => [y, true] as const), ...ends.map((y) => [y, false] as const)])
    if (year && marks.every((m) => Math.abs(m.x - at(year)) > 34)) marks.push({ year, x: at(year), own });
  return marks;
}

function Years({ body: b }: { body: Compared }) {
  if (b.fits.length === 0)
    return (
      <section aria-label="What fits across years">
        <h2>What fits across years</h2>
        <p className="text-ink2">
          {b.year && b.ownYear ? "No spans of years are noted yet." : "Give both years, and the spans over which parts interchange."}
        </p>
      </section>
    );
  const all = [...b.fits.flatMap((f) => f.spans.flatMap((s) => [s.from, s.to])), b.year ?? 0, b.ownYear ?? 0].filter((y) => y > 0);
  const [from, to] = [Math.min(...all), Math.max(...all) + 1];
  const x = (y: number) => ((y - from) / (to - from)) * 280;
  return (
    <section aria-label="What fits across years">
      <h2>
        What fits across years{" "}
        <small>
          {b.fits.filter((f) => f.fits).length} of {b.fits.length} parts cross from {b.ownYear} to {b.year}
        </small>
      </h2>
      <div className="grid grid-cols-[120px_290px_minmax(0,1fr)] max-[640px]:grid-cols-1 gap-2">
        <svg width="284" height="16" viewBox="0 0 284 16" className="min-[641px]:col-start-2" aria-hidden="true">
          {yearMarks([b.ownYear, b.year], [from, to - 1], (y) => (x(y) + x(y + 1)) / 2).map((y) => (
            <text
              key={y.year}
              x={y.x}
              y="12"
              fontSize="12"
              fontWeight={y.own ? 680 : 400}
              fill={y.own ? INK : "#5B625F"}
              textAnchor={y.x < 16 ? "start" : y.x > 264 ? "end" : "middle"}
            >
              {y.year}
            </text>
          ))}
        </svg>
      </div>
      <ul>
        {b.fits.map((f) => (
          <li key={f.part} className="grid grid-cols-[120px_290px_minmax(0,1fr)] max-[640px]:grid-cols-1 gap-2 items-center">
            <span className="min-[641px]:text-right">{f.part}</span>
            <svg width="284" height="16" viewBox="0 0 284 16" aria-hidden="true">
              {[b.ownYear, b.year].map(
                (y) => y && <rect key={y} x={x(y)} width={x(y + 1) - x(y)} height="16" fill={P3} fillOpacity=".5" />,
              )}
              {f.spans.map((s) => (
                <path key={s.from} d={`M${x(s.from) + 1},8H${x(s.to + 1) - 1}`} stroke={f.fits ? INK : "#7B827F"} strokeWidth="5" />
              ))}
            </svg>
            <span className={f.fits ? "text-ink2" : "font-[660]"}>{f.fits ? "fits" : f.differs}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Sentence({ body: b }: { body: Compared }) {
  const card = useThisBuild();
  const [asking, setAsking] = useState(false);
  const dark = b.rungs.filter((r) => r.own.total === null || r.other.total === null).length;
  return (
    <section aria-label="Which body to save">
      <h2 className="!text-[19px]">
        {b.ownSaves === null
          ? `${dark} ${dark === 1 ? "zone has" : "zones have"} no sum yet: no answer before that.`
          : b.ownSaves === 0
            ? "Both come to the same."
            : b.ownSaves > 0
              ? `Keep the body ${card.number} came with. It is ${money(b.ownSaves)} cheaper.`
              : `Take “${b.name}”. It is ${money(-b.ownSaves)} cheaper.`}
      </h2>
      {b.otherTotal !== null && b.ownTotal !== null && (
        <p className="text-ink2">
          {b.name}: {money(b.otherTotal - b.purchase - b.freight)} of work, {money(b.purchase)} to buy, {money(b.freight)} to bring. Own
          body: {money(b.ownTotal)} of work.
        </p>
      )}
      <p className="mt-2">
        <b>Which of the two carries the vehicle's legal identity?</b>{" "}
        {b.identity || "Not answered. Ask the authority that registers it: what may be swapped and what may not is local law."}
      </p>
      <p className="mt-3 flex gap-3 items-center">
        {b.decisionId ? (
          <PlaceLink className="btn" to={`/builds/${card.number}`}>
            The question is open
          </PlaceLink>
        ) : (
          <button type="button" className="btn btn-ink" onClick={() => setAsking(true)}>
            Ask which body to save
          </button>
        )}
        {b.heldUntil && <span className="text-oxide font-[660]">held until {day(b.heldUntil)}</span>}
      </p>
      {asking && <AskBody body={b} onClose={() => setAsking(false)} />}
    </section>
  );
}

function AskBody({ body: b, onClose }: { body: Compared; onClose: () => void }) {
  const card = useThisBuild();
  const operations = (useQuery(operationsQuery(card.id)).data ?? []).filter((o) => !o.doneAt && o.kind === "work");
  const [id] = useState(() => newId());
  const [f, set] = useForm({ dueOn: b.heldUntil ?? addDays(today(), 7), holds: [] as string[] });
  const send = useSend(() => ask(api.POST("/api/bodies/{id}/ask", { params: { path: { id: b.id } }, body: { id, ...f } })), {
    says: "Asked",
    onDone: onClose,
    quiet: true,
  });
  return (
    <FormSheet
      title="Which body is saved?"
      note="The work named here does not begin before it is settled; the floor shows what that costs a week."
      action="Ask"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      <TextField label="Needed by" name="dueOn" type="date" value={f.dueOn} onChange={set("dueOn")} />
      <ChecksField legend="Work that waits for it" named={operations} chosen={f.holds} onChange={set("holds")} />
    </FormSheet>
  );
}
