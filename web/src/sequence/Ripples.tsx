import { useQuery } from "@tanstack/react-query";
import { useContext, useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { Ended, restingQuery, ripplesQuery, useMay } from "../api/queries";
import { counted, dateOf, day } from "../format";
import { NumberField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { Sheet } from "../ui/Sheet";
import { Shown } from "../ui/States";
import { useSend } from "../ui/useSend";
import type { Operation } from "./strands";

type Ripple = Schemas["RippleView"];
type Verdict = Schemas["RippleVerdict"];

const VERDICTS: Record<Verdict, string> = { stillGood: "still good", check: "check it", redo: "redo" };

const unjudged = (r: Ripple) => r.rests.filter((x) => !x.verdict).length;

/** Says that finished work is another now; what rested on it is seen before it is listed. */
export function ChangedSheet({ operation, onClose }: { operation: Operation; onClose: () => void }) {
  const [what, setWhat] = useState("");
  const resting = useQuery(restingQuery(operation.id));
  const send = useSend(() => ask(api.POST("/api/ripples", { body: { id: newId(), operationId: operation.id, what } })), {
    says: "Listed for a verdict",
    onDone: onClose,
    quiet: true,
  });
  return (
    <FormSheet
      title={`“${operation.name}” has changed`}
      note="What rested on it is listed: still good, to be checked, or to be done again."
      action="List it for a verdict"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      <div className="col-span-2">
        <TextField label="What is another now" name="what" value={what} onChange={setWhat} problem={send.error} />
      </div>
      <div className="col-span-2">
        <Shown of={resting}>
          {(rows) =>
            rows.length === 0 ? (
              <p>Nothing that is done, signed or ordered rests on it.</p>
            ) : (
              <ul aria-label="What rests on it">
                {rows.map((r) => (
                  <li key={r.id}>
                    {r.name} <span className="text-ink2">{r.how}</span>
                  </li>
                ))}
              </ul>
            )
          }
        </Shown>
      </div>
    </FormSheet>
  );
}

/** What of a build waits for a verdict since something finished has changed. */
export function RipplesToJudge({ buildId, nameOf }: { buildId: string; nameOf: (operation: string) => string }) {
  const ripples = useQuery(ripplesQuery(buildId)).data ?? [];
  const [may, ended] = [useMay(), useContext(Ended)];
  const [looking, setLooking] = useState<string | null>(null);
  const open = ripples.filter((r) => unjudged(r) > 0);
  const shown = ripples.find((r) => r.id === looking);
  if (open.length === 0 && !shown) return null;
  return (
    <>
      <ul className="mb-2" aria-label="To be judged">
        {open.map((r) => (
          <li key={r.id} className="flex items-baseline gap-2 py-[2px]">
            <span className="text-oxide">
              “{nameOf(r.operationId)}” has changed, {r.what}: {counted(unjudged(r), "thing")} that rested on it{" "}
              {unjudged(r) === 1 ? "is" : "are"} not judged.
            </span>
            <button type="button" className="btn" onClick={() => setLooking(r.id)}>
              {may.manager && !ended ? "Judge" : "Look"}
            </button>
          </li>
        ))}
      </ul>
      {shown && <JudgeSheet ripple={shown} name={nameOf(shown.operationId)} onClose={() => setLooking(null)} />}
    </>
  );
}

function JudgeSheet({ ripple, name, onClose }: { ripple: Ripple; name: string; onClose: () => void }) {
  const may = useMay();
  const ended = useContext(Ended);
  const judges = may.manager && !ended;
  const [minutes, setMinutes] = useState(ripple.lookMinutes);
  const judge = useSend((j: { thing: string; verdict: Verdict }) =>
    ask(
      api.POST("/api/ripples/{id}/judge", {
        params: { path: { id: ripple.id } },
        body: { ...j, minutes, version: ripple.version },
      }),
    ),
  );
  return (
    <Sheet
      title={`${name}: ${ripple.what}`}
      note="Still good: it stays. Check: a look at it becomes work before what follows. Redo: work is open again with all its hours, a gate is shut; a part is put on the list to buy by hand, under Goods."
      onClose={onClose}
    >
      {judges && (
        <div className="mb-2 max-w-[160px]">
          <NumberField
            label="Hours of a check"
            name="minutes"
            value={minutes / 60}
            onChange={(v) => setMinutes(Math.round((v ?? 0) * 60))}
          />
        </div>
      )}
      <ul aria-label="What rested on it">
        {ripple.rests.map((r) => (
          <li key={r.id} className="grid gap-1 py-2 border-t border-p3">
            <span>
              <b className="font-[660]">{r.name}</b> <span className="text-ink2">{r.how}</span>
            </span>
            {r.verdict && (
              <span className="text-ink2">
                {VERDICTS[r.verdict]}, {r.by}
                {r.at ? `, ${day(dateOf(r.at))}` : ""}
              </span>
            )}
            {judges && r.open.length > 0 && (
              <span className="flex gap-1 flex-wrap">
                {r.open.map((v) => (
                  <button
                    key={v}
                    type="button"
                    className="btn"
                    aria-label={`${r.name}: ${VERDICTS[v]}`}
                    disabled={judge.isPending}
                    onClick={() => judge.mutate({ thing: r.id, verdict: v })}
                  >
                    {VERDICTS[v]}
                  </button>
                ))}
              </span>
            )}
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
