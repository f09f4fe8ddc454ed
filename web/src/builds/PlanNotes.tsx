import { useQuery } from "@tanstack/react-query";
import { outlookQuery } from "../api/queries";
import { day, money } from "../format";

/** What the plan could not do for a build, puts in by itself, or cannot reach: shown before it happens. */
export function PlanNotes({ buildId }: { buildId: string }) {
  const view = useQuery(outlookQuery(buildId)).data;
  if (!view) return null;
  const notes: { key: string; what: string; why: string; alarm: boolean }[] = [
    ...view.without.map((w) => ({ key: w.operationId, what: `${w.name} has no date`, why: w.text, alarm: true })),
    ...view.outOfReach
      .filter((r) => r.until)
      .map((r) => ({ key: r.operationId, what: `${r.name} is out of reach`, why: `${r.why}; done after ${r.until}`, alarm: false })),
    ...view.inserted.map((i) => ({ key: `${i.before}${i.name}`, what: `${i.name} comes in before ${i.before}`, why: i.why, alarm: true })),
  ];
  if (notes.length === 0 && !view.cover) return null;
  return (
    <section aria-label="What the plan says" className="border-t border-ink pt-2 mb-3">
      {view.cover && (
        <p className="text-oxide">
          Money for the next work must be there by {day(view.cover.by)}; all that is planned comes to {money(view.cover.amount)} more than
          is covered now.
        </p>
      )}
      <ul>
        {notes.map((n) => (
          <li key={n.key} className="py-[1px]">
            <b className={`font-[660] ${n.alarm ? "text-oxide" : ""}`}>{n.what}</b> <span className="text-ink2">{n.why}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
