import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { firstThingsQuery, floorQuery, shopQuery, useMay } from "../api/queries";
import { day, days, logged, money, reckoned, today, weekday } from "../format";
import { FloorPlan } from "../pictures/FloorPlan";
import { DrawPlan } from "../shop/DrawPlan";
import { FirstThings } from "../shop/FirstThings";
import { Dab } from "../ui/Dab";
import { PlaceLink } from "../ui/PlaceLink";
import { Shown } from "../ui/States";
import { useSend } from "../ui/useSend";
import { Flagged } from "./Flagged";
import { Inspections } from "./Inspections";

export function FloorPage() {
  const floor = useQuery(floorQuery);
  const shop = useQuery(shopQuery);
  const navigate = useNavigate();
  const may = useMay();
  const first = useQuery({ ...firstThingsQuery, enabled: may.manager }).data;
  /** The plan is drawn here until somebody says that it is done, not only until the first place stands. */
  const [drawing, setDrawing] = useState<boolean | null>(null);
  const draws = may.manager && (drawing ?? shop.data?.stations.length === 0);
  useEffect(() => {
    if (draws && drawing === null) setDrawing(true);
  }, [draws, drawing]);
  const settingUp = first !== undefined && !first.away && first.things.some((t) => t.state !== "done");
  return (
    <Shown of={shop}>
      {(s) => (
        <Shown of={floor}>
          {(fl) => (
            <div className="floor">
              <section className="pl-5" aria-label="Floor">
                <div className="flex items-baseline gap-[18px] min-h-[46px] pt-3">
                  <h1>Floor</h1>
                  {draws && (
                    <button type="button" className="btn" onClick={() => setDrawing(false)} disabled={s.stations.length === 0}>
                      The drawing is done
                    </button>
                  )}
                  <p className={draws ? "hidden" : "text-ink2"}>
                    <b className="text-ink">{fl.onTheClock}</b> on the clock, <b className="text-ink">{logged(fl.todayMinutes)}</b> logged
                    today.{fl.futuresAt && ` Under a share: the day it is done by, 8 times in 10, as reckoned ${reckoned(fl.futuresAt)}.`}
                    {fl.nextFreight && ` Next freight ${freight(fl.nextFreight, fl.onFreight)}.`}
                  </p>
                </div>
                {draws ? (
                  <DrawPlan shop={s} />
                ) : s.stations.length === 0 ? (
                  <p className="py-8 text-ink2">The shop has no places yet. The manager draws them.</p>
                ) : (
                  <FloorPlan
                    shop={s.settings}
                    layout={s.layout}
                    stations={s.stations}
                    builds={fl.builds}
                    away={fl.away}
                    decisions={fl.decisions}
                    onOpen={(b) => void navigate({ to: `/builds/${b.number}` })}
                  />
                )}
              </section>
              <div>
                {/* What waits comes first as soon as there is work; before that, what is missing. */}
                {(fl.builds.length > 0 || !settingUp) && <Decisions floor={fl} />}
                {settingUp && <FirstThings />}
              </div>
            </div>
          )}
        </Shown>
      )}
    </Shown>
  );
}

const freight = (on: string, orders: number) =>
  `${on === today() ? "today" : weekday(on)}${orders > 0 ? `, ${orders} expected by then` : ""}`;

/** Pixels for a day of delay: the bar is the quantity. */
const PX_DAY = 34;

/** What waits for whoever decides, in a line; while the days are worked out anew, only how many. */
const headline = ({ decisions, daysWaiting: by }: Schemas["FloorView"]) => {
  if (decisions.length === 0) return "No decisions waiting";
  if (by === null) return `${decisions.length} ${decisions.length === 1 ? "decision" : "decisions"} waiting`;
  return by === 0 ? "No delay waits for you" : `${days(by)} ${by === 1 ? "day waits" : "days wait"} for your decisions`;
};

function Decisions({ floor }: { floor: Schemas["FloorView"] }) {
  const open = floor.decisions.filter((d) => d.days === null);
  const costly = floor.decisions.filter((d) => d.days !== null && d.days >= 0.1);
  const free = floor.decisions.filter((d) => d.days !== null && d.days < 0.1);
  return (
    <section className="pt-3 pl-4 pr-5" aria-label="Decisions">
      <h1>{headline(floor)}</h1>
      <p className="text-ink2 mt-[3px] mb-[9px]">How much each delays the planned finish if it stays open until it is due. Worst first.</p>
      <ol className="decisions list-none">
        {costly.map((d, i) => (
          <DecisionRow key={d.id} decision={d} first={i === 0} />
        ))}
      </ol>
      {open.length > 0 && (
        <div className="border-t border-p3 pt-2">
          <b>Asked just now: the delay is being worked out</b>
          <ul className="text-ink2">
            {open.map((d) => (
              <li key={d.id} className="py-1">
                <DecisionLine decision={d} />
              </li>
            ))}
          </ul>
        </div>
      )}
      <Contentions rows={floor.contentions} />
      <Flagged rows={floor.flagged} />
      <Inspections rows={floor.inspections} />
      {(free.length > 0 || floor.readyGates.length > 0) && (
        <div className="border-t border-p3 pt-2">
          <b>No delay yet</b>
          <ul className="text-ink2">
            {free.map((d) => (
              <li key={d.id} className="py-1">
                <DecisionLine decision={d} />
              </li>
            ))}
            {floor.readyGates.map((g) => (
              <li key={g.operationId} className="py-1">
                <PlaceLink to={`/builds/${g.buildNumber}/sequence`}>
                  sign “{g.name}” on {g.buildNumber}
                </PlaceLink>
              </li>
            ))}
          </ul>
        </div>
      )}
      {floor.decisions.length === 0 && floor.readyGates.length === 0 && floor.contentions.length === 0 && floor.flagged.length === 0 && (
        <p className="text-ink2">Nothing waits.</p>
      )}
    </section>
  );
}

const apart = (by: number) => `${days(Math.abs(by))} ${Math.abs(by) === 1 ? "day" : "days"}`;

/** Two builds that want the same: who goes first is the manager's word. */
function Contentions({ rows }: { rows: Schemas["ContentionView"][] }) {
  const may = useMay();
  const answer = useSend(
    (a: { row: Schemas["ContentionView"]; turned: boolean }) =>
      ask(
        api.POST("/api/plan/contentions/answer", {
          body: { id: newId(), first: a.row.first, second: a.row.second, turned: a.turned },
        }),
      ),
    { says: "Settled" },
  );
  if (rows.length === 0) return null;
  return (
    <div className="border-t border-p3 pt-2 mb-2">
      <b>Who goes first</b>
      <ul>
        {rows.slice(0, 3).map((c) => (
          <li key={c.first + c.second} className="py-1">
            <span className="flex flex-wrap items-center gap-1">
              <Dab number={c.secondNumber} colour={c.secondColourHex} w={26} h={15} size={11} />
              {c.operation} waits: {c.over}.
            </span>
            <span className="text-ink2">
              With {c.secondNumber} first it is done {apart(c.secondGains)} {c.secondGains >= 0 ? "sooner" : "later"},{" "}
              {c.firstLoses === 0
                ? `and build ${c.firstNumber} is not delayed`
                : `${c.firstNumber} ${apart(c.firstLoses)} ${c.firstLoses > 0 ? "later" : "sooner"}`}
              .
            </span>
            {may.manager && (
              <span className="flex gap-2 mt-1">
                <button type="button" className="btn" disabled={answer.isPending} onClick={() => answer.mutate({ row: c, turned: true })}>
                  {c.secondNumber} first
                </button>
                <button type="button" className="btn" disabled={answer.isPending} onClick={() => answer.mutate({ row: c, turned: false })}>
                  {c.firstNumber} first, as it stands
                </button>
              </span>
            )}
          </li>
        ))}
      </ul>
      {rows.length > 3 && <p className="text-ink2">{rows.length - 3} more stand behind these.</p>}
    </div>
  );
}

function useSettle() {
  return useSend(
    (a: { id: string; answer: string }) =>
      ask(api.POST("/api/decisions/{id}/answer", { params: { path: { id: a.id } }, body: { answer: a.answer } })),
    { says: "Settled" },
  );
}

function DecisionRow({ decision: d, first }: { decision: Schemas["DecisionRow"]; first: boolean }) {
  const by = d.days ?? 0;
  const may = useMay();
  const settle = useSettle();
  return (
    <li>
      <svg className="bar" width={Math.min(330, by * PX_DAY)} height="4" aria-hidden="true">
        <rect width="100%" height="4" fill="#9A3A1E" />
      </svg>
      <div>
        <div className="days">{days(by)}</div>
        <span className="text-[12px] text-ink2">{by === 1 ? "day" : "days"}</span>
      </div>
      <div>
        <h3>
          <Dab number={d.buildNumber} colour={d.colourHex} w={26} h={15} size={11} />
          {d.question}
        </h3>
        <p>
          {d.detail} {d.for === "client" ? "The client's decision" : "Your decision"}, needed by {weekday(d.dueOn)}
          {d.worstBuild !== d.buildNumber ? `; build ${d.worstBuild} feels it most` : ""}.
          {d.perWeek > 0 && ` Open, it costs ${money(d.perWeek)} a week.`}
        </p>
        {may.desk && (
          <div className="flex gap-2 mt-[6px] flex-wrap">
            {d.options.map((o, i) => (
              <button
                key={o}
                type="button"
                className={`btn ${first && i === 0 ? "btn-ink" : ""}`}
                disabled={settle.isPending}
                onClick={() => settle.mutate({ id: d.id, answer: o })}
              >
                {o}
              </button>
            ))}
            {d.paperId && (
              <PlaceLink className={`btn ${first ? "btn-ink" : ""}`} to={`/builds/${d.buildNumber}/estimate`}>
                See the change order
              </PlaceLink>
            )}
            {d.call && <CallThem call={d.call} />}
          </div>
        )}
      </div>
    </li>
  );
}

/** Whom to ask: the number, or else the address. */
function CallThem({ call }: { call: Schemas["Call"] }) {
  const where = call.phone || call.email;
  if (!where) return <span className="text-ink2 self-center">Ask {call.name}.</span>;
  return (
    <a className="btn" href={call.phone ? `tel:${call.phone.replace(/[^+\d]/g, "")}` : `mailto:${call.email}`}>
      {call.phone ? "Call" : "Write to"} {call.name}, {where}
    </a>
  );
}

function DecisionLine({ decision: d }: { decision: Schemas["DecisionRow"] }) {
  const may = useMay();
  const settle = useSettle();
  return (
    <span>
      <span className="text-ink font-[620]">{d.question}</span> {d.buildNumber}, by {day(d.dueOn)}{" "}
      {may.desk &&
        d.options.map((o) => (
          <button key={o} type="button" className="btn !py-0 !px-[6px] ml-1" onClick={() => settle.mutate({ id: d.id, answer: o })}>
            {o}
          </button>
        ))}
    </span>
  );
}
