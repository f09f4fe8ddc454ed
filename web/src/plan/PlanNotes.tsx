import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../api/client";
import { outlookQuery, useMay } from "../api/queries";
import { counted, day, money } from "../format";
import { PlaceLink } from "../ui/PlaceLink";

/** What the plan could not do for a build, puts in by itself, or cannot reach: shown before it happens. */
export function PlanNotes({ buildId }: { buildId: string }) {
  const view = useQuery(outlookQuery(buildId)).data;
  if (!view) return null;
  const notes: { key: string; what: string; why: string; alarm: boolean }[] = [
    ...view.outOfReach
      .filter((r) => r.until)
      .map((r) => ({ key: r.operationId, what: `${r.name} is out of reach`, why: `${r.why}; done after ${r.until}`, alarm: false })),
    ...view.inserted.map((i) => ({ key: `${i.before}${i.name}`, what: `${i.name} comes in before ${i.before}`, why: i.why, alarm: true })),
  ];
  if (notes.length === 0 && view.causes.length === 0 && !view.cover) return null;
  return (
    <section aria-label="What the plan says" className="border-t border-ink pt-2 mb-3">
      {view.cover && (
        <p className="text-oxide">
          Money for the next work must be there by {day(view.cover.by)}; all that is planned comes to {money(view.cover.amount)} more than
          is covered now.
        </p>
      )}
      <ul>
        {view.causes.map((c) => (
          <Cause key={`${c.kind}${c.text}`} cause={c} />
        ))}
        {notes.map((n) => (
          <li key={n.key} className="py-[1px]">
            <b className={`font-[660] ${n.alarm ? "text-oxide" : ""}`}>{n.what}</b> <span className="text-ink2">{n.why}</span>
          </li>
        ))}
      </ul>
      {view.without.length > 3 && (
        <details className="mt-1">
          <summary className="cursor-pointer text-ink2">All {view.without.length} without a date</summary>
          <ul>
            {view.without.map((w) => (
              <li key={w.operationId} className="py-[1px]">
                <b className="font-[660]">{w.name}</b> <span className="text-ink2">{w.text}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

/** Operations of a cause that are named before the rest is only counted. */
const NAMED = 3;

/** What stops work, said once: what waits for it itself, and how much only comes after that. */
function Cause({ cause: c }: { cause: Schemas["CauseRow"] }) {
  const may = useMay();
  const rest = c.own.length - NAMED;
  const named = c.own.slice(0, NAMED).join("; ") + (rest > 0 ? `; and ${counted(rest, "other")}` : "");
  const what = c.own.length + c.behind === 1 ? `${c.own[0]} has no date` : `${c.own.length + c.behind} operations have no date`;
  return (
    <li className="py-[2px]">
      <b className="font-[660] text-oxide">{what}:</b> {c.text}
      {c.kind === "trade" && may.manager && (
        <PlaceLink className="btn btn-quiet" to="/shop">
          Who does what
        </PlaceLink>
      )}
      {c.own.length + c.behind > 1 && (
        <span className="block text-ink2">
          {named}
          {c.behind > 0 && `; ${c.behind} ${c.behind === 1 ? "comes" : "come"} after ${c.own.length === 1 ? "that" : "those"}`}
        </span>
      )}
    </li>
  );
}
