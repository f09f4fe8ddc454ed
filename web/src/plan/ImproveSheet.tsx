import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { improvementQuery } from "../api/queries";
import { dateOf, day, days, percent, today } from "../format";
import { Dab } from "../ui/Dab";
import { Sheet } from "../ui/Sheet";
import { Shown } from "../ui/States";
import { useSend } from "../ui/useSend";
import { Months, Span, scaleOf } from "./Spans";

type Chosen = { id: string; builds: string[] | null };

const SECONDS = 20;
const WIDTH = 176;

/** Looks for a better order of who goes first; nothing changes until it is taken. */
export function ImproveSheet({ onClose }: { onClose: () => void }) {
  const view = useQuery({
    ...improvementQuery,
    refetchInterval: (q) => (q.state.data?.id && !q.state.data.moves && !q.state.data.failed ? 1000 : false),
  });
  const start = useSend(() => ask(api.POST("/api/plan/improvement", { body: { id: crypto.randomUUID(), seconds: SECONDS } })));
  const drop = useSend(() => ask(api.DELETE("/api/plan/improvement")));
  const choose = useSend(({ id, builds }: Chosen) =>
    ask(api.POST("/api/plan/improvement/{id}/choose", { params: { path: { id } }, body: { builds } })),
  );
  const accept = useSend(
    ({ id, builds }: Chosen) => ask(api.POST("/api/plan/improvement/{id}/accept", { params: { path: { id } }, body: { builds } })),
    { says: "Taken" },
  );
  const undo = useSend(() => ask(api.POST("/api/plan/turns/undo")), { says: "Undone" });
  return (
    <Sheet title="A better order" note="Who goes first where two builds want the same hands or the same place." onClose={onClose}>
      <Shown of={view}>
        {(v) => (
          <>
            {v.id === null ? (
              <button type="button" className="btn" onClick={() => start.mutate(undefined)}>
                Look for {SECONDS} seconds
              </button>
            ) : v.failed ? (
              <>
                <p className="text-oxide">The search broke off. Nothing was changed; the shop's log says why.</p>
                <button type="button" className="btn mt-2" onClick={() => drop.mutate(undefined)}>
                  Good
                </button>
              </>
            ) : v.moves === null && v.share === 1 ? (
              <p role="status">The rest is placed again…</p>
            ) : v.moves === null ? (
              <>
                <p>
                  Looking: {Math.round(v.share * 100)} %. So far {v.best} days late instead of {v.before}.
                </p>
                <progress className="block w-full my-2" value={v.share} aria-label="How far the search is" />
                <button type="button" className="btn" onClick={() => drop.mutate(undefined)}>
                  Stop
                </button>
              </>
            ) : (
              <Offer
                key={v.chosen?.join() ?? "all"}
                view={v}
                moves={v.moves}
                onChoose={(builds) => v.id && choose.mutate({ id: v.id, builds })}
                onAccept={() => v.id && accept.mutate({ id: v.id, builds: v.chosen })}
                onDrop={() => drop.mutate(undefined)}
              />
            )}
            {v.accepted && (
              <p className="mt-4 text-ink2">
                The order in force was taken by {v.accepted.by}, {day(dateOf(v.accepted.at))}.{" "}
                <button type="button" className="btn btn-quiet !px-0" onClick={() => undo.mutate(undefined)}>
                  Undo it
                </button>
              </p>
            )}
          </>
        )}
      </Shown>
    </Sheet>
  );
}

const pair = (before: string, after: string) => (before === after ? day(after) : `${day(before)} → ${day(after)}`);

const moved = (by: number) =>
  by === 0 ? "stays" : `${days(Math.abs(by))} ${Math.abs(by) === 1 ? "day" : "days"} ${by > 0 ? "later" : "sooner"}`;

type Offered = {
  view: Schemas["ImprovementView"];
  moves: Schemas["MoveRow"][];
  onChoose: (builds: string[] | null) => void;
  onAccept: () => void;
  onDrop: () => void;
};

function Offer(p: Offered) {
  const { view: v, moves } = p;
  const [taken, setTaken] = useState(() => new Set(v.chosen ?? moves.map((m) => m.buildId)));
  const same = moves.every((m) => taken.has(m.buildId) === (v.chosen === null || v.chosen.includes(m.buildId)));
  const numbers = (which: (id: string) => boolean) =>
    moves
      .filter((m) => which(m.buildId))
      .map((m) => m.buildNumber)
      .sort((a, b) => a - b)
      .join(", ");
  if (!v.better && v.chosen === null)
    return (
      <>
        <p>Nothing better was found: {v.before} days late, each counted with its weight.</p>
        <button type="button" className="btn mt-2" onClick={p.onDrop}>
          Good
        </button>
      </>
    );
  const scale = scaleOf(
    today(),
    moves.flatMap((m) => [m.before80, m.after80, m.promised]),
    WIDTH,
  );
  return (
    <>
      {v.chosen && (
        <p>
          Taken for <b>{numbers((id) => v.chosen?.includes(id) ?? false)}</b> only; the others keep their order, and everything was placed
          again.
        </p>
      )}
      <p>
        {!v.better ? (
          <>
            With these builds alone it is no better: {v.best} days late instead of {v.before}.
          </>
        ) : v.best < v.before ? (
          <>
            <b>{v.best}</b> days late instead of <b>{v.before}</b>, each counted with its weight. No plan can do better than {v.least}.
          </>
        ) : (
          <>
            {v.best === 0 ? "Nothing is late either way" : `${v.best} days late either way`}, but the builds together are done{" "}
            <b>{days(v.daysSooner)} days sooner</b>. Look at those that come closer to their promise.
          </>
        )}
      </p>
      <table className="rows mt-2">
        <thead>
          <tr>
            <th>Take it for</th>
            <th>
              <Months scale={scale} />
            </th>
            <th>Moves</th>
            <th className="num">Days late</th>
            <th className="num">Promise kept</th>
          </tr>
        </thead>
        <tbody>
          {moves.map((m) => (
            <tr key={m.buildNumber}>
              <td>
                <label className="flex items-center gap-2 min-h-7">
                  <input
                    type="checkbox"
                    className="size-4"
                    checked={taken.has(m.buildId)}
                    aria-label={`Take it for build ${m.buildNumber}`}
                    onChange={(e) => {
                      const next = new Set(taken);
                      if (e.target.checked) next.add(m.buildId);
                      else next.delete(m.buildId);
                      setTaken(next);
                    }}
                  />
                  <Dab number={m.buildNumber} colour={m.colourHex} w={32} h={18} />
                </label>
              </td>
              <td>
                <Span
                  scale={scale}
                  of={{ likely: m.after, p80: m.after80 }}
                  was={{ likely: m.before, p80: m.before80 }}
                  promised={m.promised}
                  paint={m.colourHex}
                  words={`${m.buildNumber}: likely ${day(m.after)} instead of ${day(m.before)}, 8 in 10 by ${day(m.after80)} instead of ${day(m.before80)}`}
                />
                <span className="block text-[12px] text-ink2 whitespace-nowrap">
                  likely {pair(m.before, m.after)}; 8 in 10 {pair(m.before80, m.after80)}
                </span>
              </td>
              <td className={m.days > 0 ? "text-oxide" : ""}>{moved(m.days)}</td>
              <td className="num whitespace-nowrap">
                {m.lateBefore === m.lateAfter ? days(m.lateAfter) : `${days(m.lateBefore)} → ${days(m.lateAfter)}`}
              </td>
              <td className={`num whitespace-nowrap ${m.riskier ? "text-oxide font-[640]" : ""}`}>
                {m.keptBefore === null || m.keptAfter === null ? "" : `${percent(m.keptBefore)} → ${percent(m.keptAfter)}`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-ink2 mt-1">
        Solid to the likely day then, whisker to eight in ten, dotted as it is now, the flag what was promised; moves and days late are of
        the plan.
      </p>
      <div className="flex gap-2 mt-3">
        {same ? (
          <button type="button" className="btn btn-ink" onClick={p.onAccept}>
            {v.chosen ? `Take this order for ${numbers((id) => v.chosen?.includes(id) ?? false)}` : "Take this order"}
          </button>
        ) : (
          <button
            type="button"
            className="btn btn-ink"
            disabled={taken.size === 0}
            onClick={() => p.onChoose(taken.size === moves.length ? null : [...taken])}
          >
            {taken.size === 0
              ? "Choose at least one build"
              : taken.size === moves.length
                ? "Show it for all again"
                : `Show what comes of it for ${numbers((id) => taken.has(id))}`}
          </button>
        )}
        <button type="button" className="btn" onClick={p.onDrop}>
          Leave it as it is
        </button>
      </div>
    </>
  );
}
