import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { assembliesQuery, operationsQuery } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { ChoiceField, choices, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { Empty, Shown } from "../ui/States";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import { AssemblyPicture } from "./AssemblyPicture";
import { BackTogether } from "./BackTogether";
import { ListSheet } from "./ListSheet";
import { StepCard } from "./StepCard";
import { StepOrder } from "./StepOrder";

type Assembly = Schemas["AssemblyRow"];

/** Sub-assemblies of a build: taken apart step by step, and put back in reverse. */
export function TeardownTab() {
  const card = useThisBuild();
  const assemblies = useQuery(assembliesQuery(card.id));
  const [shown, setShown] = useState<string | null>(null);
  const [beginning, setBeginning] = useState(false);
  const [back, setBack] = useState(false);
  return (
    <Shown of={assemblies}>
      {(all) => {
        const current = all.find((a) => a.id === shown) ?? all[0];
        return (
          <>
            <div className="flex flex-wrap gap-2 items-center px-5 py-2 border-b border-p3">
              {all.map((a) => (
                <button
                  key={a.id}
                  type="button"
                  className={`btn ${a.id === current?.id ? "btn-ink" : ""}`}
                  aria-pressed={a.id === current?.id}
                  onClick={() => setShown(a.id)}
                >
                  {a.name}, {a.off} of {a.steps.length} off
                </button>
              ))}
              <button type="button" className="btn" onClick={() => setBeginning(true)}>
                Take something apart
              </button>
              <span className="flex-1" />
              {current && (
                <button type="button" className="btn" aria-pressed={back} onClick={() => setBack(!back)}>
                  {back ? "How it came off" : "Back together"}
                </button>
              )}
            </div>
            {!current && <Empty>Nothing is taken apart yet. A door and a front end come with their steps; anything else is a list.</Empty>}
            {current && (back ? <BackTogether assembly={current} /> : <Apart key={current.id} assembly={current} />)}
            {beginning && <BeginSheet onClose={() => setBeginning(false)} onBegun={setShown} />}
          </>
        );
      }}
    </Shown>
  );
}

/** Minutes as h:mm. */
export const clockOf = (minutes: number) => `${Math.floor(Math.round(minutes) / 60)}:${String(Math.round(minutes) % 60).padStart(2, "0")}`;

function Apart({ assembly: a }: { assembly: Assembly }) {
  const card = useThisBuild();
  const next = a.steps.find((s) => !s.off && s.first.length === 0);
  const [chosen, setChosen] = useState<string | null>(null);
  const [writing, setWriting] = useState(false);
  const step = a.steps.find((s) => s.key === chosen) ?? next ?? a.steps[0];
  const chain = step ? step.chain.map((k) => a.steps.find((s) => s.key === k)).filter((s) => s !== undefined) : [];
  return (
    <div className="grid grid-cols-1 min-[900px]:grid-cols-[minmax(0,1fr)_604px]">
      <section className="bg-guide text-chalk px-5 py-3 flex flex-col" aria-label={a.name}>
        <p>
          <b className="text-[15px]">
            {a.name}
            {a.kind === "door" ? ", from inside" : a.kind === "frontEnd" ? ", from before" : ""}
          </b>{" "}
          <span className="text-chalk2 text-[12.5px]">dashed is off, chalk edge can come off next</span>
        </p>
        {a.kind === "list" ? (
          <ol className="mt-3 list-decimal pl-6">
            {a.steps.map((s) => (
              <li key={s.key} className={s.off ? "text-chalk2 line-through" : ""}>
                {s.name}
              </li>
            ))}
          </ol>
        ) : (
          <AssemblyPicture kind={a.kind} side={a.side} steps={a.steps} chosen={step?.key ?? null} onChoose={setChosen} />
        )}
        {step && chain.length > 1 && (
          <div className="mt-auto pt-3 border-t border-guide3">
            <b>To free the {step.piece}</b>{" "}
            <span className="text-chalk2">
              {chain.filter((s) => s.off && s.key !== step.key).length} of {chain.length - 1} off
            </span>
            <p className="text-chalk2">{chain.map((s) => `${s.off ? "✓ " : ""}${s.name.toLowerCase()}`).join(" → ")}</p>
          </div>
        )}
      </section>
      <section className="side px-5 py-3 flex flex-col" aria-label="Order">
        <div className="flex items-baseline gap-4 max-[899px]:-order-2">
          <h1 className="flex-1">{a.name}</h1>
          <Figure name="Spent" minutes={a.spentMinutes} />
          <Figure name="Expected" minutes={a.expectedMinutes} />
          {a.twinMinutes !== null && a.twinMinutes !== undefined && <Figure name="Other side" minutes={a.twinMinutes} />}
        </div>
        <p className="text-ink2 text-[12.5px] mb-1">
          Arc: must be off first. Upper bar: the other side, dashed was finding out. Lower bar: this one; the upright is what was expected.
        </p>
        <StepOrder steps={a.steps} chosen={step?.key ?? null} onChoose={setChosen} colour={card.colourHex} />
        {a.kind === "list" && (
          <button type="button" className="btn mt-2" onClick={() => setWriting(true)}>
            Write the list
          </button>
        )}
        {step && (
          <div className="max-[899px]:-order-1">
            <StepCard key={step.key} buildId={card.id} assembly={a} step={step} number={a.steps.indexOf(step) + 1} />
          </div>
        )}
        {writing && <ListSheet assembly={a} onClose={() => setWriting(false)} />}
      </section>
    </div>
  );
}

const Figure = ({ name, minutes }: { name: string; minutes: number }) => (
  <span className="text-right">
    <span className="block text-[12px] text-ink2">{name}</span>
    <b className="num text-[15px]">{clockOf(minutes)}</b>
  </span>
);

/** What it is called while nobody has typed a name. */
const usualName = (kind: Schemas["AssemblyKind"], side: Schemas["PanelSide"]) =>
  kind === "frontEnd"
    ? "Front end"
    : kind === "door"
      ? side === "centre"
        ? "Rear door"
        : `${side === "left" ? "Left" : "Right"} front door`
      : "";

/** Whether a name is still the usual one, so that it follows kind and side. */
const named = (name: string) =>
  name === "" || (["door", "frontEnd"] as const).some((k) => (["left", "right", "centre"] as const).some((s) => usualName(k, s) === name));

function BeginSheet({ onClose, onBegun }: { onClose: () => void; onBegun: (id: string) => void }) {
  const card = useThisBuild();
  const operations = (useQuery(operationsQuery(card.id)).data ?? []).filter((o) => !o.doneAt && o.kind === "work");
  const [id] = useState(() => newId());
  const [f, set, setF] = useForm({
    kind: "door" as Schemas["AssemblyKind"],
    side: "left" as Schemas["PanelSide"],
    name: usualName("door", "left"),
    backWith: "",
  });
  const send = useSend(
    () =>
      ask(api.POST("/api/builds/{id}/assemblies", { params: { path: { id: card.id } }, body: { id, ...f, backWith: f.backWith || null } })),
    {
      onDone: () => {
        onBegun(id);
        onClose();
      },
      quiet: true,
    },
  );
  return (
    <FormSheet
      title="Take something apart"
      note="Left and right are two: each has its own bags, and the second is expected to go quicker."
      action="Begin"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      <ChoiceField
        label="What"
        name="kind"
        value={f.kind}
        onChange={(kind) => setF((o) => ({ ...o, kind, name: named(o.name) ? usualName(kind, o.side) : o.name }))}
        options={[
          ["door", "a door"],
          ["frontEnd", "a front end"],
          ["list", "something else: a list"],
        ]}
      />
      <ChoiceField
        label="Side"
        value={f.side}
        onChange={(side) => setF((o) => ({ ...o, side, name: named(o.name) ? usualName(o.kind, side) : o.name }))}
        options={[
          ["left", "left"],
          ["right", "right"],
          ["centre", "middle"],
        ]}
      />
      <TextField className="col-span-2" label="Name" name="name" value={f.name} onChange={set("name")} />
      <ChoiceField
        className="col-span-2"
        label="Back together with"
        name="backWith"
        value={f.backWith}
        onChange={set("backWith")}
        options={choices(operations, "not settled yet")}
      />
    </FormSheet>
  );
}
