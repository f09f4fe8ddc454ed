import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { type FormEvent, useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { buildsQuery, shopQuery, styleQuery, stylesQuery, templatesQuery } from "../api/queries";
import { words } from "../format";
import { PanelMap } from "../pictures/PanelMap";
import { Dab } from "../ui/Dab";
import { CheckField, ChoiceField, choices, NumberField, ProblemNote, TextField } from "../ui/Field";
import { useForm } from "../ui/FormSheet";
import { useSend } from "../ui/useSend";

const SHOWN = [
  "clientName",
  "make",
  "model",
  "year",
  "identification",
  "colourName",
  "colourHex",
  "lengthMm",
  "widthMm",
  "wheelbaseMm",
  "promised",
  "budget",
  "number",
  "scale",
  "priority",
  "template",
  "estimate",
  "cap",
  "price",
  "stationId",
];

/** Opens a build: whose, what, wanted how, by which template. */
export function OpenBuildPage() {
  const navigate = useNavigate();
  const styles = useQuery(stylesQuery).data ?? [];
  const templates = useQuery(templatesQuery).data ?? [];
  const stations = useQuery(shopQuery).data?.stations ?? [];
  const builds = useQuery(buildsQuery).data ?? [];
  const [id] = useState(() => newId());
  const [f, set, setF] = useForm({
    number: null as number | null,
    clientName: "",
    clientEmail: "",
    clientPhone: "",
    make: "",
    model: "",
    year: null as number | null,
    style: "coupe" as Schemas["BodyStyleKey"],
    construction: "unitary" as Schemas["Construction"],
    identification: "",
    colourName: "",
    colourHex: "#4F7F86",
    lengthMm: null as number | null,
    widthMm: null as number | null,
    wheelbaseMm: null as number | null,
    grade: "show" as Schemas["FinishGrade"],
    originality: "originalLook" as Schemas["OriginalityPolicy"],
    promised: "",
    budget: null as number | null,
    milestones: [] as Schemas["Milestone"][],
    kind: "timeAndMaterials" as Schemas["ContractKind"],
    price: null as number | null,
    labour: 0,
    parts: 0,
    outside: 0,
    materials: 0,
    template: "paint-then-assemble",
    scale: 1,
    priority: null as number | null,
    fillIn: false,
    stationId: "",
  });
  const own = styles.find((s) => s.key === f.style)?.dimensions;
  const dimensions = {
    lengthMm: f.lengthMm ?? own?.lengthMm ?? 0,
    widthMm: f.widthMm ?? own?.widthMm ?? 0,
    wheelbaseMm: f.wheelbaseMm ?? own?.wheelbaseMm ?? 0,
  };
  const body = useQuery({ ...styleQuery(f.style, dimensions), enabled: own !== undefined, retry: false, placeholderData: (old) => old });
  const open = useSend(
    () =>
      ask(
        api.POST("/api/builds", {
          body: {
            id,
            number: f.number,
            clientName: f.clientName,
            clientEmail: f.clientEmail,
            clientPhone: f.clientPhone,
            vehicle: {
              make: f.make,
              model: f.model,
              year: f.year,
              style: f.style,
              construction: f.construction,
              identification: f.identification,
              colourName: f.colourName,
              colourHex: f.colourHex,
              dimensions,
            },
            brief: { grade: f.grade, originality: f.originality, promised: f.promised || null, budget: f.budget, milestones: f.milestones },
            contract: {
              kind: f.kind,
              price: f.kind === "timeAndMaterials" ? null : f.price,
              stages: f.kind === "progress" ? [{ name: "all", sharePercent: 100, donePercent: 0 }] : null,
              donePercent: 100,
              retentionPercent: 0,
              retentionReleased: false,
            },
            estimate: { labour: f.labour, parts: f.parts, outside: f.outside, materials: f.materials },
            template: f.template,
            scale: f.scale,
            priority: f.priority ?? builds.length + 1,
            fillIn: f.fillIn,
            stationId: f.stationId || null,
          },
        }),
      ),
    {
      quiet: true,
      onDone: async () => {
        const list = await ask(api.GET("/api/builds"));
        const made = list.find((b) => b.id === id);
        await navigate({ to: made ? `/builds/${made.number}` : "/builds" });
      },
    },
  );
  const p = open.error;
  const submit = (e: FormEvent) => {
    e.preventDefault();
    open.mutate(undefined);
  };
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_460px]">
      <form className="px-5 pt-3 pb-10 max-w-[820px]" onSubmit={submit}>
        <h1 className="mb-3">Open a build</h1>
        <div className="grid grid-cols-4 gap-3">
          <h2 className="col-span-4">Client</h2>
          <TextField
            className="col-span-2"
            label="Name"
            name="clientName"
            value={f.clientName}
            onChange={set("clientName")}
            problem={p}
            autoFocus
          />
          <TextField label="E-mail" value={f.clientEmail} onChange={set("clientEmail")} />
          <TextField label="Telephone" value={f.clientPhone} onChange={set("clientPhone")} />
          <h2 className="col-span-4 mt-2">Vehicle</h2>
          <TextField label="Make" name="make" value={f.make} onChange={set("make")} problem={p} />
          <TextField label="Model" name="model" value={f.model} onChange={set("model")} problem={p} />
          <NumberField label="Year" name="year" value={f.year} onChange={set("year")} problem={p} />
          <TextField label="Identification" value={f.identification} onChange={set("identification")} />
          <ChoiceField
            label="Body style"
            value={f.style}
            onChange={(v) => setF((o) => ({ ...o, style: v, lengthMm: null, widthMm: null, wheelbaseMm: null }))}
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
          <TextField label="Colour" name="colourName" value={f.colourName} onChange={set("colourName")} problem={p} />
          <label className="field">
            <span>Paint</span>
            <span className="flex gap-2 items-center">
              <input
                type="color"
                value={f.colourHex}
                onChange={(e) => set("colourHex")(e.target.value.toUpperCase())}
                aria-label="Paint"
                className="!w-12 !p-0"
              />
              <Dab number={f.number ?? Math.max(0, ...builds.map((b) => b.number)) + 1} colour={f.colourHex} />
            </span>
          </label>
          <NumberField
            label="Length, mm"
            name="lengthMm"
            value={dimensions.lengthMm}
            onChange={set("lengthMm")}
            problem={p ?? body.error}
          />
          <NumberField label="Width, mm" name="widthMm" value={dimensions.widthMm} onChange={set("widthMm")} problem={p ?? body.error} />
          <NumberField
            label="Wheelbase, mm"
            name="wheelbaseMm"
            value={dimensions.wheelbaseMm}
            onChange={set("wheelbaseMm")}
            problem={p ?? body.error}
          />
          <span />
          <h2 className="col-span-4 mt-2">Brief</h2>
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
          <TextField label="Promised for" type="date" name="promised" value={f.promised} onChange={set("promised")} problem={p} />
          <NumberField label="Budget, net" name="budget" value={f.budget} onChange={set("budget")} problem={p} />
          {f.milestones.map((m, i) => (
            <div key={i} className="col-span-2 flex gap-2 items-end">
              <TextField
                className="flex-1"
                label="Milestone"
                value={m.name}
                onChange={(v) => set("milestones")(f.milestones.map((x, j) => (i === j ? { ...x, name: v } : x)))}
              />
              <TextField
                label="On"
                type="date"
                value={m.on}
                onChange={(v) => set("milestones")(f.milestones.map((x, j) => (i === j ? { ...x, on: v } : x)))}
              />
              <button type="button" className="btn" onClick={() => set("milestones")(f.milestones.filter((_, j) => j !== i))}>
                Remove
              </button>
            </div>
          ))}
          <button
            type="button"
            className="btn justify-self-start self-end"
            onClick={() =>
              set("milestones")([...f.milestones, { name: "rolling", on: f.promised || new Date().toISOString().slice(0, 10) }])
            }
          >
            Add a milestone
          </button>
          <h2 className="col-span-4 mt-2">Agreement</h2>
          <ChoiceField
            label="Contract"
            value={f.kind}
            onChange={set("kind")}
            options={[
              ["timeAndMaterials", "time and materials"],
              ["fixed", "fixed price"],
              ["capped", "capped"],
              ["progress", "by progress"],
            ]}
          />
          {f.kind !== "timeAndMaterials" && (
            <NumberField
              label={f.kind === "capped" ? "Cap, net" : "Price, net"}
              name={f.kind === "capped" ? "cap" : "price"}
              value={f.price}
              onChange={set("price")}
              problem={p}
            />
          )}
          <NumberField label="Estimate: labour" value={f.labour} onChange={(v) => set("labour")(v ?? 0)} />
          <NumberField label="parts" value={f.parts} onChange={(v) => set("parts")(v ?? 0)} />
          <NumberField label="outside work" value={f.outside} onChange={(v) => set("outside")(v ?? 0)} />
          <NumberField label="materials" value={f.materials} onChange={(v) => set("materials")(v ?? 0)} />
          <h2 className="col-span-4 mt-2">How it will run</h2>
          <ChoiceField
            className="col-span-2"
            label="Template"
            name="template"
            value={f.template}
            onChange={set("template")}
            options={templates.map((t) => [t.key, t.name] as const)}
            problem={p}
          />
          <NumberField
            label="Size of the job (1 is a full one)"
            name="scale"
            value={f.scale}
            onChange={(v) => set("scale")(v ?? 1)}
            problem={p}
          />
          <NumberField label="Number on its dab" name="number" value={f.number} onChange={set("number")} problem={p} />
          <NumberField label="Place in the queue" name="priority" value={f.priority} onChange={set("priority")} problem={p} />
          <ChoiceField
            label="Stands at"
            name="stationId"
            value={f.stationId}
            onChange={set("stationId")}
            options={choices(stations, "not here yet")}
            problem={p}
          />
          <CheckField label="Fill-in: takes what others leave" value={f.fillIn} onChange={set("fillIn")} />
        </div>
        <div className="mt-4">
          <ProblemNote problem={p} except={SHOWN} />
          <button type="submit" className="btn btn-ink !py-2 !px-5" disabled={open.isPending}>
            Open the build
          </button>
        </div>
      </form>
      <div className="bg-guide min-h-[640px]" aria-hidden="true">
        {body.data && (
          <PanelMap body={body.data} states={[]} paint={f.colourHex} width={460} height={640} legend={false} ruler labels={false} />
        )}
      </div>
    </div>
  );
}
