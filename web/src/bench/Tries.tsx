import { useQuery } from "@tanstack/react-query";
import { useContext, useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { Ended, triesQuery, useUser } from "../api/queries";
import { dateOf, day } from "../format";
import { ProblemNote, TextField } from "../ui/Field";
import { useSend } from "../ui/useSend";
import type { Figures, SumSpec } from "./figures";

/** What was tried for a build, with what each came to; a try is kept with its figures. */
export function Tries({
  spec,
  build,
  figures,
  onTake,
}: {
  spec: SumSpec;
  build: Schemas["BuildCard"] | undefined;
  figures: Figures;
  onTake: (figures: Figures) => void;
}) {
  const role = useUser()?.role;
  const ended = useContext(Ended);
  const tries = (useQuery({ ...triesQuery(build?.id ?? ""), enabled: build !== undefined }).data ?? []).filter((t) => t.sum === spec.key);
  const [name, setName] = useState("");
  const [id, setId] = useState(newId);
  const keep = useSend(
    () =>
      ask(
        api.POST("/api/builds/{id}/bench/tries", {
          params: { path: { id: build?.id ?? "" } },
          body: { id, sum: spec.key, name, figures: figures as never },
        }),
      ),
    {
      says: "Kept",
      quiet: true,
      onDone: () => {
        setName("");
        setId(newId());
      },
    },
  );
  const back = useSend((t: string) => ask(api.POST("/api/bench-tries/{id}/take-back", { params: { path: { id: t } } })), {
    says: "Taken back",
  });
  const floor = (role === "manager" || role === "technician") && !ended;
  if (!build) return <p className="mt-3 text-ink2">Choose a build above to keep this with it.</p>;
  return (
    <section aria-label={`Kept with ${build.number}`}>
      <h2>Kept with {build.number}</h2>
      {tries.length === 0 && <p className="text-ink2">Nothing yet.</p>}
      <ol>
        {tries.map((t) => (
          <li key={t.id} className="border-t border-p2 py-1">
            <b className="font-[660]">{t.name}</b>
            <span className={t.answer?.isWrong ? "text-oxide" : ""}>: {t.answer?.says ?? "no answer any more"}</span>
            <span className="block text-ink2">
              {t.by}, {day(dateOf(t.at))}
              <button type="button" className="btn btn-quiet" onClick={() => onTake(t.figures as Figures)}>
                Take its figures
              </button>
              {floor && (
                <button type="button" className="btn btn-quiet" onClick={() => back.mutate(t.id)}>
                  Take it back
                </button>
              )}
            </span>
          </li>
        ))}
      </ol>
      {floor && (
        <form
          className="flex flex-wrap items-end gap-2 mt-2"
          onSubmit={(e) => {
            e.preventDefault();
            keep.mutate(undefined);
          }}
        >
          <TextField label="What it is for" name="name" value={name} onChange={setName} problem={keep.error} />
          <ProblemNote problem={keep.error} except={["name"]} />
          <button type="submit" className="btn btn-ink" disabled={keep.isPending || name.trim() === ""}>
            Keep this try
          </button>
        </form>
      )}
    </section>
  );
}
