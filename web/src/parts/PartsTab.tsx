import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { operationsQuery, partsQuery, shopQuery, useMay } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { day, money, today } from "../format";
import { ImportSheet } from "../shop/ImportSheet";
import { CheckField, ChoiceField, choices, NumberField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { Empty, Shown } from "../ui/States";
import { newest, useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";

type Part = Schemas["PartView"];
const STEPS: Schemas["PartState"][] = ["needed", "ordered", "expected", "received", "fitted"];

export function PartsTab() {
  const card = useThisBuild();
  const parts = useQuery(partsQuery(card.id));
  const shop = useQuery(shopQuery).data;
  const operations = useQuery(operationsQuery(card.id)).data ?? [];
  const may = useMay();
  const [editing, setEditing] = useState<Part | "new" | null>(null);
  const [moving, setMoving] = useState<Part | null>(null);
  const [booking, setBooking] = useState(false);
  const [importing, setImporting] = useState(false);
  const supplier = (id: string | null) => shop?.suppliers.find((s) => s.id === id)?.name ?? "";
  const operation = (id: string | null) => operations.find((o) => o.id === id)?.name ?? "";
  return (
    <div className="px-5 pt-3 pb-10 max-w-[1200px]">
      <div className="flex items-baseline gap-4 mb-1">
        <h1>Parts</h1>
        <span className="flex-1" />
        {may.manager && (
          <button type="button" className="btn" onClick={() => setImporting(true)}>
            From a file
          </button>
        )}
        <button type="button" className="btn" onClick={() => setEditing("new")}>
          Part needed
        </button>
      </div>
      <Shown of={parts}>
        {(view) => (
          <>
            {view.parts.length === 0 ? (
              <Empty>No part is on the list.</Empty>
            ) : (
              <table className="rows">
                <thead>
                  <tr>
                    <th>Part</th>
                    <th>For</th>
                    <th>From</th>
                    <th className="num">Quantity</th>
                    {may.desk && <th className="num">Unit cost</th>}
                    <th>State</th>
                    <th />
                  </tr>
                </thead>
                <tbody>
                  {view.parts.map((p) => (
                    <tr key={p.id}>
                      <td className="font-[620]">{p.name}</td>
                      <td>{operation(p.operationId)}</td>
                      <td>{p.clientSupplied ? "the client" : supplier(p.supplierId)}</td>
                      <td className="num">{p.quantity}</td>
                      {may.desk && <td className="num">{p.clientSupplied ? "" : money(p.unitCost ?? 0)}</td>}
                      <td className={p.late ? "text-oxide font-[620]" : ""}>{stateText(p)}</td>
                      <td className="whitespace-nowrap text-right">
                        <button
                          type="button"
                          className="btn"
                          aria-label={`${moveName(p, may.desk)}: ${p.name}`}
                          onClick={() => setMoving(p)}
                        >
                          {moveName(p, may.desk)}
                        </button>{" "}
                        {may.desk && (
                          <button type="button" className="btn" aria-label={`Edit: ${p.name}`} onClick={() => setEditing(p)}>
                            Edit
                          </button>
                        )}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
            <div className="flex items-baseline gap-4 mt-6 mb-1">
              <h2>Materials booked</h2>
              <span className="flex-1" />
              {may.desk && (
                <button type="button" className="btn" onClick={() => setBooking(true)}>
                  Book material
                </button>
              )}
            </div>
            {view.materials.length === 0 ? (
              <Empty>Nothing is booked.</Empty>
            ) : (
              <table className="rows">
                <tbody>
                  {view.materials.map((m) => (
                    <tr key={m.id}>
                      <td>{day(m.on)}</td>
                      <td className="font-[620]">{m.name}</td>
                      <td className="num">
                        {m.quantity} {m.unit}
                      </td>
                      <td className="num">{m.unitCost === null ? "" : money(m.unitCost)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
          </>
        )}
      </Shown>
      {editing && (
        <PartSheet
          buildId={card.id}
          part={newest(editing === "new" ? null : editing, parts.data?.parts)}
          onClose={() => setEditing(null)}
        />
      )}
      {moving && <StepSheet part={newest(moving, parts.data?.parts) ?? moving} onClose={() => setMoving(null)} />}
      {importing && <ImportSheet kind="parts" buildId={card.id} onClose={() => setImporting(false)} />}
      {booking && <MaterialSheet buildId={card.id} onClose={() => setBooking(false)} />}
    </div>
  );
}

/** The state it goes to next; on the floor a part is received and fitted, nothing else. */
function nextOf(p: Part, desk: boolean): Schemas["PartState"] {
  const next = STEPS[Math.min(STEPS.length - 1, STEPS.indexOf(p.state) + 1)] ?? "fitted";
  return desk || next === "fitted" ? next : "received";
}

const MOVES: Record<Schemas["PartState"], string> = {
  needed: "Need",
  ordered: "Order",
  expected: "Say when",
  received: "Receive",
  fitted: "Fit",
};

/** What is done with a part next; one that is fitted can only be put right. */
const moveName = (p: Part, desk: boolean) => (p.state === "fitted" ? "Change" : MOVES[nextOf(p, desk)]);

function stateText(p: Part): string {
  switch (p.state) {
    case "needed":
      return "needed";
    case "ordered":
      return `ordered ${day(p.orderedOn)}`;
    case "expected":
      return `expected ${day(p.expectedOn)}`;
    case "received":
      return `received ${day(p.receivedOn)}`;
    case "fitted":
      return `fitted ${day(p.fittedOn)}`;
  }
}

function PartSheet({ buildId, part, onClose }: { buildId: string; part: Part | null; onClose: () => void }) {
  const may = useMay();
  const suppliers = useQuery(shopQuery).data?.suppliers ?? [];
  const operations = (useQuery(operationsQuery(buildId)).data ?? []).filter((o) => !o.doneAt || o.id === part?.operationId);
  const [id] = useState(part?.id ?? newId());
  const [form, set, , clashes] = useForm({
    name: part?.name ?? "",
    quantity: part?.quantity ?? 1,
    unitCost: part?.unitCost ?? 0,
    unitPrice: part?.unitPrice ?? null,
    supplierId: part?.supplierId ?? "",
    clientSupplied: part?.clientSupplied ?? false,
    operationId: part?.operationId ?? "",
    measuredBy: part?.measuredBy ?? "",
  });
  const save = useSend(
    () =>
      ask(
        api.PUT("/api/builds/{id}/parts/{partId}", {
          params: { path: { id: buildId, partId: id } },
          body: {
            ...form,
            supplierId: form.supplierId || null,
            operationId: form.operationId || null,
            measuredBy: form.measuredBy || null,
            version: part?.version ?? null,
          },
        }),
      ),
    { says: "Saved", onDone: onClose, onKept: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={part ? part.name : "Part needed"}
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <TextField className="col-span-2" label="What" name="name" value={form.name} onChange={set("name")} autoFocus />
      <ChoiceField
        className="col-span-2"
        label="For which operation"
        value={form.operationId}
        onChange={set("operationId")}
        options={choices(operations, "none yet")}
      />
      <ChoiceField
        className="col-span-2"
        label="Order only after this measurement"
        value={form.measuredBy}
        onChange={set("measuredBy")}
        options={choices(operations, "nothing to measure")}
      />
      <NumberField label="Quantity" name="quantity" value={form.quantity} onChange={(v) => set("quantity")(v ?? 0)} />
      {may.desk && (
        <>
          <NumberField label="Unit cost, net" name="unitCost" value={form.unitCost} onChange={(v) => set("unitCost")(v ?? 0)} />
          <ChoiceField
            label="From"
            name="supplierId"
            value={form.supplierId}
            onChange={set("supplierId")}
            options={choices(suppliers, "choose")}
          />
          <NumberField label="Agreed unit price (else mark-up)" name="unitPrice" value={form.unitPrice} onChange={set("unitPrice")} />
        </>
      )}
      <CheckField label="Supplied by the client" value={form.clientSupplied} onChange={set("clientSupplied")} />
    </FormSheet>
  );
}

function StepSheet({ part, onClose }: { part: Part; onClose: () => void }) {
  const may = useMay();
  const next = nextOf(part, may.desk);
  const [{ to, on }, set] = useForm({ to: next, on: today() });
  const send = useSend(
    () => ask(api.POST("/api/parts/{id}/move", { params: { path: { id: part.id } }, body: { to, on, version: part.version } })),
    { says: "Noted", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      afterEnd
      title={part.name}
      note={`Now ${stateText(part)}.`}
      action="Note it"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      <ChoiceField
        label="It is"
        name="state"
        value={to}
        onChange={set("to")}
        options={STEPS.filter((s) => may.desk || s === "received" || s === "fitted").map((s) => [s, s] as const)}
      />
      <TextField label={to === "expected" ? "Here on" : "On"} name="on" type="date" value={on} onChange={set("on")} />
    </FormSheet>
  );
}

function MaterialSheet({ buildId, onClose }: { buildId: string; onClose: () => void }) {
  const [id] = useState(() => newId());
  const [form, set] = useForm({ name: "", quantity: 1, unit: "l", unitCost: 0, on: today() });
  const save = useSend(
    () => ask(api.POST("/api/builds/{id}/materials", { params: { path: { id: buildId } }, body: { id, operationId: null, ...form } })),
    { says: "Booked", onDone: onClose, onKept: onClose, quiet: true },
  );
  return (
    <FormSheet
      title="Book material"
      action="Book"
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
    >
      <TextField className="col-span-2" label="What" name="name" value={form.name} onChange={set("name")} autoFocus />
      <NumberField label="Quantity" name="quantity" value={form.quantity} onChange={(v) => set("quantity")(v ?? 0)} />
      <TextField label="Unit" name="unit" value={form.unit} onChange={set("unit")} />
      <NumberField label="Cost per unit, net" name="unitCost" value={form.unitCost} onChange={(v) => set("unitCost")(v ?? 0)} />
      <TextField label="On" type="date" name="on" value={form.on} onChange={set("on")} />
    </FormSheet>
  );
}
