import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId } from "../api/client";
import { provisionsQuery } from "../api/queries";
import { ChoiceField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { Section } from "../ui/Section";
import { Empty } from "../ui/States";
import { useSend } from "../ui/useSend";
import { Plain } from "./SpecSections";

const begun = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

/** Fasteners that a hand reaches no more once this is closed: the gate before paint asks for a way to each. */
export function OutOfReach({ buildId, may }: { buildId: string; may: boolean }) {
  const [open, setOpen] = useState(false);
  const works = useQuery(provisionsQuery(buildId)).data ?? [];
  const made = useSend((p: { id: string; version: number; made: boolean }) =>
    ask(api.POST("/api/provisions/{id}/made", { params: { path: { id: p.id } }, body: { made: p.made, version: p.version } })),
  );
  const fasteners = works.flatMap((w) => w.said.filter((p) => p.kind === "access").map((p) => ({ ...p, work: w })));
  const list = (
    <>
      {fasteners.length === 0 && <Empty>No fastener is said to get out of reach.</Empty>}
      <ul>
        {fasteners.map((p) => (
          <li key={p.id} className="border-t border-p2 py-2">
            <label className="flex gap-2 min-h-7">
              <input
                type="checkbox"
                className="size-4 mt-[2px]"
                checked={p.madeAt !== null}
                disabled={!may || made.isPending}
                onChange={() => made.mutate({ id: p.id, version: p.version, made: p.madeAt === null })}
              />
              <span className={p.madeAt ? "" : "text-oxide"}>
                {begun(p.words)}
                <span className="block text-ink2">
                  for {p.work.name}
                  {p.work.gate && `; asked by “${p.work.gate}”`}
                  {p.madeAt && `; there is a way, ${p.madeBy}`}
                </span>
              </span>
            </label>
          </li>
        ))}
      </ul>
      {open && <ReachSheet works={works.map((w) => [w.operationId, w.name] as const)} onClose={() => setOpen(false)} />}
    </>
  );
  if (!may || works.length === 0) return <Plain title="Out of reach once closed">{list}</Plain>;
  return (
    <Section title="Out of reach once closed" action="Add a fastener" onAction={() => setOpen(true)}>
      {list}
    </Section>
  );
}

function ReachSheet({ works, onClose }: { works: readonly (readonly [string, string])[]; onClose: () => void }) {
  const [id] = useState(newId);
  const [work, setWork] = useState(works[0]?.[0] ?? "");
  const [what, setWhat] = useState("");
  const [where, setWhere] = useState("");
  const save = useSend(() => ask(api.POST("/api/provisions", { body: { id, operationId: work, kind: "access", what, where } })), {
    says: "On the list before paint",
    onDone: onClose,
    quiet: true,
  });
  return (
    <FormSheet
      title="A fastener to reach"
      note="A hole, a loose panel or a tool’s way to it is made before paint: the gate asks for it."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
    >
      <TextField label="Which fastener" name="what" value={what} onChange={setWhat} />
      <TextField label="Where it is" name="where" value={where} onChange={setWhere} />
      <ChoiceField className="col-span-2" label="Work that needs it" name="operationId" value={work} onChange={setWork} options={works} />
    </FormSheet>
  );
}
