import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { dayName, STATIONS, WEEKDAYS } from "../format";
import { ChecksField } from "../ui/ChecksField";
import { CheckField, ChoiceField, LengthField, NumberField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { ListField } from "../ui/ListField";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";

export function StationSheet({ station, onClose }: { station: Schemas["StationView"] | null; onClose: () => void }) {
  const [id] = useState(station?.id ?? newId());
  const [f, set, , clashes] = useForm<Omit<Schemas["StationBody"], "version">>(
    station ?? { name: "", kind: "bay", count: 1, xMm: 0, yMm: 0, widthMm: 6500, depthMm: 4500, doorHeightMm: null, walled: false },
  );
  const [copies, setCopies] = useState(1);
  const body = (): Schemas["StationBody"] => ({
    copies,
    name: f.name,
    kind: f.kind,
    count: f.count,
    xMm: f.xMm,
    yMm: f.yMm,
    widthMm: f.widthMm,
    depthMm: f.depthMm,
    doorHeightMm: f.doorHeightMm,
    walled: f.walled,
    version: station?.version ?? null,
  });
  const save = useSend(() => ask(api.PUT("/api/shop/stations/{id}", { params: { path: { id } }, body: body() })), {
    says: "Saved",
    onDone: onClose,
    quiet: true,
  });
  const length = (label: string, key: "xMm" | "yMm" | "widthMm" | "depthMm") => (
    <LengthField label={label} name={key} value={f[key]} onChange={(v) => set(key)(v ?? 0)} problem={save.error} />
  );
  return (
    <FormSheet
      title={station?.name ?? "New station"}
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <TextField label="Name" name="name" value={f.name} onChange={set("name")} autoFocus />
      <ChoiceField label="Kind" value={f.kind} onChange={set("kind")} options={STATIONS.map((k) => [k, k] as const)} />
      {!station && (
        <NumberField label="How many such places, side by side" name="copies" value={copies} onChange={(v) => setCopies(v ?? 1)} />
      )}
      <NumberField label="Vehicles or jobs at once" name="count" value={f.count} onChange={(v) => set("count")(v ?? 0)} />
      <LengthField label="Door height" name="doorHeightMm" value={f.doorHeightMm} onChange={set("doorHeightMm")} />
      {length("From the left of the plan", "xMm")}
      {length("From the top of the plan", "yMm")}
      {length("Width", "widthMm")}
      {length("Depth", "depthMm")}
      <CheckField label="Walls round it" value={f.walled} onChange={set("walled")} />
    </FormSheet>
  );
}

export function SupplierSheet({ supplier, onClose }: { supplier: Schemas["SupplierView"] | null; onClose: () => void }) {
  const [id] = useState(supplier?.id ?? newId());
  const [f, set, , clashes] = useForm({
    name: supplier?.name ?? "",
    what: supplier?.what ?? "",
    freightDays: supplier?.freightDays ?? [],
    workDays: supplier?.workDays ?? [],
    terms: { closed: [], visitsFrom: null, visitsTo: null, opensForThem: false, ...supplier?.terms } as Required<Schemas["SupplierTerms"]>,
  });
  const change = (to: Partial<typeof f.terms>) => set("terms")({ ...f.terms, ...to });
  const time = (v: string) => (v ? `${v}:00` : null);
  const save = useSend(
    () => ask(api.PUT("/api/shop/suppliers/{id}", { params: { path: { id } }, body: { ...f, version: supplier?.version ?? null } })),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={supplier?.name ?? "New supplier"}
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <TextField label="Name" name="name" value={f.name} onChange={set("name")} autoFocus />
      <TextField label="For what" name="what" value={f.what} onChange={set("what")} />
      <fieldset className="col-span-2">
        <legend className="font-[660]">Goods come on (none: any day)</legend>
        <div className="grid grid-cols-3">
          {WEEKDAYS.map((d) => (
            <CheckField
              key={d}
              label={dayName(d)}
              value={f.freightDays.includes(d)}
              onChange={(on) => set("freightDays")(on ? [...f.freightDays, d] : f.freightDays.filter((x) => x !== d))}
            />
          ))}
        </div>
      </fieldset>
      <ChecksField
        legend="Days they work; none chosen means Monday to Friday"
        named={WEEKDAYS.map((d) => ({ id: d, name: dayName(d) }))}
        chosen={f.workDays}
        onChange={(v) => set("workDays")(v as typeof f.workDays)}
      />
      <ListField
        legend="Closed"
        rows={f.terms.closed}
        onChange={(closed) => change({ closed })}
        add="Add closed days"
        next={() => ({ from: "", to: "" })}
      >
        {(c, to) => (
          <>
            <TextField label="from" type="date" name="closed" value={c.from} onChange={(from) => to({ from })} />
            <TextField label="to, included" type="date" value={c.to} onChange={(v) => to({ to: v })} />
          </>
        )}
      </ListField>
      <TextField
        label="Works here from"
        type="time"
        name="visitsFrom"
        value={f.terms.visitsFrom?.slice(0, 5) ?? ""}
        onChange={(v) => change({ visitsFrom: time(v) })}
      />
      <TextField
        label="until"
        type="time"
        name="visitsTo"
        value={f.terms.visitsTo?.slice(0, 5) ?? ""}
        onChange={(v) => change({ visitsTo: time(v) })}
      />
      <CheckField
        label="We open for them on closed days too"
        value={f.terms.opensForThem}
        onChange={(opensForThem) => change({ opensForThem })}
      />
    </FormSheet>
  );
}
