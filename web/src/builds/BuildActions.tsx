import { useQuery } from "@tanstack/react-query";
import { useContext, useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { buildQuery, Ended, operationsQuery, photosQuery, shopQuery, useMay } from "../api/queries";
import { money, today } from "../format";
import { ChecksField } from "../ui/ChecksField";
import { AreaField, ChoiceField, choices, photoChoices, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import { BuildTermsSheet } from "./BuildTermsSheet";
import { ClientSheet } from "./ClientSheet";
import { EditBuild } from "./EditBuild";
import { StatusSheet } from "./StatusSheet";
import { useThisBuild } from "./useBuild";

type Open = "move" | "status" | "question" | "brief" | "vehicle" | "agreement" | "terms" | "client" | "notice" | null;

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
      <button type="button" className="btn" onClick={() => setOpen("notice")}>
        Work complete
      </button>
      {may.manager && (
        <>
          <button type="button" className="btn" onClick={() => setOpen("status")}>
            {card.status === "paused" ? "Resume" : "Pause or close"}
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
      {open === "notice" && <NoticeSheet onClose={close} />}
      {open === "status" && <StatusSheet onClose={close} />}
      {open === "terms" && <BuildTermsSheet buildId={card.id} onClose={close} />}
      {(open === "brief" || open === "vehicle" || open === "agreement") && <EditBuild part={open} onClose={close} />}
    </div>
  );
}

/** The day on which the client was told that the work is complete: storage is counted from it. */
function NoticeSheet({ onClose }: { onClose: () => void }) {
  const card = useThisBuild();
  const build = useQuery(buildQuery(card.id)).data;
  const shop = useQuery(shopQuery).data?.settings;
  return build && shop ? <NoticeForm build={build} shop={shop} onClose={onClose} /> : null;
}

function NoticeForm({ build, shop, onClose }: { build: Schemas["BuildView"]; shop: Schemas["SettingsBody"]; onClose: () => void }) {
  const [f, set, , clashes] = useForm({ on: build.noticeOn ?? today() });
  const note = (on: string | null) =>
    ask(api.PUT("/api/builds/{id}/notice", { params: { path: { id: build.id } }, body: { on, version: build.version } }));
  const save = useSend(note, { says: "Noted", onDone: onClose, quiet: true });
  return (
    <FormSheet
      title="The work is complete"
      note={
        shop.storagePerDay > 0
          ? `From the day on which the client was told, the vehicle stands free for ${shop.storageFreeDays} days; then ${money(shop.storagePerDay)} net a day go on the bill until it leaves. What the law where you are asks of such a notice comes first.`
          : "The shop charges no storage; a daily rate is entered under Shop, Settings."
      }
      action="Note it"
      onClose={onClose}
      onSubmit={() => save.mutate(f.on)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
      more={
        build.noticeOn && (
          <button type="button" className="btn" disabled={save.isPending} onClick={() => save.mutate(null)}>
            Take the note back
          </button>
        )
      }
    >
      <TextField label="The client was told on" type="date" name="on" value={f.on} onChange={set("on")} />
    </FormSheet>
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
      busy={send.isPending}
    >
      <ChoiceField
        label="Station"
        name="stationId"
        value={f.stationId}
        onChange={set("stationId")}
        options={choices(stations, "not in the shop")}
      />
      {f.stationId === "" && <TextField label="Where else" name="awayAt" value={f.awayAt} onChange={set("awayAt")} />}
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
    takesOut: [] as string[],
  });
  const answers = f.options
    .split(",")
    .map((o) => o.trim())
    .filter(Boolean);
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
            options: answers,
            holds: f.holds,
            dueOn: f.dueOn,
            takesOut: f.takesOut.filter((a) => answers.includes(a)),
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
      busy={send.isPending}
    >
      <TextField className="col-span-2" label="Question" name="question" value={f.question} onChange={set("question")} autoFocus />
      <AreaField className="col-span-2" label="Background" name="detail" value={f.detail} onChange={set("detail")} />
      <ChoiceField
        label="Who decides"
        value={f.who}
        onChange={set("who")}
        options={[
          ["manager", "the manager's"],
          ["client", "the client's"],
        ]}
      />
      <TextField label="Needed by" type="date" name="dueOn" value={f.dueOn} onChange={set("dueOn")} />
      <TextField label="Answers, with commas" name="options" value={f.options} onChange={set("options")} />
      <ChoiceField
        className="col-span-2"
        label="Photo that shows it"
        value={f.photoId}
        onChange={set("photoId")}
        options={photoChoices(photos)}
      />
      <ChecksField legend="Work that waits for the answer" named={operations} chosen={f.holds} onChange={set("holds")} />
      {f.holds.length > 0 && (
        <ChecksField
          legend="Answers that take this work out of the sequence, such as “leave it”"
          named={answers.map((a) => ({ id: a, name: a }))}
          chosen={f.takesOut}
          onChange={set("takesOut")}
        />
      )}
      <p className="col-span-2 text-ink2">What adds to the bill is asked on a change order, under Estimates and changes.</p>
    </FormSheet>
  );
}
