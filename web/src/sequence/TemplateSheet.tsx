import { useQuery } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../api/client";
import { buildQuery, templatesQuery } from "../api/queries";
import { SchoolFields, type Schools, USUAL_SCHOOLS } from "../builds/SchoolFields";
import { ChoiceField, NumberField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { Shown } from "../ui/States";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";

/** Plans a build again from a template: shown first, then kept. What is done, begun or added stays. */
export function TemplateSheet({ buildId, onClose }: { buildId: string; onClose: () => void }) {
  return <Shown of={useQuery(buildQuery(buildId))}>{(b) => <Form build={b} onClose={onClose} />}</Shown>;
}

function Form({ build, onClose }: { build: Schemas["BuildView"]; onClose: () => void }) {
  const templates = useQuery(templatesQuery).data ?? [];
  const [f, set] = useForm({
    template: build.template || "paint-then-assemble",
    scale: 1,
    choices: { ...USUAL_SCHOOLS, ...build.terms.choices } as Schools,
  });
  const on = { params: { path: { id: build.id } }, body: f };
  const look = useSend(() => ask(api.POST("/api/builds/{id}/from-template/try", on)), { quiet: true });
  const keep = useSend(() => ask(api.POST("/api/builds/{id}/from-template", on)), { says: "Planned again", onDone: onClose, quiet: true });
  const shown = look.data;
  return (
    <FormSheet
      title="Plan again from a template"
      note="What is done, begun, or was added stays as it is."
      action={shown ? "Look again" : "Show what would change"}
      onClose={onClose}
      onSubmit={() => look.mutate(undefined)}
      problem={look.error ?? keep.error}
      busy={look.isPending || keep.isPending}
      more={
        shown && (
          <button type="button" className="btn" disabled={keep.isPending} onClick={() => keep.mutate(undefined)}>
            Use this plan
          </button>
        )
      }
    >
      <ChoiceField
        label="Template"
        name="template"
        value={f.template}
        onChange={set("template")}
        options={templates.map((t) => [t.key, t.name] as const)}
        problem={look.error}
      />
      <NumberField
        label="Scale (1 = full restoration)"
        name="scale"
        value={f.scale}
        onChange={(v) => set("scale")(v ?? 1)}
        problem={look.error}
      />
      <SchoolFields
        composite={build.vehicle.construction === "composite"}
        schools={f.choices}
        onChange={(to) => set("choices")({ ...f.choices, ...to })}
      />
      {shown?.warning && <p className="col-span-2 text-oxide">{shown.warning}</p>}
      {shown && (
        <div className="col-span-2 grid gap-2">
          <Names title="Added" names={shown.added} />
          <Names title="Removed" names={shown.takenOut} />
          <Names title="As the template has it" names={shown.changed} />
          <Names title="Stays as it is" names={shown.kept} />
        </div>
      )}
    </FormSheet>
  );
}

function Names({ title, names }: { title: string; names: string[] }) {
  if (names.length === 0) return null;
  return (
    <p>
      <b className="font-[660]">
        {title}, {names.length}:
      </b>{" "}
      <span className="text-ink2">{names.join(", ")}</span>
    </p>
  );
}
