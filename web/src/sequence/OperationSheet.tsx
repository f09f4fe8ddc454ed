import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { bodyQuery, shopQuery } from "../api/queries";
import { COAT_ORDER, coatName, HELD_ORDER, heldName, STAGE_ORDER, STATIONS, stageName, TRADES, tradeName, words } from "../format";
import { TrialAnswer, useTrial } from "../plan/TrialAnswer";
import { CheckField, ChoiceField, choices, NumberField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import { LinksField, OperationTermsFields } from "./OperationTermsFields";
import { asksWhy, bodyOf, formOf, NEW_OPERATION, type OperationForm } from "./operationBody";
import type { Operation } from "./strands";

const GATES: Schemas["GateKind"][] = [
  "datum",
  "shellSupport",
  "fitUp",
  "provisions",
  "uniformCoat",
  "filmAndCure",
  "firstDrive",
  "tractionBattery",
  "asbestos",
  "handover",
  "side",
  "surface",
];
const HAZARDS: Schemas["Hazard"][] = [
  "twoPack",
  "blasting",
  "asbestos",
  "lead",
  "welding",
  "support",
  "airTools",
  "fuel",
  "highVoltage",
  "dust",
  "lifting",
  "firstDrive",
];

/** One operation of a build: what, by whom, where, after what. */
export function OperationSheet({
  buildId,
  all,
  operation,
  first,
  onMade,
  onClose,
}: {
  buildId: string;
  all: Operation[];
  operation: Operation | null;
  /** With what a new one begins. */
  first?: Partial<OperationForm>;
  onMade: (kept: Schemas["KeptChange"]) => void;
  onClose: () => void;
}) {
  const shop = useQuery(shopQuery).data;
  const [id] = useState(operation?.id ?? newId());
  const panels = useQuery(bodyQuery(buildId)).data?.body.panels ?? [];
  const [form, set, , clashes] = useForm<OperationForm>(operation ? formOf(operation) : { ...NEW_OPERATION, ...first });
  /** In another place it is done on the vehicle or on the bench, as is usual there. */
  const stand = (station: Schemas["StationKind"] | null) => {
    set("station")(station);
    if (form.terms.body !== "takesAway")
      set("terms")({ ...form.terms, body: station && shop?.vehiclePlaces.includes(station) ? "onBody" : "beside" });
  };
  const body = bodyOf(form, operation?.version ?? null);
  const close = (kept: Schemas["KeptChange"]) => {
    onMade(kept);
    onClose();
  };
  const save = useSend(
    () => ask(api.PUT("/api/builds/{id}/operations/{operationId}", { params: { path: { id: buildId, operationId: id } }, body })),
    { says: "Saved", onDone: close, quiet: true },
  );
  const remove = useSend(() => ask(api.DELETE("/api/operations/{id}", { params: { path: { id } } })), {
    says: "Taken out",
    onDone: close,
    quiet: true,
  });
  const none = <T extends string>(list: readonly T[], name = (v: T) => words(v)) =>
    [["", "none"], ...list.map((v) => [v, name(v)] as [string, string])] as [string, string][];
  const error = save.error ?? remove.error;
  const others = all.filter((o) => o.id !== id);
  const changed = operation === null ? form.name.trim() !== "" : JSON.stringify(form) !== JSON.stringify(formOf(operation));
  const trial = useTrial(
    changed ? body : null,
    (b) => ask(api.POST("/api/builds/{id}/operations/{operationId}/try", { params: { path: { id: buildId, operationId: id } }, body: b })),
    ["put", id],
  );
  // What taking it out would do is said before it is done.
  const [leaving, setLeaving] = useState(false);
  const without = useTrial(leaving ? {} : null, () => ask(api.POST("/api/operations/{id}/try-removal", { params: { path: { id } } })), [
    "out",
    id,
  ]);
  return (
    <FormSheet
      title={operation ? operation.name : "New operation"}
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={error}
      busy={save.isPending}
      clashes={clashes}
      answer={
        <>
          <TrialAnswer trial={trial} />
          {operation && leaving && <TrialAnswer trial={without} />}
        </>
      }
      more={
        operation && (
          <button type="button" className="btn" onClick={() => (leaving ? remove.mutate(undefined) : setLeaving(true))}>
            {leaving ? "Take it out" : "Take out of the sequence"}
          </button>
        )
      }
    >
      <TextField
        className="col-span-2"
        label="Name"
        name="name"
        value={form.name}
        onChange={(v) => set("name")(v)}
        problem={error}
        autoFocus
      />
      <ChoiceField
        label="Stage"
        value={form.stage}
        onChange={(v) => set("stage")(v)}
        options={STAGE_ORDER.map((s) => [s, stageName(s)] as const)}
      />
      <ChoiceField
        label="Kind"
        value={form.kind}
        onChange={(v) => set("kind")(v)}
        options={[
          ["work", "work"],
          ["gate", "gate: a check to sign"],
          ["cure", "cure: a wait"],
          ["outside", "outside work"],
        ]}
      />
      {form.kind === "work" && (
        <>
          <ChoiceField
            label="Trade"
            name="trade"
            problem={error}
            value={form.trade ?? ""}
            onChange={(v) => set("trade")((v || null) as Schemas["Trade"] | null)}
            options={none(TRADES, tradeName)}
          />
          <NumberField
            label={form.terms.with.length > 0 ? "Hours, all people together" : "Hours"}
            name="budgetMinutes"
            problem={error}
            value={form.budgetMinutes / 60}
            onChange={(v) => set("budgetMinutes")(Math.round((v ?? 0) * 60))}
          />
          <ChoiceField
            label="Station"
            value={form.station ?? ""}
            onChange={(v) => stand((v || null) as Schemas["StationKind"] | null)}
            options={none(STATIONS)}
          />
          <ChoiceField
            label="Who"
            value={form.personId ?? ""}
            onChange={(v) => set("personId")(v || null)}
            options={choices(shop?.people ?? [], "the plan chooses")}
          />
          <ChoiceField
            label="Coat on the panels afterwards"
            value={form.coat ?? ""}
            onChange={(v) => set("coat")((v || null) as Schemas["Coat"] | null)}
            options={none(COAT_ORDER, coatName)}
          />
          <ChoiceField
            label="Panels are afterwards"
            value={form.held ?? ""}
            onChange={(v) => set("held")((v || null) as Schemas["Held"] | null)}
            options={none(HELD_ORDER, heldName)}
          />
          {panels.length > 0 && (
            <fieldset className="col-span-2">
              <legend className="font-[660]">On which panels</legend>
              <div className="grid grid-cols-3">
                {panels.map((p) => (
                  <CheckField
                    key={p.key}
                    label={p.name}
                    value={form.panels.includes(p.key)}
                    onChange={(on) => set("panels")(on ? [...form.panels, p.key] : form.panels.filter((x) => x !== p.key))}
                  />
                ))}
              </div>
            </fieldset>
          )}
          <ChoiceField
            label="Hazard"
            value={form.hazard ?? ""}
            onChange={(v) => set("hazard")((v || null) as Schemas["Hazard"] | null)}
            options={none(HAZARDS)}
          />
          <CheckField label="Must run without a stop" value={form.withoutStop} onChange={(v) => set("withoutStop")(v)} />
        </>
      )}
      {form.kind === "gate" && (
        <ChoiceField
          label="Check"
          name="gate"
          problem={error}
          value={form.gate ?? ""}
          onChange={(v) => set("gate")((v || null) as Schemas["GateKind"] | null)}
          options={none(GATES)}
        />
      )}
      {(form.kind === "cure" || form.kind === "outside") && (
        <NumberField
          label={form.kind === "cure" ? "Hours it takes" : "Days at the supplier"}
          name="clockMinutes"
          problem={error}
          value={form.clockMinutes / (form.kind === "cure" ? 60 : 1440)}
          onChange={(v) => set("clockMinutes")(Math.round((v ?? 0) * (form.kind === "cure" ? 60 : 1440)))}
        />
      )}
      {form.kind === "outside" && (
        <ChoiceField
          label="Done here, at"
          value={form.station ?? ""}
          onChange={(v) => stand((v || null) as Schemas["StationKind"] | null)}
          options={none(STATIONS, (v) => words(v))}
        />
      )}
      {(asksWhy(trial.error ?? error) || form.departsWhy) && (
        <TextField
          className="col-span-2"
          label="Why it departs from its template"
          name="departsWhy"
          value={form.departsWhy ?? ""}
          onChange={set("departsWhy")}
          problem={error}
        />
      )}
      <LinksField after={form.after} all={others} onChange={set("after")} problem={error} />
      <OperationTermsFields
        kind={form.kind}
        terms={form.terms}
        onChange={(to) => set("terms")({ ...form.terms, ...to })}
        unit={form.kind === "outside" ? 1440 : 60}
        others={others}
        people={shop?.people ?? []}
        suppliers={shop?.suppliers ?? []}
        things={(shop?.plan.things ?? []).map((t) => t.name)}
        problem={error}
      />
    </FormSheet>
  );
}
