import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { type FormEvent, type ReactNode, useRef, useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { buildsQuery, clientsQuery, endedQuery, shopQuery, styleQuery, templatesQuery } from "../api/queries";
import { PanelMap } from "../pictures/PanelMap";
import { CheckField, ChoiceField, choices, NumberField, ProblemNote, TextField } from "../ui/Field";
import { useForm } from "../ui/useForm";
import { useLeavingGuard } from "../ui/useLeavingGuard";
import { useSend } from "../ui/useSend";
import {
  AgreementFields,
  agreementForm,
  BriefFields,
  BUILD_FIELDS,
  briefForm,
  briefOf,
  contractOf,
  estimateOf,
  useStyles,
  VehicleFields,
  vehicleForm,
  vehicleOf,
} from "./BuildFields";
import { SchoolFields, type Schools, USUAL_SCHOOLS } from "./SchoolFields";

const SHOWN = ["clientEmail", "clientPhone", ...BUILD_FIELDS, "clientName", "number", "scale", "priority", "template", "stationId"];

/** How a build that is being opened would run. */
export type Running = {
  vehicle: Schemas["Vehicle"];
  grade: Schemas["FinishGrade"];
  promised: string | null;
  priority: number | null;
  template: string;
  scale: number;
  choices: Schools;
};

/** Opens a build: whose, what, wanted how, by which template. */
export function OpenBuildPage({
  Ways,
}: {
  /** Shows what each way to run it would make of the plan; it belongs to a room that this one does not know. */
  Ways: (props: { running: Running; onChoose: (way: Pick<Running, "template" | "choices">) => void }) => ReactNode;
}) {
  const navigate = useNavigate();
  const styles = useStyles();
  const templates = useQuery(templatesQuery).data ?? [];
  const stations = useQuery(shopQuery).data?.stations ?? [];
  const builds = useQuery(buildsQuery).data ?? [];
  const [id] = useState(() => newId());
  const vehicle = useForm(vehicleForm());
  const brief = useForm(briefForm());
  const agreement = useForm(agreementForm());
  const [f, set, setF] = useForm({
    number: null as number | null,
    clientName: "",
    clientEmail: "",
    clientPhone: "",
    template: "paint-then-assemble",
    scale: 1,
    priority: null as number | null,
    fillIn: false,
    stationId: "",
    returnOf: "",
    clientId: "",
    choices: USUAL_SCHOOLS,
  });
  const [comparing, setComparing] = useState(false);
  const entered = useRef(false);
  const guard = useLeavingGuard(() => entered.current);
  const take = (client: Schemas["KnownClient"]) =>
    setF((old) => ({ ...old, clientId: client.id, clientName: client.name, clientEmail: client.email, clientPhone: client.phone }));
  const known = useQuery(clientsQuery(f.clientId ? "" : f.clientName)).data ?? [];
  const ended = useQuery(endedQuery).data ?? [];
  const comeBack = (earlier: string) => {
    set("returnOf")(earlier);
    const b = ended.find((e) => e.id === earlier);
    if (!b) return;
    vehicle[2](vehicleForm(b.vehicle));
    brief[2]((old) => ({ ...old, grade: b.grade, originality: b.originality }));
    setF((old) => ({ ...old, clientName: b.clientName, clientEmail: b.clientEmail, clientPhone: b.clientPhone, template: "small-work" }));
  };
  const made = vehicleOf(vehicle[0], styles.find((s) => s.key === vehicle[0].style)?.dimensions);
  const body = useQuery({
    ...styleQuery(made.style, made.dimensions),
    enabled: made.dimensions.lengthMm > 0,
    retry: false,
    placeholderData: (old) => old,
  });
  const next = f.number ?? Math.max(0, ...builds.map((b) => b.number)) + 1;
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
            vehicle: made,
            brief: briefOf(brief[0]),
            contract: contractOf(agreement[0]),
            estimate: estimateOf(agreement[0]),
            template: f.template,
            scale: f.scale,
            priority: f.priority ?? builds.length + 1,
            fillIn: f.fillIn,
            stationId: f.stationId || null,
            returnOf: f.returnOf || null,
            clientId: f.clientId || null,
            choices: f.choices,
          },
        }),
      ),
    {
      quiet: true,
      onDone: async () => {
        entered.current = false;
        const list = await ask(api.GET("/api/builds"));
        const opened = list.find((b) => b.id === id);
        await navigate({ to: opened ? `/builds/${opened.number}` : "/builds" });
      },
    },
  );
  const p = open.error;
  const submit = (e: FormEvent) => {
    e.preventDefault();
    open.mutate(undefined);
  };
  if (comparing)
    return (
      <div className="px-5 pt-3 pb-10">
        {guard.question}
        <div className="seq-top">
          <h1>How it will run</h1>
          <span className="hidden min-[700px]:inline text-ink2">
            <kbd>↑</kbd> <kbd>↓</kbd> try, <kbd>Enter</kbd> takes, <kbd>Esc</kbd> lets go
          </span>
          <button type="button" className="btn ml-auto" onClick={() => setComparing(false)}>
            Back to the form
          </button>
        </div>
        <Ways
          running={{
            vehicle: made,
            grade: brief[0].grade,
            promised: briefOf(brief[0]).promised,
            priority: f.priority,
            template: f.template,
            scale: f.scale,
            choices: f.choices,
          }}
          onChoose={(way) => {
            entered.current = true;
            setF((old) => ({ ...old, ...way }));
          }}
        />
      </div>
    );
  return (
    <div className="grid grid-cols-1 min-[900px]:grid-cols-[minmax(0,1fr)_460px]">
      {guard.question}
      <form
        className="px-5 pt-3 pb-10 max-w-[820px]"
        onSubmit={submit}
        onChange={() => {
          entered.current = true;
        }}
      >
        <h1 className="mb-3">Open a build</h1>
        <div className="grid grid-cols-4 gap-3">
          {ended.length > 0 && (
            <ChoiceField
              className="col-span-2"
              label="Has it been here before?"
              name="returnOf"
              value={f.returnOf}
              onChange={comeBack}
              options={choices(
                ended.map((e) => ({ id: e.id, name: `${e.number}, ${e.title}, ${e.clientName}` })),
                "no, it is new here",
              )}
              problem={p}
            />
          )}
          <h2 className="col-span-4">Client</h2>
          <TextField
            className="col-span-2"
            label="Name"
            name="clientName"
            value={f.clientName}
            onChange={(clientName) => setF((old) => ({ ...old, clientName, clientId: "" }))}
            problem={p}
            autoFocus
          />
          <TextField label="E-mail" name="clientEmail" value={f.clientEmail} onChange={set("clientEmail")} problem={p} />
          <TextField label="Telephone" name="clientPhone" value={f.clientPhone} onChange={set("clientPhone")} problem={p} />
          {!f.clientId && known.length > 0 && (
            <ul className="col-span-4 flex flex-wrap gap-2" aria-label="Clients who were here before">
              {known.map((c) => (
                <li key={c.id}>
                  <button type="button" className="btn text-left" onClick={() => take(c)}>
                    {c.name}
                    <span className="block font-[450] text-ink2">
                      {[c.email || c.phone, ...c.vehicles.slice(0, 2).map((v) => `${v.number} ${v.title}`)].filter(Boolean).join(", ") ||
                        "no build yet"}
                    </span>
                  </button>
                </li>
              ))}
            </ul>
          )}
          {f.clientId && <p className="col-span-4 text-ink2">Known here: what you correct above holds for all builds of this client.</p>}
          <h2 className="col-span-4 mt-2">Vehicle</h2>
          <VehicleFields form={vehicle} problem={p ?? body.error} number={next} />
          <span />
          <h2 className="col-span-4 mt-2">Brief</h2>
          <BriefFields form={brief} problem={p} />
          <h2 className="col-span-4 mt-2">Agreement</h2>
          <AgreementFields form={agreement} problem={p} />
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
            label="Scale (1 = full restoration)"
            name="scale"
            value={f.scale}
            onChange={(v) => set("scale")(v ?? 1)}
            problem={p}
          />
          <NumberField label="Build number" name="number" value={f.number} onChange={set("number")} problem={p} />
          <NumberField label="Place in the queue" name="priority" value={f.priority} onChange={set("priority")} problem={p} />
          <ChoiceField
            label="Stands at"
            name="stationId"
            value={f.stationId}
            onChange={set("stationId")}
            options={choices(stations, "not here yet")}
            problem={p}
          />
          {f.template !== "small-work" && (
            <>
              <SchoolFields
                composite={made.construction === "composite"}
                schools={f.choices}
                onChange={(to) => set("choices")({ ...f.choices, ...to })}
              />
              <p className="col-span-4">
                <button type="button" className="btn" onClick={() => setComparing(true)}>
                  See what each choice changes
                </button>
              </p>
            </>
          )}
          <CheckField label="Fill-in job: gets the hours that others leave free" value={f.fillIn} onChange={set("fillIn")} />
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
          <PanelMap body={body.data} states={[]} paint={made.colourHex} width={460} height={640} legend={false} ruler labels={false} />
        )}
      </div>
    </div>
  );
}
