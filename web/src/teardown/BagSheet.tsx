import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { operationsQuery, photosQuery } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { CheckField, ChoiceField, choices, photoChoices, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { PhotoTaker } from "../ui/PhotoTaker";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import { HoldsFields } from "./HoldsFields";
import { BAG_STATES, stateName } from "./Racks";

type Bag = Schemas["BagView"];

const SIDES: [Schemas["PanelSide"], string][] = [
  ["left", "left"],
  ["right", "right"],
  ["centre", "middle"],
];

/** Bags something: what, which side, from where, how many of what, and where it lies. */
export function BagSheet({ bag, onClose, onKept }: { bag: Bag | null; onClose: () => void; onKept: (id: string) => void }) {
  const card = useThisBuild();
  const photos = useQuery(photosQuery(card.id)).data ?? [];
  const operations = (useQuery(operationsQuery(card.id)).data ?? []).filter((o) => !o.doneAt || o.id === bag?.patternFor);
  const [id] = useState(() => bag?.id ?? newId());
  const [f, set, , clashes] = useForm({
    side: bag?.side ?? ("left" as Schemas["PanelSide"]),
    what: bag?.what ?? "",
    from: bag?.from ?? "",
    pieces: bag?.pieces ?? ([{ name: "", count: 1 }] as Schemas["BagPiece"][]),
    fasteners: bag?.fasteners ?? ([] as Schemas["BagFastener"][]),
    place: bag?.place ?? "",
    patternFor: bag?.patternFor ?? "",
    photoId: bag?.photoId ?? "",
    noPhoto: bag?.noPhoto ?? false,
    patternWhy: "",
  });
  const unbinds = bag?.patternOpen === true && f.patternFor !== (bag.patternFor ?? "");
  const save = useSend(
    () =>
      ask(
        api.PUT("/api/builds/{id}/bags/{bagId}", {
          params: { path: { id: card.id, bagId: id } },
          body: {
            ...f,
            pieces: f.pieces.filter((p) => p.name.trim()),
            patternFor: f.patternFor || null,
            photoId: f.photoId || null,
            version: bag?.version ?? null,
          },
        }),
      ),
    {
      says: bag ? "Saved" : "Bagged",
      quiet: true,
      onDone: () => {
        onKept(id);
        onClose();
      },
      onKept: onClose,
    },
  );
  return (
    <FormSheet
      title={bag ? `Bag ${bag.label}` : "Bag something"}
      note={bag ? "The number and its side stay." : "It gets the shop's next number; left and right never share one."}
      action={bag ? "Save" : "In the bag"}
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <TextField className="col-span-2" label="What" name="what" value={f.what} onChange={set("what")} autoFocus />
      {!bag && <ChoiceField label="Side" name="side" value={f.side} onChange={set("side")} options={SIDES} />}
      <TextField className={bag ? "col-span-2" : ""} label="From where on the car" name="from" value={f.from} onChange={set("from")} />
      <HoldsFields pieces={f.pieces} fasteners={f.fasteners} onPieces={set("pieces")} onFasteners={set("fasteners")} />
      {!bag && <TextField label="Tray, such as C3-7" name="place" value={f.place} onChange={set("place")} />}
      <ChoiceField
        label="Keep as pattern for"
        value={f.patternFor}
        onChange={set("patternFor")}
        options={choices(operations, "no pattern")}
      />
      {unbinds && (
        <TextField
          label={`Why it is no longer needed for “${bag?.pattern}”`}
          name="patternWhy"
          value={f.patternWhy}
          onChange={set("patternWhy")}
        />
      )}
      <ChoiceField label="Photo" value={f.photoId} onChange={set("photoId")} options={photoChoices(photos)} />
      <PhotoTaker buildId={card.id} label="Take it now" caption={f.what || "In the bag"} onTaken={set("photoId")} />
      {!f.photoId && <CheckField label="There is no photo" value={f.noPhoto} onChange={set("noPhoto")} />}
    </FormSheet>
  );
}

/** Moves a bag to a tray, a supplier, the car, or away for good. */
export function MoveSheet({ bag, onClose }: { bag: Bag; onClose: () => void }) {
  const [id] = useState(() => newId());
  const [f, set] = useForm({ state: bag.state, place: bag.place, note: "" });
  const send = useSend(() => ask(api.POST("/api/bags/{id}/move", { params: { path: { id: bag.id } }, body: { id, ...f } })), {
    says: "Moved",
    onDone: onClose,
    onKept: onClose,
    quiet: true,
  });
  const placed = f.state === "onShelf" || f.state === "atSupplier" || f.state === "withClient";
  return (
    <FormSheet
      title={`Where ${bag.label} is`}
      note={bag.patternOpen ? `Kept as the pattern for “${bag.pattern}”.` : undefined}
      action="Move"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      <ChoiceField
        label="It is"
        name="state"
        value={f.state}
        onChange={set("state")}
        options={BAG_STATES.map((s) => [s, stateName(s)] as const)}
      />
      {placed && (
        <TextField
          label={f.state === "onShelf" ? "Tray, such as C3-7" : "Where"}
          name="place"
          value={f.place}
          onChange={set("place")}
          autoFocus
        />
      )}
      <TextField className="col-span-2" label="Note" value={f.note} onChange={set("note")} />
    </FormSheet>
  );
}
