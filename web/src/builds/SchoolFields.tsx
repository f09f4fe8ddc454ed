import type { Schemas } from "../api/client";
import { TEMPLATE_SCHOOLS } from "../format";
import { ChoiceField } from "../ui/Field";

export type Schools = Required<Schemas["TemplateChoices"]>;

export const USUAL_SCHOOLS: Schools = {
  hold: "jig",
  blast: "bareFirst",
  sides: "oneAtATime",
  filler: "epoxyFirst",
  gaps: "both",
  wiring: "afterPaint",
  trim: "inHouse",
};

/** Where practitioners differ: the schools that a sequence follows. */
export function SchoolFields({
  schools,
  composite,
  onChange,
}: {
  schools: Schools;
  /** A composite body is never blasted. */
  composite: boolean;
  onChange: (to: Partial<Schools>) => void;
}) {
  return (
    <>
      <ChoiceField label="Shell is held" value={schools.hold} onChange={(v) => onChange({ hold: v })} options={TEMPLATE_SCHOOLS.hold} />
      {!composite && (
        <ChoiceField label="Blasted" value={schools.blast} onChange={(v) => onChange({ blast: v })} options={TEMPLATE_SCHOOLS.blast} />
      )}
      <ChoiceField label="Sides" value={schools.sides} onChange={(v) => onChange({ sides: v })} options={TEMPLATE_SCHOOLS.sides} />
      <ChoiceField label="Filler" value={schools.filler} onChange={(v) => onChange({ filler: v })} options={TEMPLATE_SCHOOLS.filler} />
      <ChoiceField label="Gaps are judged" value={schools.gaps} onChange={(v) => onChange({ gaps: v })} options={TEMPLATE_SCHOOLS.gaps} />
      <ChoiceField label="Wiring" value={schools.wiring} onChange={(v) => onChange({ wiring: v })} options={TEMPLATE_SCHOOLS.wiring} />
      <ChoiceField label="Trimmed" value={schools.trim} onChange={(v) => onChange({ trim: v })} options={TEMPLATE_SCHOOLS.trim} />
    </>
  );
}
