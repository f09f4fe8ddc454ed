import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { bodyQuery } from "../api/queries";
import { hours } from "../format";
import { TrialAnswer, useTrial } from "../plan/TrialAnswer";
import { CheckField, ChoiceField, NumberField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { useSend } from "../ui/useSend";
import { followersOf, type Operation } from "./strands";

type Kept = Schemas["KeptChange"];

/** Takes a part off an operation: so many of its hours, some of its panels, after it or beside it. */
export function SplitSheet({
  buildId,
  operation,
  onMade,
  onClose,
}: {
  buildId: string;
  operation: Operation;
  onMade: (kept: Kept) => void;
  onClose: () => void;
}) {
  const [id] = useState(newId);
  const panels = (useQuery(bodyQuery(buildId)).data?.body.panels ?? []).filter((p) => operation.panels.includes(p.key));
  const [name, setName] = useState(`${operation.name}, second part`);
  // Half of it, whatever it becomes meanwhile, until somebody says otherwise.
  const [said, setMinutes] = useState<number | null>(null);
  const minutes = said ?? Math.max(1, Math.round(operation.budgetMinutes / 30) * 15);
  const [taken, setTaken] = useState<string[]>([]);
  const [sideBySide, setSideBySide] = useState(false);
  const path = { params: { path: { id: operation.id } } };
  const body = { id, name, minutes, panels: taken, sideBySide, version: operation.version };
  const trial = useTrial(body, (b) => ask(api.POST("/api/operations/{id}/split/try", { ...path, body: b })), ["split", operation.id]);
  const split = useSend(() => ask(api.POST("/api/operations/{id}/split", { ...path, body })), {
    says: "Split",
    quiet: true,
    onDone: (kept) => {
      onMade(kept);
      onClose();
    },
  });
  return (
    <FormSheet
      answer={<TrialAnswer trial={trial} />}
      title={`Split “${operation.name}”`}
      note={`${hours(operation.budgetMinutes)} h in all. What was booked on it stays with the first part.`}
      action="Split"
      onClose={onClose}
      onSubmit={() => split.mutate(undefined)}
      problem={split.error}
      busy={split.isPending}
    >
      <TextField
        className="col-span-2"
        label="Name of the second part"
        name="name"
        value={name}
        onChange={setName}
        problem={split.error}
        autoFocus
      />
      <NumberField
        label="Its hours"
        name="minutes"
        value={minutes / 60}
        onChange={(v) => setMinutes(Math.round((v ?? 0) * 60))}
        problem={split.error}
      />
      <CheckField label="Both at the same time" value={sideBySide} onChange={setSideBySide} />
      {panels.length > 1 && (
        <fieldset className="col-span-2">
          <legend className="font-[660]">Panels that go with it; none: both parts are about all of them</legend>
          <div className="grid grid-cols-3">
            {panels.map((p) => (
              <CheckField
                key={p.key}
                label={p.name}
                value={taken.includes(p.key)}
                onChange={(on) => setTaken(on ? [...taken, p.key] : taken.filter((x) => x !== p.key))}
              />
            ))}
          </div>
        </fieldset>
      )}
    </FormSheet>
  );
}

/** Open work beside an operation that can become one with it. */
export const mergeable = (all: readonly Operation[], o: Operation): Operation[] => {
  const near = new Set([...(followersOf(all).get(o.id) ?? []).map((x) => x.id), ...o.after.map((a) => a.operation)]);
  const alike = all.filter(
    (x) => x.id !== o.id && x.kind === "work" && !x.doneAt && x.trade === o.trade && x.station === o.station && x.stage === o.stage,
  );
  return alike.toSorted((a, b) => Number(near.has(b.id)) - Number(near.has(a.id)) || a.position - b.position);
};

/** Makes one operation of two. */
export function MergeSheet({
  all,
  operation,
  onMade,
  onClose,
}: {
  all: readonly Operation[];
  operation: Operation;
  onMade: (kept: Kept) => void;
  onClose: () => void;
}) {
  const others = mergeable(all, operation);
  const [other, setOther] = useState(others[0]?.id ?? "");
  const path = { params: { path: { id: operation.id } } };
  const body = { with: other, version: operation.version };
  const trial = useTrial(other ? body : null, (b) => ask(api.POST("/api/operations/{id}/merge/try", { ...path, body: b })), [
    "merge",
    operation.id,
  ]);
  const merge = useSend(() => ask(api.POST("/api/operations/{id}/merge", { ...path, body })), {
    says: "One operation now",
    quiet: true,
    onDone: (kept) => {
      onMade(kept);
      onClose();
    },
  });
  return (
    <FormSheet
      answer={<TrialAnswer trial={trial} />}
      title={`Put another into “${operation.name}”`}
      note="Its hours, panels and links come along; its name goes."
      action="Make one of both"
      onClose={onClose}
      onSubmit={() => merge.mutate(undefined)}
      problem={merge.error}
      busy={merge.isPending || !other}
    >
      <ChoiceField
        className="col-span-2"
        label="Which"
        value={other}
        onChange={setOther}
        options={others.map((o) => [o.id, `${o.name}, ${hours(o.budgetMinutes)} h`] as const)}
      />
    </FormSheet>
  );
}
