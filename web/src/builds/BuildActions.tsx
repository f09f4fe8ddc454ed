import { useQuery } from "@tanstack/react-query";
import { useContext, useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { Ended, operationsQuery, photosQuery, shopQuery, useMay } from "../api/queries";
import { today } from "../format";
import { ChecksField } from "../ui/ChecksField";
import { AreaField, ChoiceField, choices, NumberField, photoChoices, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import { BuildTermsSheet } from "./BuildTermsSheet";
import { ClientSheet } from "./ClientSheet";
import { EditBuild } from "./EditBuild";
import { StatusSheet } from "./StatusSheet";
import { useThisBuild } from "./useBuild";

type Open = "move" | "status" | "question" | "brief" | "vehicle" | "agreement" | "terms" | "client" | null;

/** What the desk does with a build as a whole: move it, pause it, ask for an answer, change what was agreed. */
export function BuildActions() {
  const may = useMay();
  const card = useThisBuild();
  const [open, setOpen] = useState<Open>(null);
  const close = () => setOpen(null);
  if (useContext(Ended) || !may.desk) return null;
  return (
    <div className="flex flex-wrap gap-2 mt-2 col-span-3">
      <button type="button" className="btn" onClick={() => setOpen("move")}>
        Move
      </button>
      <button type="button" className="btn" onClick={() => setOpen("question")}>
        Ask
      </button>
      <button type="button" className="btn" onClick={() => setOpen("client")}>
        Client’s contact
      </button>
      {may.manager && (
        <>
          <button type="button" className="btn" onClick={() => setOpen("status")}>
            {card.status === "paused" ? "Go on" : "Pause or close"}
          </button>
          <button type="button" className="btn" onClick={() => setOpen("brief")}>
            Brief
          </button>
          <button type="button" className="btn" onClick={() => setOpen("vehicle")}>
            Vehicle
          </button>
          <button type="button" className="btn" onClick={() => setOpen("agreement")}>
            Agreement
          </button>
          <button type="button" className="btn" onClick={() => setOpen("terms")}>
            Spending limit
          </button>
        </>
      )}
      {open === "move" && <MoveSheet onClose={close} />}
      {open === "question" && <QuestionSheet onClose={close} />}
      {open === "client" && <ClientSheet onClose={close} />}
      {open === "status" && <StatusSheet onClose={close} />}
      {open === "terms" && <BuildTermsSheet buildId={card.id} onClose={close} />}
      {(open === "brief" || open === "vehicle" || open === "agreement") && <EditBuild part={open} onClose={close} />}
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

function QuestionSheet({ onClose }: { onClose: () => void }) {
  const card = useThisBuild();
  const operations = (useQuery(operationsQuery(card.id)).data ?? []).filter((o) => !o.doneAt);
  const photos = useQuery(photosQuery(card.id)).data ?? [];
  const [id] = useState(() => newId());
  const [f, set] = useForm({
    photoId: "",
    question: "",
    detail: "",
    who: "manager" as Schemas["DecisionFor"],
    options: "Yes, No",
    holds: [] as string[],
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
            holds: f.holds,
            dueOn: f.dueOn,
            adds: f.adds,
            photoId: f.photoId || null,
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
      <ChoiceField
        className="col-span-2"
        label="Photo that shows it"
        value={f.photoId}
        onChange={set("photoId")}
        options={photoChoices(photos)}
      />
      <ChecksField legend="Work that waits for the answer" named={operations} chosen={f.holds} onChange={set("holds")} />
    </FormSheet>
  );
}
