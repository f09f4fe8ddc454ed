import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { buildsQuery, chancesQuery, endedQuery, useMay } from "../api/queries";
import { TakeBackSheet } from "../builds/StatusSheet";
import { day, hours, inTen, percent } from "../format";
import { StrataMini, strataText } from "../pictures/Strata";
import { ImproveSheet } from "../plan/ImproveSheet";
import { ImportSheet } from "../shop/ImportSheet";
import { P1 } from "../tokens";
import { Dab } from "../ui/Dab";
import { PlaceLink } from "../ui/PlaceLink";
import { Empty, Shown } from "../ui/States";

export function BuildsPage() {
  const builds = useQuery(buildsQuery);
  const chances = useQuery(chancesQuery).data;
  const may = useMay();
  const [improving, setImproving] = useState(false);
  const [importing, setImporting] = useState(false);
  const navigate = useNavigate();
  return (
    <div className="px-5 pt-3 pb-10 max-w-[1280px]">
      <div className="flex items-baseline gap-4 mb-2">
        <h1>Builds</h1>
        {may.manager && (
          <button type="button" className="btn" onClick={() => void navigate({ to: "/builds/new" })}>
            Open a build
          </button>
        )}
        {may.manager && (
          <button type="button" className="btn" onClick={() => setImproving(true)}>
            A better order
          </button>
        )}
        {may.manager && (
          <button type="button" className="btn" onClick={() => setImporting(true)}>
            Clients from a file
          </button>
        )}
        {importing && <ImportSheet kind="clients" onClose={() => setImporting(false)} />}
        {improving && <ImproveSheet onClose={() => setImproving(false)} />}
      </div>
      <Shown of={builds}>
        {(list) =>
          list.length === 0 ? (
            <Empty>No build is open. {may.manager && "Open the first one."}</Empty>
          ) : (
            <table className="rows">
              <thead>
                <tr>
                  <th>Build</th>
                  <th>For</th>
                  <th>Hours</th>
                  <th className="num">Done</th>
                  <th className="num">Spent / budget</th>
                  <th>Promised</th>
                  <th>Likely</th>
                  <th>8 in 10 by</th>
                  <th>Now</th>
                </tr>
              </thead>
              <tbody>
                {list.map((b) => (
                  <Row key={b.id} build={b} chance={chances?.find((c) => c.id === b.id)} />
                ))}
              </tbody>
            </table>
          )
        }
      </Shown>
      {may.desk && <Ended />}
    </div>
  );
}

/** Builds that have ended: handed over, or withdrawn, which can be taken back. */
function Ended() {
  const may = useMay();
  const ended = useQuery(endedQuery).data ?? [];
  const [back, setBack] = useState<Schemas["EndedBuild"] | null>(null);
  if (ended.length === 0) return null;
  return (
    <details className="mt-6">
      <summary className="cursor-pointer font-[680]">Ended, {ended.length}</summary>
      <ul className="mt-1">
        {ended.map((b) => (
          <li key={b.id} className="border-t border-p2 py-1 flex items-center gap-3">
            <Dab number={b.number} colour={b.vehicle.colourHex} w={36} h={20} size={13} />
            <PlaceLink to={`/builds/${b.number}`} className="font-[660]">
              {b.title}
            </PlaceLink>
            <span className="text-ink2 flex-1">
              {b.clientName}, {b.status === "withdrawn" ? "withdrawn" : "handed over"}
            </span>
            {b.status === "withdrawn" && may.manager && (
              <button type="button" className="btn" aria-label={`Undo the withdrawal of ${b.number}`} onClick={() => setBack(b)}>
                Take back
              </button>
            )}
          </li>
        ))}
      </ul>
      {back && <TakeBackSheet build={back} onClose={() => setBack(null)} />}
    </details>
  );
}

function Row({ build: b, chance }: { build: Schemas["BuildCard"]; chance: Schemas["BuildChance"] | undefined }) {
  const late = b.promised !== null && b.likely !== null && b.likely > b.promised;
  const on = b.onIt.map((o) => o.name).join(", ");
  return (
    <tr>
      <td>
        <PlaceLink to={`/builds/${b.number}`} className="flex items-center gap-2 no-underline">
          <Dab number={b.number} colour={b.colourHex} w={36} h={20} size={13} />
          <span>
            <b className="font-[680] text-[14px]">{b.title}</b>
            <span className="block text-ink2">
              {[b.year, b.fillIn && "fill-in", b.status !== "open" && b.status].filter(Boolean).join(", ")}
            </span>
          </span>
        </PlaceLink>
      </td>
      <td>{b.client}</td>
      <td>
        <svg width="60" height="42" role="img" aria-label={strataText(b.layers)}>
          <StrataMini layers={b.layers} paint={b.colourHex} x={1} y={3} w={44} h={36} ground={P1} />
        </svg>
      </td>
      <td className="num font-[650]">{percent(b.share)}</td>
      <td className="num">
        {hours(b.spentMinutes)} / {hours(b.budgetMinutes)}
      </td>
      <td>{day(b.promised)}</td>
      <td className={late ? "text-oxide font-[640]" : ""}>
        {b.partly ? <span className="text-oxide font-[450]">{b.withoutDate || "some has no date"}</span> : day(b.likely)}
      </td>
      <td>
        {chance && (
          <>
            {chance.partly ? <span className="text-ink2">nothing to say</span> : day(chance.p80)}
            {chance.kept !== null && <span className="block text-ink2 whitespace-nowrap">promise kept {inTen(chance.kept)}</span>}
          </>
        )}
      </td>
      <td>
        {on ? `${on} on it` : b.status === "paused" ? `paused: ${b.leftAt}. First move: ${b.firstMove}` : b.holds}
        {b.untouchedDays !== null && b.untouchedDays >= 7 && <span className="block text-ink2">untouched for {b.untouchedDays} days</span>}
      </td>
    </tr>
  );
}
