import { useQuery } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../api/client";
import { operationsQuery } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { ChoiceField, choices, NumberField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { ListField } from "../ui/ListField";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";

type Row = { key: string; name: string; piece: string; tool: string; minutes: number; after: string; why: string };

/** The steps of a list of the shop's own. */
export function ListSheet({ assembly: a, onClose }: { assembly: Schemas["AssemblyRow"]; onClose: () => void }) {
  const card = useThisBuild();
  const operations = (useQuery(operationsQuery(card.id)).data ?? []).filter((o) => !o.doneAt && o.kind === "work");
  const [f, set] = useForm({
    name: a.name,
    backWith: a.backWith ?? "",
    rows: a.steps.map(
      (s): Row => ({
        key: s.key,
        name: s.name,
        piece: s.piece,
        tool: s.tool,
        minutes: s.minutes,
        after: s.after[0]?.step ?? "",
        why: s.after[0]?.why ?? "",
      }),
    ),
  });
  const save = useSend(
    () =>
      ask(
        api.PUT("/api/assemblies/{id}", {
          params: { path: { id: a.id } },
          body: {
            name: f.name,
            backWith: f.backWith || null,
            version: a.version,
            steps: f.rows
              .filter((r) => r.name.trim())
              .map((r) => {
                const known = a.steps.find((s) => s.key === r.key);
                return {
                  key: r.key,
                  name: r.name,
                  says: known?.says ?? "",
                  piece: r.piece || r.name.toLowerCase(),
                  pieces: known?.pieces ?? 1,
                  fastener: known?.fastener ?? null,
                  tool: r.tool,
                  blind: known?.blind ?? false,
                  hazard: known?.hazard ?? null,
                  how: known?.how ?? [],
                  photos: known?.photos ?? ["as it sat"],
                  after: [...(r.after ? [{ step: r.after, why: r.why || "it is in the way" }] : []), ...(known?.after.slice(1) ?? [])],
                  minutes: r.minutes,
                };
              }),
          },
        }),
      ),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={`Steps of ${a.name}`}
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
    >
      <TextField label="Name" name="name" value={f.name} onChange={set("name")} />
      <ChoiceField
        label="Back together with"
        value={f.backWith}
        onChange={set("backWith")}
        options={choices(operations, "not settled yet")}
      />
      <ListField
        legend="In the order in which they come off"
        rows={f.rows}
        onChange={set("rows")}
        add="Another step"
        next={() => ({
          key: `s${f.rows.length + 1}-${Date.now().toString(36)}`,
          name: "",
          piece: "",
          tool: "",
          minutes: 10,
          after: "",
          why: "",
        })}
      >
        {(r, change, i) => (
          <div className="grid grid-cols-3 gap-2 flex-1 border-t border-p2 pt-1">
            <TextField label={`Step ${i + 1}`} value={r.name} onChange={(name) => change({ name })} />
            <TextField label="Piece" value={r.piece} onChange={(piece) => change({ piece })} />
            <TextField label="Tool, size" value={r.tool} onChange={(tool) => change({ tool })} />
            <NumberField label="Minutes" value={r.minutes} onChange={(n) => change({ minutes: n ?? 0 })} />
            <ChoiceField
              label="After"
              value={r.after}
              onChange={(after) => change({ after })}
              options={choices(
                f.rows.filter((x) => x.key !== r.key && x.name).map((x) => ({ id: x.key, name: x.name })),
                "nothing",
              )}
            />
            <TextField label="Because" value={r.why} onChange={(why) => change({ why })} />
          </div>
        )}
      </ListField>
    </FormSheet>
  );
}
