import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { startsOnQuery, whyQuery } from "../api/queries";
import { dateOf, day, days, hm, timeOf, today, weekday } from "../format";
import { movesText } from "../plannedMoves";
import { Dab } from "../ui/Dab";
import { PlaceLink } from "../ui/PlaceLink";
import { Shown } from "../ui/States";
import { PinForm } from "./PinForm";
import { type Pin, pinOf, pinWords } from "./usePins";
import { Roots } from "./WhySheet";

type View = Schemas["LanesView"];
type Work = Schemas["LaneWork"];

const when = (at: string) => `${weekday(dateOf(at))} ${timeOf(at)}`;

/** One block of the plan: when, where and who, what holds it, what it holds, and what if it started on another day. */
export function WorkColumn({
  work,
  view,
  onGo,
  onClose,
  onPin,
}: {
  work: Work;
  view: View;
  onGo: (key: string) => void;
  onClose: () => void;
  /** Settles when, by whom and where it is done, or lets it go; absent: whoever looks moves nothing. */
  onPin?: (work: Work, pin: Pin) => void;
}) {
  const build = view.builds.find((b) => b.id === work.buildId);
  const place = view.places.find((p) => p.id === work.placeId);
  const people = work.people.map((id) => view.people.find((p) => p.id === id)?.name).filter(Boolean);
  const minutes = work.hours.reduce((sum, h) => sum + (Date.parse(h.to) - Date.parse(h.from)) / 60_000, 0);
  return (
    <section aria-label="Chosen work" className="plan-column">
      <div className="flex items-start gap-2">
        {build && <Dab number={build.number} colour={build.colourHex} w={34} h={19} />}
        <h2 className="flex-1 text-[18px] leading-tight">{work.name}</h2>
        <button type="button" className="btn" onClick={onClose}>
          Close
        </button>
      </div>
      <p className="text-ink2 mt-1">
        {[place?.name ?? (work.away ? "At a supplier" : null), ...people].filter(Boolean).join(", ")}
        {place || people.length > 0 || work.away ? ". " : ""}
        {when(work.start)} to {when(work.finish)}
        {minutes > 0 && `, ${hm(minutes)} h of each`}
        {work.dryUntil && `, then dries until ${when(work.dryUntil)}`}.
      </p>
      {build && work.operationId && (
        <p className="mt-1">
          <PlaceLink to={`/builds/${build.number}/sequence`}>In the sequence of {build.number}</PlaceLink>
        </p>
      )}
      {work.broken.length > 0 && (
        <ul className="wrong mt-1" aria-label="What is not kept">
          {work.broken.map((b) => (
            <li key={b}>{b}</li>
          ))}
        </ul>
      )}
      {pinWords(pinOf(work), view) && (
        <p className="mt-1">
          Pinned: {pinWords(pinOf(work), view)}.{" "}
          {onPin && (
            <button type="button" className="btn" onClick={() => onPin(work, { on: null, personId: null, placeId: null })}>
              Unpin
            </button>
          )}
        </p>
      )}
      {work.worked ? (
        <p className="mt-3">This was worked on already.</p>
      ) : work.operationId ? (
        <Reasons key={work.operationId} id={work.operationId} work={work} view={view} onGo={onGo} onPin={onPin} />
      ) : (
        <p className="mt-3">The plan put this in by itself: what it follows must be done again before the work can go on.</p>
      )}
    </section>
  );
}

type Chosen = { id: string; work: Work; view: View; onGo: (key: string) => void; onPin: ((work: Work, pin: Pin) => void) | undefined };

function Reasons({ id, work, view, onGo, onPin }: Chosen) {
  const why = useQuery(whyQuery(id));
  return (
    <Shown of={why}>
      {(answer) => (
        <>
          <h3 className="plan-heading">What holds it</h3>
          <Roots answer={answer} />
          {answer.rows.some((r) => r.kind === "decision") && (
            <p className="mt-1">
              <PlaceLink to="/" className="btn btn-ink">
                Decide now
              </PlaceLink>
            </p>
          )}
          <ol aria-label="Chain of reasons" className="plan-chain">
            {answer.rows.map((r, i) => (
              <li key={r.key}>
                <span className="flex gap-2">
                  <Go name={i === 0 ? "this" : r.name} to={i === 0 ? null : r.key} onGo={onGo} />
                  <b className="num flex-none">{r.slackDays > 0 ? `${days(r.slackDays)} d` : "0 d"}</b>
                </span>
                <span className="block text-ink2">
                  {r.text}
                  {i > 0 && `, on ${r.build}`}
                </span>
              </li>
            ))}
          </ol>
          <p className="text-ink2">The days are what it can be later without moving the end of its build.</p>
          <h3 className="plan-heading">What it holds</h3>
          {answer.followers.length === 0 && <p>Nothing follows it.</p>}
          <ol aria-label="What follows" className="plan-chain">
            {answer.followers.map((f) => (
              <li key={f.key}>
                <span className="flex gap-2">
                  <Go name={`${f.buildNumber} ${f.name}`} to={f.key} onGo={onGo} />
                  <b className="num flex-none">{days(f.roomDays)} d</b>
                </span>
                <span className="block text-ink2">
                  {f.over ? `${f.over}, ` : ""}
                  {when(f.start)}
                  {f.roomDays === 0 && ": each day here is a day there"}
                </span>
              </li>
            ))}
          </ol>
          {onPin ? <PinForm key={`${work.version}`} work={work} view={view} onPin={onPin} /> : <IfItStarts id={id} work={work} />}
        </>
      )}
    </Shown>
  );
}

function Go({ name, to, onGo }: { name: string; to: string | null; onGo: (key: string) => void }) {
  return to === null ? (
    <b className="flex-1 font-[660]">{name}</b>
  ) : (
    <button type="button" className="flex-1 text-left font-[660] underline underline-offset-2" onClick={() => onGo(to)}>
      {name}
    </button>
  );
}

/** Who gains and who loses how many days, or why it cannot be. */
function costOf(work: Work, then: Schemas["StartsOnView"]): string {
  if (then.sooner) return `It cannot start sooner than ${when(work.start)}: see what holds it.`;
  return `Planned ${when(then.start)} to ${when(then.finish)}. ${movesText(then.moves)}`;
}

/** What the plan says of another day: planned finishes are compared, nothing is kept. */
function IfItStarts({ id, work }: { id: string; work: Work }) {
  const [on, setOn] = useState("");
  const answer = useQuery({ ...startsOnQuery(id, on), enabled: on !== "" && on >= today() });
  const held = answer.data;
  return (
    <>
      <h3 className="plan-heading">If it starts on</h3>
      <label className="field max-w-[180px]">
        <span className="sr-only">Day on which it would start</span>
        <input type="date" value={on} min={today()} onChange={(e) => setOn(e.target.value)} />
      </label>
      {on !== "" && on < today() && <p className="wrong">Nothing starts in the past.</p>}
      {answer.isError && (
        <p className="wrong" role="alert">
          {answer.error.message}
        </p>
      )}
      {held && (
        <p aria-live="polite" className="mt-1">
          {costOf(work, held)}
        </p>
      )}
      {on === "" && <p className="text-ink2">Now planned for {day(dateOf(work.start))}.</p>}
    </>
  );
}
