import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { operationsQuery, shopQuery, useMay, useUser } from "../api/queries";
import { COAT_ORDER, coatName, dateOf, day, HELD_ORDER, heldName, hm, hours, STAGE_ORDER, stageName, words } from "../format";
import { layerColour } from "../pictures/Strata";
import { CheckField, ChoiceField, choices, NumberField, ProblemNote, TextField } from "../ui/Field";
import { Sheet } from "../ui/Sheet";
import { Shown } from "../ui/States";
import { useSend } from "../ui/useSend";
import { useThisBuild } from "./useBuild";

type Operation = Schemas["OperationView"];

export const TRADES: Schemas["Trade"][] = ["strip", "metal", "body", "paint", "mechanic", "electric", "trim", "wood", "hand"];
export const STATIONS: Schemas["StationKind"][] = [
  "bay",
  "prep",
  "booth",
  "blast",
  "jig",
  "lift",
  "bench",
  "engine",
  "mix",
  "stores",
  "office",
  "yard",
];
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

export function SequenceTab() {
  const card = useThisBuild();
  const operations = useQuery(operationsQuery(card.id));
  const shop = useQuery(shopQuery).data;
  const may = useMay();
  const [editing, setEditing] = useState<Operation | "new" | null>(null);
  const [withDone, setWithDone] = useState(false);
  const person = (id: string | null) => shop?.people.find((p) => p.id === id)?.name ?? "";
  return (
    <div className="px-5 pt-3 pb-10">
      <div className="flex items-baseline gap-4 mb-1">
        <h1>Sequence</h1>
        <p className="text-ink2 flex-1">In order of work. Dates are the plan's; the reason says why not earlier.</p>
        {may.manager && (
          <button type="button" className="btn" onClick={() => setEditing("new")}>
            Add an operation
          </button>
        )}
      </div>
      <Shown of={operations}>
        {(all) => {
          const names = new Map(all.map((o) => [o.id, o.name]));
          const done = all.filter((o) => o.doneAt !== null).length;
          return (
            <>
              {done > 0 && (
                <button type="button" className="btn btn-quiet !px-0" aria-expanded={withDone} onClick={() => setWithDone(!withDone)}>
                  {withDone ? "Leave out what is done" : `Show the ${done} that are done`}
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
                  {all
                    .filter((o) => withDone || o.doneAt === null)
                    .map((o) => (
                      <tr key={o.id}>
                        <td>
                          <span className="flex gap-2">
                            <svg width="8" height="18" aria-hidden="true" className="flex-none mt-[1px]">
                              <rect width="8" height="18" fill={layerColour(o.stage, card.colourHex)} />
                            </svg>
                            <span>
                              <b className="font-[660]">{o.kind === "gate" ? `Gate: ${o.name}` : o.name}</b>
                              <span className="block text-ink2">
                                {[
                                  stageName(o.stage),
                                  o.coat && `gives ${coatName(o.coat)}`,
                                  o.held && heldName(o.held),
                                  o.panels.length > 0 && `${o.panels.length} panels`,
                                ]
                                  .filter(Boolean)
                                  .join(", ")}
                              </span>
                              {o.signatures.map((s) => (
                                <span key={s.personId} className="block">
                                  {s.overrideReason
                                    ? `opened by ${s.name}, ${day(dateOf(s.at))}: ${s.overrideReason}`
                                    : `signed by ${s.name}, ${day(dateOf(s.at))}${s.byMaker ? ", who did the work" : ""}`}
                                </span>
                              ))}
                            </span>
                          </span>
                        </td>
                        <td>
                          {o.kind === "work" ? (o.trade ?? "") : words(o.kind)}
                          {o.station && <span className="block text-ink2">{o.station}</span>}
                        </td>
                        <td className="num">
                          {o.kind === "work"
                            ? `${hm(o.spentMinutes)} / ${hours(o.budgetMinutes)}`
                            : o.clockMinutes > 0
                              ? `${hours(o.clockMinutes)} h on the clock`
                              : ""}
                        </td>
                        <td>
                          {o.doneAt ? (
                            <span>
                              done {day(dateOf(o.doneAt))}
                              <span className="block text-ink2">{o.doneBy}</span>
                            </span>
                          ) : o.starts && o.finishes ? (
                            <span>
                              {day(dateOf(o.starts))} to {day(dateOf(o.finishes))}
                              <span className="block text-ink2">{person(o.plannedPersonId)}</span>
                            </span>
                          ) : (
                            "not planned"
                          )}
                          {o.statedShare !== null && !o.doneAt && <span className="block">{Math.round(o.statedShare * 100)} % done</span>}
                        </td>
                        <td className={o.reason?.kind === "decision" ? "text-oxide" : "text-ink2"}>
                          {o.doneAt ? "" : reasonText(o.reason, names)}
                        </td>
                        <td className="text-ink2 max-w-[220px]">
                          {o.after
                            .map((a) => `${names.get(a.operation) ?? "?"}${a.lagMinutes ? ` + ${hours(a.lagMinutes)} h` : ""}`)
                            .join("; ")}
                        </td>
                        <td className="whitespace-nowrap">
                          <Actions operation={o} onEdit={() => setEditing(o)} />
                        </td>
                      </tr>
                    ))}
                </tbody>
              </table>
              {editing && (
                <Editor buildId={card.id} all={all} operation={editing === "new" ? null : editing} onClose={() => setEditing(null)} />
              )}
            </>
          );
        }}
      </Shown>
    </div>
  );
}

function reasonText(reason: Operation["reason"], names: Map<string, string>): string {
  if (!reason || reason.kind === "nothing") return "";
  const at = reason.ref ? names.get(reason.ref) : undefined;
  if (reason.kind === "operation" && at) return `after ${at}`;
  if (reason.kind === "cure" && at) return `${at} cures first`;
  if (reason.kind === "person" && at) return `${reason.text}: ${at}`;
  return reason.text;
}

function Actions({ operation: o, onEdit }: { operation: Operation; onEdit: () => void }) {
  const may = useMay();
  const user = useUser();
  const path = { params: { path: { id: o.id } } };
  const done = useSend(() => ask(api.POST("/api/operations/{id}/done", path)), { says: "Done" });
  const reopen = useSend(() => ask(api.POST("/api/operations/{id}/reopen", path)));
  const sign = useSend(() => ask(api.POST("/api/operations/{id}/sign", path)), { says: "Signed" });
  const override = useSend((reason: string) => ask(api.POST("/api/operations/{id}/override", { ...path, body: { reason } })));
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState("");
  return (
    <span className="flex gap-1 justify-end flex-wrap">
      {!o.doneAt && o.kind !== "gate" && (
        <button type="button" className="btn" aria-label={`Done: ${o.name}`} onClick={() => done.mutate(undefined)}>
          Done
        </button>
      )}
      {!o.doneAt && o.kind === "gate" && user?.personId && (
        <button type="button" className="btn" aria-label={`Sign: ${o.name}`} onClick={() => sign.mutate(undefined)}>
          Sign
        </button>
      )}
      {!o.doneAt && o.kind === "gate" && may.manager && o.canOverride && (
        <button type="button" className="btn" aria-label={`Open without signature: ${o.name}`} onClick={() => setAsking(true)}>
          Open…
        </button>
      )}
      {o.doneAt && o.kind !== "gate" && may.manager && (
        <button type="button" className="btn btn-quiet" aria-label={`Open again: ${o.name}`} onClick={() => reopen.mutate(undefined)}>
          open again
        </button>
      )}
      {may.manager && (
        <button type="button" className="btn" aria-label={`Edit: ${o.name}`} onClick={onEdit}>
          Edit
        </button>
      )}
      <Sheet
        open={asking}
        title={`Open “${o.name}” without a signature`}
        note="The reason stays visible for good."
        onClose={() => setAsking(false)}
      >
        <TextField label="Reason" name="reason" value={reason} onChange={setReason} problem={override.error} />
        <button type="button" className="btn btn-ink mt-3" onClick={() => override.mutate(reason, { onSuccess: () => setAsking(false) })}>
          Open the gate
        </button>
      </Sheet>
    </span>
  );
}

function Editor({
  buildId,
  all,
  operation,
  onClose,
}: {
  buildId: string;
  all: Operation[];
  operation: Operation | null;
  onClose: () => void;
}) {
  const shop = useQuery(shopQuery).data;
  const [id] = useState(operation?.id ?? newId());
  const [form, setForm] = useState<Schemas["OperationBody"]>(() =>
    operation
      ? { ...operation, position: operation.position, version: operation.version }
      : {
          name: "",
          stage: "metal",
          kind: "work",
          trade: "metal",
          budgetMinutes: 60,
          station: null,
          personId: null,
          panels: [],
          coat: null,
          held: null,
          withoutStop: false,
          gate: null,
          hazard: null,
          clockMinutes: 0,
          after: [],
          position: null,
          version: null,
        },
  );
  const set = <K extends keyof typeof form>(key: K, value: (typeof form)[K]) => setForm((f) => ({ ...f, [key]: value }));
  const body = (): Schemas["OperationBody"] => ({
    name: form.name,
    stage: form.stage,
    kind: form.kind,
    trade: form.kind === "work" ? form.trade : null,
    budgetMinutes: form.kind === "work" ? form.budgetMinutes : 0,
    station: form.station,
    personId: form.personId,
    panels: form.panels,
    coat: form.coat,
    held: form.held,
    withoutStop: form.withoutStop,
    gate: form.kind === "gate" ? form.gate : null,
    hazard: form.hazard,
    clockMinutes: form.kind === "cure" || form.kind === "outside" ? form.clockMinutes : 0,
    after: form.after,
    position: form.position,
    version: form.version,
  });
  const save = useSend(
    () => ask(api.PUT("/api/builds/{id}/operations/{operationId}", { params: { path: { id: buildId, operationId: id } }, body: body() })),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  const remove = useSend(() => ask(api.DELETE("/api/operations/{id}", { params: { path: { id } } })), {
    says: "Taken out",
    onDone: onClose,
    quiet: true,
  });
  const none = <T extends string>(list: readonly T[], name = (v: T) => words(v)) =>
    [["", "none"], ...list.map((v) => [v, name(v)] as [string, string])] as [string, string][];
  const error = save.error ?? remove.error;
  return (
    <Sheet open title={operation ? operation.name : "New operation"} onClose={onClose}>
      <form
        className="grid grid-cols-2 gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate(undefined);
        }}
      >
        <TextField
          className="col-span-2"
          label="Name"
          name="name"
          value={form.name}
          onChange={(v) => set("name", v)}
          problem={error}
          autoFocus
        />
        <ChoiceField
          label="Stage"
          value={form.stage}
          onChange={(v) => set("stage", v)}
          options={STAGE_ORDER.map((s) => [s, stageName(s)] as const)}
        />
        <ChoiceField
          label="Kind"
          value={form.kind}
          onChange={(v) => set("kind", v)}
          options={[
            ["work", "work"],
            ["gate", "gate: a check to sign"],
            ["cure", "cure: a wait on the clock"],
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
              onChange={(v) => set("trade", (v || null) as Schemas["Trade"] | null)}
              options={none(TRADES)}
            />
            <NumberField
              label="Hours"
              name="budgetMinutes"
              problem={error}
              value={form.budgetMinutes / 60}
              onChange={(v) => set("budgetMinutes", Math.round((v ?? 0) * 60))}
            />
            <ChoiceField
              label="Station"
              value={form.station ?? ""}
              onChange={(v) => set("station", (v || null) as Schemas["StationKind"] | null)}
              options={none(STATIONS)}
            />
            <ChoiceField
              label="Who"
              value={form.personId ?? ""}
              onChange={(v) => set("personId", v || null)}
              options={choices(shop?.people ?? [], "the plan chooses")}
            />
            <ChoiceField
              label="Panels wear then"
              value={form.coat ?? ""}
              onChange={(v) => set("coat", (v || null) as Schemas["Coat"] | null)}
              options={none(COAT_ORDER, coatName)}
            />
            <ChoiceField
              label="Panels are held then"
              value={form.held ?? ""}
              onChange={(v) => set("held", (v || null) as Schemas["Held"] | null)}
              options={none(HELD_ORDER, heldName)}
            />
            <TextField
              className="col-span-2"
              label="Panels, by key"
              name="panels"
              problem={error}
              value={form.panels.join(", ")}
              onChange={(v) =>
                set(
                  "panels",
                  v
                    .split(",")
                    .map((x) => x.trim())
                    .filter(Boolean),
                )
              }
            />
            <ChoiceField
              label="Hazard"
              value={form.hazard ?? ""}
              onChange={(v) => set("hazard", (v || null) as Schemas["Hazard"] | null)}
              options={none(HAZARDS)}
            />
            <CheckField label="Must not stop" value={form.withoutStop} onChange={(v) => set("withoutStop", v)} />
          </>
        )}
        {form.kind === "gate" && (
          <ChoiceField
            label="Check"
            name="gate"
            problem={error}
            value={form.gate ?? ""}
            onChange={(v) => set("gate", (v || null) as Schemas["GateKind"] | null)}
            options={none(GATES)}
          />
        )}
        {(form.kind === "cure" || form.kind === "outside") && (
          <NumberField
            label={form.kind === "cure" ? "Hours on the clock" : "Days at the supplier"}
            name="clockMinutes"
            problem={error}
            value={form.clockMinutes / (form.kind === "cure" ? 60 : 1440)}
            onChange={(v) => set("clockMinutes", Math.round((v ?? 0) * (form.kind === "cure" ? 60 : 1440)))}
          />
        )}
        <fieldset className="col-span-2 border-t border-p3 pt-2">
          <legend className="font-[660]">Comes after</legend>
          {form.after.map((a, i) => (
            <div key={a.operation} className="flex items-end gap-2 mb-1">
              <span className="flex-1 self-center">{all.find((o) => o.id === a.operation)?.name}</span>
              <NumberField
                className="w-24"
                label="wait, h"
                value={a.lagMinutes / 60}
                onChange={(v) =>
                  set(
                    "after",
                    form.after.map((x, j) => (i === j ? { ...x, lagMinutes: Math.round((v ?? 0) * 60) } : x)),
                  )
                }
              />
              <button
                type="button"
                className="btn"
                onClick={() =>
                  set(
                    "after",
                    form.after.filter((_, j) => j !== i),
                  )
                }
              >
                Unlink
              </button>
            </div>
          ))}
          <ChoiceField
            label="Link after…"
            name="after"
            problem={error}
            value=""
            onChange={(v) => v && set("after", [...form.after, { operation: v, lagMinutes: 0 }])}
            options={[
              ["", "choose an operation"],
              ...all
                .filter((o) => o.id !== id && !form.after.some((a) => a.operation === o.id))
                .map((o) => [o.id, o.name] as [string, string]),
            ]}
          />
        </fieldset>
        <div className="col-span-2">
          <ProblemNote problem={error} except={["name", "trade", "budgetMinutes", "panels", "gate", "clockMinutes", "after"]} />
        </div>
        <div className="col-span-2 flex gap-2">
          <button type="submit" className="btn btn-ink" disabled={save.isPending}>
            Save
          </button>
          {operation && (
            <button type="button" className="btn" onClick={() => remove.mutate(undefined)}>
              Take out of the sequence
            </button>
          )}
        </div>
      </form>
    </Sheet>
  );
}
