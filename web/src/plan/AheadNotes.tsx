import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { aheadQuery } from "../api/queries";
import { counted, dateOf, hours, timeOf, weekday } from "../format";

const FIRST = 3;

const when = (at: string) => `${weekday(dateOf(at))}, ${timeOf(at)}`;

/** One stay in words: "Booth from Wed 14 Oct, 10:00 for Spray the sealer; Wil moves it". */
function stayText(s: Schemas["StayView"], first: boolean): string {
  const place = s.gone ? "Out of the shop" : (s.place ?? "In no place that is known");
  const until = s.to ? (first ? ` until ${when(s.to)}` : "") : first ? "; nothing planned moves it" : "";
  const from = first ? "" : ` from ${when(s.from)}`;
  const why = s.for ? ` for ${s.for}` : first || s.gone ? "" : ", to make room";
  const hands = s.movedBy.length === 0 ? "" : `; ${s.movedBy.join(" and ")} ${s.movedBy.length === 1 ? "moves" : "move"} it`;
  return `${place}${from}${until}${why}${hands}`;
}

/** Where a build's vehicle stands and is moved to, and the times of the week that are kept for it. */
export function AheadNotes({ buildId }: { buildId: string }) {
  const [whole, setWhole] = useState(false);
  const ahead = useQuery(aheadQuery(buildId)).data;
  if (!ahead || ahead.stays.length + ahead.kept.length + ahead.fills.length === 0) return null;
  const stays = whole ? ahead.stays : ahead.stays.slice(0, FIRST);
  return (
    <section aria-label="Where it stands" className="border-t border-p3 pt-2 mb-3">
      <ul>
        {stays.map((s, i) => (
          <li key={`${s.place}${s.from}`} className={i === 0 ? "" : "text-ink2"}>
            {i === 0 && <b className="font-[660]">Stands now: </b>}
            {stayText(s, i === 0)}
          </li>
        ))}
        {ahead.kept.map((k) => (
          <li key={`${k.person}${k.day}${k.from}`}>
            <b className="font-[660]">
              {k.person} keeps {`${k.day[0]?.toUpperCase()}${k.day.slice(1)}s`} {k.from.slice(0, 5)} to {k.to.slice(0, 5)} for it
            </b>
            {k.unused && k.unusedOn && (
              <span className="text-oxide">
                ; unused on {weekday(k.unusedOn)}: {k.unused}
              </span>
            )}
            {k.missed > 0 && <span className="text-ink2">; missed {counted(k.missed, "time")} in eight weeks</span>}
          </li>
        ))}
      </ul>
      {ahead.stays.length > FIRST && (
        <button type="button" className="btn btn-quiet !px-0" aria-expanded={whole} onClick={() => setWhole(!whole)}>
          {whole ? "Only the next moves" : `All ${counted(ahead.stays.length - 1, "move")}`}
        </button>
      )}
      {ahead.fills.length > 0 && (
        <>
          <h2 className="mt-2">Time that others leave free</h2>
          <ul aria-label="Time that others leave free">
            {ahead.fills.map((x) => (
              <li key={`${x.person}${x.from}`}>
                <b className="font-[660]">{when(x.from)}</b> {x.person} {hours((Date.parse(x.to) - Date.parse(x.from)) / 60_000)} h:{" "}
                {x.work}
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
