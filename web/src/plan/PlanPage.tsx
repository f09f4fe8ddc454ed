import { useQuery } from "@tanstack/react-query";
import { useLocation, useNavigate } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import type { Schemas } from "../api/client";
import { lanesQuery, queries, startsOnQuery, useMay, whyQuery } from "../api/queries";
import { dateOf, reckoned, timeOf, weekday } from "../format";
import { Dab } from "../ui/Dab";
import { Empty, Shown } from "../ui/States";
import { say } from "../ui/say";
import { ImproveSheet } from "./ImproveSheet";
import type { Block, Lanes } from "./laneRows";
import { PlanPages } from "./PlanPages";
import { PlanPicture, promisesLate } from "./PlanPicture";
import { useHolds } from "./useHolds";
import { costOf, WorkColumn } from "./WorkColumn";

type View = Schemas["LanesView"];

/** Up to this width the column lies below the picture, as the style sheet has it. */
const NARROW = "(max-width: 900px)";
/** Rows of the table at first, and with each asking for more. */
const ROWS = 60;

/** All builds over time: what is promised, what is done when, where and by whom, and why then. */
export function PlanPage() {
  const view = useQuery(lanesQuery);
  return (
    <div className="px-5 pt-3 pb-10 plan-page">
      <Shown of={view}>{(v) => <Plan view={v} />}</Shown>
    </div>
  );
}

function Plan({ view }: { view: View }) {
  const { at, by } = useLocation().search as { at?: string; by?: Lanes };
  const navigate = useNavigate();
  const lanes: Lanes = by === "builds" ? "builds" : "shop";
  // The same work lies in several lanes: which of them was chosen is this page's own; the work is the address's.
  const [lane, setLane] = useState<string | null>(null);
  const go = (work: string | undefined, way: Lanes = lanes) =>
    void navigate({
      to: "/plan",
      search: { ...(work ? { at: work } : {}), ...(way === "builds" ? { by: way } : {}) } as never,
      replace: true,
      resetScroll: false,
    });
  const work = view.work.find((w) => w.key === at);
  const why = useQuery({ ...whyQuery(work?.operationId ?? ""), enabled: !!work?.operationId && !work.worked }).data;
  const chain = {
    holders: why?.rows.slice(1).map((r) => r.key) ?? [],
    followers: why?.followers.map((f) => f.key) ?? [],
  };
  const may = useMay();
  const [improving, setImproving] = useState(false);
  const holds = useHolds();
  // What is carried is asked of the plan once the hand rests on a day.
  const [carried, setCarried] = useState<{ work: Schemas["LaneWork"]; on: string } | null>(null);
  const over = useResting(carried, 150);
  const asked = over && over.on >= view.today ? over : null;
  const then = useQuery({ ...startsOnQuery(asked?.work.operationId ?? "", asked?.on ?? ""), enabled: asked !== null });
  const dropWords = carried && sayDrop(carried, view.today, over?.on === carried.on ? then.data : undefined);
  const drop = (w: Schemas["LaneWork"], on: string) => {
    setLane(null);
    go(w.key);
    if (on < view.today) return say.wrong("Nothing starts in the past.");
    void queries
      .fetchQuery(startsOnQuery(w.operationId ?? "", on))
      .then((answer) => (answer.sooner ? say.wrong(costOf(w, answer)) : holds.hold(w, on)))
      .catch((e: Error) => say.wrong(e.message));
  };
  // Where there is no room beside the picture, what was chosen stands below it.
  useEffect(() => {
    if (at && window.matchMedia?.(NARROW).matches) document.querySelector(".plan-column")?.scrollIntoView({ block: "start" });
  }, [at]);
  const choose = (block: Block | null) => {
    setLane(block?.key ?? null);
    go(block?.work.key);
  };
  const choseKey = work ? (lane?.endsWith(` ${work.key}`) ? lane : laneOf(view, work, lanes)) : null;
  if (view.builds.length === 0)
    return (
      <>
        <PlanPages here="plan" />
        <Empty>No build is open: there is nothing to plan yet.</Empty>
      </>
    );
  return (
    <>
      <PlanPages here="plan">
        <span>
          {promisesLate(view)}
          {view.futuresAt ? (
            <span className="text-ink2"> As reckoned {reckoned(view.futuresAt)}.</span>
          ) : (
            <span className="text-ink2"> The futures are being drawn.</span>
          )}
        </span>
        {may.manager && (
          <button type="button" className="btn" onClick={() => setImproving(true)}>
            A better order
          </button>
        )}
        {improving && <ImproveSheet onClose={() => setImproving(false)} />}
        {(holds.undo || holds.redo) && (
          <span className="flex gap-1">
            <button type="button" className="btn" disabled={!holds.undo || holds.busy} onClick={() => void holds.undo?.()}>
              Undo
            </button>
            <button type="button" className="btn" disabled={!holds.redo || holds.busy} onClick={() => void holds.redo?.()}>
              Redo
            </button>
          </span>
        )}
        <span className="flex gap-1 ml-auto" role="group" aria-label="Lanes">
          {(["shop", "builds"] as const).map((l) => (
            <button
              key={l}
              type="button"
              className={`btn ${lanes === l ? "btn-ink" : ""}`}
              aria-pressed={lanes === l}
              onClick={() => go(at, l)}
            >
              {l === "shop" ? "By place and person" : "By build"}
            </button>
          ))}
        </span>
      </PlanPages>
      <div className={work ? "plan-split" : ""}>
        <PlanPicture
          view={view}
          lanes={lanes}
          at={choseKey}
          chain={chain}
          onAt={choose}
          {...(may.manager ? { onDrag: setCarried, onDrop: drop, dropWords } : {})}
          onAsk={() => document.querySelector<HTMLElement>(".plan-column button")?.focus()}
        />
        {work && (
          <WorkColumn
            work={work}
            view={view}
            onGo={(key) => {
              setLane(null);
              go(key);
            }}
            onClose={() => choose(null)}
            {...(may.manager ? { onHold: (w: Schemas["LaneWork"], on: string | null) => void holds.hold(w, on) } : {})}
          />
        )}
      </div>
      <WorkTable view={view} onGo={(key) => go(key)} />
    </>
  );
}

/** What would come of letting go there, as far as it is known. */
function sayDrop(to: { work: Schemas["LaneWork"]; on: string }, today: string, then: Schemas["StartsOnView"] | undefined) {
  if (to.on < today) return "Nothing starts in the past.";
  return `${weekday(to.on)}: ${then ? costOf(to.work, then) : "…"}`;
}

/** A value once it has stayed as it is for so long. */
function useResting<T>(value: T, ms: number): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return rested;
}

/** The lane in which chosen work is shown: its place's, else its first person's, else its build's. */
const laneOf = (view: View, work: Schemas["LaneWork"], lanes: Lanes) => {
  const lane =
    lanes === "builds" ? work.buildId : (work.placeId ?? work.people.find((p) => view.people.some((x) => x.id === p)) ?? work.buildId);
  return `${lane} ${work.key}`;
};

/** The same as a table, for those who read rather than look. */
function WorkTable({ view, onGo }: { view: View; onGo: (key: string) => void }) {
  const [shown, setShown] = useState(0);
  const ahead = view.work.filter((w) => !w.worked).toSorted((a, b) => (a.start < b.start ? -1 : 1));
  if (shown === 0)
    return (
      <button type="button" className="btn mt-3" onClick={() => setShown(ROWS)}>
        As a table
      </button>
    );
  const name = (id: string) => view.people.find((p) => p.id === id)?.name ?? "";
  return (
    <section aria-label="The plan as a table" className="mt-3">
      <div className="flex items-baseline border-t border-ink pt-2">
        <h2 className="flex-1">Planned work</h2>
        <button type="button" className="btn" onClick={() => setShown(0)}>
          Put the table away
        </button>
      </div>
      <table className="rows">
        <thead>
          <tr>
            <th>Build</th>
            <th>Work</th>
            <th>From</th>
            <th>To</th>
            <th>Place</th>
            <th>Who</th>
          </tr>
        </thead>
        <tbody>
          {ahead.slice(0, shown).map((w) => {
            const b = view.builds.find((x) => x.id === w.buildId);
            return (
              <tr key={w.key}>
                <td>{b && <Dab number={b.number} colour={b.colourHex} w={30} h={17} />}</td>
                <td>
                  <button type="button" className="text-left underline underline-offset-2" onClick={() => onGo(w.key)}>
                    {w.name}
                  </button>
                </td>
                <td className="whitespace-nowrap">
                  {weekday(dateOf(w.start))} {timeOf(w.start)}
                </td>
                <td className="whitespace-nowrap">
                  {weekday(dateOf(w.finish))} {timeOf(w.finish)}
                </td>
                <td>{view.places.find((p) => p.id === w.placeId)?.name ?? (w.away ? "at a supplier" : "")}</td>
                <td>{w.people.map(name).join(", ")}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {ahead.length > shown && (
        <button type="button" className="btn mt-2" onClick={() => setShown(shown + ROWS)}>
          {ahead.length - shown} more
        </button>
      )}
    </section>
  );
}
