import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { shopQuery } from "../api/queries";
import { STATIONS, TRADES } from "../builds/SequenceTab";
import { day, money, today } from "../format";
import { CheckField, ChoiceField, choices, NumberField, TextField } from "../ui/Field";
import { FormSheet, useForm } from "../ui/FormSheet";
import { Empty, Shown } from "../ui/States";
import { useSend } from "../ui/useSend";

type Shop = Schemas["ShopView"];
type Editing =
  | { what: "settings" }
  | { what: "week" }
  | { what: "person"; person: Schemas["PersonView"] | null }
  | { what: "rate"; person: Schemas["PersonView"] }
  | { what: "absence"; person: Schemas["PersonView"] }
  | { what: "station"; station: Schemas["StationView"] | null }
  | { what: "supplier"; supplier: Schemas["SupplierView"] | null }
  | { what: "closed" }
  | { what: "account" };

export const WEEKDAYS = ["monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"] as const;

export function ShopPage() {
  const shop = useQuery(shopQuery);
  const [editing, setEditing] = useState<Editing | null>(null);
  const close = () => setEditing(null);
  return (
    <div className="px-5 pt-3 pb-12">
      <h1 className="mb-3">Shop</h1>
      <Shown of={shop}>
        {(s) => (
          <>
            <div className="grid grid-cols-2 gap-x-10 gap-y-8 items-start">
              <Settings shop={s} edit={setEditing} />
              <Week shop={s} edit={setEditing} />
              <People shop={s} edit={setEditing} />
              <Stations shop={s} edit={setEditing} />
              <Suppliers shop={s} edit={setEditing} />
              <Accounts edit={setEditing} />
            </div>
            {editing?.what === "settings" && <SettingsSheet settings={s.settings} onClose={close} />}
            {editing?.what === "week" && <WeekSheet settings={s.settings} onClose={close} />}
            {editing?.what === "person" && <PersonSheet person={editing.person} onClose={close} />}
            {editing?.what === "rate" && <RateSheet person={editing.person} onClose={close} />}
            {editing?.what === "absence" && <AbsenceSheet person={editing.person} onClose={close} />}
            {editing?.what === "station" && <StationSheet station={editing.station} onClose={close} />}
            {editing?.what === "supplier" && <SupplierSheet supplier={editing.supplier} onClose={close} />}
            {editing?.what === "closed" && <ClosedSheet onClose={close} />}
            {editing?.what === "account" && <AccountSheet people={s.people} onClose={close} />}
          </>
        )}
      </Shown>
    </div>
  );
}

type Part = { shop: Shop; edit: (e: Editing) => void };

function Section({
  title,
  action,
  onAction,
  children,
}: {
  title: string;
  action: string;
  onAction: () => void;
  children: React.ReactNode;
}) {
  return (
    <section aria-label={title}>
      <div className="flex items-baseline border-t border-ink pt-2 mb-1">
        <h2 className="flex-1">{title}</h2>
        <button type="button" className="btn" onClick={onAction}>
          {action}
        </button>
      </div>
      {children}
    </section>
  );
}

function Settings({ shop: { settings: s }, edit }: Part) {
  const rows: [string, string][] = [
    ["Name", [s.name, s.place].filter(Boolean).join(", ")],
    ["Currency, time zone, units", `${s.currency}, ${s.timeZone}, ${s.units}`],
    [
      "Tax",
      `labour ${s.taxRates.labour} %, parts ${s.taxRates.parts} %, outside ${s.taxRates.outside} %, materials ${s.taxRates.materials} %`,
    ],
    [
      "Mark-up on parts",
      s.partTiers.map((t) => (t.upTo === null ? `above ${t.percent} %` : `to ${money(t.upTo)} ${t.percent} %`)).join(", "),
    ],
    ["Mark-up", `outside ${s.outsideMarkup} %, materials ${s.materialsMarkup} %`],
    ["Consumables", `${s.consumablesPercent} % of labour${s.consumablesCap !== null ? `, at most ${money(s.consumablesCap)}` : ""}`],
    ["Overtime", `after ${s.overtimeAfterHours} h a day, ${s.overtimeMultiplier} times`],
    ["Plan", `${s.planWidthMm / 1000} x ${s.planDepthMm / 1000} m`],
  ];
  return (
    <Section title="Settings" action="Change" onAction={() => edit({ what: "settings" })}>
      <table className="rows">
        <tbody>
          {rows.map(([k, v]) => (
            <tr key={k}>
              <td className="text-ink2 w-[170px]">{k}</td>
              <td>{v}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}

function Week({ shop, edit }: Part) {
  const reopen = useSend((date: string) => ask(api.DELETE("/api/shop/closed-days/{date}", { params: { path: { date } } })));
  return (
    <Section title="Calendar" action="Change the week" onAction={() => edit({ what: "week" })}>
      <table className="rows">
        <tbody>
          {WEEKDAYS.map((d) => (
            <tr key={d}>
              <td className="text-ink2 w-[110px]">{d}</td>
              <td>
                {shop.settings.week
                  .filter((w) => w.day === d)
                  .map(
                    (w) =>
                      `${w.from.slice(0, 5)} to ${w.to.slice(0, 5)}${w.breaks.length > 0 ? `, break ${w.breaks.map((b) => `${b.from.slice(0, 5)} to ${b.to.slice(0, 5)}`).join(", ")}` : ""}`,
                  )
                  .join("; ") || "closed"}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2">
        <b>Closed days</b>{" "}
        <button type="button" className="btn" onClick={() => edit({ what: "closed" })}>
          Add
        </button>
      </p>
      <ul>
        {shop.closedDays.map((c) => (
          <li key={c.date} className="flex gap-2 py-[2px]">
            <span className="flex-1">
              {day(c.date)}, {c.reason}
            </span>
            <button type="button" className="btn !py-0" aria-label={`Open on ${c.date}`} onClick={() => reopen.mutate(c.date)}>
              Open
            </button>
          </li>
        ))}
      </ul>
    </Section>
  );
}

function People({ shop, edit }: Part) {
  return (
    <Section title="People" action="Add a person" onAction={() => edit({ what: "person", person: null })}>
      {shop.people.length === 0 && <Empty>Nobody yet.</Empty>}
      <table className="rows">
        <tbody>
          {shop.people.map((p) => {
            const rate = p.rates?.filter((r) => r.from <= today()).at(-1);
            return (
              <tr key={p.id}>
                <td className="font-[640]">
                  {p.name}
                  {!p.active && <span className="text-ink2"> (gone)</span>}
                  <span className="block text-ink2 font-[450]">{p.trades.join(", ") || "no trade"}</span>
                </td>
                <td className="num">
                  {rate ? (
                    <>
                      {money(rate.billing)}
                      <span className="block text-ink2">costs {rate.cost === null ? "–" : money(rate.cost)}</span>
                    </>
                  ) : (
                    <span className="text-oxide">no rate</span>
                  )}
                </td>
                <td className="whitespace-nowrap text-right">
                  <button type="button" className="btn" aria-label={`Rate of ${p.name}`} onClick={() => edit({ what: "rate", person: p })}>
                    Rate
                  </button>{" "}
                  <button
                    type="button"
                    className="btn"
                    aria-label={`Absences of ${p.name}`}
                    onClick={() => edit({ what: "absence", person: p })}
                  >
                    Away{p.absences.length > 0 ? ` (${p.absences.length})` : ""}
                  </button>{" "}
                  <button type="button" className="btn" aria-label={`Edit ${p.name}`} onClick={() => edit({ what: "person", person: p })}>
                    Edit
                  </button>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </Section>
  );
}

function Stations({ shop, edit }: Part) {
  return (
    <Section title="Stations" action="Add a station" onAction={() => edit({ what: "station", station: null })}>
      {shop.stations.length === 0 && <Empty>No station yet.</Empty>}
      <table className="rows">
        <tbody>
          {shop.stations.map((s) => (
            <tr key={s.id}>
              <td className="font-[640]">{s.name}</td>
              <td>
                {s.kind}
                {s.count > 1 ? `, for ${s.count}` : ""}
              </td>
              <td>
                {s.widthMm / 1000} x {s.depthMm / 1000} m{s.doorHeightMm ? `, door ${s.doorHeightMm / 1000} m high` : ""}
              </td>
              <td className="text-right">
                <button type="button" className="btn" aria-label={`Edit ${s.name}`} onClick={() => edit({ what: "station", station: s })}>
                  Edit
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}

function Suppliers({ shop, edit }: Part) {
  return (
    <Section title="Suppliers" action="Add a supplier" onAction={() => edit({ what: "supplier", supplier: null })}>
      {shop.suppliers.length === 0 && <Empty>No supplier yet.</Empty>}
      <table className="rows">
        <tbody>
          {shop.suppliers.map((s) => (
            <tr key={s.id}>
              <td className="font-[640]">{s.name}</td>
              <td>{s.what}</td>
              <td>{s.freightDays.length === 0 ? "any day" : s.freightDays.map((d) => d.slice(0, 3)).join(", ")}</td>
              <td className="text-right">
                <button type="button" className="btn" aria-label={`Edit ${s.name}`} onClick={() => edit({ what: "supplier", supplier: s })}>
                  Edit
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}

function Accounts({ edit }: { edit: (e: Editing) => void }) {
  const accounts = useQuery({ queryKey: ["accounts"], queryFn: () => ask(api.GET("/api/accounts")) });
  return (
    <Section title="Accounts" action="Add an account" onAction={() => edit({ what: "account" })}>
      <table className="rows">
        <tbody>
          {(accounts.data ?? []).map((a) => (
            <tr key={a.id}>
              <td className="font-[640]">{a.user}</td>
              <td>{a.name}</td>
              <td>{a.role}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}

function useSaveSettings(settings: Schemas["SettingsBody"], onClose: () => void) {
  return useSend((body: Schemas["SettingsBody"]) => ask(api.PUT("/api/shop/settings", { body: { ...body, version: settings.version } })), {
    says: "Saved",
    onDone: onClose,
    quiet: true,
  });
}

function SettingsSheet({ settings, onClose }: { settings: Schemas["SettingsBody"]; onClose: () => void }) {
  const [f, set] = useForm(settings);
  const save = useSaveSettings(settings, onClose);
  const tax = (key: keyof Schemas["TaxView"]) => (
    <NumberField
      label={`Tax on ${key}, %`}
      name="taxRates"
      value={f.taxRates[key]}
      onChange={(v) => set("taxRates")({ ...f.taxRates, [key]: v ?? 0 })}
      problem={save.error}
    />
  );
  const fields = [
    "name",
    "place",
    "phone",
    "currency",
    "timeZone",
    "taxRates",
    "partTiers",
    "outsideMarkup",
    "materialsMarkup",
    "consumablesPercent",
    "consumablesCap",
    "overtimeAfterHours",
    "overtimeMultiplier",
    "planWidthMm",
    "planDepthMm",
  ];
  return (
    <FormSheet
      title="Settings"
      onClose={onClose}
      onSubmit={() => save.mutate(f)}
      problem={save.error}
      except={fields}
      busy={save.isPending}
    >
      <TextField label="Name" name="name" value={f.name} onChange={set("name")} problem={save.error} />
      <TextField label="Place" name="place" value={f.place} onChange={set("place")} problem={save.error} />
      <TextField label="Telephone" name="phone" value={f.phone} onChange={set("phone")} problem={save.error} />
      <TextField
        label="Currency"
        name="currency"
        value={f.currency}
        onChange={(v) => set("currency")(v.toUpperCase())}
        problem={save.error}
      />
      <TextField label="Time zone" name="timeZone" value={f.timeZone} onChange={set("timeZone")} problem={save.error} />
      <ChoiceField
        label="Units"
        value={f.units}
        onChange={set("units")}
        options={[
          ["metric", "metric"],
          ["us", "US"],
        ]}
      />
      {tax("labour")}
      {tax("parts")}
      {tax("outside")}
      {tax("materials")}
      {f.partTiers.map((t, i) => (
        <div key={i} className="col-span-2 grid grid-cols-2 gap-3">
          {t.upTo === null ? (
            <span className="self-end">parts above that</span>
          ) : (
            <NumberField
              label="Parts up to"
              name="partTiers"
              value={t.upTo}
              onChange={(v) => set("partTiers")(f.partTiers.map((x, j) => (i === j ? { ...x, upTo: v } : x)))}
              problem={save.error}
            />
          )}
          <NumberField
            label="mark-up, %"
            value={t.percent}
            onChange={(v) => set("partTiers")(f.partTiers.map((x, j) => (i === j ? { ...x, percent: v ?? 0 } : x)))}
          />
        </div>
      ))}
      <button
        type="button"
        className="btn col-span-2 justify-self-start"
        onClick={() =>
          set("partTiers")(
            [{ upTo: (f.partTiers.at(-2)?.upTo ?? 0) + 100, percent: f.partTiers[0]?.percent ?? 0 }, ...f.partTiers].sort(
              (a, b) => (a.upTo ?? Infinity) - (b.upTo ?? Infinity),
            ),
          )
        }
      >
        Another tier
      </button>
      <NumberField
        label="Mark-up on outside work, %"
        name="outsideMarkup"
        value={f.outsideMarkup}
        onChange={(v) => set("outsideMarkup")(v ?? 0)}
        problem={save.error}
      />
      <NumberField
        label="Mark-up on materials, %"
        name="materialsMarkup"
        value={f.materialsMarkup}
        onChange={(v) => set("materialsMarkup")(v ?? 0)}
        problem={save.error}
      />
      <NumberField
        label="Consumables, % of labour"
        name="consumablesPercent"
        value={f.consumablesPercent}
        onChange={(v) => set("consumablesPercent")(v ?? 0)}
        problem={save.error}
      />
      <NumberField
        label="Consumables, at most"
        name="consumablesCap"
        value={f.consumablesCap}
        onChange={set("consumablesCap")}
        problem={save.error}
      />
      <ChoiceField
        label="Billed minutes"
        value={f.rounding}
        onChange={set("rounding")}
        options={[
          ["none", "as worked"],
          ["nearest6", "nearest tenth of an hour"],
          ["up15", "up to the quarter"],
        ]}
      />
      <NumberField
        label="Overtime after, h a day"
        name="overtimeAfterHours"
        value={f.overtimeAfterHours}
        onChange={(v) => set("overtimeAfterHours")(v ?? 0)}
        problem={save.error}
      />
      <NumberField
        label="Overtime counts"
        name="overtimeMultiplier"
        value={f.overtimeMultiplier}
        onChange={(v) => set("overtimeMultiplier")(v ?? 1)}
        problem={save.error}
      />
      <span />
      <NumberField
        label="Plan, width in mm"
        name="planWidthMm"
        value={f.planWidthMm}
        onChange={(v) => set("planWidthMm")(v ?? 0)}
        problem={save.error}
      />
      <NumberField
        label="Plan, depth in mm"
        name="planDepthMm"
        value={f.planDepthMm}
        onChange={(v) => set("planDepthMm")(v ?? 0)}
        problem={save.error}
      />
    </FormSheet>
  );
}

function WeekSheet({ settings, onClose }: { settings: Schemas["SettingsBody"]; onClose: () => void }) {
  const save = useSaveSettings(settings, onClose);
  const [week, setWeek] = useState(settings.week);
  const change = (i: number, to: Partial<Schemas["DayShift"]>) => setWeek((w) => w.map((x, j) => (i === j ? { ...x, ...to } : x)));
  return (
    <FormSheet
      title="The week"
      note="A shift belongs to the day it starts on, also over midnight."
      onClose={onClose}
      onSubmit={() => save.mutate({ ...settings, week })}
      problem={save.error}
      except={[]}
      busy={save.isPending}
    >
      {week.map((s, i) => (
        <fieldset key={i} className="col-span-2 grid grid-cols-[1fr_80px_80px_auto] gap-2 items-end border-t border-p2 pt-2">
          <ChoiceField label="Day" value={s.day} onChange={(v) => change(i, { day: v })} options={WEEKDAYS.map((d) => [d, d] as const)} />
          <TextField label="From" type="time" value={s.from.slice(0, 5)} onChange={(v) => change(i, { from: `${v}:00` })} />
          <TextField label="To" type="time" value={s.to.slice(0, 5)} onChange={(v) => change(i, { to: `${v}:00` })} />
          <button type="button" className="btn" onClick={() => setWeek((w) => w.filter((_, j) => j !== i))}>
            Remove
          </button>
          {s.breaks.map((b, k) => (
            <div key={k} className="col-span-4 grid grid-cols-[1fr_80px_80px_auto] gap-2 items-end">
              <span className="text-ink2 self-center">unpaid break</span>
              <TextField
                label="From"
                type="time"
                value={b.from.slice(0, 5)}
                onChange={(v) => change(i, { breaks: s.breaks.map((x, j) => (j === k ? { ...x, from: `${v}:00` } : x)) })}
              />
              <TextField
                label="To"
                type="time"
                value={b.to.slice(0, 5)}
                onChange={(v) => change(i, { breaks: s.breaks.map((x, j) => (j === k ? { ...x, to: `${v}:00` } : x)) })}
              />
              <button type="button" className="btn" onClick={() => change(i, { breaks: s.breaks.filter((_, j) => j !== k) })}>
                Remove
              </button>
            </div>
          ))}
          <button
            type="button"
            className="btn col-span-4 justify-self-start"
            onClick={() => change(i, { breaks: [...s.breaks, { from: "12:00:00", to: "12:30:00" }] })}
          >
            Add a break
          </button>
        </fieldset>
      ))}
      <button
        type="button"
        className="btn col-span-2 justify-self-start"
        onClick={() => setWeek((w) => [...w, { day: "saturday", from: "08:00:00", to: "12:00:00", breaks: [] }])}
      >
        Add a shift
      </button>
    </FormSheet>
  );
}

function PersonSheet({ person, onClose }: { person: Schemas["PersonView"] | null; onClose: () => void }) {
  const [id] = useState(person?.id ?? newId());
  const [f, set] = useForm({ name: person?.name ?? "", trades: person?.trades ?? [], active: person?.active ?? true });
  const save = useSend(
    () => ask(api.PUT("/api/shop/people/{id}", { params: { path: { id } }, body: { ...f, version: person?.version ?? null } })),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={person?.name ?? "New person"}
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      except={["name"]}
      busy={save.isPending}
    >
      <TextField className="col-span-2" label="Name" name="name" value={f.name} onChange={set("name")} problem={save.error} autoFocus />
      <fieldset className="col-span-2">
        <legend className="font-[660]">Trades</legend>
        <div className="grid grid-cols-3">
          {TRADES.map((t) => (
            <CheckField
              key={t}
              label={t}
              value={f.trades.includes(t)}
              onChange={(on) => set("trades")(on ? [...f.trades, t] : f.trades.filter((x) => x !== t))}
            />
          ))}
        </div>
      </fieldset>
      <CheckField label="Works here" value={f.active} onChange={set("active")} />
    </FormSheet>
  );
}

function RateSheet({ person, onClose }: { person: Schemas["PersonView"]; onClose: () => void }) {
  const last = person.rates?.at(-1);
  const [f, set] = useForm({ from: today(), cost: last?.cost ?? 0, billing: last?.billing ?? 0 });
  const save = useSend(() => ask(api.PUT("/api/shop/people/{id}/rates", { params: { path: { id: person.id } }, body: f })), {
    says: "Saved",
    onDone: onClose,
    quiet: true,
  });
  return (
    <FormSheet
      title={`Rate of ${person.name}`}
      note="Holds from a day on; work is billed at the rate of its day."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      except={["from", "cost", "billing"]}
      busy={save.isPending}
    >
      <TextField label="From" type="date" name="from" value={f.from} onChange={set("from")} problem={save.error} />
      <span />
      <NumberField label="Costs the shop, per hour" name="cost" value={f.cost} onChange={(v) => set("cost")(v ?? 0)} problem={save.error} />
      <NumberField
        label="Billed, per hour, net"
        name="billing"
        value={f.billing}
        onChange={(v) => set("billing")(v ?? 0)}
        problem={save.error}
      />
      <ul className="col-span-2 text-ink2">
        {(person.rates ?? []).map((r) => (
          <li key={r.from}>
            from {day(r.from)}: {money(r.billing)}, costs {r.cost === null ? "–" : money(r.cost)}
          </li>
        ))}
      </ul>
    </FormSheet>
  );
}

function AbsenceSheet({ person, onClose }: { person: Schemas["PersonView"]; onClose: () => void }) {
  const [list, setList] = useState(person.absences);
  const change = (i: number, to: Partial<Schemas["Absence"]>) => setList((l) => l.map((x, j) => (i === j ? { ...x, ...to } : x)));
  const save = useSend(
    () => ask(api.PUT("/api/shop/people/{id}/absences", { params: { path: { id: person.id } }, body: { absences: list } })),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={`When ${person.name} is away`}
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      except={[]}
      busy={save.isPending}
    >
      {list.map((a, i) => (
        <div key={i} className="col-span-2 grid grid-cols-[1fr_1fr_1fr_auto] gap-2 items-end">
          <TextField label="From" type="datetime-local" value={a.from.slice(0, 16)} onChange={(v) => change(i, { from: `${v}:00` })} />
          <TextField label="To" type="datetime-local" value={a.to.slice(0, 16)} onChange={(v) => change(i, { to: `${v}:00` })} />
          <TextField label="Why" value={a.reason} onChange={(v) => change(i, { reason: v })} />
          <button type="button" className="btn" onClick={() => setList((l) => l.filter((_, j) => j !== i))}>
            Remove
          </button>
        </div>
      ))}
      <button
        type="button"
        className="btn col-span-2 justify-self-start"
        onClick={() => setList((l) => [...l, { from: `${today()}T00:00:00`, to: `${today()}T23:59:00`, reason: "" }])}
      >
        Add
      </button>
    </FormSheet>
  );
}

function StationSheet({ station, onClose }: { station: Schemas["StationView"] | null; onClose: () => void }) {
  const [id] = useState(station?.id ?? newId());
  const [f, set] = useForm<Omit<Schemas["StationBody"], "version">>(
    station ?? { name: "", kind: "bay", count: 1, xMm: 0, yMm: 0, widthMm: 6500, depthMm: 4500, doorHeightMm: null, walled: false },
  );
  const body = (): Schemas["StationBody"] => ({
    name: f.name,
    kind: f.kind,
    count: f.count,
    xMm: f.xMm,
    yMm: f.yMm,
    widthMm: f.widthMm,
    depthMm: f.depthMm,
    doorHeightMm: f.doorHeightMm,
    walled: f.walled,
    version: station?.version ?? null,
  });
  const save = useSend(() => ask(api.PUT("/api/shop/stations/{id}", { params: { path: { id } }, body: body() })), {
    says: "Saved",
    onDone: onClose,
    quiet: true,
  });
  const number = (label: string, key: "count" | "xMm" | "yMm" | "widthMm" | "depthMm") => (
    <NumberField label={label} name={key} value={f[key]} onChange={(v) => set(key)(v ?? 0)} problem={save.error} />
  );
  return (
    <FormSheet
      title={station?.name ?? "New station"}
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      except={["name", "count", "xMm", "yMm", "widthMm", "depthMm", "doorHeightMm"]}
      busy={save.isPending}
    >
      <TextField label="Name" name="name" value={f.name} onChange={set("name")} problem={save.error} autoFocus />
      <ChoiceField label="Kind" value={f.kind} onChange={set("kind")} options={STATIONS.map((k) => [k, k] as const)} />
      {number("Serves how many builds", "count")}
      <NumberField label="Door height, mm" name="doorHeightMm" value={f.doorHeightMm} onChange={set("doorHeightMm")} problem={save.error} />
      {number("From the left of the plan, mm", "xMm")}
      {number("From the top of the plan, mm", "yMm")}
      {number("Width, mm", "widthMm")}
      {number("Depth, mm", "depthMm")}
      <CheckField label="Walls round it" value={f.walled} onChange={set("walled")} />
    </FormSheet>
  );
}

function SupplierSheet({ supplier, onClose }: { supplier: Schemas["SupplierView"] | null; onClose: () => void }) {
  const [id] = useState(supplier?.id ?? newId());
  const [f, set] = useForm({ name: supplier?.name ?? "", what: supplier?.what ?? "", freightDays: supplier?.freightDays ?? [] });
  const save = useSend(
    () => ask(api.PUT("/api/shop/suppliers/{id}", { params: { path: { id } }, body: { ...f, version: supplier?.version ?? null } })),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={supplier?.name ?? "New supplier"}
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      except={["name", "what"]}
      busy={save.isPending}
    >
      <TextField label="Name" name="name" value={f.name} onChange={set("name")} problem={save.error} autoFocus />
      <TextField label="For what" name="what" value={f.what} onChange={set("what")} problem={save.error} />
      <fieldset className="col-span-2">
        <legend className="font-[660]">Goods come on (none: any day)</legend>
        <div className="grid grid-cols-3">
          {WEEKDAYS.map((d) => (
            <CheckField
              key={d}
              label={d}
              value={f.freightDays.includes(d)}
              onChange={(on) => set("freightDays")(on ? [...f.freightDays, d] : f.freightDays.filter((x) => x !== d))}
            />
          ))}
        </div>
      </fieldset>
    </FormSheet>
  );
}

function ClosedSheet({ onClose }: { onClose: () => void }) {
  const [id] = useState(() => newId());
  const [f, set] = useForm({ date: today(), reason: "" });
  const save = useSend(
    () => ask(api.PUT("/api/shop/closed-days/{date}", { params: { path: { date: f.date } }, body: { id, reason: f.reason } })),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title="Closed day"
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      except={["date", "reason"]}
      busy={save.isPending}
    >
      <TextField label="Day" type="date" name="date" value={f.date} onChange={set("date")} problem={save.error} />
      <TextField label="Why" name="reason" value={f.reason} onChange={set("reason")} problem={save.error} />
    </FormSheet>
  );
}

function AccountSheet({ people, onClose }: { people: Schemas["PersonView"][]; onClose: () => void }) {
  const [id] = useState(() => newId());
  const [f, set] = useForm({ user: "", password: "", name: "", role: "technician", personId: "" });
  const save = useSend(() => ask(api.POST("/api/accounts", { body: { id, ...f, personId: f.personId || null } })), {
    says: "The account is made",
    onDone: onClose,
    quiet: true,
  });
  return (
    <FormSheet
      title="New account"
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      except={["user", "password", "name", "role", "personId"]}
      busy={save.isPending}
    >
      <TextField label="Name" name="name" value={f.name} onChange={set("name")} problem={save.error} autoFocus />
      <ChoiceField
        label="Role"
        name="role"
        value={f.role}
        onChange={set("role")}
        options={[
          ["technician", "technician"],
          ["office", "office"],
          ["manager", "manager"],
        ]}
        problem={save.error}
      />
      <TextField label="Name to sign in with" name="user" value={f.user} onChange={set("user")} problem={save.error} autoComplete="off" />
      <TextField
        label="Password, ten characters or more"
        name="password"
        type="password"
        value={f.password}
        onChange={set("password")}
        problem={save.error}
        autoComplete="new-password"
      />
      <ChoiceField
        label="Is this person of the shop"
        name="personId"
        value={f.personId}
        onChange={set("personId")}
        options={choices(people, "nobody")}
        problem={save.error}
      />
    </FormSheet>
  );
}
