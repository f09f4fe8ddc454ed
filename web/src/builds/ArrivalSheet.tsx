import { api, ask, newId, type Schemas } from "../api/client";
import { addDays, linesOf, today, words } from "../format";
import { AreaField, ChoiceField, LengthField, NumberField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { ListField } from "../ui/ListField";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import { useThisBuild } from "./useBuild";

const AS: Schemas["ArrivedAs"][] = ["whole", "rollingShell", "bareBody", "onBorrowedChassis", "inBoxes"];
const HAZARDS: Schemas["Hazard"][] = ["asbestos", "lead", "fuel", "highVoltage", "dust", "lifting", "support"];

/** Writes down how the vehicle came. */
export function ArrivalSheet({ arrival: a, onClose }: { arrival: Schemas["ArrivalView"]; onClose: () => void }) {
  const card = useThisBuild();
  const [f, set, , clashes] = useForm({
    cameOn: a.cameOn ?? today(),
    as: a.as,
    onWhose: a.onWhose,
    serial: a.serial,
    breaks: a.breaks.map((b) => ({ at: b.at, before: b.before, from: b.from })),
    odometer: a.odometer,
    keys: a.keys,
    fluids: a.fluids.join("\n"),
    battery: a.battery,
    storage: a.storage,
    promised: a.promised.map((p) => ({ id: p.id, what: p.what, promised: p.promised, came: p.came })),
    cameUnasked: a.cameUnasked.join("\n"),
    standIns: a.standIns,
    toUndo: a.toUndo.join("\n"),
    hazards: a.hazards.map((h) => ({
      id: h.id,
      hazard: h.hazard,
      where: h.where,
      next: h.next,
      expectedOn: h.expectedOn ?? undefined,
      settled: h.settled,
    })),
    bodyMm: a.heights?.bodyMm ?? null,
    dollyMm: a.heights?.dollyMm ?? 0,
    keptFreeMm: a.heights?.keptFreeMm ?? 50,
    lower: a.heights?.lower ?? ([] as Schemas["Lowering"][]),
  });
  const save = useSend(
    () => {
      const { bodyMm, dollyMm, keptFreeMm, lower, fluids, cameUnasked, toUndo, ...rest } = f;
      return ask(
        api.PUT("/api/builds/{id}/arrival", {
          params: { path: { id: card.id } },
          body: {
            ...rest,
            fluids: linesOf(fluids),
            cameUnasked: linesOf(cameUnasked),
            toUndo: linesOf(toUndo),
            heights: bodyMm === null ? null : { bodyMm, dollyMm, keptFreeMm, lower },
            version: a.version,
          },
        }),
      );
    },
    { says: "Saved", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title="How it came"
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <TextField label="On" name="cameOn" type="date" value={f.cameOn} onChange={set("cameOn")} />
      <ChoiceField label="As" value={f.as} onChange={set("as")} options={AS.map((s) => [s, words(s)] as const)} />
      {f.as === "onBorrowedChassis" && (
        <TextField className="col-span-2" label="On whose chassis" name="onWhose" value={f.onWhose} onChange={set("onWhose")} />
      )}
      <NumberField label="Odometer" name="odometer" value={f.odometer} onChange={set("odometer")} />
      <NumberField label="Keys" name="keys" value={f.keys} onChange={(v) => set("keys")(v ?? 0)} />
      <ChoiceField
        label="Battery"
        value={f.battery}
        onChange={set("battery")}
        options={[
          ["none", "none"],
          ["starter", "starter"],
          ["traction", "traction: proved dead before any work"],
        ]}
      />
      <TextField label="Loose parts are stored at" value={f.storage} onChange={set("storage")} />
      <AreaField
        className="col-span-2"
        label="Still in it, one per line: fuel, coolant, brake fluid"
        rows={2}
        value={f.fluids}
        onChange={set("fluids")}
      />
      <ListField
        legend="Promised, and what came"
        rows={f.promised}
        onChange={set("promised")}
        add="Another kind of piece"
        next={() => ({ id: newId(), what: "", promised: 1, came: 0 })}
      >
        {(p, change) => (
          <>
            <TextField className="flex-1" label="what" value={p.what} onChange={(what) => change({ what })} />
            <NumberField className="w-20" label="promised" value={p.promised} onChange={(v) => change({ promised: v ?? 0 })} />
            <NumberField className="w-16" label="came" value={p.came} onChange={(v) => change({ came: v ?? 0 })} />
          </>
        )}
      </ListField>
      <AreaField className="col-span-2" label="Came unasked, one per line" rows={2} value={f.cameUnasked} onChange={set("cameUnasked")} />
      <ListField
        legend="Borrowed from other cars"
        rows={f.standIns}
        onChange={set("standIns")}
        add="Another borrowed part"
        next={() => ({ id: newId(), what: "", whose: "", returnBy: addDays(today(), 28), returnedOn: null })}
      >
        {(s, change) => (
          <>
            <TextField className="flex-1" label="what" value={s.what} onChange={(what) => change({ what })} />
            <TextField className="flex-1" label="whose" value={s.whose} onChange={(whose) => change({ whose })} />
            <TextField label="back by" type="date" value={s.returnBy} onChange={(returnBy) => change({ returnBy })} />
          </>
        )}
      </ListField>
      <NumberField label="Serial number" name="serial" value={f.serial} onChange={set("serial")} />
      <ListField
        legend="Changes at number"
        rows={f.breaks}
        onChange={set("breaks")}
        add="Another change"
        next={() => ({ at: f.serial ?? 0, before: "", from: "" })}
      >
        {(b, change) => (
          <>
            <NumberField className="w-24" label="from number" value={b.at} onChange={(v) => change({ at: v ?? 0 })} />
            <TextField className="flex-1" label="before it" value={b.before} onChange={(before) => change({ before })} />
            <TextField className="flex-1" label="from it" value={b.from} onChange={(from) => change({ from })} />
          </>
        )}
      </ListField>
      <AreaField
        className="col-span-2"
        label="Earlier owners' changes to undo, one per line"
        rows={2}
        value={f.toUndo}
        onChange={set("toUndo")}
      />
      <ListField
        legend="Dangers noticed"
        rows={f.hazards}
        onChange={set("hazards")}
        add="Another danger"
        next={() => ({
          id: newId(),
          hazard: "asbestos" as const,
          where: "",
          next: "",
          expectedOn: undefined as string | undefined,
          settled: false,
        })}
      >
        {(h, change) => (
          <div className="grid grid-cols-2 gap-2 flex-1 border-t border-p2 pt-1">
            <ChoiceField
              label="kind"
              value={h.hazard}
              onChange={(hazard) => change({ hazard })}
              options={HAZARDS.map((x) => [x, words(x)] as const)}
            />
            <TextField label="where" value={h.where} onChange={(where) => change({ where })} />
            <TextField label="what is done" value={h.next} onChange={(next) => change({ next })} />
            <TextField
              type="date"
              label="to be settled on"
              value={h.expectedOn ?? ""}
              onChange={(on) => change({ expectedOn: on || undefined })}
            />
          </div>
        )}
      </ListField>
      <LengthField label="Body height" name="bodyMm" value={f.bodyMm} onChange={set("bodyMm")} />
      <LengthField label="Dolly height" name="dollyMm" value={f.dollyMm} onChange={(v) => set("dollyMm")(v ?? 0)} />
      <LengthField label="Kept free" name="keptFreeMm" value={f.keptFreeMm} onChange={(v) => set("keptFreeMm")(v ?? 0)} />
      <ListField legend="Ways to lower it" rows={f.lower} onChange={set("lower")} add="Another way" next={() => ({ how: "", byMm: 100 })}>
        {(l, change) => (
          <>
            <TextField className="flex-1" label="how" value={l.how} onChange={(how) => change({ how })} />
            <LengthField className="w-28" label="by" value={l.byMm} onChange={(v) => change({ byMm: v ?? 0 })} />
          </>
        )}
      </ListField>
    </FormSheet>
  );
}
