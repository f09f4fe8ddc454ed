import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { buildsQuery, setUpsQuery } from "../api/queries";
import { addDays, counted, dateOf, days, hours, today, weekday } from "../format";
import { f } from "../geometry";
import { movesText, someOf } from "../plannedMoves";
import { INK, P1, P3 } from "../tokens";
import { Dab } from "../ui/Dab";
import { Sheet } from "../ui/Sheet";
import { Empty, Shown } from "../ui/States";
import { useSend } from "../ui/useSend";
import { Months, monthsOf, type Scale, scaleOf } from "./Spans";

type SetUp = Schemas["SetUpView"];
type Taken = { words: string; changes: string[] };

const WIDTH = 120;

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
          body: { works: s.works.map((w) => ({ operationId: w.operationId, on: w.on, version: w.version })), batch: s.batch },
        }),
      ),
    { says: "Done together", onDone: (r, s) => setTaken((all) => [...all, { words: shortly(s), changes: r.changes }]) },
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
          Done together: {t.words}.{" "}
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
          "Days late, all together, stay as they are."
        )}
        {s.withoutDate.length > 0 && <span className="text-oxide"> Without a date then: {someOf(s.withoutDate)}.</span>}
      </p>
      <button type="button" className="btn mt-2" aria-label={`Do it together: ${nameOf(s)}`} disabled={busy} onClick={onTake}>
        Do it together
      </button>
    </li>
  );
}

/** Each piece of work from the day on which it starts by the plan to the day on which it would. */
function Together({ works }: { works: SetUp["works"] }) {
  const colours = new Map((useQuery(buildsQuery).data ?? []).map((b) => [b.number, b.colourHex]));
  const dates = works.flatMap((w) => [dateOf(w.before), w.after && dateOf(w.after)]);
  // Room for the last dot.
  const scale = scaleOf(
    today(),
    dates.map((d) => d && addDays(d, 6)),
    WIDTH,
  );
  return (
    <table className="rows my-1">
      <thead>
        <tr>
          <th>Work</th>
          <th>Starts</th>
          <th>
            <Months scale={scale} />
          </th>
        </tr>
      </thead>
      <tbody>
        {works.map((w) => (
          <tr key={w.operationId}>
            <td>
              <span className="flex gap-2 items-center">
                <Dab number={w.buildNumber} colour={colours.get(w.buildNumber) ?? P3} />
                {w.name}
              </span>
            </td>
            <td className="whitespace-nowrap !align-middle">{startsText(w)}</td>
            <td className="!align-middle">
              <Strip scale={scale} before={w.before} after={w.after} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function startsText(w: SetUp["works"][number]): string {
  const [was, then] = [weekday(dateOf(w.before)), w.after === null ? "no date" : weekday(dateOf(w.after))];
  return was === then ? was : `${was} → ${then}`;
}

/** A ring where it starts by the plan, a dot where it would. */
function Strip({ scale, before, after }: { scale: Scale; before: string; after: string | null }) {
  const from = at(scale, before);
  const to = after === null ? null : at(scale, after);
  return (
    <svg width={scale.width} height="22" viewBox={`0 0 ${scale.width} 22`} aria-hidden="true" className="block">
      {monthsOf(scale).map((m) => (
        <path key={m.name} d={`M${f(m.x)},0V22`} stroke={P3} />
      ))}
      {to !== null && Math.abs(to - from) > 6 && <path d={`M${f(from)},11H${f(to)}`} stroke={INK} strokeDasharray="2 3" />}
      <circle cx={from} cy={11} r={3.5} fill={P1} stroke={INK} />
      {to !== null && <circle cx={to} cy={11} r={4} fill={INK} />}
    </svg>
  );
}

const at = (s: Scale, iso: string) => ((new Date(iso).getTime() / 86_400_000 - s.from) / (s.to - s.from)) * s.width;
