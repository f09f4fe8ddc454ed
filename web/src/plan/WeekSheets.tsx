import { useState } from "react";
import { api, ask, newId } from "../api/client";
import { counted } from "../format";
import { CheckField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { useSend } from "../ui/useSend";
import { promiseText, type Week } from "./weekWords";

/** What usually keeps a promise from being kept. */
const USUAL_REASONS = [
  "part not here",
  "found more",
  "somebody else needed",
  "took longer",
  "client has not answered",
  "place not free",
  "outside work late",
  "ill",
];

/** Chooses from the draft what is promised for the week. */
export function CommitSheet({ week, onClose }: { week: Week; onClose: () => void }) {
  const [id] = useState(newId);
  const numbers = new Map(week.builds.map((b) => [b.id, b.number]));
  const rows = week.people.flatMap((p) =>
    p.offers
      .filter((o) => o.operationId !== null)
      .map((o) => ({ ...o, operationId: o.operationId as string, person: p, key: `${p.id} ${o.operationId}` })),
  );
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [fewer, setFewer] = useState<ReadonlyMap<string, number>>(new Map());
  const chosen = rows.filter((r) => !left.has(r.key));
  const commit = useSend(
    () =>
      ask(
        api.POST("/api/plan/week/commit", {
          body: {
            id,
            of: week.of,
            promises: chosen.map((r) => ({ operationId: r.operationId, personId: r.person.id, minutes: fewer.get(r.key) ?? null })),
          },
        }),
      ),
    { says: "The week is committed", quiet: true, onDone: onClose },
  );
  return (
    <FormSheet
      title="Commit the week"
      note="What is promised here is counted when the week is over. It comes from the plan; take out what you do not want to promise, or promise fewer hours of it."
      action={`Commit ${counted(chosen.length, "promise")}`}
      onClose={onClose}
      onSubmit={() => commit.mutate(undefined)}
      problem={commit.error}
      busy={commit.isPending || chosen.length === 0}
    >
      {week.people
        .filter((p) => rows.some((r) => r.person.id === p.id))
        .map((p) => (
          <fieldset key={p.id} className="col-span-2 border-t border-p3 pt-1">
            <legend className="font-[680]">{p.name}</legend>
            {rows
              .filter((r) => r.person.id === p.id)
              .map((r) => (
                <div key={r.key} className="grid grid-cols-[1fr_78px] items-center gap-2">
                  <CheckField
                    label={promiseText(r, numbers.get(r.buildId) ?? 0)}
                    value={!left.has(r.key)}
                    onChange={(on) => setLeft(new Set(on ? [...left].filter((k) => k !== r.key) : [...left, r.key]))}
                  />
                  <span className="field">
                    <input
                      type="number"
                      min={0.25}
                      max={r.minutes / 60}
                      step={0.25}
                      aria-label={`Hours promised: ${p.name}, ${r.name}`}
                      disabled={left.has(r.key)}
                      value={Number(((fewer.get(r.key) ?? r.minutes) / 60).toFixed(2))}
                      onChange={(e) => {
                        const minutes = Math.round(Number(e.target.value) * 60);
                        setFewer(new Map([...fewer, [r.key, Math.max(1, Math.min(r.minutes, minutes))]]));
                      }}
                    />
                  </span>
                </div>
              ))}
          </fieldset>
        ))}
    </FormSheet>
  );
}

/** Counts the week: what was not done gets its reason. */
export function CountSheet({ week, onClose }: { week: Week; onClose: () => void }) {
  const numbers = new Map(week.builds.map((b) => [b.id, b.number]));
  const open = week.people.flatMap((p) => p.promises.filter((x) => x.state !== "kept").map((x) => ({ ...x, person: p.name })));
  const [why, setWhy] = useState<ReadonlyMap<string, string>>(new Map());
  const count = useSend(
    () =>
      ask(
        api.POST("/api/plan/week/count", {
          body: { of: week.of, reasons: [...why].map(([promiseId, reason]) => ({ promiseId, reason })) },
        }),
      ),
    { says: "The week is counted", quiet: true, onDone: onClose },
  );
  return (
    <FormSheet
      title="Count the week"
      note={`${week.kept} of ${week.promised} are kept. ${open.length === 0 ? "Nothing is open." : "Say of each of the others why not."} Once counted it stays as it is.`}
      action="Count it"
      onClose={onClose}
      onSubmit={() => count.mutate(undefined)}
      problem={count.error}
      busy={count.isPending}
    >
      <datalist id="usual-reasons">
        {USUAL_REASONS.map((r) => (
          <option key={r} value={r} />
        ))}
      </datalist>
      {open.map((p) => (
        <label key={p.id} className="field col-span-2">
          <span>
            {p.person}: {promiseText(p, numbers.get(p.buildId) ?? 0)}
          </span>
          <input
            list="usual-reasons"
            value={why.get(p.id) ?? ""}
            maxLength={120}
            placeholder="why not"
            onChange={(e) => setWhy(new Map([...why, [p.id, e.target.value]]))}
          />
        </label>
      ))}
    </FormSheet>
  );
}

/** Takes a commitment back, on the day on which it was made. */
export function TakeBack({ of }: { of: string }) {
  const back = useSend(() => ask(api.POST("/api/plan/week/take-back", { body: { of } })), { says: "The week is not committed any more" });
  return (
    <button type="button" className="btn" disabled={back.isPending} onClick={() => back.mutate(undefined)}>
      Take it back
    </button>
  );
}
