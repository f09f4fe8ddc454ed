import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../api/client";
import { whyQuery } from "../api/queries";
import { dateOf, day, days, timeOf } from "../format";
import { Sheet } from "../ui/Sheet";
import { Shown } from "../ui/States";

/** Why an operation does not start sooner: what would have to go, then the way there, also through what the plan put in. */
export function WhySheet({ operation, onClose }: { operation: Schemas["OperationView"]; onClose: () => void }) {
  const why = useQuery(whyQuery(operation.id));
  return (
    <Sheet title="Why not sooner" onClose={onClose}>
      <Shown of={why}>
        {(answer) => (
          <>
            <Roots answer={answer} />
            <ol className="grid gap-3" aria-label="Chain of reasons">
              {answer.rows.map((r) => (
                <li key={r.key} className="grid grid-cols-[64px_1fr] gap-x-3">
                  <span className="text-ink2">
                    {day(dateOf(r.start))}
                    <span className="block">{timeOf(r.start)}</span>
                  </span>
                  <span>
                    <b className="font-[660]">{r.name}</b> <span className="text-ink2">on {r.build}</span>
                    <span className="block">{r.text}</span>
                    <span className="block text-ink2">
                      {r.slackDays > 0
                        ? `can be ${days(r.slackDays)} ${r.slackDays === 1 ? "day" : "days"} later without moving the end`
                        : "no slack"}
                    </span>
                  </span>
                </li>
              ))}
            </ol>
          </>
        )}
      </Shown>
    </Sheet>
  );
}

/** What would have to go, all of it together, and when it would start then. */
export function Roots({ answer }: { answer: Schemas["WhyAnswer"] }) {
  if (answer.roots.length === 0) return <p className="mb-4">It starts as soon as it can.</p>;
  return (
    <div className="mb-4 border-b border-p3 pb-3">
      <p className="text-ink2">{answer.roots.length > 1 ? "These hold it together:" : "This holds it:"}</p>
      <ul aria-label="What holds it">
        {answer.roots.map((r) => (
          <li key={r} className="text-oxide font-[640]">
            {r}
          </li>
        ))}
      </ul>
      {answer.withoutThem && (
        <p>
          Without {answer.roots.length > 1 ? "them" : "it"}, and everything else as it is: {day(dateOf(answer.withoutThem))},{" "}
          {timeOf(answer.withoutThem)}
          {answer.soonerDays > 0 && `, ${days(answer.soonerDays)} ${answer.soonerDays === 1 ? "day" : "days"} sooner`}.
        </p>
      )}
    </div>
  );
}
