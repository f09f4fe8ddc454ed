import { useQuery } from "@tanstack/react-query";
import { useLocation, useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { useMay, weekQuery } from "../api/queries";
import { addDays, dateOf, dayOfMonth, dayOfWeek, hours, month, percent, timeOf, weekday } from "../format";
import { inkOn, mix, OXIDE, P1 } from "../tokens";
import { Dab } from "../ui/Dab";
import { PlaceLink } from "../ui/PlaceLink";
import { Empty, Shown } from "../ui/States";
import { CalendarsSheet } from "./CalendarsSheet";
import { PlanPages } from "./PlanPages";
import { CommitSheet, CountSheet, TakeBack } from "./WeekSheets";
import {
  fillIns,
  promiseText,
  STATE_WORDS,
  shownDays,
  type Week,
  type WeekBlock,
  type WeekPerson,
  type WeekState,
  weekText,
} from "./weekWords";

/** The week: who does what, where; what was promised on Monday, and what came of it. */
export function WeekPage() {
  const { of } = useLocation().search as { of?: string };
  const week = useQuery(weekQuery(of ?? null));
  return (
    <div className="px-5 pt-3 pb-10 week-page">
      <Shown of={week}>{(w) => <TheWeek week={w} />}</Shown>
    </div>
  );
}

function TheWeek({ week }: { week: Week }) {
  const may = useMay();
  const navigate = useNavigate();
  const [doing, setDoing] = useState<"commit" | "count" | "calendars" | null>(null);
  const go = (of: string) => void navigate({ to: "/plan/week", search: { of } as never });
  const over = addDays(week.of, 7) <= week.today;
  const offers = week.people.reduce((sum, p) => sum + p.offers.length, 0);
  return (
    <>
      <PlanPages here="week">
        <span>
          {weekText(week)}
          {week.committedAt && !over && <span className="text-ink2"> Dashed: offered since.</span>}
        </span>
        <span className="flex flex-wrap gap-1 ml-auto">
          <button type="button" className="btn" onClick={() => go(addDays(week.of, -7))}>
            Week before
          </button>
          <button type="button" className="btn" onClick={() => go(addDays(week.of, 7))}>
            Week after
          </button>
          <PlaceLink to={`/plan/week/sheets?of=${week.of}`} className="btn">
            Sheets to print
          </PlaceLink>
          <button type="button" className="btn" onClick={() => setDoing("calendars")}>
            Calendars
          </button>
          {may.manager && !week.committedAt && !over && offers > 0 && (
            <button type="button" className="btn btn-ink" onClick={() => setDoing("commit")}>
              Commit the week
            </button>
          )}
          {may.manager && week.committedAt && !week.countedAt && week.today >= week.countedFrom && (
            <button type="button" className="btn btn-ink" onClick={() => setDoing("count")}>
              Count the week
            </button>
          )}
          {may.manager && week.committedAt && !week.countedAt && dateOf(week.committedAt) === week.today && <TakeBack of={week.of} />}
        </span>
      </PlanPages>
      {week.people.length === 0 ? (
        <Empty>Nobody works here yet: people are added under Shop.</Empty>
      ) : (
        <>
          <WeekPicture week={week} />
          <WeekList week={week} />
        </>
      )}
      <div className="week-below">
        <Past week={week} />
        <WhyNot week={week} />
        <FillIns week={week} />
      </div>
      {doing === "commit" && <CommitSheet week={week} onClose={() => setDoing(null)} />}
      {doing === "count" && <CountSheet week={week} onClose={() => setDoing(null)} />}
      {doing === "calendars" && <CalendarsSheet week={week} onClose={() => setDoing(null)} />}
    </>
  );
}

/** Where an instant lies over the days that are shown, between 0 and 1; each day is as wide as the others, from its opening to its close. */
function scaleOf(week: Week) {
  const days = shownDays(week);
  const blocks = week.people.flatMap((p) => p.blocks);
  const hoursOf = days.map((d) => {
    const mine = blocks.filter((b) => dateOf(b.from) === d.date);
    const from = Math.min(...[d.opens ?? d.from, ...mine.map((b) => b.from)].map((t) => Date.parse(t)));
    const to = Math.max(...[d.closes ?? d.from, ...mine.map((b) => b.to)].map((t) => Date.parse(t)), from + 3_600_000);
    return { date: d.date, from, to };
  });
  const at = (instant: string) => {
    const t = Date.parse(instant);
    const i = hoursOf.findIndex((d) => t < d.to);
    if (i < 0) return 1;
    const d = hoursOf[i] as (typeof hoursOf)[0];
    return (i + Math.max(0, Math.min(1, (t - d.from) / (d.to - d.from)))) / days.length;
  };
  return { days, at };
}

function WeekPicture({ week }: { week: Week }) {
  const { days, at } = scaleOf(week);
  const builds = new Map(week.builds.map((b) => [b.id, b]));
  const now = days.some((d) => d.date === week.today) ? at(week.now) : null;
  return (
    <div className="week-grid" aria-hidden="true">
      <div className="week-row week-head">
        <span className="text-ink2">Who</span>
        <span className="week-days">
          {days.map((d) => (
            <span key={d.date} className={d.date === week.today ? "font-[680]" : "text-ink2"}>
              {dayOfMonth(d.date)}
            </span>
          ))}
        </span>
        <span className="text-ink2 num">free</span>
        <span className="text-ink2">promised</span>
      </div>
      {week.people.map((p) => (
        <div key={p.id} className="week-row">
          <span className="week-who">
            <b className="font-[680]">{p.name}</b>
            <span className="block text-ink2">{p.trades.slice(0, 2).join(", ")}</span>
          </span>
          <span className="week-strip" style={{ backgroundSize: `${100 / days.length}% 100%` }}>
            {p.absent.map((a) => (
              <span key={a.from} className="week-absent" style={span(at(a.from), at(a.to))}>
                away
              </span>
            ))}
            {p.blocks.map((b) => (
              <Block key={b.key} block={b} build={builds.get(b.buildId)} at={at} />
            ))}
            {now !== null && <span className="week-now" style={{ left: `${now * 100}%` }} />}
          </span>
          <span className="num">{p.freeMinutes > 0 ? `${hours(p.freeMinutes)} h` : "–"}</span>
          <Squares person={p} />
        </div>
      ))}
      {week.places.length > 0 && <div className="week-places text-ink2">Places</div>}
      {week.places.map((place) => (
        <div key={place.id} className="week-row week-place">
          <span>{place.name}</span>
          <span className="week-strip" style={{ backgroundSize: `${100 / days.length}% 100%` }}>
            {place.held.map((h) => {
              const b = builds.get(h.buildId);
              const [x1, x2] = [at(h.from), h.to ? at(h.to) : 1];
              return b && x2 - x1 > 0.012 ? (
                <span
                  key={h.from + h.buildId}
                  className="week-held"
                  style={{ ...span(x1, x2), background: b.colourHex, color: inkOn(b.colourHex) }}
                >
                  {b.number}
                </span>
              ) : null;
            })}
            {now !== null && <span className="week-now" style={{ left: `${now * 100}%` }} />}
          </span>
          <span />
          <span />
        </div>
      ))}
    </div>
  );
}

const span = (x1: number, x2: number) => ({ left: `${x1 * 100}%`, width: `calc(${(x2 - x1) * 100}% - 1px)` });

function Block({ block: b, build, at }: { block: WeekBlock; build: Week["builds"][number] | undefined; at: (t: string) => number }) {
  const paint = build?.colourHex ?? "#7B827F";
  const [x1, x2] = [at(b.from), at(b.to)];
  const pale = mix(paint, P1, b.state === "offered" ? 0.8 : 0.62);
  const look =
    b.passed && b.state !== "kept"
      ? {
          backgroundImage: `repeating-linear-gradient(135deg, ${OXIDE} 0 1.6px, transparent 1.6px 7px)`,
          boxShadow: `inset 0 0 0 1px ${OXIDE}`,
        }
      : b.state === "promised" || b.state === "slips"
        ? { background: paint, color: inkOn(paint) }
        : {
            background: pale,
            color: inkOn(pale),
            ...(b.state === "offered" ? { border: `1px dashed ${mix(paint, "#22272A", 0.2)}` } : {}),
          };
  return (
    <span
      className={`week-block ${b.state === "slips" && !b.passed ? "week-slips" : ""}`}
      style={{ ...span(x1, x2), ...look }}
      title={`${build?.number ?? ""} ${b.name}, ${weekday(dateOf(b.from))} ${timeOf(b.from)} to ${timeOf(b.to)}: ${b.passed ? "promised for then, nobody was at it" : STATE_WORDS[b.state]}`}
    >
      <span className={b.passed ? "week-on-hatch" : ""}>
        <b>{build?.number}</b> {b.name}
      </span>
      {b.state === "kept" && !b.passed && (
        <svg width="10" height="10" className="week-tick" aria-hidden="true">
          <path d="M1,5l3,3.4L9,1.6" fill="none" stroke="currentColor" strokeWidth="1.8" />
        </svg>
      )}
    </span>
  );
}

const SQUARES: Record<WeekState, string> = {
  kept: "sq sq-kept",
  promised: "sq",
  slips: "sq sq-not",
  missed: "sq sq-not",
  offered: "sq sq-offered",
  worked: "sq sq-offered",
};

function Squares({ person: p }: { person: WeekPerson }) {
  const promised = new Set(p.promises.map((x) => x.operationId));
  const offered = p.promises.length > 0 ? p.offers.filter((o) => !promised.has(o.operationId ?? "")) : [];
  return (
    <span className="flex flex-wrap gap-[3px] content-center">
      {p.promises.map((x) => (
        <span key={x.id} className={SQUARES[x.state]} title={`${x.name}: ${STATE_WORDS[x.state]}`} />
      ))}
      {offered.map((o) => (
        <span key={`${o.buildId}${o.name}`} className={SQUARES.offered} title={`${o.name}: ${STATE_WORDS.offered}`} />
      ))}
    </span>
  );
}

/** The same as a list, for those who read rather than look, and for a phone. */
function WeekList({ week }: { week: Week }) {
  const builds = new Map(week.builds.map((b) => [b.id, b]));
  const [open, setOpen] = useState(false);
  return (
    <section aria-label="The week as a list" className="mt-3">
      <button type="button" className="btn week-list-button" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? "Put the list away" : "As a list"}
      </button>
      <div className={`week-list ${open ? "week-list-open" : ""}`}>
        {week.people.map((p) => {
          const promised = new Set(p.promises.map((x) => x.operationId));
          const others = p.offers.filter((o) => !promised.has(o.operationId ?? ""));
          return (
            <section key={p.id} aria-label={p.name}>
              <h2>
                {p.name} <span className="text-ink2 font-[450]">{p.freeMinutes > 0 ? `${hours(p.freeMinutes)} h free` : ""}</span>
              </h2>
              {p.absent.map((a) => (
                <p key={a.from} className="text-ink2">
                  Away {weekday(dateOf(a.from))} to {weekday(dateOf(a.to))}
                </p>
              ))}
              <ul>
                {p.promises.map((x) => (
                  <Row
                    key={x.id}
                    build={builds.get(x.buildId)}
                    operationId={x.operationId}
                    text={promiseText(x, builds.get(x.buildId)?.number ?? 0)}
                  >
                    <span className={x.state === "slips" || x.state === "missed" ? "text-oxide" : "text-ink2"}>
                      {STATE_WORDS[x.state]}
                      {x.keptOn && ` ${weekday(x.keptOn)}`}
                      {x.reason && `: ${x.reason}`}
                    </span>
                  </Row>
                ))}
                {others.map((o) => (
                  <Row
                    key={`${o.buildId}${o.operationId}${o.name}`}
                    build={builds.get(o.buildId)}
                    operationId={o.operationId}
                    text={promiseText(o, builds.get(o.buildId)?.number ?? 0)}
                  >
                    <span className="text-ink2">{week.committedAt ? STATE_WORDS.offered : "planned"}</span>
                  </Row>
                ))}
                {p.promises.length + others.length === 0 && <li className="text-ink2">Nothing is planned for {p.name}.</li>}
              </ul>
            </section>
          );
        })}
      </div>
    </section>
  );
}

function Row({
  build,
  operationId,
  text,
  children,
}: {
  build: Week["builds"][number] | undefined;
  operationId: string | null;
  text: string;
  children: React.ReactNode;
}) {
  return (
    <li className="flex flex-wrap items-baseline gap-x-2 py-[3px]">
      <span className="flex items-baseline gap-2 min-w-0">
        {build && <Dab number={build.number} colour={build.colourHex} w={28} h={16} />}
        {build && operationId ? (
          <PlaceLink to={`/builds/${build.number}/sequence?at=${operationId}`} className="underline underline-offset-2">
            {text.replace(`${build.number} `, "")}
          </PlaceLink>
        ) : (
          <span>{text}</span>
        )}
      </span>
      {children}
    </li>
  );
}

/** Twelve weeks, a square a promise: kept below, not kept above. */
function Past({ week }: { week: Week }) {
  if (week.past.length === 0)
    return (
      <section aria-label="Promises kept" className="text-ink2">
        No week has been counted yet.
      </section>
    );
  const COLUMNS = 5;
  return (
    <section aria-labelledby="week-past">
      <h2 id="week-past">
        Promises kept <span className="text-ink2 font-[450]">a square a promise</span>
      </h2>
      <ul className="week-past">
        {week.past.map((p) => (
          <li key={p.monday}>
            <span className="week-stack" style={{ width: COLUMNS * 8 }} aria-hidden="true">
              {Array.from({ length: p.promised }, (_, i) => (
                <i key={i} className={i < p.kept ? "sq-full" : "sq-open"} />
              ))}
            </span>
            <span className={p.monday === week.past.at(-1)?.monday ? "font-[680]" : "text-ink2"}>
              {p.percent === null ? "" : percent(p.percent / 100)}
              <span className="sr-only">
                {" "}
                in the week of {weekday(p.monday)}: {p.kept} of {p.promised}
              </span>
            </span>
            <span className="text-ink2 block" aria-hidden="true">
              {Number(p.monday.slice(8))} {month(p.monday)}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function WhyNot({ week }: { week: Week }) {
  if (week.reasons.length === 0) return null;
  const most = Math.max(...week.reasons.map((r) => r.times));
  return (
    <section aria-labelledby="week-why">
      <h2 id="week-why">
        Why not <span className="text-ink2 font-[450]">four weeks</span>
      </h2>
      <ul>
        {week.reasons.slice(0, 7).map((r) => (
          <li key={r.reason} className="grid grid-cols-[132px_1fr] gap-2 items-center">
            <span>{r.reason}</span>
            <span className="flex items-center gap-2">
              <span className="week-bar" style={{ width: `${(r.times / most) * 60}%` }} />
              <b>{r.times}</b>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function FillIns({ week }: { week: Week }) {
  const useful = fillIns(week);
  const numbers = week.builds.filter((b) => b.fillIn).map((b) => b.number);
  if (numbers.length === 0) return null;
  return (
    <section aria-labelledby="week-fill">
      <h2 id="week-fill">
        Useful half hours <span className="text-ink2 font-[450]">{numbers.join(" and ")} fill in</span>
      </h2>
      {useful.length === 0 && <p className="text-ink2">None are left in this week.</p>}
      <ul>
        {useful.slice(0, 6).map(({ block, person, build }) => (
          <li key={`${block.key}${person}`}>
            <b>
              {dayOfWeek(dateOf(block.from))} {timeOf(block.from)}
            </b>{" "}
            {person} {hours((Date.parse(block.to) - Date.parse(block.from)) / 60_000)} h: {build?.number} {block.name}
          </li>
        ))}
      </ul>
    </section>
  );
}
