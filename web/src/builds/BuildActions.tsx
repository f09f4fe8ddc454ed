import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { buildQuery, operationsQuery, shopQuery, useMay } from "../api/queries";
import { today } from "../format";
import { AreaField, CheckField, ChoiceField, choices, NumberField, TextField } from "../ui/Field";
import { FormSheet, useForm } from "../ui/FormSheet";
import { useSend } from "../ui/useSend";
import { useThisBuild } from "./useBuild";

type Open = "move" | "status" | "question" | "brief" | null;

/** What the desk does with a build as a whole: move it, pause it, ask for an answer, change what was agreed. */
export function BuildActions() {
  const may = useMay();
  const card = useThisBuild();
  const [open, setOpen] = useState<Open>(null);
  const close = () => setOpen(null);
  if (!may.desk) return null;
  return (
    <div className="flex flex-wrap gap-2 mt-2 col-span-3">
      <button type="button" className="btn" onClick={() => setOpen("move")}>
        Move it
      </button>
      <button type="button" className="btn" onClick={() => setOpen("question")}>
        Ask a question
      </button>
      {may.manager && (
        <>
          <button type="button" className="btn" onClick={() => setOpen("status")}>
            {card.status === "paused" ? "Go on" : "Pause or close"}
          </button>
          <button type="button" className="btn" onClick={() => setOpen("brief")}>
            Change the brief
          </button>
        </>
      )}
      {open === "move" && <MoveSheet onClose={close} />}
      {open === "question" && <QuestionSheet onClose={close} />}
      {open === "status" && <StatusSheet onClose={close} />}
      {open === "brief" && <BriefSheet onClose={close} />}
    </div>
  );
}

function MoveSheet({ onClose }: { onClose: () => void }) {
  const card = useThisBuild();
  const stations = useQuery(shopQuery).data?.stations ?? [];
  const [f, set] = useForm({ stationId: card.stationId ?? "", awayAt: card.awayAt });
  const send = useSend(
    () =>
      ask(
        api.PUT("/api/builds/{id}/place", {
          params: { path: { id: card.id } },
          body: { stationId: f.stationId || null, awayAt: f.awayAt },
        }),
      ),
    { says: "Moved", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={`Where ${card.number} stands`}
      action="Move"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      except={["stationId", "awayAt"]}
      busy={send.isPending}
    >
      <ChoiceField
        label="Station"
        name="stationId"
        value={f.stationId}
        onChange={set("stationId")}
        options={choices(stations, "not in the shop")}
        problem={send.error}
      />
      {f.stationId === "" && <TextField label="Where else" name="awayAt" value={f.awayAt} onChange={set("awayAt")} problem={send.error} />}
    </FormSheet>
  );
}

function StatusSheet({ onClose }: { onClose: () => void }) {
  const card = useThisBuild();
  const paused = card.status === "paused";
  const [f, set] = useForm({ status: (paused ? "open" : "paused") as Schemas["BuildStatus"], leftAt: "", firstMove: "" });
  const send = useSend(() => ask(api.PUT("/api/builds/{id}/status", { params: { path: { id: card.id } }, body: f })), {
    says: "Noted",
    onDone: onClose,
    quiet: true,
  });
  return (
    <FormSheet
      title={paused ? `Go on with ${card.number}` : `Pause or close ${card.number}`}
      action="Do it"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      except={["leftAt", "firstMove"]}
      busy={send.isPending}
    >
      <ChoiceField
        className="col-span-2"
        label="It is now"
        value={f.status}
        onChange={set("status")}
        options={
          paused
            ? [["open", "open again"]]
            : [
                ["paused", "paused"],
                ["closed", "handed over: closed"],
                ["withdrawn", "withdrawn by the client"],
              ]
        }
      />
      {f.status === "paused" && (
        <>
          <AreaField
            className="col-span-2"
            label="Where exactly it is left"
            name="leftAt"
            value={f.leftAt}
            onChange={set("leftAt")}
            problem={send.error}
          />
          <AreaField
            className="col-span-2"
            label="The first move when it goes on"
            name="firstMove"
            value={f.firstMove}
            onChange={set("firstMove")}
            problem={send.error}
          />
        </>
      )}
    </FormSheet>
  );
}

function QuestionSheet({ onClose }: { onClose: () => void }) {
  const card = useThisBuild();
  const operations = (useQuery(operationsQuery(card.id)).data ?? []).filter((o) => !o.doneAt);
  const [id] = useState(() => newId());
  const [f, set] = useForm({
    question: "",
    detail: "",
    who: "manager" as Schemas["DecisionFor"],
    options: "Yes, No",
    holds: "",
    dueOn: today(),
    adds: null as number | null,
  });
  const send = useSend(
    () =>
      ask(
        api.POST("/api/builds/{id}/decisions", {
          params: { path: { id: card.id } },
          body: {
            id,
            question: f.question,
            detail: f.detail,
            for: f.who,
            options: f.options
              .split(",")
              .map((o) => o.trim())
              .filter(Boolean),
            holds: f.holds ? [f.holds] : [],
            dueOn: f.dueOn,
            adds: f.adds,
          },
        }),
      ),
    { says: "Asked", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title="Ask a question"
      note="The work that it holds does not start until it is answered; the floor shows the days that costs."
      action="Ask"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      except={["question", "detail", "options", "dueOn", "adds"]}
      busy={send.isPending}
    >
      <TextField
        className="col-span-2"
        label="Question"
        name="question"
        value={f.question}
        onChange={set("question")}
        problem={send.error}
        autoFocus
      />
      <AreaField
        className="col-span-2"
        label="What stands behind it"
        name="detail"
        value={f.detail}
        onChange={set("detail")}
        problem={send.error}
      />
      <ChoiceField
        label="Whose word"
        value={f.who}
        onChange={set("who")}
        options={[
          ["manager", "the manager's"],
          ["client", "the client's"],
        ]}
      />
      <TextField label="Needed by" type="date" name="dueOn" value={f.dueOn} onChange={set("dueOn")} problem={send.error} />
      <TextField label="Answers, with commas" name="options" value={f.options} onChange={set("options")} problem={send.error} />
      <NumberField label="Adds to the bill, net" name="adds" value={f.adds} onChange={set("adds")} problem={send.error} />
      <ChoiceField className="col-span-2" label="Holds" value={f.holds} onChange={set("holds")} options={choices(operations, "nothing")} />
    </FormSheet>
  );
}

function BriefSheet({ onClose }: { onClose: () => void }) {
  const card = useThisBuild();
  const build = useQuery(buildQuery(card.id)).data;
  return build?.contract && build.estimate ? (
    <BriefForm build={build} contract={build.contract} estimate={build.estimate} onClose={onClose} />
  ) : null;
}

type BriefProps = {
  build: Schemas["BuildView"];
  contract: Schemas["ContractTerms"];
  estimate: Schemas["EstimateTotals"];
  onClose: () => void;
};

function BriefForm({ build, contract, estimate, onClose }: BriefProps) {
  const [f, set] = useForm({
    promised: build.promised ?? "",
    budget: build.budget,
    labour: estimate.labour,
    parts: estimate.parts,
    outside: estimate.outside,
    materials: estimate.materials,
    priority: build.priority,
    fillIn: build.fillIn,
    colourName: build.vehicle.colourName,
    colourHex: build.vehicle.colourHex,
  });
  const send = useSend(
    () =>
      ask(
        api.PUT("/api/builds/{id}", {
          params: { path: { id: build.id } },
          body: {
            vehicle: { ...build.vehicle, colourName: f.colourName, colourHex: f.colourHex },
            brief: {
              grade: build.grade,
              originality: build.originality,
              promised: f.promised || null,
              budget: f.budget,
              milestones: build.milestones,
            },
            contract,
            estimate: { labour: f.labour, parts: f.parts, outside: f.outside, materials: f.materials },
            priority: f.priority,
            fillIn: f.fillIn,
            version: build.version,
          },
        }),
      ),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  const amount = (label: string, key: "labour" | "parts" | "outside" | "materials") => (
    <NumberField label={label} name="estimate" value={f[key]} onChange={(v) => set(key)(v ?? 0)} problem={send.error} />
  );
  return (
    <FormSheet
      title="Change the brief"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      except={["promised", "budget", "estimate", "priority", "colourHex"]}
      busy={send.isPending}
    >
      <TextField
        label="Promised for"
        type="date"
        name="promised"
        value={f.promised}
        onChange={set("promised")}
        problem={send.error}
        autoFocus
      />
      <NumberField label="Budget, net" name="budget" value={f.budget} onChange={set("budget")} problem={send.error} />
      {amount("Estimate: labour", "labour")}
      {amount("parts", "parts")}
      {amount("outside work", "outside")}
      {amount("materials", "materials")}
      <NumberField
        label="Place in the queue"
        name="priority"
        value={f.priority}
        onChange={(v) => set("priority")(v ?? 0)}
        problem={send.error}
      />
      <CheckField label="Fill-in: takes what others leave" value={f.fillIn} onChange={set("fillIn")} />
      <TextField label="Colour" value={f.colourName} onChange={set("colourName")} />
      <TextField label="Paint, as # and six digits" name="colourHex" value={f.colourHex} onChange={set("colourHex")} problem={send.error} />
    </FormSheet>
  );
}
