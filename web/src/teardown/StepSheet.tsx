import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { operationsQuery, photosQuery } from "../api/queries";
import { CheckField, ChoiceField, choices, NumberField, photoChoices, saysOf, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { PhotoTaker } from "../ui/PhotoTaker";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import { HoldsFields } from "./HoldsFields";

type Assembly = Schemas["AssemblyRow"];
type Step = Schemas["StepView"];

/** Closes a step: what came off goes into its bag, which gets its number in the same moment. */
export function StepSheet({
  buildId,
  assembly,
  step: s,
  onClose,
}: {
  buildId: string;
  assembly: Assembly;
  step: Step;
  onClose: () => void;
}) {
  const photos = useQuery(photosQuery(buildId)).data ?? [];
  const operations = (useQuery(operationsQuery(buildId)).data ?? []).filter((o) => !o.doneAt);
  const [bagId] = useState(() => newId());
  const timed = s.doingSeconds + s.findingSeconds > 0 || s.clock !== "stopped";
  const [f, set] = useForm({
    inBag: true,
    pieces: [{ name: s.piece, count: Math.max(1, s.pieces) }] as Schemas["BagPiece"][],
    fasteners: (s.fastener ? [{ ...s.fastener, count: s.twinFasteners ?? s.fastener.count }] : []) as Schemas["BagFastener"][],
    place: "",
    patternFor: "",
    photoId: "",
    noPhoto: false,
    countsDiffer: false,
    outOfOrderWhy: "",
    note: "",
    doing: Math.round(s.expected) as number | null,
    finding: 0 as number | null,
  });
  const close = useSend(
    () =>
      ask(
        api.POST("/api/assemblies/{id}/steps/{step}/close", {
          params: { path: { id: assembly.id, step: s.key } },
          body: {
            bagId,
            inBag: f.inBag,
            pieces: f.pieces.filter((p) => p.name.trim()),
            fasteners: f.fasteners,
            place: f.place,
            patternFor: f.patternFor || null,
            photoId: f.photoId || null,
            noPhoto: f.noPhoto,
            countsDiffer: f.countsDiffer,
            outOfOrderWhy: f.outOfOrderWhy,
            note: f.note,
            doingSeconds: timed ? null : (f.doing ?? 0) * 60,
            findingSeconds: timed ? null : (f.finding ?? 0) * 60,
          },
        }),
      ),
    { says: "In the bag", onDone: onClose, quiet: true },
  );
  const differs = saysOf(close.error, "fasteners") !== null || f.countsDiffer;
  return (
    <FormSheet
      title={s.name}
      note={
        s.twinBag
          ? `The other side is ${s.twinBag}, with ${s.twinFasteners} fasteners.`
          : `${assembly.name}. Its bag gets the shop's next number.`
      }
      action="In the bag"
      onClose={onClose}
      onSubmit={() => close.mutate(undefined)}
      problem={close.error}
      busy={close.isPending}
    >
      <CheckField label="It goes into a bag" value={f.inBag} onChange={set("inBag")} />
      {f.inBag && (
        <>
          <TextField label="Tray, such as C3-7" name="place" value={f.place} onChange={set("place")} problem={close.error} autoFocus />
          <HoldsFields pieces={f.pieces} fasteners={f.fasteners} onPieces={set("pieces")} onFasteners={set("fasteners")} />
          {differs && <CheckField label="The count is right: the sides differ" value={f.countsDiffer} onChange={set("countsDiffer")} />}
          <ChoiceField
            label="Keep as pattern for"
            value={f.patternFor}
            onChange={set("patternFor")}
            options={choices(operations, "no pattern")}
          />
        </>
      )}
      <ChoiceField
        className="col-span-2"
        label={s.photos.length > 0 ? `Photo: ${s.photos.join(", ")}` : "Photo"}
        value={f.photoId}
        onChange={set("photoId")}
        options={photoChoices(photos)}
      />
      <PhotoTaker buildId={buildId} label="Take it now" caption={`${s.name}, ${assembly.name.toLowerCase()}`} onTaken={set("photoId")} />
      {!f.photoId && <CheckField label="There is no photo" value={f.noPhoto} onChange={set("noPhoto")} />}
      {s.first.length > 0 && (
        <TextField
          className="col-span-2"
          label={`Before ${s.first.join(", ").toLowerCase()}, because`}
          name="outOfOrderWhy"
          value={f.outOfOrderWhy}
          onChange={set("outOfOrderWhy")}
          problem={close.error}
        />
      )}
      {!timed && (
        <>
          <NumberField label="Minutes doing" value={f.doing} onChange={set("doing")} />
          <NumberField label="Minutes finding out" value={f.finding} onChange={set("finding")} />
        </>
      )}
      <TextField
        className="col-span-2"
        label="For whoever puts it back"
        name="note"
        value={f.note}
        onChange={set("note")}
        problem={close.error}
      />
    </FormSheet>
  );
}
