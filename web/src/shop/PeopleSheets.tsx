import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { day, money, TRADES, today, tradeName } from "../format";
import { CheckField, NumberField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { ListField } from "../ui/ListField";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";

export function PersonSheet({ person, onClose }: { person: Schemas["PersonView"] | null; onClose: () => void }) {
  const [id] = useState(person?.id ?? newId());
  const [f, set, , clashes] = useForm({ name: person?.name ?? "", trades: person?.trades ?? [], active: person?.active ?? true });
  const save = useSend(
    () => ask(api.PUT("/api/shop/people/{id}", { params: { path: { id } }, body: { ...f, version: person?.version ?? null } })),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={person?.name ?? "New person"}
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <TextField className="col-span-2" label="Name" name="name" value={f.name} onChange={set("name")} autoFocus />
      <fieldset className="col-span-2">
        <legend className="font-[660]">Trades</legend>
        <div className="grid grid-cols-3">
          {TRADES.map((t) => (
            <CheckField
              key={t}
              label={tradeName(t)}
              value={f.trades.includes(t)}
              onChange={(on) => set("trades")(on ? [...f.trades, t] : f.trades.filter((x) => x !== t))}
            />
          ))}
        </div>
      </fieldset>
      <CheckField label="Works here" value={f.active} onChange={set("active")} />
    </FormSheet>
  );
}

export function RateSheet({ person, onClose }: { person: Schemas["PersonView"]; onClose: () => void }) {
  const last = person.rates?.at(-1);
  const [f, set] = useForm({ from: today(), cost: last?.cost ?? 0, billing: last?.billing ?? 0 });
  const save = useSend(() => ask(api.PUT("/api/shop/people/{id}/rates", { params: { path: { id: person.id } }, body: f })), {
    says: "Saved",
    onDone: onClose,
    quiet: true,
  });
  return (
    <FormSheet
      title={`Rate of ${person.name}`}
      note="Holds from a day on; work is billed at the rate of its day. Hours before the first rate are billed at the first."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
    >
      <TextField label="From" type="date" name="from" value={f.from} onChange={set("from")} />
      <span />
      <NumberField label="Costs the shop, per hour" name="cost" value={f.cost} onChange={(v) => set("cost")(v ?? 0)} />
      <NumberField label="Billed, per hour, net" name="billing" value={f.billing} onChange={(v) => set("billing")(v ?? 0)} />
      <ul className="col-span-2 text-ink2">
        {(person.rates ?? []).map((r) => (
          <li key={r.from}>
            from {day(r.from)}: {money(r.billing)}, costs {r.cost === null ? "–" : money(r.cost)}
          </li>
        ))}
      </ul>
    </FormSheet>
  );
}

export function AbsenceSheet({ person, onClose }: { person: Schemas["PersonView"]; onClose: () => void }) {
  const [f, set, , clashes] = useForm({ absences: person.absences });
  const save = useSend(() => ask(api.PUT("/api/shop/people/{id}/absences", { params: { path: { id: person.id } }, body: f })), {
    says: "Saved",
    onDone: onClose,
    quiet: true,
  });
  return (
    <FormSheet
      title={`When ${person.name} is away`}
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <ListField
        rows={f.absences}
        onChange={set("absences")}
        add="Add"
        next={() => ({ from: `${today()}T00:00:00`, to: `${today()}T23:59:00`, reason: "" })}
      >
        {(a, change) => (
          <>
            <TextField label="From" type="datetime-local" value={a.from.slice(0, 16)} onChange={(v) => change({ from: `${v}:00` })} />
            <TextField label="To" type="datetime-local" value={a.to.slice(0, 16)} onChange={(v) => change({ to: `${v}:00` })} />
            <TextField label="Why" value={a.reason} onChange={(v) => change({ reason: v })} />
          </>
        )}
      </ListField>
    </FormSheet>
  );
}
