import { useQuery } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../api/client";
import { buildsQuery } from "../api/queries";
import { dayName, STATIONS, SUPPORTS, supportName, today, WEEKDAYS, WORK_KINDS, words } from "../format";
import { ChecksField } from "../ui/ChecksField";
import { CheckField, ChoiceField, LengthField, NumberField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { ListField } from "../ui/ListField";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import { ShiftsField } from "./ShiftsField";

const hour = (at: string) => at.slice(0, 5);
const KINDS = WORK_KINDS.map((k) => ({ id: k, name: words(k) }));

/** Pace, own hours, kept times, kinds of work that are not given. */
export function PersonTermsSheet({
  person,
  week,
  onClose,
}: {
  person: Schemas["PersonView"];
  week: Schemas["DayShift"][];
  onClose: () => void;
}) {
  const builds = (useQuery(buildsQuery).data ?? []).map((b) => [b.id, `${b.number}, ${b.title}`] as const);
  const [f, set, , clashes] = useForm({ pace: 1, hours: [], notGiven: [], slots: [], ...person.terms } as Required<Schemas["PersonTerms"]>);
  const save = useSend(
    () => ask(api.PUT("/api/shop/people/{id}/terms", { params: { path: { id: person.id } }, body: { terms: f, version: person.version } })),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={`How ${person.name} works`}
      note="Plan rules it. Without own hours the shop's hold."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <NumberField
        className="col-span-2"
        label="A likely hour takes, h (1.25 is slower, 0.8 quicker)"
        name="pace"
        value={f.pace}
        onChange={(v) => set("pace")(v ?? 1)}
      />
      <ListField
        legend="Own hours, from a day on"
        rows={f.hours}
        onChange={set("hours")}
        add="Own hours"
        next={() => ({ from: today(), week })}
      >
        {(h, change) => (
          <div className="flex-1 border-t border-p3 pt-2">
            <TextField label="From" type="date" name="hours" value={h.from} onChange={(v) => change({ from: v })} />
            <ShiftsField week={h.week} onChange={(v) => change({ week: v })} />
          </div>
        )}
      </ListField>
      {builds.length > 0 && (
        <ListField
          legend="Times of the week that belong to one build"
          rows={f.slots}
          onChange={set("slots")}
          add="Keep a time"
          next={() => ({ day: "monday" as const, from: "08:00:00", to: "12:00:00", buildId: builds[0]?.[0] ?? "" })}
        >
          {(s, change) => (
            <div className="flex-1 grid grid-cols-[1fr_80px_80px] gap-2">
              <ChoiceField
                label="Day"
                name="slots"
                value={s.day}
                onChange={(v) => change({ day: v })}
                options={WEEKDAYS.map((d) => [d, dayName(d)] as const)}
              />
              <TextField label="From" type="time" value={hour(s.from)} onChange={(v) => change({ from: `${v}:00` })} />
              <TextField label="To" type="time" value={hour(s.to)} onChange={(v) => change({ to: `${v}:00` })} />
              <ChoiceField
                className="col-span-3"
                label="Build"
                value={s.buildId}
                onChange={(v) => change({ buildId: v })}
                options={builds}
              />
            </div>
          )}
        </ListField>
      )}
      <ChecksField
        legend="Kinds of work they are not given"
        named={KINDS}
        chosen={f.notGiven}
        onChange={(v) => set("notGiven")(v as Schemas["WorkKind"][])}
      />
    </FormSheet>
  );
}

/** Inspection, closures, and whose air it shares. */
export function StationTermsSheet({ station, onClose }: { station: Schemas["StationView"]; onClose: () => void }) {
  const [f, set, , clashes] = useForm({
    inspectedUntil: null,
    inspected: "",
    airSpace: "",
    closed: [],
    ...station.terms,
  } as Required<Schemas["StationTerms"]>);
  const save = useSend(
    () =>
      ask(api.PUT("/api/shop/stations/{id}/terms", { params: { path: { id: station.id } }, body: { terms: f, version: station.version } })),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={`When ${station.name} may be used`}
      note="Past its inspection the plan puts no work there."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <TextField label="Inspected until" type="date" value={f.inspectedUntil ?? ""} onChange={(v) => set("inspectedUntil")(v || null)} />
      <TextField
        label="What is inspected"
        name="inspected"
        value={f.inspected}
        onChange={set("inspected")}
        placeholder="breathing air, filters"
      />
      <TextField
        className="col-span-2"
        label="Air space: stations with the same word share their air"
        name="airSpace"
        value={f.airSpace}
        onChange={set("airSpace")}
      />
      <ListField
        legend="Out of use"
        rows={f.closed}
        onChange={set("closed")}
        add="A stretch of days"
        next={() => ({ from: today(), to: today() as string | null, why: "" })}
      >
        {(c, change) => (
          <div className="flex-1 grid grid-cols-2 gap-2">
            <TextField label="From" type="date" name="closed" value={c.from} onChange={(v) => change({ from: v })} />
            <TextField label="Last day, if known" type="date" value={c.to ?? ""} onChange={(v) => change({ to: v || null })} />
            <TextField className="col-span-2" label="Why" value={c.why} onChange={(v) => change({ why: v })} />
          </div>
        )}
      </ListField>
    </FormSheet>
  );
}

/** Shared things, what may not share the air, and ways of holding a shell. */
export function PlanRulesSheet({ shop, onClose }: { shop: Schemas["ShopView"]; onClose: () => void }) {
  const [f, set, , clashes] = useForm({
    things: [],
    air: [],
    crowds: [],
    ready: [],
    supports: [],
    doorMarginMm: 40,
    moveMinutes: 15,
    moveHands: 1,
    moveHandsNotRolling: 2,
    ...shop.plan,
  } as Required<Schemas["PlanRules"]>);
  const save = useSend(() => ask(api.PUT("/api/shop/plan-rules", { body: { plan: f, version: shop.settings.version } })), {
    says: "Saved",
    onDone: onClose,
    quiet: true,
  });
  const kinds = WORK_KINDS.map((k) => [k, words(k)] as const);
  return (
    <FormSheet
      title="Plan rules"
      note="Local codes, product data sheets and licensed practice come first."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <ListField
        legend="Things that are shared and run out"
        rows={f.things}
        onChange={set("things")}
        add="A shared thing"
        next={() => ({ name: "", count: 1 })}
      >
        {(t, change) => (
          <>
            <TextField className="flex-1" label="What" name="things" value={t.name} onChange={(v) => change({ name: v })} />
            <NumberField className="w-24" label="How many" value={t.count} onChange={(v) => change({ count: v ?? 1 })} />
          </>
        )}
      </ListField>
      <ListField
        legend="What must never happen together"
        rows={f.air}
        onChange={set("air")}
        add="Another rule"
        next={() => ({ one: "grinding" as const, other: "wetCoat" as const, why: "", onOneVehicle: false })}
      >
        {(a, change) => (
          <div className="flex-1 grid grid-cols-2 gap-2 border-t border-p3 pt-1">
            <ChoiceField label="One" value={a.one} onChange={(v) => change({ one: v })} options={kinds} />
            <ChoiceField label="Other" value={a.other} onChange={(v) => change({ other: v })} options={kinds} />
            <TextField className="col-span-2" label="Why" name="air" value={a.why} onChange={(v) => change({ why: v })} />
            <CheckField
              label="On one vehicle, wherever it stands"
              value={a.onOneVehicle}
              onChange={(onOneVehicle) => change({ onOneVehicle })}
            />
          </div>
        )}
      </ListField>
      <ListField
        legend="Work that closes places beside it"
        rows={f.crowds}
        onChange={set("crowds")}
        add="Work that needs room"
        next={() => ({ work: "blasting" as const, closes: "prep" as const, count: 1 })}
      >
        {(c, change) => (
          <>
            <ChoiceField
              className="flex-1"
              label="While there is"
              name="crowds"
              value={c.work}
              onChange={(v) => change({ work: v })}
              options={kinds}
            />
            <NumberField className="w-20" label="close" value={c.count} onChange={(v) => change({ count: v ?? 1 })} />
            <ChoiceField
              className="w-28"
              label="of"
              value={c.closes}
              onChange={(v) => change({ closes: v })}
              options={STATIONS.map((k) => [k, k] as const)}
            />
          </>
        )}
      </ListField>
      <ListField
        legend="Hours to make a place ready and clear it again, of all hands"
        rows={f.ready}
        onChange={set("ready")}
        add="A place that is made ready"
        next={() => ({ place: "blast" as const, minutes: 120 })}
      >
        {(r, change) => (
          <>
            <ChoiceField
              className="flex-1"
              label="Place"
              name="ready"
              value={r.place}
              onChange={(v) => change({ place: v })}
              options={STATIONS.map((k) => [k, k] as const)}
            />
            <NumberField
              className="w-24"
              label="hours"
              value={r.minutes / 60}
              onChange={(v) => change({ minutes: Math.round((v ?? 0) * 60) })}
            />
          </>
        )}
      </ListField>
      <ListField
        legend="Ways of holding a shell"
        rows={f.supports}
        onChange={set("supports")}
        add="Another way"
        next={() => ({ state: "cart" as const, rolls: true, liftMm: 0 })}
      >
        {(s, change) => (
          <>
            <ChoiceField
              className="flex-1"
              label="Held"
              name="supports"
              value={s.state}
              onChange={(v) => change({ state: v })}
              options={SUPPORTS.map((x) => [x, supportName(x)] as const)}
            />
            <LengthField className="w-28" label="lifts it" value={s.liftMm} onChange={(v) => change({ liftMm: v ?? 0 })} />
            <CheckField label="rolls" value={s.rolls} onChange={(v) => change({ rolls: v })} />
          </>
        )}
      </ListField>
      <LengthField
        label="Kept free under a door"
        name="doorMarginMm"
        value={f.doorMarginMm}
        onChange={(v) => set("doorMarginMm")(v ?? 0)}
      />
      <NumberField label="A move takes, minutes" name="moveMinutes" value={f.moveMinutes} onChange={(v) => set("moveMinutes")(v ?? 0)} />
      <NumberField label="Hands for a move" name="moveHands" value={f.moveHands} onChange={(v) => set("moveHands")(v ?? 0)} />
      <NumberField
        label="Hands where the shell does not roll"
        value={f.moveHandsNotRolling}
        onChange={(v) => set("moveHandsNotRolling")(v ?? 0)}
      />
    </FormSheet>
  );
}
