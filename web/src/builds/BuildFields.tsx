import { useQuery } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../api/client";
import { stylesQuery } from "../api/queries";
import { today, words } from "../format";
import { Dab } from "../ui/Dab";
import { CheckField, ChoiceField, LengthField, NumberField, TextField } from "../ui/Field";
import { ListField } from "../ui/ListField";
import type { useForm } from "../ui/useForm";

/** The fields of a build in three groups; the page that opens one and the sheets that change one share them. */
type Form<T extends object> = ReturnType<typeof useForm<T>>;
type Props<T extends object> = { form: Form<T>; problem: unknown };

export type VehicleForm = Omit<Schemas["Vehicle"], "dimensions"> & {
  lengthMm: number | null;
  widthMm: number | null;
  wheelbaseMm: number | null;
};

export const vehicleForm = (v?: Schemas["Vehicle"]): VehicleForm => ({
  make: v?.make ?? "",
  model: v?.model ?? "",
  year: v?.year ?? null,
  style: v?.style ?? "coupe",
  construction: v?.construction ?? "unitary",
  identification: v?.identification ?? "",
  colourName: v?.colourName ?? "",
  colourHex: v?.colourHex ?? "#4F7F86",
  lengthMm: v?.dimensions.lengthMm ?? null,
  widthMm: v?.dimensions.widthMm ?? null,
  wheelbaseMm: v?.dimensions.wheelbaseMm ?? null,
});

/** The vehicle of a form; a dimension not given is the style's own. */
export function vehicleOf({ lengthMm, widthMm, wheelbaseMm, ...rest }: VehicleForm, own?: Schemas["BodyDimensions"]): Schemas["Vehicle"] {
  return {
    ...rest,
    dimensions: {
      lengthMm: lengthMm ?? own?.lengthMm ?? 0,
      widthMm: widthMm ?? own?.widthMm ?? 0,
      wheelbaseMm: wheelbaseMm ?? own?.wheelbaseMm ?? 0,
    },
  };
}

export const useStyles = () => useQuery(stylesQuery).data ?? [];

export function VehicleFields({ form: [f, set, setF], problem, number }: Props<VehicleForm> & { number: number }) {
  const styles = useStyles();
  const { dimensions } = vehicleOf(f, styles.find((s) => s.key === f.style)?.dimensions);
  const length = (label: string, key: "lengthMm" | "widthMm" | "wheelbaseMm") => (
    <LengthField label={label} name={key} value={dimensions[key]} onChange={set(key)} problem={problem} />
  );
  return (
    <>
      <TextField label="Make" name="make" value={f.make} onChange={set("make")} problem={problem} />
      <TextField label="Model" name="model" value={f.model} onChange={set("model")} problem={problem} />
      <NumberField label="Year" name="year" value={f.year} onChange={set("year")} problem={problem} />
      <TextField label="Identification" name="identification" value={f.identification} onChange={set("identification")} problem={problem} />
      <ChoiceField
        label="Body style"
        value={f.style}
        onChange={(style) => setF((o) => ({ ...o, style, lengthMm: null, widthMm: null, wheelbaseMm: null }))}
        options={styles.map((s) => [s.key, s.name] as const)}
      />
      <ChoiceField
        label="Construction"
        value={f.construction}
        onChange={set("construction")}
        options={[
          ["separateChassis", "separate chassis"],
          ["unitary", "unitary"],
          ["woodFramed", "wood-framed"],
          ["composite", "composite"],
        ]}
      />
      <TextField label="Colour" name="colourName" value={f.colourName} onChange={set("colourName")} problem={problem} />
      <PaintField value={f.colourHex} onChange={set("colourHex")} number={number} />
      {length("Length", "lengthMm")}
      {length("Width", "widthMm")}
      {length("Wheelbase", "wheelbaseMm")}
    </>
  );
}

/** The paint as it will look on the dab, with a word when it would be taken for an alarm. */
export function PaintField({ value, onChange, number }: { value: string; onChange: (hex: string) => void; number: number }) {
  const judged = useQuery({
    queryKey: ["paint", value],
    queryFn: () => ask(api.GET("/api/paint", { params: { query: { hex: value } } })),
    staleTime: Infinity,
  });
  return (
    <label className="field">
      <span>Paint</span>
      <span className="flex gap-2 items-center">
        <input
          type="color"
          value={value}
          onChange={(e) => onChange(e.target.value.toUpperCase())}
          aria-label="Paint"
          className="!w-12 !p-0"
        />
        <Dab number={number} colour={value} />
      </span>
      {judged.data?.readsAsAlarm && (
        <em role="status">So near the screens' red oxide that it reads as an alarm: a shade off is easier to tell apart.</em>
      )}
    </label>
  );
}

export type BriefForm = Omit<Schemas["Brief"], "promised"> & { promised: string };

export const briefForm = (b?: Pick<Schemas["BuildView"], "grade" | "originality" | "promised" | "budget" | "milestones">): BriefForm => ({
  grade: b?.grade ?? "show",
  originality: b?.originality ?? "originalLook",
  promised: b?.promised ?? "",
  budget: b?.budget ?? null,
  milestones: b?.milestones ?? [],
});

export const briefOf = (f: BriefForm): Schemas["Brief"] => ({ ...f, promised: f.promised || null });

export function BriefFields({ form: [f, set], problem }: Props<BriefForm>) {
  return (
    <>
      <ChoiceField
        label="Finish"
        value={f.grade}
        onChange={set("grade")}
        options={[
          ["driver", "driver"],
          ["show", "show"],
          ["concours", "concours"],
        ]}
      />
      <ChoiceField
        label="Originality"
        value={f.originality}
        onChange={set("originality")}
        options={(["original", "originalLook", "custom"] as const).map((o) => [o, words(o)] as const)}
      />
      <TextField label="Promised for" type="date" name="promised" value={f.promised} onChange={set("promised")} problem={problem} />
      <NumberField label="Budget, net" name="budget" value={f.budget} onChange={set("budget")} problem={problem} />
      <ListField
        rows={f.milestones}
        onChange={set("milestones")}
        add="Add a milestone"
        next={() => ({ name: f.milestones.length === 0 ? "rolling" : "drivable", on: f.promised || today() })}
      >
        {(m, change) => (
          <>
            <TextField className="flex-1" label="Milestone" value={m.name} onChange={(name) => change({ name })} />
            <TextField label="On" type="date" value={m.on} onChange={(on) => change({ on })} />
          </>
        )}
      </ListField>
    </>
  );
}

export type AgreementForm = {
  kind: Schemas["ContractKind"];
  price: number | null;
  stages: Schemas["ContractStage"][];
  donePercent: number;
  retentionPercent: number;
  retentionReleased: boolean;
} & Schemas["EstimateTotals"];

export const agreementForm = (c?: Schemas["ContractTerms"] | null, e?: Schemas["EstimateTotals"] | null): AgreementForm => ({
  kind: c?.kind ?? "timeAndMaterials",
  price: c?.price ?? null,
  stages: c?.stages ?? [],
  donePercent: c?.donePercent ?? 100,
  retentionPercent: c?.retentionPercent ?? 0,
  retentionReleased: c?.retentionReleased ?? false,
  labour: e?.labour ?? 0,
  parts: e?.parts ?? 0,
  outside: e?.outside ?? 0,
  materials: e?.materials ?? 0,
});

export const contractOf = (f: AgreementForm): Schemas["ContractTerms"] => ({
  kind: f.kind,
  price: f.kind === "timeAndMaterials" ? null : f.price,
  stages: f.kind === "progress" ? f.stages : null,
  donePercent: f.donePercent,
  retentionPercent: f.retentionPercent,
  retentionReleased: f.retentionReleased,
});

export const estimateOf = ({ labour, parts, outside, materials }: AgreementForm): Schemas["EstimateTotals"] => ({
  labour,
  parts,
  outside,
  materials,
});

export function AgreementFields({ form: [f, set], problem }: Props<AgreementForm>) {
  const amount = (label: string, key: "labour" | "parts" | "outside" | "materials") => (
    <NumberField label={label} name="estimate" value={f[key]} onChange={(v) => set(key)(v ?? 0)} problem={problem} />
  );
  const agreed = f.kind !== "timeAndMaterials";
  return (
    <>
      <ChoiceField
        label="Contract"
        value={f.kind}
        onChange={(kind) => {
          set("kind")(kind);
          if (kind === "progress" && f.stages.length === 0) set("stages")([{ name: "all", sharePercent: 100, donePercent: 0 }]);
        }}
        options={[
          ["timeAndMaterials", "time and materials"],
          ["fixed", "fixed price"],
          ["capped", "capped"],
          ["progress", "by progress"],
        ]}
      />
      {agreed ? (
        <NumberField
          label={f.kind === "capped" ? "Cap, net" : "Price, net"}
          name={f.kind === "capped" ? "cap" : "price"}
          value={f.price}
          onChange={set("price")}
          problem={problem}
        />
      ) : (
        <span />
      )}
      {f.kind === "progress" && (
        <>
          <ListField
            legend="Stages of the price"
            rows={f.stages}
            onChange={set("stages")}
            add="Add a stage"
            next={() => ({ name: "", sharePercent: Math.max(0, 100 - sharesOf(f.stages)), donePercent: 0 })}
          >
            {(stage, change) => (
              <>
                <TextField className="flex-1" label="Stage" value={stage.name} onChange={(name) => change({ name })} />
                <NumberField
                  className="w-20"
                  label="share, %"
                  value={stage.sharePercent}
                  onChange={(v) => change({ sharePercent: v ?? 0 })}
                />
                <NumberField className="w-20" label="done, %" value={stage.donePercent} onChange={(v) => change({ donePercent: v ?? 0 })} />
              </>
            )}
          </ListField>
          <p className={`col-span-2 ${sharesOf(f.stages) === 100 ? "text-ink2" : "text-oxide"}`} role="status">
            The shares add up to {sharesOf(f.stages)} percent{sharesOf(f.stages) === 100 ? "." : "; they must make 100."}
          </p>
        </>
      )}
      {agreed && (
        <>
          <NumberField
            label="Held back, %"
            name="retention"
            value={f.retentionPercent}
            onChange={(v) => set("retentionPercent")(v ?? 0)}
            problem={problem}
          />
          <CheckField label="What was held back is released" value={f.retentionReleased} onChange={set("retentionReleased")} />
        </>
      )}
      {amount("Estimate: labour", "labour")}
      {amount("parts", "parts")}
      {amount("outside work", "outside")}
      {amount("materials", "materials")}
    </>
  );
}

const sharesOf = (stages: Schemas["ContractStage"][]) => Math.round(stages.reduce((sum, s) => sum + s.sharePercent, 0) * 100) / 100;

/** Fields that show their own problem. */
export const BUILD_FIELDS = [
  "make",
  "model",
  "year",
  "identification",
  "colourName",
  "lengthMm",
  "widthMm",
  "wheelbaseMm",
  "promised",
  "budget",
  "estimate",
  "cap",
  "price",
];
