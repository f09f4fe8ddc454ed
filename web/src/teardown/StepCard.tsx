import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, Problem, type Schemas } from "../api/client";
import { photosQuery } from "../api/queries";
import { ReadFirst } from "../labour/ReadFirst";
import { useSend } from "../ui/useSend";
import { StepSheet } from "./StepSheet";

/** The chosen step: how it is done, its tool, its caution, its clock, and closing it. */
export function StepCard({
  buildId,
  assembly,
  step: s,
  number,
  big = false,
}: {
  buildId: string;
  assembly: Schemas["AssemblyRow"];
  step: Schemas["StepView"];
  number: number;
  big?: boolean;
}) {
  const [closing, setClosing] = useState(false);
  const photo = useQuery(photosQuery(buildId)).data?.find((p) => p.id === s.photoId);
  const count = useSend(
    ({ clock, acknowledged = false }: { clock: Schemas["StepClock"]; acknowledged?: boolean }) =>
      ask(
        api.POST("/api/assemblies/{id}/steps/{step}/clock", {
          params: { path: { id: assembly.id, step: s.key } },
          body: { clock, acknowledged },
        }),
      ),
    { quiet: true },
  );
  const [reading, setReading] = useState<Schemas["StepClock"] | null>(null);
  const run = (clock: Schemas["StepClock"]) =>
    count.mutate({ clock }, { onError: (e) => e instanceof Problem && e.field === "acknowledged" && setReading(clock) });
  const button = (clock: Schemas["StepClock"], words: string) => (
    <button
      type="button"
      className={`btn ${s.clock === clock ? "btn-ink" : ""}`}
      aria-pressed={s.clock === clock}
      disabled={count.isPending}
      onClick={() => run(s.clock === clock ? "stopped" : clock)}
    >
      {words}
    </button>
  );
  const why = s.after.filter((a) => assembly.steps.some((x) => x.key === a.step && !x.off)).map((a) => a.why);
  return (
    <section className={`mt-3 ${big ? "text-[17px]" : ""}`} aria-label={s.name}>
      <h2>
        {number} {s.name}
      </h2>
      {s.caution && <p className="font-[640] text-oxide">{s.caution}</p>}
      {s.how.length > 0 && (
        <ol className="list-decimal pl-5">
          {s.how.map((h) => (
            <li key={h}>{h}</li>
          ))}
        </ol>
      )}
      <p className="text-ink2">
        {s.tool && `${s.tool}. `}
        {s.blind && "Worked by feel. "}
        {why.length > 0 && `Not yet: ${why.join("; ")}.`}
      </p>
      {s.off ? (
        <div className="flex gap-3 mt-1">
          {photo && <img src={`/api/photos/file/${photo.thumbHash}`} alt={photo.caption || s.name} className="w-[120px]" />}
          <p>
            Off by {s.offBy}
            {s.bag && `, in ${s.bag}`}
            {s.noPhoto && ", without a photo"}.{s.outOfOrderWhy && ` Before its turn: ${s.outOfOrderWhy}.`} {s.note}
          </p>
        </div>
      ) : (
        <div className="flex flex-wrap gap-2 mt-2">
          {button("doing", "Doing")}
          {button("findingOut", "Finding out how")}
          <button type="button" className="btn btn-ink" onClick={() => setClosing(true)}>
            Removed
          </button>
        </div>
      )}
      {reading && s.caution && (
        <ReadFirst
          name={s.name}
          caution={s.caution}
          onRead={() => {
            setReading(null);
            count.mutate({ clock: reading, acknowledged: true });
          }}
          onClose={() => setReading(null)}
        />
      )}
      {closing && <StepSheet buildId={buildId} assembly={assembly} step={s} onClose={() => setClosing(false)} />}
    </section>
  );
}
