import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { buildQuery, templatesQuery, wayQuery } from "../api/queries";
import { USUAL_SCHOOLS } from "../builds/SchoolFields";
import { useThisBuild } from "../builds/useBuild";
import { CheckField, ChoiceField, NumberField, ProblemNote, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { Shown } from "../ui/States";
import { useSend } from "../ui/useSend";
import { type Asked, Changes, Ways } from "./Ways";

/** How a build runs, and what another way would make of it: chosen and looked at here, then kept. What is done, begun or added stays. */
export function HowItRuns({ onClose }: { onClose: () => void }) {
  const card = useThisBuild();
  return (
    <Shown of={useQuery(buildQuery(card.id))}>
      {(b) => (
        <Choosing
          runs={{
            buildId: b.id,
            new: null,
            template: b.template || "paint-then-assemble",
            scale: b.terms.scale ?? 1,
            choices: { ...USUAL_SCHOOLS, ...b.terms.choices },
            anew: false,
          }}
          number={b.number}
          paint={card.colourHex}
          onClose={onClose}
        />
      )}
    </Shown>
  );
}

function Choosing({ runs, number, paint, onClose }: { runs: Asked; number: number; paint: string; onClose: () => void }) {
  const templates = useQuery(templatesQuery).data ?? [];
  // What is not chosen anew follows how it runs, also when somebody else has just changed that.
  const [chosen, setChosen] = useState<Partial<Asked>>({});
  const asked = { ...runs, ...chosen };
  const set = (to: Partial<Asked>) => setChosen((old) => ({ ...old, ...to }));
  const [saving, setSaving] = useState(false);
  const look = useQuery(wayQuery(asked)).data;
  const changes = look?.changes;
  const differs = JSON.stringify(asked) !== JSON.stringify(runs);
  const keep = useSend(
    () =>
      ask(
        api.POST("/api/builds/{id}/from-template", {
          params: { path: { id: runs.buildId as string } },
          body: { template: asked.template, scale: asked.scale, choices: asked.choices, anew: asked.anew },
        }),
      ),
    { says: "It runs so now", onDone: onClose, quiet: true },
  );
  return (
    <>
      <div className="seq-top">
        <h1>How {number} runs</h1>
        <span className="hidden min-[700px]:inline text-ink2">
          <kbd>↑</kbd> <kbd>↓</kbd> try, <kbd>Enter</kbd> takes, <kbd>Esc</kbd> lets go
        </span>
        <span className="flex flex-wrap gap-1 ml-auto">
          <button type="button" className="btn" onClick={() => setSaving(true)}>
            Save it as a template
          </button>
          <button type="button" className="btn" onClick={onClose}>
            Back to the sequence
          </button>
        </span>
        {saving && <SaveSheet buildId={runs.buildId as string} number={number} onClose={() => setSaving(false)} />}
      </div>
      <Ways
        asked={asked}
        onChoose={set}
        paint={paint}
        settings={
          <div className="flex flex-wrap items-end gap-3 mb-2">
            <ChoiceField
              label="Template"
              value={asked.template}
              onChange={(template) => set({ template })}
              options={templates.map((t) => [t.key, t.name] as const)}
            />
            <DropTemplate
              template={templates.find((t) => t.key === asked.template) ?? null}
              onDropped={() => set({ template: runs.template })}
              inUse={asked.template === runs.template}
            />
            <NumberField
              className="w-[150px]"
              label="Scale (1 = full restoration)"
              value={asked.scale}
              onChange={(v) => v !== null && v > 0 && v <= 10 && set({ scale: v })}
            />
            <CheckField
              label="What was changed by hand goes back to the template’s"
              value={asked.anew}
              onChange={(anew) => set({ anew })}
            />
          </div>
        }
      >
        {differs && changes && (
          <section aria-label="What it changes in the sequence" className="mt-4 grid gap-2">
            <h2>What it changes in the sequence</h2>
            <Changes of={changes} />
            <p className="text-chalk2">What is done, begun, or was added stays as it is.</p>
            <ProblemNote problem={keep.error} />
            <p className="flex gap-2">
              <button type="button" className="btn" disabled={keep.isPending} onClick={() => keep.mutate(undefined)}>
                Run it so
              </button>
              <button type="button" className="btn" onClick={() => setChosen({})}>
                As it was
              </button>
            </p>
          </section>
        )}
      </Ways>
    </>
  );
}

/** Keeps the sequence as it is as a template of the shop's own. */
function SaveSheet({ buildId, number, onClose }: { buildId: string; number: number; onClose: () => void }) {
  const [id] = useState(() => newId());
  const [name, setName] = useState("");
  const save = useSend(() => ask(api.POST("/api/builds/{id}/template", { params: { path: { id: buildId } }, body: { id, name } })), {
    says: "Saved as a template",
    onDone: onClose,
    quiet: true,
  });
  return (
    <FormSheet
      title={`Save ${number}’s sequence as a template`}
      note="Its order, links, gates, waits and hours, without dates, people, and what was found on this vehicle. It is offered for every build, whose own scale and finish it follows."
      action="Save"
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
    >
      <TextField className="col-span-2" label="Name of the template" name="name" value={name} onChange={setName} problem={save.error} />
    </FormSheet>
  );
}

/** One of the shop's own can be dropped; a build that runs by it goes on so. */
function DropTemplate({
  template,
  inUse,
  onDropped,
}: {
  template: Schemas["SequenceTemplate"] | null;
  inUse: boolean;
  onDropped: () => void;
}) {
  const id = template?.ownId ?? null;
  const drop = useSend(() => ask(api.DELETE("/api/templates/{id}", { params: { path: { id: id as string } } })), {
    says: "Not offered any more",
    onDone: onDropped,
  });
  if (!id || inUse) return null;
  return (
    <button type="button" className="btn" disabled={drop.isPending} onClick={() => drop.mutate(undefined)}>
      Drop this template
    </button>
  );
}
