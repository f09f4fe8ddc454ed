import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { buildsQuery, shopQuery, stylesQuery, templatesQuery } from "../api/queries";
import { addDays, STATIONS, today } from "../format";
import { ChoiceField, choices, NumberField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { ListField } from "../ui/ListField";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";

type Change = Schemas["WhatIfChange"];

const KINDS: [Change["kind"], string][] = [
  ["absence", "somebody is away"],
  ["newBuild", "a new build comes"],
  ["moreStations", "there is another station"],
  ["promise", "a promise moves"],
  ["saturdays", "Saturdays are worked"],
  ["rank", "a build goes first or later"],
  ["noPayments", "a client pays nothing for a while"],
];

/** What is tried: one thing or several at once. */
export function WhatIfSheet(p: { sandbox: Schemas["WhatIfView"] | null; onClose: () => void; onSaved: (id: string) => void }) {
  const [id] = useState(() => p.sandbox?.id ?? newId());
  const [f, set] = useForm({
    name: p.sandbox?.name ?? "",
    changes: p.sandbox?.changes ?? [{ kind: "absence", from: today(), to: addDays(today(), 13), count: 1 } as Change],
  });
  const save = useSend(
    () =>
      ask(
        api.PUT("/api/plan/what-ifs/{id}", {
          params: { path: { id } },
          body: { name: f.name, changes: f.changes, version: p.sandbox?.version ?? null },
        }),
      ),
    { onDone: () => p.onSaved(id), quiet: true },
  );
  return (
    <FormSheet
      title={p.sandbox ? p.sandbox.name : "What if"}
      note="Several things may be tried at once."
      action="Show it beside the plan"
      onClose={p.onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
    >
      <TextField className="col-span-2" label="What it is called" name="name" value={f.name} onChange={set("name")} autoFocus />
      <ListField
        rows={f.changes}
        onChange={set("changes")}
        add="And also"
        next={() => ({ kind: "moreStations", station: "booth", count: 1 }) as Change}
      >
        {(c, change) => (
          <div className="flex-1 border-t border-p3 pt-2 grid grid-cols-2 gap-2">
            <ChoiceField className="col-span-2" label="Suppose" value={c.kind} onChange={(kind) => change(fresh(kind))} options={KINDS} />
            <ChangeFields change={c} onChange={change} problem={save.error} />
          </div>
        )}
      </ListField>
    </FormSheet>
  );
}

/** A kind of change with what it needs to begin with; what the last kind said is gone. */
function fresh(kind: Change["kind"]): Change {
  const nothing: Change = {
    kind,
    buildId: null,
    promised: null,
    priority: null,
    personId: null,
    from: null,
    to: null,
    station: null,
    count: 1,
    build: null,
  };
  switch (kind) {
    case "absence":
      return { ...nothing, from: today(), to: addDays(today(), 13) };
    case "saturdays":
      return { ...nothing, from: today() };
    case "noPayments":
      return { ...nothing, to: addDays(today(), 90) };
    case "moreStations":
      return { ...nothing, station: "booth" };
    case "newBuild":
      return {
        ...nothing,
        build: {
          id: newId(),
          client: "",
          make: "",
          model: "",
          style: "coupe",
          construction: "unitary",
          grade: "show",
          template: "paint-then-assemble",
          scale: 1,
          arrives: addDays(today(), 28),
          promised: null,
        },
      };
    default:
      return nothing;
  }
}

type FieldsProps = { change: Change; onChange: (to: Partial<Change>) => void; problem: unknown };

function ChangeFields({ change: c, onChange, problem }: FieldsProps) {
  const people = useQuery(shopQuery).data?.people.filter((p) => p.active) ?? [];
  const builds = (useQuery(buildsQuery).data ?? []).map((b) => ({ id: b.id, name: `${b.number}, ${b.title}` }));
  const date = (label: string, name: "from" | "to" | "promised") => (
    <TextField
      label={label}
      name={name}
      type="date"
      value={c[name] ?? ""}
      onChange={(v) => onChange({ [name]: v || null })}
      problem={problem}
    />
  );
  const who = (nothing: string) => (
    <ChoiceField
      className="col-span-2"
      label="Who"
      name="personId"
      value={c.personId ?? ""}
      onChange={(v) => onChange({ personId: v || null })}
      options={choices(people, nothing)}
      problem={problem}
    />
  );
  const which = (
    <ChoiceField
      label="Build"
      name="buildId"
      value={c.buildId ?? ""}
      onChange={(v) => onChange({ buildId: v || null })}
      options={choices(builds, "choose a build")}
      problem={problem}
    />
  );
  switch (c.kind) {
    case "absence":
      return (
        <>
          {who("choose somebody")}
          {date("First day", "from")}
          {date("Last day", "to")}
        </>
      );
    case "saturdays":
      return (
        <>
          {who("everybody")}
          {date("From", "from")}
          {date("To; empty is for good", "to")}
        </>
      );
    case "moreStations":
      return (
        <>
          <ChoiceField
            label="Kind"
            name="station"
            value={c.station ?? "booth"}
            onChange={(v) => onChange({ station: v })}
            options={STATIONS.map((s) => [s, s] as const)}
            problem={problem}
          />
          <NumberField
            label="How many more"
            name="count"
            value={c.count ?? 1}
            onChange={(v) => onChange({ count: v ?? 1 })}
            problem={problem}
          />
        </>
      );
    case "promise":
      return (
        <>
          {which}
          {date("Promised for; empty is nothing", "promised")}
        </>
      );
    case "noPayments":
      return (
        <>
          {which}
          {date("Pays again from", "to")}
        </>
      );
    case "rank":
      return (
        <>
          {which}
          <NumberField
            label="Place in the queue"
            name="priority"
            value={c.priority ?? null}
            onChange={(v) => onChange({ priority: v })}
            problem={problem}
          />
        </>
      );
    case "newBuild":
      return c.build ? (
        <BuildFields build={c.build} onChange={(to) => c.build && onChange({ build: { ...c.build, ...to } })} problem={problem} />
      ) : null;
  }
}

function BuildFields({
  build: b,
  onChange,
  problem,
}: {
  build: Schemas["MaybeBuild"];
  onChange: (to: Partial<Schemas["MaybeBuild"]>) => void;
  problem: unknown;
}) {
  const styles = useQuery(stylesQuery).data ?? [];
  const templates = useQuery(templatesQuery).data ?? [];
  return (
    <>
      <TextField label="Make" name="make" value={b.make} onChange={(v) => onChange({ make: v })} problem={problem} />
      <TextField label="Model" value={b.model} onChange={(v) => onChange({ model: v })} />
      <TextField label="Client" name="client" value={b.client} onChange={(v) => onChange({ client: v })} problem={problem} />
      <ChoiceField
        label="Body"
        value={b.style}
        onChange={(v) => onChange({ style: v })}
        options={styles.map((s) => [s.key, s.name] as const)}
      />
      <ChoiceField
        label="Grade"
        value={b.grade}
        onChange={(v) => onChange({ grade: v })}
        options={[
          ["driver", "driver"],
          ["show", "show"],
          ["concours", "concours"],
        ]}
      />
      <ChoiceField
        label="Template"
        value={b.template}
        onChange={(v) => onChange({ template: v })}
        options={templates.map((t) => [t.key, t.name] as const)}
      />
      <NumberField
        label="Scale (1 = full restoration)"
        name="scale"
        value={b.scale}
        onChange={(v) => onChange({ scale: v ?? 1 })}
        problem={problem}
      />
      <span />
      <TextField label="Comes on" type="date" value={b.arrives} onChange={(v) => v && onChange({ arrives: v })} />
      <TextField label="Promised for" type="date" value={b.promised ?? ""} onChange={(v) => onChange({ promised: v || null })} />
    </>
  );
}
