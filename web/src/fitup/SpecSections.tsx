import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { photosQuery } from "../api/queries";
import { KeptUnsent } from "../api/unsent";
import { dateOf, day, lengthUnit } from "../format";
import { ChoiceField, NumberField, photoChoices, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { Section } from "../ui/Section";
import { Empty } from "../ui/States";
import { useSend } from "../ui/useSend";
import type { AllFigures, SectionProps } from "./FiguresTab";
import { mm, type Unit } from "./fitWords";

type Spec = Schemas["SpecView"];

const shopUnit = (): Unit => (lengthUnit() === "in" ? "inch" : "mm");
const UNITS: readonly (readonly [Unit, string])[] = [
  ["mm", "mm"],
  ["inch", "inches"],
];
const unitWord = (u: Unit) => (u === "inch" ? "in" : u === "thou" ? "thou" : "mm");
const noPanel = (panels: SectionProps["panels"]): readonly (readonly [string, string])[] => [["", "no panel"], ...panels];

/** A box is emptied once its figure is kept, here or in this browser until there is a connection. */
export const whenKept = (done: () => void) => ({
  onSuccess: done,
  onError: (e: Error) => {
    if (e instanceof KeptUnsent) done();
  },
});

/** A number and Enter: the next reading of what stands beside it. */
export function ReadBox({
  label,
  hint,
  onRead,
  busy,
}: {
  label: string;
  /** What is typed there, in a word, while nothing is. */
  hint: string;
  onRead: (value: number, done: () => void) => void;
  busy: boolean;
}) {
  const [typed, setTyped] = useState("");
  return (
    <form
      className="flex gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        const value = Number(typed.replace(",", "."));
        if (typed.trim() !== "" && Number.isFinite(value)) onRead(value, () => setTyped(""));
      }}
    >
      <input
        aria-label={label}
        inputMode="decimal"
        autoComplete="off"
        className="read-box"
        placeholder={hint}
        value={typed}
        disabled={busy}
        onChange={(e) => setTyped(e.target.value)}
      />
      <button type="submit" className="btn" aria-label={`Keep ${label}`} disabled={busy || typed.trim() === ""}>
        Keep
      </button>
    </form>
  );
}

/** Figures of the vehicle against what its papers say. */
export function Specs({ of, buildId, panels, may }: SectionProps & { of: AllFigures["specs"] }) {
  const [open, setOpen] = useState<Spec | "new" | null>(null);
  const read = useSend((r: { spec: string; value: number }) =>
    ask(
      api.POST("/api/figures/{id}/readings", { params: { path: { id: r.spec } }, body: { id: newId(), value: r.value, instrument: "" } }),
    ),
  );
  const back = useSend((id: string) => ask(api.POST("/api/figures/{id}/take-back", { params: { path: { id } } })), {
    says: "Taken back",
  });
  const off = useSend((id: string) => ask(api.POST("/api/figures/{id}/remove", { params: { path: { id } } })), {
    says: "Off the sheet",
  });
  const list = (
    <>
      {of.length === 0 && <Empty>Nothing yet: ride heights, camber, pressures, whatever a paper gives a figure for.</Empty>}
      <ul>
        {of.map((s) => (
          <li key={s.id} className="border-t border-p2 py-2">
            <div className="flex flex-wrap gap-2 items-baseline">
              <b className="font-[660] flex-1">{s.name}</b>
              {may && (
                <ReadBox
                  label={`${s.name}, ${s.unit}`}
                  hint={s.unit}
                  busy={read.isPending}
                  onRead={(value, done) => read.mutate({ spec: s.id, value }, whenKept(done))}
                />
              )}
            </div>
            <span className={s.isOut ? "text-oxide font-[620]" : ""}>{s.words}</span>
            <span className="block text-ink2">
              {s.source ? `${s.source}${s.page ? `, page ${s.page}` : ""}` : "no paper: the picture is the evidence"}
              {s.readings.length > 0 && `; ${s.readings.at(-1)?.by}, ${day(dateOf(s.readings.at(-1)?.at ?? ""))}`}
              {may && (
                <>
                  <button type="button" className="btn btn-quiet" aria-label={`Edit ${s.name}`} onClick={() => setOpen(s)}>
                    Edit
                  </button>
                  {s.readings.length > 0 && (
                    <button
                      type="button"
                      className="btn btn-quiet"
                      aria-label={`Take back the last reading of ${s.name}`}
                      onClick={() => back.mutate(s.id)}
                    >
                      Take the last back
                    </button>
                  )}
                  {s.readings.length === 0 && (
                    <button
                      type="button"
                      className="btn btn-quiet"
                      aria-label={`Take ${s.name} off the sheet`}
                      onClick={() => off.mutate(s.id)}
                    >
                      Off
                    </button>
                  )}
                </>
              )}
            </span>
          </li>
        ))}
      </ul>
      {open && <SpecSheet spec={open === "new" ? null : open} buildId={buildId} panels={panels} onClose={() => setOpen(null)} />}
    </>
  );
  if (!may) return <Plain title="Measured against specified">{list}</Plain>;
  return (
    <Section title="Measured against specified" action="Add a figure" onAction={() => setOpen("new")}>
      {list}
    </Section>
  );
}

/** A section for whoever may not add to it. */
export function Plain({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section aria-label={title}>
      <h2>{title}</h2>
      {children}
    </section>
  );
}

function SpecSheet({
  spec,
  buildId,
  panels,
  onClose,
}: {
  spec: Spec | null;
  buildId: string;
  panels: SectionProps["panels"];
  onClose: () => void;
}) {
  const photos = useQuery(photosQuery(buildId)).data ?? [];
  const [id] = useState(() => spec?.id ?? newId());
  const [form, setForm] = useState({
    name: spec?.name ?? "",
    panel: spec?.panel ?? "",
    specified: spec?.specified ?? null,
    tolerance: spec?.tolerance ?? null,
    unit: spec?.unit ?? (lengthUnit() === "in" ? "in" : "mm"),
    source: spec?.source ?? "",
    page: spec?.page ?? "",
    photoId: spec?.photoId ?? "",
  });
  const set =
    <K extends keyof typeof form>(k: K) =>
    (v: (typeof form)[K]) =>
      setForm((x) => ({ ...x, [k]: v }));
  const save = useSend(
    () =>
      ask(
        api.PUT("/api/builds/{id}/figures/{figureId}", {
          params: { path: { id: buildId, figureId: id } },
          body: { ...form, tolerance: form.tolerance ?? 0, photoId: form.photoId || null, version: spec?.version ?? null },
        }),
      ),
    { says: "Kept", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={spec ? spec.name : "A figure"}
      note="Leave “specified” empty where no paper says it: then a picture is the evidence."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
    >
      <TextField className="col-span-2" label="What is measured" name="name" value={form.name} onChange={set("name")} />
      <NumberField label="Specified" name="specified" value={form.specified} onChange={set("specified")} />
      <NumberField label="May be off by" name="tolerance" value={form.tolerance} onChange={set("tolerance")} />
      <TextField label="Unit, as on the paper" name="unit" value={form.unit} onChange={set("unit")} />
      <ChoiceField label="On" name="panel" value={form.panel} onChange={set("panel")} options={noPanel(panels)} />
      <TextField label="Paper that says it" name="source" value={form.source} onChange={set("source")} />
      <TextField label="Page" name="page" value={form.page} onChange={set("page")} />
      <ChoiceField
        className="col-span-2"
        label="Picture that shows it"
        name="photoId"
        value={form.photoId}
        onChange={set("photoId")}
        options={photoChoices(photos)}
      />
    </FormSheet>
  );
}

/** Middles by two readings from a trial mark. */
export function Centres({ of, buildId, panels, may }: SectionProps & { of: AllFigures["centres"] }) {
  const [open, setOpen] = useState(false);
  const back = useSend((id: string) => ask(api.POST("/api/centres/{id}/take-back", { params: { path: { id } } })), {
    says: "Taken back",
  });
  const list = (
    <>
      {of.length === 0 && <Empty>Mark by eye, read to both edges, and it is said where the middle lies.</Empty>}
      <ul>
        {of.map((c) => (
          <li key={c.id} className="border-t border-p2 py-2">
            <b className="font-[660]">{c.what}</b>:{" "}
            <span className={c.isCentred ? "" : "text-oxide font-[620]"}>
              {c.isCentred
                ? "in the middle"
                : `move the mark ${mm(Math.abs(c.moveRightMm))} mm to the ${c.moveRightMm > 0 ? "right" : "left"}`}
            </span>
            <span className="block text-ink2">
              ({c.right} − {c.left}) / 2, {c.left} + {c.right} {unitWord(c.unit)} = {mm(c.widthMm)} mm wide; {c.by}, {day(dateOf(c.at))}
              {may && (
                <button type="button" className="btn btn-quiet" aria-label={`Take back ${c.what}`} onClick={() => back.mutate(c.id)}>
                  Take it back
                </button>
              )}
            </span>
          </li>
        ))}
      </ul>
      {open && <CentreSheet buildId={buildId} panels={panels} onClose={() => setOpen(false)} />}
    </>
  );
  if (!may) return <Plain title="Centre">{list}</Plain>;
  return (
    <Section title="Centre" action="Read from a mark" onAction={() => setOpen(true)}>
      {list}
    </Section>
  );
}

function CentreSheet({ buildId, panels, onClose }: { buildId: string; panels: SectionProps["panels"]; onClose: () => void }) {
  const [id] = useState(newId);
  const [what, setWhat] = useState("");
  const [panel, setPanel] = useState("");
  const [unit, setUnit] = useState<Unit>(shopUnit());
  const [left, setLeft] = useState<number | null>(null);
  const [right, setRight] = useState<number | null>(null);
  const [tolerance, setTolerance] = useState<number | null>(2);
  const save = useSend(
    () =>
      ask(
        api.POST("/api/builds/{id}/centres", {
          params: { path: { id: buildId } },
          body: { id, what, panel, left: left ?? 0, right: right ?? 0, tolerance: tolerance ?? 0, unit },
        }),
      ),
    { says: "Kept", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title="From a trial mark"
      note="Both readings from the same mark, along the same line."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
    >
      <TextField className="col-span-2" label="What goes in the middle of what" name="what" value={what} onChange={setWhat} />
      <NumberField label="To the left edge" name="left" value={left} onChange={setLeft} />
      <NumberField label="To the right edge" name="right" value={right} onChange={setRight} />
      <NumberField label="Both may differ by" name="tolerance" value={tolerance} onChange={setTolerance} />
      <ChoiceField label="Lengths in" value={unit} onChange={setUnit} options={UNITS} />
      <ChoiceField className="col-span-2" label="On" name="panel" value={panel} onChange={setPanel} options={noPanel(panels)} />
    </FormSheet>
  );
}

const SIDES: readonly (readonly ["left" | "right", string])[] = [
  ["left", "left"],
  ["right", "right"],
];

/** Places on both sides: what the sound side reads is what the other should. */
export function Mirrors({ of, buildId, panels, may }: SectionProps & { of: AllFigures["mirrors"] }) {
  const [open, setOpen] = useState(false);
  const read = useSend((r: { place: string; side: Schemas["PanelSide"]; value: number }) =>
    ask(api.POST("/api/mirrors/{id}/readings", { params: { path: { id: r.place } }, body: { id: newId(), side: r.side, value: r.value } })),
  );
  const back = useSend((id: string) => ask(api.POST("/api/mirrors/{id}/take-back", { params: { path: { id } } })), {
    says: "Taken back",
  });
  const off = useSend((id: string) => ask(api.POST("/api/mirrors/{id}/remove", { params: { path: { id } } })), {
    says: "Off the sheet",
  });
  const other = (s: Schemas["PanelSide"]) => (s === "left" ? "right" : "left");
  const list = (
    <>
      {of.length === 0 && <Empty>Read the side nobody doubts; the other side’s targets follow.</Empty>}
      <ul>
        {of.map((m) => (
          <li key={m.id} className="border-t border-p2 py-2">
            <b className="font-[660]">{m.name}</b>
            <span className={m.isOut ? "text-oxide font-[620]" : ""}>
              {m.targetMm == null
                ? `: read the ${m.sound} side`
                : m.offMm == null
                  ? `: the ${other(m.sound)} side should read ${mm(m.targetMm)} mm`
                  : `: the ${other(m.sound)} side is ${m.isOut ? `${mm(Math.abs(m.offMm))} mm too ${m.offMm > 0 ? "long" : "short"}` : "as the sound one"}`}
            </span>
            <span className="block text-ink2">
              {m.sound} {m.soundRead ?? "not read"}, {other(m.sound)} {m.otherRead ?? "not read"} {unitWord(m.unit)}
              {m.asymmetry !== 0 && `; the maker has ${m.asymmetry > 0 ? "+" : "−"}${Math.abs(m.asymmetry)}`}; within {m.tolerance}
            </span>
            {may && (
              <div className="flex flex-wrap gap-3 mt-1">
                {([m.sound, other(m.sound)] as Schemas["PanelSide"][]).map((side) => (
                  <ReadBox
                    key={side}
                    label={`${m.name}, ${side}`}
                    hint={side}
                    busy={read.isPending}
                    onRead={(value, done) => read.mutate({ place: m.id, side, value }, whenKept(done))}
                  />
                ))}
                {m.soundRead != null || m.otherRead != null ? (
                  <button
                    type="button"
                    className="btn btn-quiet"
                    aria-label={`Take back the last reading of ${m.name}`}
                    onClick={() => back.mutate(m.id)}
                  >
                    Take the last back
                  </button>
                ) : (
                  <button
                    type="button"
                    className="btn btn-quiet"
                    aria-label={`Take ${m.name} off the sheet`}
                    onClick={() => off.mutate(m.id)}
                  >
                    Off
                  </button>
                )}
              </div>
            )}
          </li>
        ))}
      </ul>
      {open && <MirrorSheet buildId={buildId} panels={panels} onClose={() => setOpen(false)} />}
    </>
  );
  if (!may) return <Plain title="Side against side">{list}</Plain>;
  return (
    <Section title="Side against side" action="Add a place" onAction={() => setOpen(true)}>
      {list}
    </Section>
  );
}

function MirrorSheet({ buildId, panels, onClose }: { buildId: string; panels: SectionProps["panels"]; onClose: () => void }) {
  const [id] = useState(newId);
  const [name, setName] = useState("");
  const [panel, setPanel] = useState("");
  const [sound, setSound] = useState<"left" | "right">("left");
  const [unit, setUnit] = useState<Unit>(shopUnit());
  const [asymmetry, setAsymmetry] = useState<number | null>(0);
  const [tolerance, setTolerance] = useState<number | null>(1);
  const save = useSend(
    () =>
      ask(
        api.POST("/api/builds/{id}/mirrors", {
          params: { path: { id: buildId } },
          body: { id, name, panel, sound, unit, asymmetry: asymmetry ?? 0, tolerance: tolerance ?? 0 },
        }),
      ),
    { says: "Kept", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title="A place on both sides"
      note="Where the maker built both sides unequal, the manual says by how much; else it stays 0."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
    >
      <TextField className="col-span-2" label="What is measured there" name="name" value={name} onChange={setName} />
      <ChoiceField label="The sound side" name="sound" value={sound} onChange={setSound} options={SIDES} />
      <ChoiceField label="Lengths in" value={unit} onChange={setUnit} options={UNITS} />
      <NumberField label="The other less the sound one" name="asymmetry" value={asymmetry} onChange={setAsymmetry} />
      <NumberField label="May be off by" name="tolerance" value={tolerance} onChange={setTolerance} />
      <ChoiceField
        className="col-span-2"
        label="On (the doubtful side)"
        name="panel"
        value={panel}
        onChange={setPanel}
        options={noPanel(panels)}
      />
    </FormSheet>
  );
}
