import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { surveyQuery } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { today } from "../format";
import { AreaField, ChoiceField, NumberField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { ListField } from "../ui/ListField";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";

type Zone = {
  zone: string;
  state: "dark" | "sound" | Schemas["Verdict"];
  hours: number;
  part: number;
  days: number;
  risk: number;
  structural: boolean;
  note: string;
};

/** Another body as it was seen: zone by zone dark, sound, or what the cheapest way there would take. */
export function OtherBodySheet({
  body: b,
  onClose,
  onKept,
}: {
  body: Schemas["ComparedView"] | null;
  onClose: () => void;
  onKept: (id: string) => void;
}) {
  const card = useThisBuild();
  const places = useQuery(surveyQuery(card.id)).data?.places ?? [];
  const [id] = useState(() => b?.id ?? newId());
  const stem = (key: string) => (/[LR]$/.test(key) && key.length > 1 ? key.slice(0, -1) : key);
  const zones = [...new Map(places.filter((p) => p.round).map((p) => [stem(p.key), p.name.replace(/^[LR] /, "")]))];
  const known = new Map((b?.zones ?? []).map((z) => [z.zone, z]));
  const [f, set, , clashes] = useForm({
    name: b?.name ?? "",
    year: b?.year ?? null,
    seenOn: b?.seenOn ?? today(),
    heldUntil: b?.heldUntil ?? "",
    purchase: b?.purchase ?? 0,
    freight: b?.freight ?? 0,
    identity: b?.identity ?? "",
    spans: b?.spans ?? ([] as Schemas["YearSpan"][]),
    zones: zones.map(([zone]): Zone => {
      const z = known.get(zone);
      const way = z?.ways.find((w) => w.verdict !== "leave") ?? z?.ways[0];
      return {
        zone,
        state: !z?.looked ? "dark" : way ? way.verdict : "sound",
        hours: way?.hours ?? 0,
        part: (way?.part ?? 0) + (way?.material ?? 0),
        days: way?.leadDays ?? 0,
        risk: way?.riskPercent ?? 0,
        structural: z?.structural ?? false,
        note: z?.note ?? "",
      };
    }),
  });
  const save = useSend(
    () =>
      ask(
        api.PUT("/api/builds/{id}/bodies/{bodyId}", {
          params: { path: { id: card.id, bodyId: id } },
          body: {
            ...f,
            heldUntil: f.heldUntil || null,
            seenOn: f.seenOn || null,
            version: b?.version ?? null,
            zones: f.zones.map((z) => ({
              zone: z.zone,
              looked: z.state !== "dark",
              structural: z.structural,
              note: z.note,
              ways:
                z.state === "dark" || z.state === "sound"
                  ? []
                  : [
                      {
                        verdict: z.state,
                        hours: z.hours,
                        trade: "metal" as const,
                        material: 0,
                        sheetM2Price: 0,
                        part: z.part,
                        freight: 0,
                        leadDays: z.days,
                        riskPercent: z.risk,
                        notSold: false,
                      },
                    ],
            })),
          },
        }),
      ),
    {
      says: "Saved",
      quiet: true,
      onDone: () => {
        onKept(id);
        onClose();
      },
    },
  );
  return (
    <FormSheet
      title={b ? b.name : "Another body"}
      note="Each zone: dark until somebody looked, sound, or the way that would be taken."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <TextField label="Name" name="name" value={f.name} onChange={set("name")} autoFocus />
      <NumberField label="Year" name="year" value={f.year} onChange={set("year")} />
      <NumberField label="Purchase, net" name="purchase" value={f.purchase} onChange={(v) => set("purchase")(v ?? 0)} />
      <NumberField label="Transport, net" name="freight" value={f.freight} onChange={(v) => set("freight")(v ?? 0)} />
      <TextField label="Seen on" name="seenOn" type="date" value={f.seenOn} onChange={set("seenOn")} />
      <TextField label="Held until" name="heldUntil" type="date" value={f.heldUntil} onChange={set("heldUntil")} />
      <AreaField
        className="col-span-2"
        label="Legal identity: who answered, and what"
        name="identity"
        rows={2}
        value={f.identity}
        onChange={set("identity")}
      />
      <fieldset className="col-span-2">
        <legend className="font-[660]">Zones, both sides together</legend>
        {f.zones.map((z, i) => {
          const change = (to: Partial<Zone>) => set("zones")(f.zones.map((x, j) => (i === j ? { ...x, ...to } : x)));
          const name = zones[i]?.[1] ?? z.zone;
          return (
            <div key={z.zone} className="grid grid-cols-[110px_minmax(0,1fr)] gap-2 items-end border-t border-p2 py-1">
              <span className="self-center">{name}</span>
              <div className="flex gap-1 items-end">
                <ChoiceField
                  label={`${name} is`}
                  value={z.state}
                  onChange={(state) => change({ state })}
                  options={[
                    ["dark", "not looked at"],
                    ["sound", "sound"],
                    ["repair", "repair"],
                    ["replace", "replace"],
                    ["fabricate", "fabricate"],
                  ]}
                />
                {z.state !== "dark" && z.state !== "sound" && (
                  <>
                    <NumberField className="w-14" label="hours" value={z.hours} onChange={(v) => change({ hours: v ?? 0 })} />
                    <NumberField className="w-16" label="bought" value={z.part} onChange={(v) => change({ part: v ?? 0 })} />
                    <NumberField className="w-14" label="days" value={z.days} onChange={(v) => change({ days: v ?? 0 })} />
                    <NumberField className="w-14" label="risk %" value={z.risk} onChange={(v) => change({ risk: v ?? 0 })} />
                  </>
                )}
              </div>
            </div>
          );
        })}
      </fieldset>
      <ListField
        legend="Spans of years over which parts interchange"
        rows={f.spans}
        onChange={set("spans")}
        add="Another span"
        next={() => ({ part: "", from: f.year ?? 1960, to: f.year ?? 1960, differs: "" })}
      >
        {(s, change) => (
          <>
            <TextField className="flex-1" label="part" value={s.part} onChange={(part) => change({ part })} />
            <NumberField className="w-16" label="from" value={s.from} onChange={(v) => change({ from: v ?? 0 })} />
            <NumberField className="w-16" label="to" value={s.to} onChange={(v) => change({ to: v ?? 0 })} />
            <TextField className="flex-1" label="differs by" value={s.differs} onChange={(differs) => change({ differs })} />
          </>
        )}
      </ListField>
    </FormSheet>
  );
}
