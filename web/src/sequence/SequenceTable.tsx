import { useState } from "react";
import { reasonText } from "../builds/reason";
import { coatName, dateOf, day, heldName, hm, hours, stageName, timeOf, tradeName, wait, words } from "../format";
import { layerColour } from "../pictures/Strata";
import { signedBy } from "./GateAsks";
import { OperationActions } from "./OperationActions";
import { inTime, type Operation } from "./strands";

/** The sequence as a table: by the day it was done or is planned to start; what has no date stands last. */
export function SequenceTable({
  all,
  paint,
  nameOf,
  onEdit,
  onWhy,
}: {
  all: readonly Operation[];
  paint: string;
  nameOf: (person: string) => string;
  onEdit: (o: Operation) => void;
  onWhy: (o: Operation) => void;
}) {
  const [withDone, setWithDone] = useState(false);
  const names = new Map(all.map((o) => [o.id, o.name]));
  const done = all.filter((o) => o.doneAt !== null).length;
  const crew = (ids: readonly string[]) => ids.map(nameOf).join(", ");
  return (
    <section aria-label="Sequence as a table">
      {done > 0 && (
        <button type="button" className="btn btn-quiet !px-0" aria-expanded={withDone} onClick={() => setWithDone(!withDone)}>
          {withDone ? "Hide what is done" : done === 1 ? "Show the one that is done" : `Show the ${done} that are done`}
        </button>
      )}
      <table className="rows">
        <thead>
          <tr>
            <th>Operation</th>
            <th>Trade, station</th>
            <th className="num">Spent / budget, h</th>
            <th>When</th>
            <th>Why not earlier</th>
            <th>After</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {inTime(all)
            .filter((o) => withDone || o.doneAt === null)
            .map((o) => (
              <tr key={o.id}>
                <td>
                  <span className="flex gap-2">
                    <svg width="8" height="18" aria-hidden="true" className="flex-none mt-[1px]">
                      <rect width="8" height="18" fill={layerColour(o.stage, paint)} />
                    </svg>
                    <span className="self-baseline">
                      <b className="font-[660]">{o.kind === "gate" ? `Gate: ${o.name}` : o.name}</b>
                      <span className="block text-ink2">
                        {[
                          stageName(o.stage),
                          o.coat && `gives ${coatName(o.coat)}`,
                          o.held && heldName(o.held),
                          o.panels.length > 0 && (o.panels.length === 1 ? "one panel" : `${o.panels.length} panels`),
                        ]
                          .filter(Boolean)
                          .join(", ")}
                      </span>
                      {o.signatures.map((s) => (
                        <span key={`${s.personId} ${s.side}`} className="block">
                          {s.overrideReason
                            ? `opened by ${s.name}, ${day(dateOf(s.at))}: ${s.overrideReason}`
                            : `signed by ${signedBy(s)}, ${day(dateOf(s.at))}${s.byMaker ? ", who did the work" : ""}`}
                        </span>
                      ))}
                    </span>
                  </span>
                </td>
                <td>
                  {o.kind === "work" ? (o.trade ? tradeName(o.trade) : "") : words(o.kind)}
                  {o.station && <span className="block text-ink2">{o.station}</span>}
                </td>
                <td className="num">
                  {o.kind === "work" ? `${hm(o.spentMinutes)} / ${hours(o.budgetMinutes)}` : o.clockMinutes > 0 ? wait(o.clockMinutes) : ""}
                </td>
                <td>
                  {o.doneAt ? (
                    <span>
                      done {day(dateOf(o.doneAt))}
                      <span className="block text-ink2">{o.doneBy}</span>
                    </span>
                  ) : o.starts && o.finishes ? (
                    <span>
                      {[...new Set([day(dateOf(o.starts)), day(dateOf(o.finishes))])].join(" to ")}
                      <span className="block text-ink2">{crew(o.plannedPeople)}</span>
                      {o.startBy && (
                        <span className="block text-ink2">
                          start by {day(dateOf(o.startBy))}, {timeOf(o.startBy)}
                        </span>
                      )}
                      {o.assumes && <span className="block text-ink2">{o.assumes}</span>}
                      {o.missesDeadline && <span className="block text-oxide">after {day(o.terms.deadline)}</span>}
                    </span>
                  ) : (
                    "not planned"
                  )}
                  {o.statedShare !== null && !o.doneAt && <span className="block">{Math.round(o.statedShare * 100)} % done</span>}
                </td>
                <td className={o.reason?.kind === "decision" ? "text-oxide" : "text-ink2"}>
                  {!o.doneAt && o.warning && <span className="block text-oxide">{o.warning}</span>}
                  {o.doneAt ? "" : reasonText(o.reason)}
                  {!o.doneAt && o.starts && o.reason && o.reason.kind !== "nothing" && (
                    <span className="block">
                      <button type="button" className="btn btn-quiet !px-0" aria-label={`Show why: ${o.name}`} onClick={() => onWhy(o)}>
                        Show why
                      </button>
                    </span>
                  )}
                </td>
                <td className="text-ink2 max-w-[220px]">
                  {o.after.map((a) => `${names.get(a.operation) ?? "?"}${a.lagMinutes ? ` + ${hours(a.lagMinutes)} h` : ""}`).join("; ")}
                </td>
                <td className="whitespace-nowrap">
                  <OperationActions operation={o} onEdit={() => onEdit(o)} />
                </td>
              </tr>
            ))}
        </tbody>
      </table>
    </section>
  );
}
