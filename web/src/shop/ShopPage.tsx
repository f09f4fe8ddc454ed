import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Accounts } from "../access/Accounts";
import { api, ask, type Schemas } from "../api/client";
import { shopQuery, shopTimeQuery } from "../api/queries";
import { day, dayName, hm, hours, money, size, supportName, today, tradeName, WEEKDAYS, words } from "../format";
import { PlaceLink } from "../ui/PlaceLink";
import { Section } from "../ui/Section";
import { Empty, Shown } from "../ui/States";
import { newest } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import { ImportSheet } from "./ImportSheet";
import { JobsSheet, RacksSheet } from "./OwnSheets";
import { AbsenceSheet, PersonSheet, RateSheet } from "./PeopleSheets";
import { StationSheet, SupplierSheet } from "./PlacesSheets";
import { ClosedSheet, SettingsSheet, WeekSheet } from "./SettingsSheets";
import { ShopTimeSheet } from "./ShopTimeSheet";
import { PersonTermsSheet, PlanRulesSheet, StationTermsSheet } from "./TermsSheets";

type Shop = Schemas["ShopView"];
type Editing =
  | { what: "settings" }
  | { what: "week" }
  | { what: "person"; person: Schemas["PersonView"] | null }
  | { what: "rate"; person: Schemas["PersonView"] }
  | { what: "absence"; person: Schemas["PersonView"] }
  | { what: "station"; station: Schemas["StationView"] | null }
  | { what: "supplier"; supplier: Schemas["SupplierView"] | null }
  | { what: "personTerms"; person: Schemas["PersonView"] }
  | { what: "stationTerms"; station: Schemas["StationView"] }
  | { what: "planRules" }
  | { what: "racks" }
  | { what: "jobs" }
  | { what: "import"; kind: Schemas["ImportKind"] }
  | { what: "shopTime" }
  | { what: "closed" };

/** What a link to this page opens at once. */
const opened = (open: string | undefined): Editing | null => {
  switch (open) {
    case "shop":
      return { what: "settings" };
    case "week":
      return { what: "week" };
    case "people":
    case "suppliers":
      return { what: "import", kind: open };
    case "racks":
      return { what: "racks" };
    default:
      return null;
  }
};

export function ShopPage() {
  const shop = useQuery(shopQuery);
  const [open] = useState(() => new URLSearchParams(location.search).get("open") ?? undefined);
  const [editing, setEditing] = useState<Editing | null>(opened(open));
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
              <PlanRules shop={s} edit={setEditing} />
              <Racks shop={s} edit={setEditing} />
              <Jobs shop={s} edit={setEditing} />
              <Accounts people={s.people} open={open === "accounts"} />
            </div>
            {editing?.what === "settings" && <SettingsSheet settings={s.settings} onClose={close} />}
            {editing?.what === "week" && <WeekSheet settings={s.settings} onClose={close} />}
            {editing?.what === "person" && <PersonSheet person={newest(editing.person, s.people)} onClose={close} />}
            {editing?.what === "rate" && <RateSheet person={editing.person} onClose={close} />}
            {editing?.what === "absence" && <AbsenceSheet person={editing.person} onClose={close} />}
            {editing?.what === "station" && <StationSheet station={newest(editing.station, s.stations)} onClose={close} />}
            {editing?.what === "supplier" && <SupplierSheet supplier={newest(editing.supplier, s.suppliers)} onClose={close} />}
            {editing?.what === "personTerms" && (
              <PersonTermsSheet person={newest(editing.person, s.people) ?? editing.person} week={s.settings.week} onClose={close} />
            )}
            {editing?.what === "stationTerms" && (
              <StationTermsSheet station={newest(editing.station, s.stations) ?? editing.station} onClose={close} />
            )}
            {editing?.what === "planRules" && <PlanRulesSheet shop={s} onClose={close} />}
            {editing?.what === "closed" && <ClosedSheet onClose={close} />}
            {editing?.what === "racks" && <RacksSheet shop={s} onClose={close} />}
            {editing?.what === "jobs" && <JobsSheet shop={s} onClose={close} />}
            {editing?.what === "shopTime" && <ShopTimeSheet shop={s} onClose={close} />}
            {editing?.what === "import" && <ImportSheet kind={editing.kind} onClose={close} />}
          </>
        )}
      </Shown>
    </div>
  );
}

type Part = { shop: Shop; edit: (e: Editing) => void };

function Facts({ rows }: { rows: [string, string][] }) {
  return (
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
  );
}

function Settings({ shop: { settings: s }, edit }: Part) {
  const rows: [string, string][] = [
    ["Name", [s.name, s.place].filter(Boolean).join(", ")],
    ["Address for clients", s.address || "not set: links in letters point to this machine"],
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
    ["Sheet", s.sheets.map((x) => `${x.gaugeMm} mm ${money(x.price)}`).join(", ") || "no prices"],
    ["Waiting", s.delayPerDay > 0 ? `${money(s.delayPerDay)} a day in a verdict's sums` : "costs nothing in a verdict's sums"],
    ["Storage", s.storagePerDay > 0 ? `${money(s.storagePerDay)} a day, the first ${s.storageFreeDays} days free` : "not charged"],
    ["Overtime", `after ${s.overtimeAfterHours} h a day, ${s.overtimeMultiplier} times`],
    ["Plan", size(s.planWidthMm, s.planDepthMm)],
  ];
  return (
    <Section title="Settings" action="Change" onAction={() => edit({ what: "settings" })}>
      <Facts rows={rows} />
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
              <td className="text-ink2 w-[110px]">{dayName(d)}</td>
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
      <button type="button" className="btn mb-1" onClick={() => edit({ what: "import", kind: "people" })}>
        From a file
      </button>
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
                  <span className="block text-ink2 font-[450]">{p.trades.map(tradeName).join(", ") || "no trade"}</span>
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
                  {p.terms && (
                    <button
                      type="button"
                      className="btn"
                      aria-label={`Hours and pace of ${p.name}`}
                      onClick={() => edit({ what: "personTerms", person: p })}
                    >
                      Hours
                    </button>
                  )}{" "}
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
      <PlaceLink className="btn mb-1" to="/shop/plan">
        Draw the plan
      </PlaceLink>
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
                {size(s.widthMm, s.depthMm)}
                {s.doorHeightMm ? `, door ${size(s.doorHeightMm)} high` : ""}
                {s.terms.inspectedUntil && (
                  <span className={`block ${s.pastInspection ? "text-oxide" : "text-ink2"}`}>
                    {s.terms.inspected || "inspected"} until {day(s.terms.inspectedUntil)}
                    {s.pastInspection && ": closed"}
                  </span>
                )}
              </td>
              <td className="text-right whitespace-nowrap">
                <button
                  type="button"
                  className="btn"
                  aria-label={`Use of ${s.name}`}
                  onClick={() => edit({ what: "stationTerms", station: s })}
                >
                  Use
                </button>{" "}
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
      <button type="button" className="btn mb-1" onClick={() => edit({ what: "import", kind: "suppliers" })}>
        From a file
      </button>
      {shop.suppliers.length === 0 && <Empty>No supplier yet.</Empty>}
      <table className="rows">
        <tbody>
          {shop.suppliers.map((s) => (
            <tr key={s.id}>
              <td className="font-[640]">{s.name}</td>
              <td>{s.what}</td>
              <td>{s.freightDays.length === 0 ? "any day" : s.freightDays.map((d) => dayName(d).slice(0, 3)).join(", ")}</td>
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

function PlanRules({ shop: { plan, always }, edit }: Part) {
  const rows: [string, string][] = [
    ["Shared things", (plan.things ?? []).map((t) => `${t.count} ${t.name}`).join(", ") || "none"],
    ["Never together", (plan.air ?? []).map((a) => `${words(a.one)} and ${words(a.other)}`).join(", ") || "no rule"],
    ["Never on one vehicle", always.map((a) => `${words(a.one)} and ${words(a.other)}`).join(", ")],
    ["Making ready", (plan.ready ?? []).map((r) => `${r.place}: ${hours(r.minutes)} h`).join(", ") || "no figure"],
    ["Closes next to it", (plan.crowds ?? []).map((c) => `${words(c.work)}: ${c.count} ${c.closes}`).join(", ") || "nothing"],
    [
      "Rolls",
      (plan.supports ?? [])
        .filter((s) => s.rolls)
        .map((s) => supportName(s.state))
        .join(", ") || "nothing",
    ],
    ["Under a door", `${size(plan.doorMarginMm ?? 0)} kept free`],
  ];
  return (
    <Section title="Plan rules" action="Change" onAction={() => edit({ what: "planRules" })}>
      <Facts rows={rows} />
    </Section>
  );
}

function Racks({ shop, edit }: Part) {
  return (
    <Section title="Racks" action="Change" onAction={() => edit({ what: "racks" })}>
      {shop.racks.length === 0 && <Empty>No rack: bags lie where somebody writes.</Empty>}
      <Facts rows={shop.racks.map((r) => [r.name, `${r.shelves} shelves of ${r.trays} trays`])} />
    </Section>
  );
}

/** Cleaning, tooling, training: on the clock and on no bill. */
function Jobs({ shop, edit }: Part) {
  const rows = useQuery(shopTimeQuery).data ?? [];
  const sums = shop.jobs.map((job) => [job, rows.filter((r) => r.job === job).reduce((sum, r) => sum + r.minutes, 0)] as const);
  return (
    <Section title="Nobody’s build" action="Change" onAction={() => edit({ what: "jobs" })}>
      <p className="text-ink2 mb-1">Clocked by everybody, on no bill. Hours of the last four weeks.</p>
      <Facts rows={sums.map(([job, minutes]) => [job, minutes === 0 ? "–" : `${hm(minutes)} h`])} />
      <button type="button" className="btn mt-1" onClick={() => edit({ what: "shopTime" })}>
        See and enter hours
      </button>
    </Section>
  );
}
