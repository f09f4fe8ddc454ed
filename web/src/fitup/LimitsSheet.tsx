import { useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { useThisBuild } from "../builds/useBuild";
import { NumberField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { useSend } from "../ui/useSend";
import type { Fit } from "./fitWords";

type Limits = Schemas["FitLimits"];

/** By what the lines of a build are judged: painted and bright edges, which lines are bright or not read here, the film still to come. */
export function LimitsSheet({ fit, onClose }: { fit: Fit; onClose: () => void }) {
  const card = useThisBuild();
  const [painted, setPainted] = useState(fit.painted);
  const [bright, setBright] = useState(fit.bright);
  const [film, setFilm] = useState<number | null>(fit.filmUm);
  const [terms, setTerms] = useState(fit.lines.map((l) => l.terms));
  const save = useSend(
    () =>
      ask(
        api.PUT("/api/builds/{id}/fit/sheet", {
          params: { path: { id: card.id } },
          body: {
            painted,
            bright,
            filmUm: film,
            lines: terms.filter((t) => t.isBright || t.own || t.leftOut),
            version: fit.sheetVersion,
          },
        }),
      ),
    { says: "Kept", onDone: onClose, quiet: true },
  );
  const change = (line: string, to: Partial<Schemas["LineTerms"]>) =>
    setTerms((all) => all.map((t) => (t.line === line ? { ...t, ...to } : t)));
  return (
    <FormSheet
      title="By what the lines are judged"
      note="In millimetres. What a finish shows is agreed with the client; these figures are a rule of thumb until then."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
    >
      <LimitFields legend="Painted edges" value={painted} onChange={setPainted} />
      <LimitFields legend="Lines beside bright metal" value={bright} onChange={setBright} />
      <NumberField label="Film still to come on one edge, µm" name="filmUm" value={film} onChange={setFilm} />
      <fieldset className="col-span-2">
        <legend className="font-[660]">Lines</legend>
        {fit.lines.map((l) => {
          const t = terms.find((x) => x.line === l.key);
          return (
            <div key={l.key} className="grid grid-cols-[1fr_90px_1fr] items-center gap-2 border-t border-p2 py-1">
              <span>
                <b>{l.letter}</b> {l.name}
              </span>
              <label className="flex items-center gap-1">
                <input type="checkbox" checked={t?.isBright ?? false} onChange={(e) => change(l.key, { isBright: e.target.checked })} />
                bright
              </label>
              <TextField
                label={`${l.letter} is not read, because`}
                value={t?.leftOut ?? ""}
                onChange={(leftOut) => change(l.key, { leftOut })}
              />
            </div>
          );
        })}
      </fieldset>
    </FormSheet>
  );
}

function LimitFields({ legend, value, onChange }: { legend: string; value: Limits; onChange: (v: Limits) => void }) {
  const set = (name: keyof Limits) => (v: number | null) => onChange({ ...value, [name]: v ?? 0 });
  return (
    <fieldset className="col-span-2 grid grid-cols-4 gap-2">
      <legend className="font-[660]">{legend}</legend>
      <NumberField label="Target" name="targetMm" value={value.targetMm} onChange={set("targetMm")} />
      <NumberField label="Off it, ±" name="toleranceMm" value={value.toleranceMm} onChange={set("toleranceMm")} />
      <NumberField label="Range" name="rangeMm" value={value.rangeMm} onChange={set("rangeMm")} />
      <NumberField label="Flush" name="flushMm" value={value.flushMm} onChange={set("flushMm")} />
    </fieldset>
  );
}
