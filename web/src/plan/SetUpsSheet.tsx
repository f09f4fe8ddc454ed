import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { buildsQuery, setUpsQuery } from "../api/queries";
import { counted, dateOf, day, days, hours, today, weekday } from "../format";
import { f } from "../geometry";
import { movesText, someOf } from "../plannedMoves";
import { INK, INK2, P3 } from "../tokens";
import { DabMark } from "../ui/Dab";
import { Sheet } from "../ui/Sheet";
import { Empty, Shown } from "../ui/States";
import { useSend } from "../ui/useSend";
import { monthsOf, type Scale, scaleOf } from "./Spans";

type SetUp = Schemas["SetUpView"];
type Taken = { words: string; changes: string[] };

const WIDTH = 520;

/** What is made ready for: "Blasting", "Sealer in the booth", "Pieces for Marrow Plating". */
const nameOf = (s: SetUp) =>
  s.kind === "blasting"
    ? "Blasting"
    : s.kind === "coat"
      ? `${s.what[0]?.toUpperCase()}${s.what.slice(1)} in the booth`
      : `Pieces for ${s.what}`;

const times = (s: SetUp) =>
  s.kind === "crossing"
    ? `${counted(s.setUpsAfter, "crossing")} instead of ${s.setUpsBefore}`
    : `made ready ${counted(s.setUpsAfter, "time")} instead of ${s.setUpsBefore}`;

/** Work of several builds that could be made ready for once: each proposal with the plan's own answer. */
export function SetUpsSheet({ onClose }: { onClose: () => void }) {
  const found = useQuery(setUpsQuery);
  const [taken, setTaken] = useState<Taken[]>([]);
  const share = useSend(
    (s: SetUp) =>
      ask(
        api.POST("/api/plan/set-ups", {
          body: { works: s.works.map((w) => ({ operationId: w.operationId, version: w.version })), on: s.on, batch: s.batch },
        }),
      ),
    { says: "Put together", onDone: (r, s) => setTaken((all) => [...all, { words: shortly(s), changes: r.changes }]) },
  );
  const part = useSend((t: Taken) => ask(api.POST("/api/plan/set-ups/part", { body: { changes: t.changes } })), {
    says: "As it was",
    onDone: (_, t) => setTaken((all) => all.filter((x) => x !== t)),
  });
  const busy = share.isPending || part.isPending;
  return (
    <Sheet
      title="Done together"
      note="Work of several builds that could be made ready for once. Each was planned with everything else."
      onClose={onClose}
    >
      {taken.map((t) => (
        <p key={t.changes.join()} className="mb-2">
          Put together: {t.words}.{" "}
          <button type="button" className="btn btn-quiet !px-0" disabled={busy} onClick={() => part.mutate(t)}>
            Take it back
          </button>
        </p>
      ))}
      <Shown of={found}>
        {(all) =>
          all.length === 0 ? (
            <Empty>
              Nothing of the plan would be made ready for less often: no blasting, no coat and no crossing of two builds within three weeks.
            </Empty>
          ) : (
            <ul>
              {all.map((s) => (
                <Proposal key={s.works.map((w) => w.operationId).join()} of={s} busy={busy} onTake={() => share.mutate(s)} />
              ))}
            </ul>
          )
        }
      </Shown>
    </Sheet>
  );
}

const shortly = (s: SetUp) =>
  `${nameOf(s).toLowerCase()}, ${s.works.map((w) => w.buildNumber).join(" and ")}${s.on ? `, from ${weekday(s.on)}` : ""}`;

function Proposal({ of: s, busy, onTake }: { of: SetUp; busy: boolean; onTake: () => void }) {
  const saved = [
    s.readyMinutes > 0 && `${hours(s.readyMinutes)} h to make ready`,
    s.moveMinutes > 0 && `${hours(s.moveMinutes)} h of moving vehicles`,
  ].filter(Boolean);
  return (
    <li className="border-t border-p3 py-3" aria-label={nameOf(s)}>
      <h3 className="font-[680]">
        {nameOf(s)}: {times(s)}
      </h3>
      <Together works={s.works} />
      <p>
        {s.on ? `All from ${weekday(s.on)} on, one after the other. ` : "All of it leaves together. "}
        {saved.length > 0 ? `Saves ${saved.join(" and ")}. ` : ""}
        {s.moveMinutes < 0 && `Takes ${hours(-s.moveMinutes)} h more of moving vehicles. `}
        {movesText(s.moves)}{" "}
        {s.daysLater > 0 ? (
          <b className="text-oxide">
            {days(s.daysLater)} {s.daysLater === 1 ? "day" : "days"} more late, each counted with its weight.
          </b>
        ) : s.daysLater < 0 ? (
          <b>
            {days(-s.daysLater)} {s.daysLater === -1 ? "day" : "days"} less late.
          </b>
        ) : (
          "No promise gets later."
        )}
        {s.withoutDate.length > 0 && <span className="text-oxide"> Without a date then: {someOf(s.withoutDate)}.</span>}
      </p>
      <button type="button" className="btn mt-2" aria-label={`Do it together: ${nameOf(s)}`} disabled={busy} onClick={onTake}>
        Do it together
      </button>
    </li>
  );
}

const ROW = 24;

/** Each piece of work from the day on which it starts by the plan to the day on which it would. */
function Together({ works }: { works: SetUp["works"] }) {
  const colours = new Map((useQuery(buildsQuery).data ?? []).map((b) => [b.number, b.colourHex]));
  const dates = works.flatMap((w) => [dateOf(w.before), w.after && dateOf(w.after)]);
  const scale = scaleOf(today(), dates, WIDTH);
  const x = (iso: string) => at(scale, iso);
  const height = works.length * ROW + 18;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${height}`}
      className="block w-full max-w-[540px] my-1"
      role="img"
      aria-label={works.map(wordsOf).join(". ")}
    >
      {monthsOf(scale).map((m) => (
        <g key={m.name}>
          <path d={`M${f(m.x)},14V${height}`} stroke={P3} />
          <text x={m.x} y={10} className="svg-small" fill={INK2} fontSize={11} textAnchor="middle">
            {m.name}
          </text>
        </g>
      ))}
      {works.map((w, i) => {
        const y = 14 + ROW * (i + 0.5);
        const [from, to] = [x(w.before), w.after === null ? null : x(w.after)];
        return (
          <g key={w.operationId}>
            {to !== null && Math.abs(to - from) > 3 && (
              <path d={`M${f(from)},${f(y)}H${f(to)}`} stroke={INK} strokeDasharray="2 3" fill="none" />
            )}
            <circle cx={from} cy={y} r={3.5} fill="none" stroke={INK} />
            {to !== null && (
              <g transform={`translate(${f(to - 13)},${f(y - 8)})`}>
                <DabMark number={w.buildNumber} colour={colours.get(w.buildNumber) ?? "#8a8f94"} w={27} h={16} size={11} />
              </g>
            )}
            <text x={Math.max(from, to ?? 0) + 20} y={y + 4} fontSize={12} fill={INK}>
              {w.name}
              {to === null ? ": no date" : ""}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

const at = (s: Scale, iso: string) => ((new Date(iso).getTime() / 86_400_000 - s.from) / (s.to - s.from)) * s.width;

const wordsOf = (w: SetUp["works"][number]) =>
  `${w.buildNumber}, ${w.name}: ${day(dateOf(w.before))}${w.after === null ? ", then no date" : ` → ${day(dateOf(w.after))}`}`;
