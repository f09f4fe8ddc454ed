import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../api/client";
import { whyQuery } from "../api/queries";
import { dateOf, day } from "../format";
import { Sheet } from "../ui/Sheet";
import { Shown } from "../ui/States";

/** The chain of reasons from an operation to its root, also through other builds. */
export function WhySheet({ operation, onClose }: { operation: Schemas["OperationView"]; onClose: () => void }) {
  const why = useQuery(whyQuery(operation.id));
  return (
    <Sheet open title="Why not earlier" note="Each waits for the one below it; the last is what to change." onClose={onClose}>
      <Shown of={why}>
        {(rows) => (
          <ol className="grid gap-3">
            {rows.map((r, i) => (
              <li key={r.operationId} className="grid grid-cols-[64px_1fr] gap-x-3">
                <span className="text-ink2">{day(dateOf(r.start))}</span>
                <span>
                  <b className="font-[660]">{r.name}</b> <span className="text-ink2">on {r.buildNumber}</span>
                  <span className={`block ${i === rows.length - 1 ? "text-oxide" : "text-ink2"}`}>{r.text}</span>
                </span>
              </li>
            ))}
          </ol>
        )}
      </Shown>
    </Sheet>
  );
}
