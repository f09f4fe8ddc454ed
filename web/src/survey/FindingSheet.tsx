import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { photosQuery } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { KINDS, PROBES, probeName, words } from "../format";
import { AreaField, CheckField, ChoiceField, choices, LengthField, NumberField, photoChoices } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";

type Finding = Schemas["FindingView"];

const fieldsOf = (f?: Finding) => ({
  kind: f?.kind ?? ("rustThrough" as Schemas["FindingKind"]),
  probe: (f?.probe ?? "") as Schemas["Probe"] | "",
  sizeMm: f?.sizeMm ?? null,
  widthMm: null as number | null,
  heightMm: null as number | null,
  structural: f?.structural ?? false,
  gaugeMm: f?.gaugeMm ?? null,
  note: f?.note ?? "",
  photoId: f?.photoId ?? "",
  behind: f?.behind ?? "",
});

/** A box of a size round a point, in centimetres: what is bad, when nobody draws it. */
export const boxRound = (at: Schemas["MapPoint"], widthMm: number, heightMm: number): Schemas["MapPoint"][] => {
  const [w, h] = [widthMm / 20, heightMm / 20];
  return [
    { x: at.x - w, y: at.y - h },
    { x: at.x + w, y: at.y - h },
    { x: at.x + w, y: at.y + h },
    { x: at.x - w, y: at.y + h },
  ];
};

type Props = {
  /** Where, and what was drawn there. */
  at: { place: string; at: Schemas["MapPoint"]; area?: Schemas["MapPoint"][] };
  survey: Schemas["SurveyBody"];
  finding?: Finding;
  onClose: () => void;
  onKept?: (id: string) => void;
};

/** What is wrong at a place: kind, what the punch says, how large, whether it carries. */
export function FindingSheet({ at, survey, finding, onClose, onKept }: Props) {
  const card = useThisBuild();
  const photos = useQuery(photosQuery(card.id)).data ?? [];
  const [id] = useState(() => finding?.id ?? newId());
  const [f, set, , clashes] = useForm(fieldsOf(finding));
  const place = survey.places.find((p) => p.key === at.place);
  const area = f.widthMm && f.heightMm ? boxRound(at.at, f.widthMm, f.heightMm) : (at.area ?? finding?.area ?? []);
  const save = useSend(
    () =>
      ask(
        api.PUT("/api/builds/{id}/findings/{findingId}", {
          params: { path: { id: card.id, findingId: id } },
          body: {
            place: at.place,
            at: at.at,
            area,
            kind: f.kind,
            probe: f.probe || null,
            sizeMm: f.sizeMm,
            structural: f.structural,
            gaugeMm: f.gaugeMm,
            note: f.note,
            photoId: f.photoId || null,
            behind: f.behind || null,
            version: finding?.version ?? null,
          },
        }),
      ),
    {
      says: "Kept",
      quiet: true,
      onDone: () => {
        onKept?.(id);
        onClose();
      },
      onKept: onClose,
    },
  );
  return (
    <FormSheet
      title={finding ? `Finding ${finding.number}, ${finding.placeName}` : `Found on ${place?.name ?? "the vehicle"}`}
      note={place?.spot ? `Usual trouble here: ${place.spot}.` : undefined}
      action="Keep it"
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <ChoiceField label="What" value={f.kind} onChange={set("kind")} options={KINDS.map((k) => [k, words(k)] as const)} />
      <ChoiceField
        label="The punch"
        value={f.probe}
        onChange={set("probe")}
        options={[["", "not tried"], ...PROBES.map((p) => [p, probeName(p)] as [Schemas["Probe"], string])]}
      />
      <LengthField label="Damage, width" value={f.widthMm} onChange={set("widthMm")} />
      <LengthField label="Damage, length" value={f.heightMm} onChange={set("heightMm")} />
      <LengthField label="Largest extent" name="sizeMm" value={f.sizeMm} onChange={set("sizeMm")} />
      <NumberField label="Sheet there, mm thick" name="gaugeMm" value={f.gaugeMm} onChange={set("gaugeMm")} />
      <CheckField label="Load-bearing" value={f.structural} onChange={set("structural")} />
      <span />
      <AreaField className="col-span-2" label="Note" name="note" value={f.note} onChange={set("note")} />
      <ChoiceField label="Photo" value={f.photoId} onChange={set("photoId")} options={photoChoices(photos)} />
      <ChoiceField
        label="Found behind"
        value={f.behind}
        onChange={set("behind")}
        options={choices(
          survey.findings.filter((x) => x.id !== id).map((x) => ({ id: x.id, name: `${x.number}. ${x.placeName}` })),
          "nothing",
        )}
      />
    </FormSheet>
  );
}
