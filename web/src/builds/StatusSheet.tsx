import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { dateOf, soonDay, timeOf, weekday } from "../format";
import { movesText, someOf } from "../plannedMoves";
import { AreaField, ChoiceField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import { useThisBuild } from "./useBuild";

const WITHDRAWAL =
  "The client takes the vehicle away. The build leaves floor and plan, its place becomes free, and the account is settled on what was done. Nothing that was recorded is lost, and the withdrawal can be taken back from the list of ended builds.";

/** Pauses, closes or withdraws a build, or goes on with one that stood. */
export function StatusSheet({ onClose }: { onClose: () => void }) {
  return useThisBuild().status === "paused" ? <GoOn onClose={onClose} /> : <EndOrPause onClose={onClose} />;
}

type Body = { status: Schemas["BuildStatus"]; leftAt: string; firstMove: string; stillHolds: boolean | null };

function useStatus(onClose: () => void) {
  const card = useThisBuild();
  return useSend((body: Body) => ask(api.PUT("/api/builds/{id}/status", { params: { path: { id: card.id } }, body })), {
    says: "Noted",
    onDone: onClose,
    quiet: true,
  });
}

/** What the plan would say if the build went on or rested now; nothing is kept by asking. */
function IfItIs({ id, goesOn, says }: { id: string; goesOn: boolean; says: string }) {
  const then = useQuery({
    queryKey: ["trial", "status", id, goesOn],
    queryFn: () => ask(api.GET("/api/builds/{id}/if-status", { params: { path: { id }, query: { goesOn } } })),
    gcTime: 0,
    retry: false,
  });
  if (then.isError) return null;
  const t = then.data;
  return (
    <p className="col-span-2" aria-live="polite">
      {says}:{" "}
      {!t ? (
        <span className="text-ink2">planning…</span>
      ) : (
        <>
          {goesOn &&
            (t.first && t.start && t.finish
              ? `it begins with ${t.first}, ${weekday(dateOf(t.start))} ${timeOf(t.start)}, and is planned to be finished ${soonDay(dateOf(t.finish))}. `
              : "none of its work would have a date. ")}
          {t.moves.length === 0 ? "No other build’s planned finish moves." : movesText(t.moves)}
          {t.withoutDate.length > 0 && <span className="text-oxide"> Without a date then: {someOf(t.withoutDate)}.</span>}
        </>
      )}
    </p>
  );
}

/** Where it was left and what comes first; both are looked at before anybody lays a hand on it. */
function GoOn({ onClose }: { onClose: () => void }) {
  const card = useThisBuild();
  const [f, set] = useForm({ holds: "" as "" | "yes" | "no", firstMove: "" });
  const send = useStatus(onClose);
  return (
    <FormSheet
      title={`Resume build ${card.number}`}
      action="Resume"
      onClose={onClose}
      onSubmit={() =>
        send.mutate({ status: "open", leftAt: "", firstMove: f.firstMove, stillHolds: f.holds === "" ? null : f.holds === "yes" })
      }
      problem={send.error}
      busy={send.isPending || f.holds === ""}
    >
      <dl className="col-span-2">
        <dt className="text-ink2">It was left</dt>
        <dd className="mb-2 font-[640]">{card.leftAt}</dd>
        <dt className="text-ink2">First move</dt>
        <dd className="font-[640]">{card.firstMove}</dd>
      </dl>
      <IfItIs id={card.id} goesOn says="If it goes on now" />
      <ChoiceField
        className="col-span-2"
        label="Do both still hold? Look at it first"
        value={f.holds}
        onChange={(v) => set("holds")(v as "" | "yes" | "no")}
        options={[
          ["", "not looked at yet"],
          ["yes", "yes, both"],
          ["no", "no, something has changed"],
        ]}
      />
      {f.holds === "no" && (
        <AreaField className="col-span-2" label="What comes first now" name="firstMove" value={f.firstMove} onChange={set("firstMove")} />
      )}
    </FormSheet>
  );
}

function EndOrPause({ onClose }: { onClose: () => void }) {
  const card = useThisBuild();
  const [sure, setSure] = useState(false);
  const [f, set] = useForm({ status: "paused" as Schemas["BuildStatus"], leftAt: "", firstMove: "" });
  const send = useStatus(onClose);
  const withdrawing = f.status === "withdrawn";
  return (
    <FormSheet
      title={`Pause or close ${card.number}`}
      note={withdrawing ? WITHDRAWAL : undefined}
      action={withdrawing ? (sure ? "Yes, withdraw it" : "Withdraw") : "Do it"}
      onClose={onClose}
      onSubmit={() => (withdrawing && !sure ? setSure(true) : send.mutate({ ...f, stillHolds: null }))}
      problem={send.error}
      busy={send.isPending}
    >
      <ChoiceField
        className="col-span-2"
        label="It is now"
        value={f.status}
        onChange={(v) => {
          setSure(false);
          set("status")(v as Schemas["BuildStatus"]);
        }}
        options={[
          ["paused", "paused"],
          ["closed", "handed over: closed"],
          ["withdrawn", "withdrawn by the client"],
        ]}
      />
      {f.status === "paused" && <IfItIs id={card.id} goesOn={false} says="If it rests from now on" />}
      {f.status === "paused" && <LeftFields form={f} set={set} problem={send.error} />}
    </FormSheet>
  );
}

type Left = { leftAt: string; firstMove: string };

/** Where a build is left, and the first move when it goes on. */
function LeftFields({ form, set, problem }: { form: Left; set: (key: keyof Left) => (v: string) => void; problem: unknown }) {
  return (
    <>
      <AreaField
        className="col-span-2"
        label="Where exactly the work stopped"
        name="leftAt"
        value={form.leftAt}
        onChange={set("leftAt")}
        problem={problem}
      />
      <AreaField
        className="col-span-2"
        label="First move when work resumes"
        name="firstMove"
        value={form.firstMove}
        onChange={set("firstMove")}
        problem={problem}
      />
    </>
  );
}

/** A withdrawal that is taken back: the build stands paused until somebody goes on with it. */
export function TakeBackSheet({ build, onClose }: { build: Schemas["EndedBuild"]; onClose: () => void }) {
  const [f, set] = useForm({ leftAt: "", firstMove: "" });
  const send = useSend(
    () =>
      ask(api.PUT("/api/builds/{id}/status", { params: { path: { id: build.id } }, body: { status: "paused", ...f, stillHolds: null } })),
    { says: `Build ${build.number} stands paused again`, onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={`Undo the withdrawal of ${build.number}`}
      note="The build stands paused again, with all that was recorded."
      action="Take it back"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      <LeftFields form={f} set={set} problem={send.error} />
    </FormSheet>
  );
}
