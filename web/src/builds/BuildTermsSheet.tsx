import { useQuery } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../api/client";
import { buildQuery } from "../api/queries";
import { SUPPORTS, supportName } from "../format";
import { CheckField, ChoiceField, NumberField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { Shown } from "../ui/States";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";

/** How fast money may be spent, what lateness counts, how the shell is held. */
export function BuildTermsSheet({ buildId, onClose }: { buildId: string; onClose: () => void }) {
  return <Shown of={useQuery(buildQuery(buildId))}>{(b) => <Form build={b} onClose={onClose} />}</Shown>;
}

function Form({ build, onClose }: { build: Schemas["BuildView"]; onClose: () => void }) {
  const kept = build.terms;
  const [f, set, , clashes] = useForm({
    weight: kept.weight ?? 1,
    support: (kept.support ?? "") as Schemas["SupportState"] | "",
    perMonth: kept.spending?.perMonth ?? null,
    asFarAsPaid: kept.spending?.asFarAsPaid ?? false,
    paysFrom: kept.spending?.paysFrom ?? null,
  });
  const save = useSend(
    () =>
      ask(
        api.PUT("/api/builds/{id}/terms", {
          params: { path: { id: build.id } },
          body: {
            terms: {
              weight: f.weight,
              support: f.support || null,
              spending:
                f.perMonth !== null || f.asFarAsPaid || f.paysFrom !== null
                  ? { perMonth: f.perMonth, asFarAsPaid: f.asFarAsPaid, paysFrom: f.paysFrom }
                  : null,
            },
            version: build.version,
          },
        }),
      ),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={`Plan rules for ${build.number}`}
      note="Work starts only when payments cover it; the sequence says when the next payment is needed."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <NumberField label="May spend a month, with tax" name="perMonth" value={f.perMonth} onChange={set("perMonth")} />
      <CheckField label="Only work that the client has paid for" value={f.asFarAsPaid} onChange={set("asFarAsPaid")} />
      <TextField
        className="col-span-2"
        label="Pays nothing before; empty: pays in time"
        type="date"
        name="paysFrom"
        value={f.paysFrom ?? ""}
        onChange={(v) => set("paysFrom")(v || null)}
      />
      <NumberField label="Weight of a day late" name="weight" value={f.weight} onChange={(v) => set("weight")(v ?? 1)} />
      <ChoiceField
        label="How the shell was held before work began"
        value={f.support}
        onChange={set("support")}
        options={[["", "not looked at"], ...SUPPORTS.map((s) => [s, supportName(s)] as [typeof s, string])]}
      />
    </FormSheet>
  );
}
