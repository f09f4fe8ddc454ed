import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { besideQuery, buildsQuery, shopQuery, whatIfsQuery } from "../api/queries";
import { day, days, inTen, money, percent, today, words } from "../format";
import { Dab } from "../ui/Dab";
import { Empty, Shown } from "../ui/States";
import { useSend } from "../ui/useSend";
import { PlanPages } from "./PlanPages";
import { Months, Span, scaleOf } from "./Spans";
import { WhatIfSheet } from "./WhatIfSheet";

type Sandbox = Schemas["WhatIfView"];
const WIDTH = 400;
const UNPAINTED = "#8A8F94";

/** What would happen if: sandboxes beside the real plan, adopted or dropped. */
export function WhatIfPage() {
  const sandboxes = useQuery(whatIfsQuery);
  const [chosen, setChosen] = useState<string | null>(null);
  const [editing, setEditing] = useState<Sandbox | "new" | null>(null);
  return (
    <div className="px-5 pt-3 pb-10 max-w-[1280px]">
      <PlanPages here="what-if">
        <p className="text-ink2 flex-1">Tried beside the real plan. Nothing changes until it is adopted.</p>
        <button type="button" className="btn btn-ink" onClick={() => setEditing("new")}>
          Try something
        </button>
      </PlanPages>
      <Shown of={sandboxes}>
        {(list) => {
          const shown = list.find((s) => s.id === chosen) ?? list.at(-1);
          return (
            <>
              {list.length === 0 && <Empty>Nothing is being tried. Another booth, an illness, a new build next month?</Empty>}
              {list.length > 1 && (
                <nav className="flex gap-2 mb-3" aria-label="Sandboxes">
                  {list.map((s) => (
                    <button
                      key={s.id}
                      type="button"
                      className={`btn ${s === shown ? "btn-ink" : ""}`}
                      aria-pressed={s === shown}
                      onClick={() => setChosen(s.id)}
                    >
                      {s.name}
                    </button>
                  ))}
                </nav>
              )}
              {shown && <Beside key={shown.id} sandbox={shown} onEdit={() => setEditing(shown)} />}
              {editing && (
                <WhatIfSheet
                  sandbox={editing === "new" ? null : editing}
                  onClose={() => setEditing(null)}
                  onSaved={(id) => {
                    setChosen(id);
                    setEditing(null);
                  }}
                />
              )}
            </>
          );
        }}
      </Shown>
    </div>
  );
}

function useTold() {
  const shop = useQuery(shopQuery).data;
  const builds = useQuery(buildsQuery).data ?? [];
  const person = (id: string | null | undefined) => shop?.people.find((p) => p.id === id)?.name ?? "everybody";
  const build = (id: string | null | undefined) => builds.find((b) => b.id === id)?.number ?? "a build";
  return (c: Schemas["WhatIfChange"]): string => {
    switch (c.kind) {
      case "newBuild":
        return `${c.build?.make} ${c.build?.model} comes on ${day(c.build?.arrives)}`;
      case "absence":
        return `${person(c.personId)} is away from ${day(c.from)} to ${day(c.to)}`;
      case "moreStations":
        return `${c.count ?? 1} more ${words(c.station ?? "")}`;
      case "promise":
        return c.promised ? `${build(c.buildId)} is promised for ${day(c.promised)}` : `nothing is promised for ${build(c.buildId)}`;
      case "saturdays":
        return `${person(c.personId)} ${c.personId ? "works" : "work"} Saturdays from ${day(c.from)}${c.to ? ` to ${day(c.to)}` : " on"}`;
      case "noPayments":
        return `nothing is paid for ${build(c.buildId)} before ${day(c.to)}`;
      case "rank":
        return `${build(c.buildId)} takes place ${c.priority} in the queue`;
    }
  };
}

function Beside({ sandbox, onEdit }: { sandbox: Sandbox; onEdit: () => void }) {
  const told = useTold();
  const beside = useQuery(besideQuery(sandbox.id, sandbox.version));
  const path = { params: { path: { id: sandbox.id } } };
  const adopt = useSend(() => ask(api.POST("/api/plan/what-ifs/{id}/adopt", path)), { says: "It is the plan now" });
  const drop = useSend(() => ask(api.DELETE("/api/plan/what-ifs/{id}", path)), { says: "Dropped" });
  return (
    <section aria-label={sandbox.name}>
      <div className="flex items-baseline gap-3 border-t border-ink pt-2">
        <h2>{sandbox.name}</h2>
        <p className="flex-1">{sandbox.changes.map(told).join("; ")}.</p>
        <button type="button" className="btn" onClick={onEdit}>
          Change
        </button>
        <button type="button" className="btn" disabled={drop.isPending} onClick={() => drop.mutate(undefined)}>
          Drop it
        </button>
        <button type="button" className="btn btn-ink" disabled={adopt.isPending} onClick={() => adopt.mutate(undefined)}>
          Adopt it
        </button>
      </div>
      <Shown of={beside}>
        {(b) => (
          <>
            <Moves beside={b} />
            <div className="grid grid-cols-[360px_1fr] max-[900px]:grid-cols-1 gap-x-10 items-start mt-5">
              <Cost beside={b} />
              <Use beside={b} />
            </div>
          </>
        )}
      </Shown>
    </section>
  );
}

const move = (by: number | null) =>
  by === null ? "new" : by === 0 ? "stays" : `${days(Math.abs(by))} ${Math.abs(by) === 1 ? "day" : "days"} ${by > 0 ? "later" : "sooner"}`;

function Moves({ beside }: { beside: Schemas["PlansBeside"] }) {
  const cards = useQuery(buildsQuery).data ?? [];
  const paint = (id: string) => cards.find((c) => c.id === id)?.colourHex ?? UNPAINTED;
  const scale = scaleOf(
    today(),
    beside.builds.flatMap((b) => [b.promised, b.likelyBefore, b.likelyAfter, b.p80Before, b.p80After]),
    WIDTH,
  );
  return (
    <>
      {beside.without.length > 0 && (
        <p className="text-oxide mt-1">
          Without a date then: {beside.without.slice(0, 6).join(", ")}
          {beside.without.length > 6 ? ` and ${beside.without.length - 6} more` : ""}.
        </p>
      )}
      <table className="rows mt-1">
        <thead>
          <tr>
            <th>Build</th>
            <th>
              <Months scale={scale} />
            </th>
            <th>Moves</th>
            <th>Likely</th>
            <th>8 in 10 by</th>
            <th>Promise kept</th>
          </tr>
        </thead>
        <tbody>
          {beside.builds.map((b) => (
            <tr key={b.id}>
              <td>
                <span className="flex items-center gap-2">
                  <Dab number={b.number} colour={paint(b.id)} w={32} h={18} />
                  <span className="whitespace-nowrap">
                    {b.title}
                    {b.maybe && <span className="text-ink2"> (maybe)</span>}
                  </span>
                </span>
              </td>
              <td>
                <Span
                  scale={scale}
                  of={{ likely: b.likelyAfter, p80: b.p80After }}
                  was={b.likelyBefore && b.p80Before && b.days !== 0 ? { likely: b.likelyBefore, p80: b.p80Before } : null}
                  promised={b.promised}
                  paint={paint(b.id)}
                  words={`${b.number}: ${move(b.days)}`}
                />
              </td>
              <td
                className={`whitespace-nowrap ${b.days !== null && b.days >= 1 ? "text-oxide font-[640]" : b.days && Math.abs(b.days) >= 1 ? "font-[640]" : "text-ink2"}`}
              >
                {move(b.days)}
              </td>
              <td className="whitespace-nowrap">{pair(day(b.likelyBefore), day(b.likelyAfter), b.maybe)}</td>
              <td className="whitespace-nowrap">{pair(day(b.p80Before), day(b.p80After), b.maybe)}</td>
              <td className="whitespace-nowrap">
                {b.keptAfter === null ? "" : pair(b.keptBefore === null ? "–" : inTen(b.keptBefore), inTen(b.keptAfter), b.maybe)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

const pair = (before: string, after: string, maybe: boolean) =>
  maybe || before === after ? (
    after
  ) : (
    <>
      <span className="text-ink2">{before}</span> → {after}
    </>
  );

function Cost({ beside: b }: { beside: Schemas["PlansBeside"] }) {
  const rows: [string, string, string][] = [
    ["Hours to work", String(Math.round(b.before.minutes / 60)), String(Math.round(b.after.minutes / 60))],
    ["Wages for them", money(b.before.wages), money(b.after.wages)],
    ["of it for overtime", money(b.before.overtime), money(b.after.overtime)],
    ["Days late, all builds", days(b.before.daysLate), days(b.after.daysLate)],
    ["What that costs the shop", money(b.lateCostBefore), money(b.lateCostAfter)],
  ];
  return (
    <section aria-label="Cost">
      <h2 className="border-t border-ink pt-2">Cost</h2>
      <table className="rows">
        <thead>
          <tr>
            <th />
            <th className="num">Now</th>
            <th className="num">Then</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([what, before, after]) => (
            <tr key={what}>
              <td>{what}</td>
              <td className="num text-ink2">{before}</td>
              <td className={`num ${before === after ? "" : "font-[680]"}`}>{after}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Use({ beside: b }: { beside: Schemas["PlansBeside"] }) {
  const before = new Map(b.before.used.map((u) => [u.id, u.share]));
  const used = b.after.used.filter((u) => u.share > 0 || (before.get(u.id) ?? 0) > 0);
  return (
    <section aria-label="Use">
      <h2 className="border-t border-ink pt-2">Use of the next {b.weeks} weeks</h2>
      <ul className="columns-2 max-[640px]:columns-1 gap-x-8">
        {used.map((u) => (
          <li key={u.id} className="grid grid-cols-[90px_1fr_96px] gap-x-2 items-center py-[3px] break-inside-avoid">
            <span>{u.isPerson ? u.name : words(u.name)}</span>
            <svg width="100%" height="10" viewBox="0 0 100 10" preserveAspectRatio="none" aria-hidden="true">
              <rect width="100" height="10" className="fill-p3" />
              <rect width={u.share * 100} height="10" className={u.share > 0.95 ? "fill-oxide" : "fill-ink2"} />
              <rect x={(before.get(u.id) ?? 0) * 100 - 0.4} width="0.8" height="10" className="fill-ink" />
            </svg>
            <span className="num whitespace-nowrap">
              {before.has(u.id) && percent(before.get(u.id) ?? 0) !== percent(u.share) && (
                <span className="text-ink2">{percent(before.get(u.id) ?? 0)} → </span>
              )}
              {percent(u.share)}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
