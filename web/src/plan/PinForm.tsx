import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { dateOf, today, weekday } from "../format";
import { ChoiceField } from "../ui/Field";
import { useSend } from "../ui/useSend";
import { TrialAnswer, useTrial } from "./TrialAnswer";
import { isSame, isTooSoon, type Pin, pinCost, pinOf, tryPin } from "./usePins";

type View = Schemas["LanesView"];
type Work = Schemas["LaneWork"];

/** When, by whom, where and before what it is done: the plan answers before anything is kept. */
export function PinForm({ work, view, onPin }: { work: Work; view: View; onPin: (work: Work, pin: Pin) => void }) {
  const now = pinOf(work);
  const [to, setTo] = useState(now);
  const past = to.on !== null && to.on !== now.on && to.on < today();
  const changed = !isSame(now, to) && !past;
  const trial = useTrial(changed ? to : null, (pin) => tryPin(work, pin), ["pin", work.operationId ?? "", `${work.version}`]);
  const kind = view.places.find((p) => p.id === (work.placeId ?? work.pinnedAt))?.kind;
  const places = view.places.filter((p) => p.kind === kind);
  const tooSoon = changed && trial.data && isTooSoon(work, to, trial.data);
  return (
    <>
      <h3 className="plan-heading">Pin it</h3>
      <div className="grid grid-cols-2 gap-2">
        <label className="field">
          <span>To start on</span>
          <input type="date" value={to.on ?? ""} min={today()} onChange={(e) => setTo({ ...to, on: e.target.value || null })} />
        </label>
        {work.people.length > 0 && (
          <ChoiceField
            label="By"
            name="personId"
            value={to.personId ?? ""}
            onChange={(v) => setTo({ ...to, personId: v || null })}
            options={[["", "whoever the plan says"], ...view.people.map((p) => [p.id, p.name] as const)]}
          />
        )}
        {places.length > 1 && (
          <ChoiceField
            label="In"
            name="placeId"
            value={to.placeId ?? ""}
            onChange={(v) => setTo({ ...to, placeId: v || null })}
            options={[["", "wherever the plan says"], ...places.map((p) => [p.id, p.name] as const)]}
          />
        )}
      </div>
      {past && <p className="wrong">Nothing starts in the past.</p>}
      {tooSoon ? (
        <p className="wrong mt-1" role="alert">
          {pinCost(work, to, trial.data as Schemas["TrialView"])}
        </p>
      ) : (
        <TrialAnswer trial={trial} />
      )}
      {changed && !tooSoon && !trial.error && (
        <button
          type="button"
          className="btn mt-2"
          disabled={trial.waiting}
          onClick={() => {
            onPin(work, to);
            // It is asked for now: nothing more is tried with the version that was seen.
            setTo(now);
          }}
        >
          Pin it so
        </button>
      )}
      <Before work={work} view={view} />
    </>
  );
}

/** So many of those before it are offered. */
const NEAREST = 8;

/** Planned work before this in one of its lanes, the nearest first. */
const aheadOf = (work: Work, view: View): Work[] =>
  view.work
    .filter((w) => w.operationId && !w.worked && w.key !== work.key && w.start <= work.start)
    .filter((w) => (w.placeId !== null && w.placeId === work.placeId) || w.people.some((p) => work.people.includes(p)))
    .toSorted((a, b) => (a.start > b.start ? -1 : 1))
    .slice(0, NEAREST);

/** Putting it before other work that has its hands or its place first. */
function Before({ work, view }: { work: Work; view: View }) {
  const [other, setOther] = useState("");
  const to = (id: string) => ({ params: { path: { id: work.operationId ?? "" } }, body: { id: newId(), other: id } });
  const trial = useTrial(other || null, (id) => ask(api.POST("/api/operations/{id}/before/try", to(id))), [
    "before",
    work.operationId ?? "",
  ]);
  const send = useSend((id: string) => ask(api.POST("/api/operations/{id}/before", to(id))), {
    says: "Put before. The order can be undone under A better order.",
    onDone: () => setOther(""),
  });
  const ahead = aheadOf(work, view);
  if (ahead.length === 0) return null;
  const name = (w: Work) => `${view.builds.find((b) => b.id === w.buildId)?.number ?? ""} ${w.name}, ${weekday(dateOf(w.start))}`;
  return (
    <>
      <h3 className="plan-heading">Put it before</h3>
      <ChoiceField
        label="Work that goes first now"
        name="other"
        value={other}
        onChange={setOther}
        options={[["", "–"], ...ahead.map((w) => [w.operationId ?? "", name(w)] as const)]}
      />
      <TrialAnswer trial={trial} />
      {other !== "" && !trial.error && (
        <button type="button" className="btn mt-2" disabled={trial.waiting || send.isPending} onClick={() => send.mutate(other)}>
          Put it before
        </button>
      )}
    </>
  );
}
