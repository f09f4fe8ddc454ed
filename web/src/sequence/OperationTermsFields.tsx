import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { BODY_USES, STATIONS, SUPPORTS, supportName, TRADES, tradeName, WORK_KINDS, words } from "../format";
import { ChecksField } from "../ui/ChecksField";
import { CheckField, ChoiceField, choices, LengthField, NumberField, TextField } from "../ui/Field";
import { ListField } from "../ui/ListField";

export type Terms = Required<Schemas["OperationTerms"]>;
type Named = { id: string; name: string };

export const NO_TERMS: Terms = {
  lowMinutes: null,
  highMinutes: null,
  with: [],
  preferred: [],
  hold: null,
  notBefore: null,
  pinnedOn: null,
  pinnedAt: null,
  deadline: null,
  kinds: [],
  uses: [],
  supplierId: null,
  batch: "",
  needs: [],
  forbids: [],
  sets: null,
  closedUntil: null,
  oneAtATime: "",
  body: "beside",
  lowersMm: 0,
  replaced: [],
};

const none = <T extends string>(list: readonly T[], name: (v: T) => string = words): [string, string][] => [
  ["", "none"],
  ...list.map((v): [string, string] => [v, name(v)]),
];
const named = <T extends string>(list: readonly T[], name: (v: T) => string = words): Named[] =>
  list.map((v) => ({ id: v, name: name(v) }));

function Part({ title, says, children }: { title: string; says: string; children: ReactNode }) {
  return (
    <details className="col-span-2 border-t border-p3 pt-2">
      <summary className="cursor-pointer">
        <b className="font-[660]">{title}</b> <span className="text-ink2">{says}</span>
      </summary>
      <div className="grid grid-cols-2 gap-3 mt-2">{children}</div>
    </details>
  );
}

type Props = {
  kind: Schemas["OperationKind"];
  terms: Terms;
  onChange: (to: Partial<Terms>) => void;
  /** Minutes in one unit of what is written: hours, or days at a supplier. */
  unit: number;
  others: Named[];
  people: Named[];
  suppliers: Named[];
  things: readonly string[];
  problem: unknown;
};

/** Plan rules for an operation besides trade, station and links. */
export function OperationTermsFields(p: Props) {
  return (
    <>
      <SpreadAndCrew {...p} />
      {p.kind === "outside" && <Supplier {...p} />}
      <PlaceAndAir {...p} />
      <Shell {...p} />
      <Part title="Dates of its own" says={[p.terms.notBefore, p.terms.deadline].filter(Boolean).join(" to ") || "none"}>
        <TextField
          label="Not before"
          type="date"
          value={p.terms.notBefore ?? ""}
          onChange={(v) => p.onChange({ notBefore: v || null })}
          problem={p.problem}
        />
        <TextField
          label="Should be done by"
          name="deadline"
          type="date"
          value={p.terms.deadline ?? ""}
          onChange={(v) => p.onChange({ deadline: v || null })}
          problem={p.problem}
        />
      </Part>
    </>
  );
}

function SpreadAndCrew({ kind, terms: t, onChange, unit, people, problem }: Props) {
  const crew = t.with.reduce((sum, w) => sum + w.count, 0);
  const says = [t.highMinutes !== null && "own spread", crew > 0 && `${crew} more at once`, t.preferred.length > 0 && "preferred people"];
  const minutes = (v: number | null) => (v === null ? null : Math.round(v * unit));
  const spread = kind === "outside" ? "days" : "h";
  return (
    <Part title={kind === "work" ? "Spread and crew" : "Spread"} says={says.filter(Boolean).join(", ") || "as the log says"}>
      <NumberField
        label={`One in five takes less than, ${spread}`}
        name="lowMinutes"
        value={t.lowMinutes === null ? null : t.lowMinutes / unit}
        onChange={(v) => onChange({ lowMinutes: minutes(v) })}
        problem={problem}
      />
      <NumberField
        label={`One in five takes more than, ${spread}`}
        name="highMinutes"
        value={t.highMinutes === null ? null : t.highMinutes / unit}
        onChange={(v) => onChange({ highMinutes: minutes(v) })}
        problem={problem}
      />
      {kind === "work" && (
        <>
          <ListField
            legend="More people at the same time"
            rows={t.with}
            onChange={(v) => onChange({ with: v })}
            add="More hands"
            next={() => ({ trade: "hand" as const, count: 1 })}
          >
            {(w, change) => (
              <>
                <ChoiceField
                  className="flex-1"
                  label="Trade"
                  name="with"
                  value={w.trade}
                  onChange={(v) => change({ trade: v })}
                  options={TRADES.map((x) => [x, tradeName(x)] as const)}
                  problem={problem}
                />
                <NumberField className="w-24" label="How many" value={w.count} onChange={(v) => change({ count: v ?? 1 })} />
              </>
            )}
          </ListField>
          <ChecksField legend="Whom it suits best" named={people} chosen={t.preferred} onChange={(v) => onChange({ preferred: v })} />
        </>
      )}
    </Part>
  );
}

function Supplier({ terms: t, onChange, suppliers, problem }: Props) {
  const who = suppliers.find((s) => s.id === t.supplierId)?.name;
  return (
    <Part title="Supplier" says={[who ?? "nobody named", t.batch && `batch ${t.batch}`].filter(Boolean).join(", ")}>
      <ChoiceField
        label="Who does it; days are then its working days"
        name="supplierId"
        value={t.supplierId ?? ""}
        onChange={(v) => onChange({ supplierId: v || null })}
        options={choices(suppliers, "nobody named: calendar days")}
        problem={problem}
      />
      <TextField
        label="Batch that leaves together"
        name="batch"
        value={t.batch}
        onChange={(v) => onChange({ batch: v })}
        problem={problem}
      />
    </Part>
  );
}

function PlaceAndAir({ terms: t, onChange, others, things, problem }: Props) {
  const says = [
    t.hold && `holds the ${t.hold.station}`,
    t.kinds.length > 0 && t.kinds.map(words).join(", "),
    t.uses.length > 0 && t.uses.map((u) => `${u.count} ${u.name}`).join(", "),
    t.oneAtATime && `one at a time: ${t.oneAtATime}`,
  ];
  return (
    <Part title="Place, air, shared things" says={says.filter(Boolean).join("; ") || "nothing besides its station"}>
      <ChoiceField
        label="Holds a station from its start"
        name="hold"
        value={t.hold?.station ?? ""}
        onChange={(v) => onChange({ hold: v ? { station: v as Schemas["StationKind"], until: t.hold?.until ?? "" } : null })}
        options={none(STATIONS)}
        problem={problem}
      />
      {t.hold ? (
        <ChoiceField
          label="until the end of"
          value={t.hold.until}
          onChange={(v) => t.hold && onChange({ hold: { ...t.hold, until: v } })}
          options={choices(others, "choose an operation")}
        />
      ) : (
        <span />
      )}
      <ChecksField
        legend="Kind of work, for the air and for who is given it"
        named={named(WORK_KINDS)}
        chosen={t.kinds}
        onChange={(v) => onChange({ kinds: v as Terms["kinds"] })}
      />
      {things.length > 0 && (
        <ListField
          legend="Shared things in use"
          rows={t.uses}
          onChange={(v) => onChange({ uses: v })}
          add="Use a shared thing"
          next={() => ({ name: things[0] ?? "", count: 1 })}
        >
          {(u, change) => (
            <>
              <ChoiceField
                className="flex-1"
                label="What"
                name="uses"
                value={u.name}
                onChange={(v) => change({ name: v })}
                options={things.map((x) => [x, x] as const)}
                problem={problem}
              />
              <NumberField className="w-24" label="How many" value={u.count} onChange={(v) => change({ count: v ?? 1 })} />
            </>
          )}
        </ListField>
      )}
      <TextField
        className="col-span-2"
        label="One at a time with others that say the same word"
        value={t.oneAtATime}
        onChange={(v) => onChange({ oneAtATime: v })}
      />
    </Part>
  );
}

function Shell({ terms: t, onChange, others, problem }: Props) {
  const says = [
    t.body !== "beside" && BODY_USES[t.body],
    t.needs.length > 0 && `needs ${t.needs.map(supportName).join(" or ")}`,
    t.forbids.length > 0 && `out of reach ${t.forbids.map(supportName).join(", ")}`,
    t.sets && `then ${supportName(t.sets)}`,
    t.lowersMm > 0 && "lowers it",
    t.closedUntil && "reference side",
  ];
  const supports = named(SUPPORTS, supportName);
  return (
    <Part title="The shell" says={says.filter(Boolean).join("; ") || "however it stands"}>
      <ChoiceField
        label="Where it is done"
        value={t.body}
        onChange={(v) => onChange({ body: v })}
        options={Object.entries(BODY_USES) as [Terms["body"], string][]}
      />
      <ChoiceField
        label="Shell is held afterwards"
        value={t.sets ?? ""}
        onChange={(v) => onChange({ sets: (v || null) as Terms["sets"] })}
        options={none(SUPPORTS, supportName)}
      />
      <LengthField
        label="Lowers the shell by"
        name="lowersMm"
        value={t.lowersMm}
        onChange={(v) => onChange({ lowersMm: v ?? 0 })}
        problem={problem}
      />
      <ChecksField legend="Needs the shell" named={supports} chosen={t.needs} onChange={(v) => onChange({ needs: v as Terms["needs"] })} />
      <ChecksField
        legend="Out of reach while the shell is"
        named={supports}
        chosen={t.forbids}
        onChange={(v) => onChange({ forbids: v as Terms["forbids"] })}
      />
      <ChoiceField
        className="col-span-2"
        label="Reference side: closed until this is signed off, unless a jig is booked"
        name="closedUntil"
        value={t.closedUntil ?? ""}
        onChange={(v) => onChange({ closedUntil: v || null })}
        options={choices(others, "not a reference side")}
        problem={problem}
      />
    </Part>
  );
}

type Link = Schemas["OperationLink"];

/** What an operation comes after, with the wait, the window and what a lapsed window asks for. */
export function LinksField({
  after,
  all,
  onChange,
  problem,
}: {
  after: Link[];
  all: Named[];
  onChange: (v: Link[]) => void;
  problem: unknown;
}) {
  const change = (link: Link, to: Partial<Link>) => onChange(after.map((x) => (x === link ? { ...x, ...to } : x)));
  const minutes = (hours: number | null) => (hours === null ? null : Math.round(hours * 60));
  return (
    <fieldset className="col-span-2 border-t border-p3 pt-2">
      <legend className="font-[660]">Comes after</legend>
      {after.map((a) => (
        <div key={a.operation} className="grid grid-cols-[1fr_84px_84px_auto] items-end gap-2 mb-2">
          <span className="self-center">{all.find((o) => o.id === a.operation)?.name}</span>
          <NumberField label="wait, h" value={a.lagMinutes / 60} onChange={(v) => change(a, { lagMinutes: minutes(v) ?? 0 })} />
          <NumberField
            label="at most, h"
            value={a.atMostMinutes == null ? null : a.atMostMinutes / 60}
            onChange={(v) => change(a, { atMostMinutes: minutes(v), ...(v === null ? { lapse: null } : {}) })}
          />
          <button type="button" className="btn" onClick={() => onChange(after.filter((x) => x !== a))}>
            Unlink
          </button>
          <div className="col-span-4 flex flex-wrap gap-x-4">
            <CheckField label="counted from its start" value={a.fromStart ?? false} onChange={(v) => change(a, { fromStart: v })} />
            <CheckField label="wait in working time" value={a.working ?? false} onChange={(v) => change(a, { working: v })} />
            {a.atMostMinutes != null && (
              <CheckField
                label="work added when it lapses"
                value={a.lapse != null}
                onChange={(v) => change(a, { lapse: v ? { name: "Clean again", minutes: 60, trade: "strip" } : null })}
              />
            )}
          </div>
          {a.lapse && (
            <div className="col-span-4 grid grid-cols-[1fr_84px_110px] gap-2">
              <TextField
                label="Work that must be repeated"
                value={a.lapse.name}
                onChange={(v) => a.lapse && change(a, { lapse: { ...a.lapse, name: v } })}
              />
              <NumberField
                label="hours"
                value={a.lapse.minutes / 60}
                onChange={(v) => a.lapse && change(a, { lapse: { ...a.lapse, minutes: minutes(v) ?? 15 } })}
              />
              <ChoiceField
                label="Trade"
                value={a.lapse.trade}
                onChange={(v) => a.lapse && change(a, { lapse: { ...a.lapse, trade: v } })}
                options={TRADES.map((x) => [x, tradeName(x)] as const)}
              />
            </div>
          )}
        </div>
      ))}
      <ChoiceField
        label="Link after…"
        name="after"
        problem={problem}
        value=""
        onChange={(v) => v && onChange([...after, { operation: v, lagMinutes: 0 }])}
        options={choices(
          all.filter((o) => !after.some((a) => a.operation === o.id)),
          "choose an operation",
        )}
      />
    </fieldset>
  );
}
