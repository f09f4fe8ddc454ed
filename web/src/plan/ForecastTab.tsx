import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../api/client";
import { outlookQuery } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { dateOf, day, days, inTen, reckoned, stageName, today } from "../format";
import { Empty, Shown } from "../ui/States";
import { PlanNotes } from "./PlanNotes";
import { Months, Span, scaleOf } from "./Spans";

const WIDTH = 340;
/** Nights that are shown. */
const NIGHTS = 21;

/** How sure a build's finish is, what makes it unsure, how it moved, and how it stands against what was agreed. */
export function ForecastTab() {
  const card = useThisBuild();
  const view = useQuery(outlookQuery(card.id));
  return (
    <div className="px-5 pt-3 pb-10 max-w-[1180px]">
      <Shown of={view}>
        {(v) => (
          <>
            <h1>Forecast</h1>
            {v.chance ? (
              <Head chance={v.chance} at={v.futuresAt} />
            ) : (
              <p className="text-ink2">
                {card.status === "open"
                  ? "The futures are being drawn; they will be here in a moment."
                  : "The build is not open: nothing is planned."}
              </p>
            )}
            <div className="mt-3">
              <PlanNotes buildId={card.id} />
            </div>
            <div className="grid grid-cols-[1fr_300px] max-[900px]:grid-cols-1 gap-x-10 items-start">
              <Nights nights={v.nights.slice(-NIGHTS)} promised={card.promised} paint={card.colourHex} />
              <Carriers carriers={v.carriers} />
            </div>
            {v.against && <Against against={v.against} />}
          </>
        )}
      </Shown>
    </div>
  );
}

function Head({ chance: c, at }: { chance: Schemas["BuildChance"]; at: string | null }) {
  if (c.partly)
    return (
      <p className="text-[15px] mt-1 text-oxide">
        Some of its work has no date, so nothing can be said of the finish. What has one is done by {day(c.p80)}, eight times in ten.
      </p>
    );
  return (
    <p className="text-[15px] mt-1">
      Of a thousand futures half are done by <b>{day(c.p50)}</b>, eight in ten by <b>{day(c.p80)}</b>, nine in ten by <b>{day(c.p90)}</b>.
      {c.kept !== null && (
        <>
          {" "}
          The promise is kept <b className={c.kept < 0.5 ? "text-oxide" : ""}>{inTen(c.kept)}</b>.
        </>
      )}
      {at && <span className="text-ink2"> As reckoned {reckoned(at)}.</span>}
    </p>
  );
}

const moved = (by: number) => `${Math.abs(by)} ${Math.abs(by) === 1 ? "day" : "days"} ${by > 0 ? "later" : "sooner"}`;

function Nights({ nights, promised, paint }: { nights: Schemas["NightRow"][]; promised: string | null; paint: string }) {
  const scale = scaleOf(nights[0]?.on ?? today(), [promised, ...nights.flatMap((n) => [n.p50, n.p80])], WIDTH);
  const rows = nights.filter((n, i) => i === 0 || i === nights.length - 1 || (n.days ?? 0) !== 0);
  return (
    <section aria-label="Night by night">
      <h2 className="border-t border-ink pt-2">Night by night</h2>
      <p className="text-ink2 mb-2">
        Solid to the likely day, whisker to eight in ten, flag: the promise. Nights that moved nothing are left out.
      </p>
      {nights.length === 0 ? (
        <Empty>The first night's forecast is kept tonight.</Empty>
      ) : (
        <table className="rows">
          <thead>
            <tr>
              <th className="whitespace-nowrap">Night of</th>
              <th>
                <Months scale={scale} />
              </th>
              <th>Likely</th>
              <th>8 in 10 by</th>
              <th>What moved it</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((n) => (
              <tr key={n.on}>
                <td className="whitespace-nowrap">{day(n.on)}</td>
                <td>
                  <Span
                    scale={scale}
                    of={{ likely: n.p50, p80: n.p80 }}
                    promised={promised}
                    paint={paint}
                    words={`likely ${day(n.p50)}, eight in ten by ${day(n.p80)}`}
                  />
                </td>
                <td className="whitespace-nowrap">{day(n.p50)}</td>
                <td className="whitespace-nowrap">{day(n.p80)}</td>
                <td>
                  {n.days ? (
                    <>
                      <b className={n.days > 0 ? "text-oxide" : ""}>{moved(n.days)}</b>
                      <span className="block text-ink2">
                        {[n.changed.length > 0 && `changed: ${n.changed.join(", ")}`, n.holds].filter(Boolean).join("; ")}
                      </span>
                    </>
                  ) : (
                    <span className="text-ink2">{n.holds}</span>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

function Carriers({ carriers }: { carriers: Schemas["CarrierRow"][] }) {
  const most = Math.max(...carriers.map((c) => c.days), 1);
  return (
    <section aria-label="What makes it unsure">
      <h2 className="border-t border-ink pt-2">What makes it unsure</h2>
      <p className="text-ink2 mb-2">Days on the finish when it goes badly.</p>
      {carriers.length === 0 && <Empty>Nothing stands out.</Empty>}
      <ul>
        {carriers.map((c) => (
          <li key={c.operationId} className="grid grid-cols-[44px_1fr] gap-x-2 py-1">
            <span className="num font-[680]">{days(c.days)}</span>
            <span>
              {c.name}
              <svg width={(c.days / most) * 240} height="4" aria-hidden="true" className="block mt-[2px]">
                <rect width="100%" height="4" fill="currentColor" className="text-oxide" />
              </svg>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

const figure = (v: number | null) => (v === null ? "–" : v.toFixed(2));

function Against({ against: a }: { against: Schemas["AgainstBaseline"] }) {
  return (
    <section aria-label="Against what was agreed" className="mt-6">
      <h2 className="border-t border-ink pt-2">Against what was agreed</h2>
      <p className="text-ink2 mb-2">
        The plan as it stood on {day(dateOf(a.at))}: {a.why.toLowerCase()}, done by {day(a.finish)}.{" "}
        {a.kept > 1 && `${a.kept - 1} earlier ${a.kept === 2 ? "one is" : "ones are"} kept. `}
        Earned for an hour spent: <b className="text-ink">{figure(a.indices.cpi)}</b>. Earned for an hour planned by now:{" "}
        <b className="text-ink">{figure(a.indices.spi)}</b>.
        {a.indices.atIndex !== null && ` At this rate it ends at ${Math.round(a.indices.atIndex)} h.`}
      </p>
      <table className="rows max-w-[720px]">
        <thead>
          <tr>
            <th>Stage</th>
            <th className="num">Budget, h</th>
            <th className="num">Planned by now</th>
            <th className="num">Earned</th>
            <th className="num">Spent</th>
          </tr>
        </thead>
        <tbody>
          {a.stages.map((s) => (
            <tr key={s.stage}>
              <td>{stageName(s.stage)}</td>
              <td className="num">{s.budget.toFixed(1)}</td>
              <td className="num">{s.planned.toFixed(1)}</td>
              <td className={`num ${s.earned < s.planned - 0.05 ? "text-oxide" : ""}`}>{s.earned.toFixed(1)}</td>
              <td className={`num ${s.spent > s.earned + 0.05 ? "text-oxide" : ""}`}>{s.spent.toFixed(1)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
