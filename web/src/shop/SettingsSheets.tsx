import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { today } from "../format";
import { ChoiceField, LengthField, NumberField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { ListField } from "../ui/ListField";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import { ShiftsField } from "./ShiftsField";

function useSaveSettings(settings: Schemas["SettingsBody"], onClose: () => void) {
  return useSend((body: Schemas["SettingsBody"]) => ask(api.PUT("/api/shop/settings", { body: { ...body, version: settings.version } })), {
    says: "Saved",
    onDone: onClose,
    quiet: true,
  });
}

export function SettingsSheet({ settings, onClose }: { settings: Schemas["SettingsBody"]; onClose: () => void }) {
  const [f, set, , clashes] = useForm(settings);
  const save = useSaveSettings(settings, onClose);
  const tax = (key: keyof Schemas["TaxView"]) => (
    <NumberField
      label={`Tax on ${key}, %`}
      name="taxRates"
      value={f.taxRates[key]}
      onChange={(v) => set("taxRates")({ ...f.taxRates, [key]: v ?? 0 })}
      problem={save.error}
    />
  );
  return (
    <FormSheet
      title="Settings"
      onClose={onClose}
      onSubmit={() => save.mutate(f)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <TextField label="Name" name="name" value={f.name} onChange={set("name")} />
      <TextField label="Place" name="place" value={f.place} onChange={set("place")} />
      <TextField label="Telephone" name="phone" value={f.phone} onChange={set("phone")} />
      <TextField
        label="Address of this application for clients"
        name="address"
        value={f.address}
        onChange={set("address")}
        placeholder="https://shop.example"
      />
      <TextField label="Currency" name="currency" value={f.currency} onChange={(v) => set("currency")(v.toUpperCase())} />
      <TextField label="Time zone" name="timeZone" value={f.timeZone} onChange={set("timeZone")} />
      <ChoiceField
        label="Units"
        value={f.units}
        onChange={set("units")}
        options={[
          ["metric", "metric"],
          ["us", "US"],
        ]}
      />
      {tax("labour")}
      {tax("parts")}
      {tax("outside")}
      {tax("materials")}
      {f.partTiers.map((t, i) => (
        <div key={i} className="col-span-2 grid grid-cols-2 gap-3">
          {t.upTo === null ? (
            <span className="self-end">parts above that</span>
          ) : (
            <NumberField
              label="Parts up to"
              name="partTiers"
              value={t.upTo}
              onChange={(v) => set("partTiers")(f.partTiers.map((x, j) => (i === j ? { ...x, upTo: v } : x)))}
            />
          )}
          <NumberField
            label="mark-up, %"
            value={t.percent}
            onChange={(v) => set("partTiers")(f.partTiers.map((x, j) => (i === j ? { ...x, percent: v ?? 0 } : x)))}
          />
        </div>
      ))}
      <button
        type="button"
        className="btn col-span-2 justify-self-start"
        onClick={() =>
          set("partTiers")(
            [{ upTo: (f.partTiers.at(-2)?.upTo ?? 0) + 100, percent: f.partTiers[0]?.percent ?? 0 }, ...f.partTiers].sort(
              (a, b) => (a.upTo ?? Infinity) - (b.upTo ?? Infinity),
            ),
          )
        }
      >
        Another tier
      </button>
      <NumberField
        label="Mark-up on outside work, %"
        name="outsideMarkup"
        value={f.outsideMarkup}
        onChange={(v) => set("outsideMarkup")(v ?? 0)}
      />
      <NumberField
        label="Mark-up on materials, %"
        name="materialsMarkup"
        value={f.materialsMarkup}
        onChange={(v) => set("materialsMarkup")(v ?? 0)}
      />
      <NumberField
        label="Consumables, % of labour"
        name="consumablesPercent"
        value={f.consumablesPercent}
        onChange={(v) => set("consumablesPercent")(v ?? 0)}
      />
      <NumberField label="Consumables, at most" name="consumablesCap" value={f.consumablesCap} onChange={set("consumablesCap")} />
      <NumberField
        label="Storage after notice, a day"
        name="storagePerDay"
        value={f.storagePerDay}
        onChange={(v) => set("storagePerDay")(v ?? 0)}
      />
      <NumberField
        label="Free days after notice"
        name="storageFreeDays"
        value={f.storageFreeDays}
        onChange={(v) => set("storageFreeDays")(v ?? 0)}
      />
      <ChoiceField
        label="Billed minutes"
        value={f.rounding}
        onChange={set("rounding")}
        options={[
          ["none", "as worked"],
          ["nearest6", "nearest tenth of an hour"],
          ["up15", "up to the quarter"],
        ]}
      />
      <NumberField
        label="Overtime after, h a day"
        name="overtimeAfterHours"
        value={f.overtimeAfterHours}
        onChange={(v) => set("overtimeAfterHours")(v ?? 0)}
      />
      <NumberField
        label="Overtime counts"
        name="overtimeMultiplier"
        value={f.overtimeMultiplier}
        onChange={(v) => set("overtimeMultiplier")(v ?? 1)}
      />
      <NumberField
        label="A day of waiting costs a build"
        name="delayPerDay"
        value={f.delayPerDay}
        onChange={(v) => set("delayPerDay")(v ?? 0)}
      />
      <ListField
        legend="Sheet that is bought, by thickness"
        rows={f.sheets}
        onChange={set("sheets")}
        add="Another sheet"
        next={() => ({ gaugeMm: 1.2, widthMm: 1250, heightMm: 2500, price: 0 })}
      >
        {(x, change) => (
          <>
            <NumberField className="w-20" label="mm thick" name="sheets" value={x.gaugeMm} onChange={(v) => change({ gaugeMm: v ?? 0 })} />
            <LengthField className="flex-1" label="wide" value={x.widthMm} onChange={(v) => change({ widthMm: v ?? 0 })} />
            <LengthField className="flex-1" label="long" value={x.heightMm} onChange={(v) => change({ heightMm: v ?? 0 })} />
            <NumberField className="w-24" label="a sheet, net" value={x.price} onChange={(v) => change({ price: v ?? 0 })} />
          </>
        )}
      </ListField>
      <LengthField label="Plan, width" name="planWidthMm" value={f.planWidthMm} onChange={(v) => set("planWidthMm")(v ?? 0)} />
      <LengthField label="Plan, depth" name="planDepthMm" value={f.planDepthMm} onChange={(v) => set("planDepthMm")(v ?? 0)} />
    </FormSheet>
  );
}

export function WeekSheet({ settings, onClose }: { settings: Schemas["SettingsBody"]; onClose: () => void }) {
  const save = useSaveSettings(settings, onClose);
  const [f, set, , clashes] = useForm({ week: settings.week });
  return (
    <FormSheet
      title="The week"
      note="A shift belongs to the day it starts on, also over midnight."
      onClose={onClose}
      onSubmit={() => save.mutate({ ...settings, week: f.week })}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <div className="col-span-2">
        <ShiftsField week={f.week} onChange={set("week")} />
      </div>
    </FormSheet>
  );
}

export function ClosedSheet({ onClose }: { onClose: () => void }) {
  const [id] = useState(() => newId());
  const [f, set] = useForm({ date: today(), reason: "" });
  const save = useSend(
    () => ask(api.PUT("/api/shop/closed-days/{date}", { params: { path: { date: f.date } }, body: { id, reason: f.reason } })),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet title="Closed day" onClose={onClose} onSubmit={() => save.mutate(undefined)} problem={save.error} busy={save.isPending}>
      <TextField label="Day" type="date" name="date" value={f.date} onChange={set("date")} />
      <TextField label="Why" name="reason" value={f.reason} onChange={set("reason")} />
    </FormSheet>
  );
}
