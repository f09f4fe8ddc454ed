import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { fitQuery } from "../api/queries";
import { dateOf, day, lengthUnit, linesOf } from "../format";
import { ChecksField } from "../ui/ChecksField";
import { AreaField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { Section } from "../ui/Section";
import { Empty } from "../ui/States";
import { useSend } from "../ui/useSend";
import type { AllFigures, SectionProps } from "./FiguresTab";
import { mm } from "./fitWords";
import { Plain, ReadBox } from "./SpecSections";

const INCH = 25.4;

/** Mounts between body and chassis: other shims ask for the gaps of what moves with them again. */
export function Mounts({ of, buildId, panels, may }: SectionProps & { of: AllFigures["mounts"] }) {
  const [open, setOpen] = useState(false);
  const inch = lengthUnit() === "in";
  const shim = useSend(
    (s: { mount: Schemas["MountView"]; shimMm: number }) =>
      ask(
        api.POST("/api/mounts/{id}/shim", {
          params: { path: { id: s.mount.id } },
          body: { id: newId(), shimMm: s.shimMm, version: s.mount.version },
        }),
      ),
    { says: "Its lines are to be read again" },
  );
  const off = useSend((id: string) => ask(api.POST("/api/mounts/{id}/remove", { params: { path: { id } } })), {
    says: "Off the sheet",
  });
  const name = (key: string) => panels.find(([k]) => k === key)?.[1] ?? key;
  const list = (
    <>
      {of.length === 0 && <Empty>No mount yet. What is shimmed here is named wherever a gap beside it is to be read again.</Empty>}
      <ul>
        {of.map((m) => (
          <li key={m.id} className="border-t border-p2 py-2 flex flex-wrap gap-2 items-baseline">
            <span className="flex-1 min-w-[180px]">
              <b className="font-[660]">{m.name}</b>: {inch ? `${(m.shimMm / INCH).toFixed(3)} in` : `${mm(m.shimMm)} mm`} of shims
              <span className="block text-ink2">moves {m.panels.map(name).join(", ")}</span>
            </span>
            {may && (
              <>
                <ReadBox
                  label={`shims in ${m.name}, ${inch ? "in" : "mm"}`}
                  hint={inch ? "in" : "mm"}
                  busy={shim.isPending}
                  onRead={(value, done) =>
                    shim.mutate({ mount: m, shimMm: inch ? Number((value * INCH).toFixed(3)) : value }, { onSuccess: done })
                  }
                />
                {m.shimMm === 0 && (
                  <button
                    type="button"
                    className="btn btn-quiet"
                    aria-label={`Take mount ${m.name} off the sheet`}
                    onClick={() => off.mutate(m.id)}
                  >
                    Off
                  </button>
                )}
              </>
            )}
          </li>
        ))}
      </ul>
      {open && <MountSheet buildId={buildId} panels={panels} onClose={() => setOpen(false)} />}
    </>
  );
  if (!may) return <Plain title="Body mounts">{list}</Plain>;
  return (
    <Section title="Body mounts" action="Add a mount" onAction={() => setOpen(true)}>
      {list}
    </Section>
  );
}

function MountSheet({ buildId, panels, onClose }: { buildId: string; panels: SectionProps["panels"]; onClose: () => void }) {
  const [id] = useState(newId);
  const [name, setName] = useState("");
  const [moved, setMoved] = useState<string[]>([]);
  // Only what lies beside a shut line can be read again.
  const lines = useQuery(fitQuery(buildId)).data?.lines ?? [];
  const beside = new Set(lines.flatMap((l) => l.between));
  const named = panels.filter(([key]) => beside.has(key)).map(([key, name]) => ({ id: key, name }));
  const save = useSend(
    () => ask(api.POST("/api/builds/{id}/mounts", { params: { path: { id: buildId } }, body: { id, name, panels: moved } })),
    { says: "Kept", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet title="A mount" onClose={onClose} onSubmit={() => save.mutate(undefined)} problem={save.error} busy={save.isPending}>
      <TextField className="col-span-2" label="Which one" name="name" value={name} onChange={setName} />
      <ChecksField legend="Panels that move with it" named={named} chosen={moved} onChange={setMoved} />
    </FormSheet>
  );
}

/** Bolts in the order in which they are tightened: the next one is offered. */
export function Bolts({ of, buildId, may }: SectionProps & { of: AllFigures["bolts"] }) {
  const [open, setOpen] = useState(false);
  const tight = useSend((t: { set: string; number: number; tight: boolean }) =>
    ask(api.POST("/api/bolts/{id}/tight", { params: { path: { id: t.set } }, body: { number: t.number, tight: t.tight } })),
  );
  const off = useSend((id: string) => ask(api.POST("/api/bolts/{id}/remove", { params: { path: { id } } })), {
    says: "Off the sheet",
  });
  const list = (
    <>
      {of.length === 0 && <Empty>No order yet: cylinder head, wheel bearing caps, mounts.</Empty>}
      {of.map((set) => (
        <div key={set.id} className="border-t border-p2 py-2">
          <p className="flex gap-2 items-baseline">
            <b className="font-[660] flex-1">
              {set.name} <small className="text-ink2 font-[450]">{set.source}</small>
            </b>
            <span className={set.next == null ? "font-[620]" : "text-ink2"}>
              {set.next == null ? "all tight" : `${set.steps.filter((s) => s.at).length} of ${set.steps.length}`}
            </span>
            {may && set.steps.every((s) => !s.at) && (
              <button
                type="button"
                className="btn btn-quiet"
                aria-label={`Take ${set.name} off the sheet`}
                onClick={() => off.mutate(set.id)}
              >
                Off
              </button>
            )}
          </p>
          <ol aria-label={set.name}>
            {set.steps.map((s) => (
              <li key={s.number} className="flex gap-2 items-baseline min-h-7">
                <span className="w-6 text-right font-[680]">{s.number}</span>
                <span className="flex-1">
                  {s.name} <span className="text-ink2">{s.torque}</span>
                  {s.at && (
                    <span className="text-ink2">
                      {" "}
                      {s.by}, {day(dateOf(s.at))}
                    </span>
                  )}
                </span>
                {may && set.next === s.number && (
                  <button
                    type="button"
                    className="btn btn-ink"
                    aria-label={`${s.name} is tight`}
                    disabled={tight.isPending}
                    onClick={() => tight.mutate({ set: set.id, number: s.number, tight: true })}
                  >
                    Tight
                  </button>
                )}
                {may && s.at && (
                  <button
                    type="button"
                    className="btn btn-quiet"
                    aria-label={`${s.name} and what follows is loose again`}
                    disabled={tight.isPending}
                    onClick={() => tight.mutate({ set: set.id, number: s.number, tight: false })}
                  >
                    Loose
                  </button>
                )}
              </li>
            ))}
          </ol>
        </div>
      ))}
      {open && <BoltsSheet buildId={buildId} onClose={() => setOpen(false)} />}
    </>
  );
  if (!may) return <Plain title="Bolts in order">{list}</Plain>;
  return (
    <Section title="Bolts in order" action="Add an order" onAction={() => setOpen(true)}>
      {list}
    </Section>
  );
}

function BoltsSheet({ buildId, onClose }: { buildId: string; onClose: () => void }) {
  const [id] = useState(newId);
  const [name, setName] = useState("");
  const [source, setSource] = useState("");
  const [text, setText] = useState("");
  const bolts = linesOf(text).map((line) => {
    const [bolt = "", ...torque] = line.split(",");
    return { name: bolt.trim(), torque: torque.join(",").trim() };
  });
  const save = useSend(
    () => ask(api.POST("/api/builds/{id}/bolts", { params: { path: { id: buildId } }, body: { id, name, source, bolts } })),
    { says: "Kept", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title="Bolts in their order"
      note="One a line, in the order of the paper: bolt, torque. A second round is written out as lines of its own."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
    >
      <TextField label="Of what" name="name" value={name} onChange={setName} />
      <TextField label="Paper that has the order" name="source" value={source} onChange={setSource} />
      <AreaField className="col-span-2" label="Bolt, torque" name="steps" rows={8} value={text} onChange={setText} />
    </FormSheet>
  );
}
