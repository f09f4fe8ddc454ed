import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { api, ask } from "../api/client";
import { acknowledgementsQuery, gateQuery } from "../api/queries";
import {
  coatName,
  dateOf,
  day,
  days,
  heldName,
  hm,
  hours,
  stageName,
  supportName,
  timeOf,
  tradeName,
  wait,
  weekday,
  words,
} from "../format";
import { layerColour } from "../pictures/Strata";
import { TrialAnswer, useTrial } from "../plan/TrialAnswer";
import { ChoiceField, choices, NumberField, TextField } from "../ui/Field";
import { PlaceLink } from "../ui/PlaceLink";
import { BeforePaint } from "./BeforePaint";
import { GateAsks, signedBy } from "./GateAsks";
import { OperationActions } from "./OperationActions";
import { asksWhy, bodyOf, formOf, type OperationForm } from "./operationBody";
import { gateState } from "./riverMarks";
import { circleOf, followersOf, meanwhile, type Operation } from "./strands";

type Link = Schemas["OperationLink"];

type Props = {
  buildId: string;
  all: readonly Operation[];
  operation: Operation;
  paint: string;
  nameOf: (person: string) => string;
  panelName: (key: string) => string;
  /** A link that a hand has drawn in the picture, to be saved or left. */
  drawn: Link | null;
  onGo: (id: string) => void;
  onClose: () => void;
  onEdit: () => void;
  onWhy: () => void;
  /** What else can be done with it, by key; absent: whoever looks changes nothing. */
  more?: { add: () => void; split: (() => void) | null; merge: (() => void) | null; save: (form: OperationForm) => Promise<boolean> };
};

/** One operation where it stands: when, by whom, what before and after; its hours and links can be changed here. */
export function OperationColumn({
  all,
  operation: o,
  paint,
  nameOf,
  panelName,
  drawn,
  onGo,
  onClose,
  onEdit,
  onWhy,
  more,
  buildId,
}: Props) {
  const byId = new Map(all.map((x) => [x.id, x]));
  const next = followersOf(all).get(o.id) ?? [];
  const facts: [string, string][] = [
    ["Trade", o.trade ? [tradeName(o.trade), ...(o.terms.with ?? []).map((w) => `${w.count} ${tradeName(w.trade)}`)].join(", and ") : ""],
    [
      "Who",
      o.personId
        ? nameOf(o.personId)
        : o.plannedPeople.length > 0 && !o.doneAt
          ? `${o.plannedPeople.map(nameOf).join(", ")}, by the plan`
          : "",
    ],
    ["Station", [o.station ? words(o.station) : "", o.place ? `in ${o.place}` : ""].filter(Boolean).join(", ")],
    [
      "Shell",
      [...(o.terms.needs ?? []).map(supportName), o.terms.sets ? `${supportName(o.terms.sets)} afterwards` : ""].filter(Boolean).join(", "),
    ],
    ["Panels", o.panels.map(panelName).join(", ")],
    ["Gives", [o.coat && coatName(o.coat), o.held && heldName(o.held)].filter(Boolean).join(", ")],
    ["Takes", o.kind === "cure" || o.kind === "outside" ? wait(o.clockMinutes) : ""],
  ];
  return (
    <section aria-label="Chosen operation" className="plan-column">
      <div className="flex items-start gap-2">
        <svg width="8" height="22" aria-hidden="true" className="flex-none mt-[2px]">
          <rect width="8" height="22" fill={layerColour(o.stage, paint)} />
        </svg>
        <h2 className="flex-1 text-[18px] leading-tight">{o.name}</h2>
        <button type="button" className="btn" onClick={onClose}>
          Close
        </button>
      </div>
      <p className="text-ink2 mt-1">
        {stageName(o.stage)}
        {o.kind !== "work" && `, ${words(o.kind)}`}. {whenText(o)}
      </p>
      {o.slackDays !== null && !o.doneAt && (
        <p>
          {o.slackDays > 0
            ? `By its links it can be ${days(o.slackDays)} ${o.slackDays === 1 ? "day" : "days"} later before the build’s end moves.`
            : "No day in hand by its links: each day later here is a day later at the end."}
        </p>
      )}
      {o.warning && !o.doneAt && <p className="text-oxide">{o.warning}</p>}
      {(o.departs.length > 0 || o.departsWhy) && (
        <p>
          {o.departs.length > 0
            ? `Departs from its template: it does not wait for ${o.departs.join(", ")}`
            : "It departed from its template"}
          {o.departsWhy ? `. Why: ${o.departsWhy}` : ""}
          {o.departsWhy.endsWith(".") ? "" : "."}
        </p>
      )}
      {!o.doneAt && o.reason && o.reason.kind !== "nothing" && (
        <p className="mt-1">
          {o.reason.text}.{" "}
          <button type="button" className="underline underline-offset-2" onClick={onWhy}>
            Show why
          </button>
        </p>
      )}
      <div className="mt-2">
        <OperationActions operation={o} onEdit={onEdit} />
      </div>
      {o.kind === "gate" && <GateFacts gate={o} byId={byId} behind={next} onGo={onGo} />}
      <Draft key={`${o.id} ${o.version} ${drawn?.operation ?? ""}`} {...{ buildId, all, operation: o, drawn, onGo, more }} />
      <dl className="op-facts">
        {facts
          .filter(([, text]) => text)
          .map(([name, text]) => (
            <div key={name}>
              <dt>{name}</dt>
              <dd>{text}</dd>
            </div>
          ))}
      </dl>
      {o.hazard && o.caution && (
        <>
          <h3 className="plan-heading">Caution: {words(o.hazard)}</h3>
          <p>{o.caution}</p>
          <ReadBy buildId={buildId} hazard={o.hazard} caution={o.caution} />
        </>
      )}
      <BeforePaint key={o.id} buildId={buildId} operationId={o.id} />
      {o.kind === "outside" && !o.doneAt && <Meanwhile all={all} away={o} onGo={onGo} />}
      <h3 className="plan-heading">What follows</h3>
      {next.length === 0 && <p>Nothing follows it.</p>}
      <ul>
        {next.map((n) => (
          <li key={n.id} className="py-1">
            <button type="button" className="text-left underline underline-offset-2" onClick={() => onGo(n.id)}>
              {n.name}
            </button>
          </li>
        ))}
      </ul>
      {!o.doneAt && o.starts && (
        <p className="mt-2">
          <PlaceLink to={`/plan?at=${o.id}`}>In the plan of all builds</PlaceLink>
        </p>
      )}
      {more && (
        <p className="op-keys">
          <Key letter="E" text="edit" onPress={onEdit} />
          <Key letter="A" text="add after" onPress={more.add} />
          {more.split && <Key letter="S" text="split" onPress={more.split} />}
          {more.merge && <Key letter="G" text="put together" onPress={more.merge} />}
        </p>
      )}
    </section>
  );
}

/** What can be worked on while it is away. */
function Meanwhile({ all, away, onGo }: { all: readonly Operation[]; away: Operation; onGo: (id: string) => void }) {
  const useful = meanwhile(all, away.id);
  const SHOWN = 6;
  return (
    <>
      <h3 className="plan-heading">Useful while it is away</h3>
      {useful.length === 0 && <p>All that is left of this build waits for it.</p>}
      <ol aria-label="Useful while it is away">
        {useful.slice(0, SHOWN).map((o) => (
          <li key={o.id} className="flex gap-2 py-1">
            <button type="button" className="flex-1 text-left underline underline-offset-2" onClick={() => onGo(o.id)}>
              {o.name}
            </button>
            <span className="text-ink2 flex-none">{o.starts ? day(dateOf(o.starts)) : "no date"}</span>
          </li>
        ))}
      </ol>
      {useful.length > SHOWN && <p className="text-ink2">And {useful.length - SHOWN} more.</p>}
    </>
  );
}

function Key({ letter, text, onPress }: { letter: string; text: string; onPress: () => void }) {
  return (
    <button type="button" className="op-key" onClick={onPress}>
      <kbd>{letter}</kbd> {text}
    </button>
  );
}

function whenText(o: Operation): string {
  if (o.doneAt)
    return `Done ${day(dateOf(o.doneAt))}${o.doneBy ? ` by ${o.doneBy}` : ""}${o.kind === "work" ? `, ${hm(o.spentMinutes)} h for ${hours(o.budgetMinutes)}` : ""}.`;
  if (!o.starts || !o.finishes) return "It has no date in the plan.";
  return `${weekday(dateOf(o.starts))} ${timeOf(o.starts)} to ${weekday(dateOf(o.finishes))} ${timeOf(o.finishes)}${o.spentMinutes > 0 ? `, ${hm(o.spentMinutes)} h worked so far` : ""}.`;
}

/** What a gate asks for, who stands under it, and what stands behind it. */
function GateFacts({
  gate,
  byId,
  behind,
  onGo,
}: {
  gate: Operation;
  byId: ReadonlyMap<string, Operation>;
  behind: readonly Operation[];
  onGo: (id: string) => void;
}) {
  const asks = useQuery({ ...gateQuery(gate.id), enabled: !gate.doneAt });
  const state = gateState(gate, byId);
  return (
    <>
      <h3 className="plan-heading">
        {{ signed: "Signed", opened: "Opened without a signature", ready: "Waits for a name", locked: "Shut" }[state]}
      </h3>
      {gate.signatures.map((s) => (
        <p key={`${s.personId} ${s.side}`}>
          {signedBy(s)}, {day(dateOf(s.at))}
          {s.byMaker ? ", who did the work" : ""}
          {s.overrideReason ? `: ${s.overrideReason}` : ""}
          {s.without ? `, without this: ${s.without}` : ""}
        </p>
      ))}
      {asks.data && !gate.doneAt && <GateAsks of={asks.data} onGo={onGo} />}
      {!gate.canOverride && !gate.doneAt && <p>It has no override: nothing behind it begins without the signature.</p>}
      {behind.length > 0 && !gate.doneAt && <p className="text-ink2">Behind it: {behind.map((b) => b.name).join(", ")}.</p>}
    </>
  );
}

/** Hours and links, changed where they stand: the plan answers before anything is saved. */
function Draft({
  buildId,
  all,
  operation: o,
  drawn,
  onGo,
  more,
}: Pick<Props, "buildId" | "all" | "operation" | "drawn" | "onGo" | "more">) {
  const saved = formOf(o);
  const [form, setForm] = useState<OperationForm>(drawn ? { ...saved, after: [...saved.after, drawn] } : saved);
  const changed = JSON.stringify(form) !== JSON.stringify(saved);
  const body = bodyOf(form, o.version);
  const trial = useTrial(
    changed ? body : null,
    (b) =>
      ask(api.POST("/api/builds/{id}/operations/{operationId}/try", { params: { path: { id: buildId, operationId: o.id } }, body: b })),
    ["put", o.id],
  );
  const names = new Map(all.map((x) => [x.id, x.name]));
  const open = more !== undefined && !o.doneAt;
  const hoursField = (label: string, minutes: number | null | undefined, set: (minutes: number | null) => void) => (
    <NumberField
      label={label}
      value={minutes == null ? null : minutes / 60}
      onChange={(v) => set(v === null ? null : Math.round(v * 60))}
    />
  );
  const terms = (to: Partial<OperationForm["terms"]>) => setForm({ ...form, terms: { ...form.terms, ...to } });
  return (
    <>
      {o.kind === "work" && (
        <>
          <h3 className="plan-heading">Hours</h3>
          <Spray
            low={form.terms.lowMinutes ?? null}
            likely={form.budgetMinutes}
            high={form.terms.highMinutes ?? null}
            spent={o.spentMinutes}
          />
          {open ? (
            <div className="grid grid-cols-3 gap-2">
              {hoursField("low", form.terms.lowMinutes, (v) => terms({ lowMinutes: v }))}
              {hoursField("likely", form.budgetMinutes, (v) => setForm({ ...form, budgetMinutes: v ?? 0 }))}
              {hoursField("high", form.terms.highMinutes, (v) => terms({ highMinutes: v }))}
            </div>
          ) : (
            <p>
              {hm(o.spentMinutes)} worked, {hours(o.budgetMinutes)} likely
              {o.terms.lowMinutes && o.terms.highMinutes ? `, ${hours(o.terms.lowMinutes)} low, ${hours(o.terms.highMinutes)} high` : ""}
            </p>
          )}
        </>
      )}
      <h3 className="plan-heading">Comes after</h3>
      {form.after.length === 0 && <p>Nothing comes before it.</p>}
      <ul>
        {form.after.map((a) => (
          <li key={a.operation} className="flex items-baseline gap-2">
            <span className="flex-1">
              <button type="button" className="text-left underline underline-offset-2" onClick={() => onGo(a.operation)}>
                {names.get(a.operation)}
              </button>
              {linkText(a) && <span className="block text-ink2">{linkText(a)}</span>}
            </span>
            {open && (
              <button
                type="button"
                className="btn btn-quiet"
                aria-label={`Unlink ${names.get(a.operation)}`}
                onClick={() => setForm({ ...form, after: form.after.filter((x) => x.operation !== a.operation) })}
              >
                Unlink
              </button>
            )}
          </li>
        ))}
      </ul>
      {open && (
        <ChoiceField
          label="Link after…"
          value=""
          onChange={(v) => v && setForm({ ...form, after: [...form.after, { operation: v, lagMinutes: 0 }] })}
          options={choices(
            // What would go round in a circle is not offered.
            all.filter((x) => x.id !== o.id && !form.after.some((a) => a.operation === x.id) && circleOf(all, o.id, x.id) === null),
            "choose an operation",
          )}
        />
      )}
      {(asksWhy(trial.error) || form.departsWhy !== saved.departsWhy) && (
        <TextField
          label="Why it departs from its template"
          name="departsWhy"
          value={form.departsWhy ?? ""}
          onChange={(departsWhy) => setForm({ ...form, departsWhy })}
        />
      )}
      {changed && (
        <p className="flex gap-2 mt-2">
          <button type="button" className="btn btn-ink" disabled={trial.error !== null} onClick={() => void more?.save(form)}>
            Save
          </button>
          <button type="button" className="btn" onClick={() => setForm(saved)}>
            Leave it as it was
          </button>
        </p>
      )}
      <TrialAnswer trial={trial} />
    </>
  );
}

const linkText = (a: Link) =>
  [
    a.fromStart ? "from its start" : "",
    a.lagMinutes > 0 ? `after ${wait(a.lagMinutes)}${a.working ? " of working time" : ""}` : "",
    a.atMostMinutes != null ? `within ${wait(a.atMostMinutes)}` : "",
    a.lapse ? `else ${a.lapse.name}` : "",
  ]
    .filter(Boolean)
    .join(", ");

/** Low, likely and high on one scale of hours; what was worked below it. */
function Spray({ low, likely, high, spent }: { low: number | null; likely: number; high: number | null; spent: number }) {
  const most = Math.max(high ?? likely * 1.6, likely, spent, 60) * 1.12;
  const w = 230;
  const x = (minutes: number) => (minutes / most) * w;
  const [a, b] = [low ?? likely * 0.8, high ?? likely * 1.4];
  const step = [60, 120, 300, 600, 1200, 3000, 6000, 12000].find((s) => most / s <= 5) ?? 24000;
  const ticks = Array.from({ length: Math.floor(most / step) + 1 }, (_, i) => i * step);
  return (
    <svg width={w} height={42} className="op-spray" aria-hidden="true">
      <path
        d={`M0,12L${x(a)},6L${x(likely)},4L${x(b)},8L${Math.min(w, x(b + (b - likely)))},12L${x(b)},16L${x(likely)},20L${x(a)},18Z`}
        className={low === null ? "op-guess" : "op-known"}
      />
      {[low, high].map(
        (v, i) => v !== null && <path key={i === 0 ? "low" : "high"} d={`M${x(v)},2V22`} stroke="currentColor" strokeWidth={1} />,
      )}
      <path d={`M${x(likely)},1V23`} stroke="currentColor" strokeWidth={2.2} />
      {spent > 0 && <path d={`M0,25H${x(spent)}`} stroke="currentColor" strokeWidth={3} />}
      {ticks.map((t) => (
        <text key={t} x={Math.max(0, x(t) - (t === 0 ? 0 : 8))} y={39} className="op-tick">
          {hours(t)} h
        </text>
      ))}
    </svg>
  );
}

/** Who has read this caution on this build, as it stands now. */
function ReadBy({ buildId, hazard, caution }: { buildId: string; hazard: Schemas["Hazard"]; caution: string }) {
  const read = useQuery(acknowledgementsQuery(buildId)).data?.filter((a) => a.hazard === hazard && a.caution === caution);
  if (!read) return null;
  return (
    <p className="text-ink2">
      {read.length === 0
        ? "Nobody has read it on this build yet."
        : `Read by ${read.map((a) => `${a.person} (${day(dateOf(a.at))}, ${timeOf(a.at)}, at “${a.work}”)`).join("; ")}.`}
    </p>
  );
}
