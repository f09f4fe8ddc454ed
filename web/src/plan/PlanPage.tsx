import { useQuery } from "@tanstack/react-query";
import { useLocation, useNavigate } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import type { Schemas } from "../api/client";
import { lanesQuery, useMay, whyQuery } from "../api/queries";
import { dateOf, dayRange, reckoned, timeOf, weekday } from "../format";
import { Dab } from "../ui/Dab";
import { Empty, Shown } from "../ui/States";
import { say } from "../ui/say";
import { ImproveSheet } from "./ImproveSheet";
import type { Block, Carried, Lanes } from "./laneRows";
import { PlanPages } from "./PlanPages";
import { PlanPicture, promisesLate } from "./PlanPicture";
import { SetUpsSheet } from "./SetUpsSheet";
import { useTrial } from "./TrialAnswer";
import { isTooSoon, type Pin, pinCost, pinOf, pinWords, tryPin, usePins } from "./usePins";
import { WorkColumn } from "./WorkColumn";

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
  const broken = view.work.filter((w) => w.broken.length > 0).map((w) => w.key);
  const may = useMay();
  const [improving, setImproving] = useState(false);
  const [sharing, setSharing] = useState(false);
  const pins = usePins(view);
  // What is carried is asked of the plan once the hand rests.
  const [carried, setCarried] = useState<Carried | null>(null);
  const pin = carried && pinnedThere(carried);
  const past = carried !== null && carried.on < view.today;
  const trial = useTrial(pin && !past ? pin : null, (to) => tryPin((carried as Carried).work, to), [
    "pin",
    carried?.work.operationId ?? "",
    `${carried?.work.version}`,
  ]);
  const dropWords = carried && pin && (past ? PAST : sayDrop(carried.work, pin, view, trial));
  const drop = (to: Carried) => {
    setLane(null);
    go(to.work.key);
    if (to.on < view.today) return say.wrong(PAST);
    const wanted = pinnedThere(to);
    void tryPin(to.work, wanted)
      .then((then) => (isTooSoon(to.work, wanted, then) ? say.wrong(pinCost(to.work, wanted, then)) : pins.pin(to.work, wanted)))
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
          {view.fullBooth && ` Booth full ${dayRange(view.fullBooth)}.`}
          {view.futuresAt && <span className="text-ink2"> As reckoned {reckoned(view.futuresAt)}.</span>}
        </span>
        {broken.length > 0 && (
          <button type="button" className="btn !text-oxide" onClick={() => go(nextOf(broken, at))}>
            {broken.length === 1 ? "1 pin is not kept" : `${broken.length} pins are not kept`}
          </button>
        )}
        {may.manager && (
          <button type="button" className="btn" onClick={() => setImproving(true)}>
            A better order
          </button>
        )}
        {may.manager && (
          <button type="button" className="btn" onClick={() => setSharing(true)}>
            Done together
          </button>
        )}
        {sharing && <SetUpsSheet onClose={() => setSharing(false)} />}
        {improving && <ImproveSheet onClose={() => setImproving(false)} />}
        {(pins.undo || pins.redo) && (
          <span className="flex gap-1">
            <button type="button" className="btn" disabled={!pins.undo || pins.busy} onClick={() => void pins.undo?.()}>
              Undo
            </button>
            <button type="button" className="btn" disabled={!pins.redo || pins.busy} onClick={() => void pins.redo?.()}>
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
            {...(may.manager ? { onPin: (w: Schemas["LaneWork"], to: Pin) => void pins.pin(w, to) } : {})}
          />
        )}
      </div>
      <WorkTable view={view} onGo={(key) => go(key)} />
    </>
  );
}

/** The one after the one that is looked at, round and round. */
const nextOf = (keys: readonly string[], at: string | undefined) => keys[(keys.indexOf(at ?? "") + 1) % keys.length];

const PAST = "Nothing starts in the past.";

/** How work would be held that is let go of there: on that day, if it is another, and in the lane it was carried to. */
function pinnedThere({ work, on, lane }: Carried): Pin {
  const now = pinOf(work);
  return {
    on: on === dateOf(work.start) ? now.on : on,
    personId: lane?.kind === "person" && !work.people.includes(lane.key) ? lane.key : now.personId,
    placeId: lane?.kind === "place" && lane.key !== work.placeId ? lane.key : now.placeId,
  };
}

/** What would come of letting go there, as far as it is known. */
function sayDrop(work: Schemas["LaneWork"], pin: Pin, view: View, trial: ReturnType<typeof useTrial>) {
  const how = pinWords(pin, view) || "as it is";
  if (trial.error) return `${how}: ${trial.error.message}`;
  return `${how}: ${trial.data && !trial.waiting ? pinCost(work, pin, trial.data) : "…"}`;
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
