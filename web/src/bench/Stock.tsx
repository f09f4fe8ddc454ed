import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { offcutsQuery, useUser } from "../api/queries";
import { counted } from "../format";
import { TextField } from "../ui/Field";
import { useSend } from "../ui/useSend";
import type { CutSheet } from "./drawStock";
import { type Figures, list, type Out, type Row, textOf, unitOf } from "./figures";

type Offcut = Schemas["OffcutView"];

const INCH = 25.4;
const sizeOf = (o: Offcut) => `${Math.round(o.widthMm)} × ${Math.round(o.heightMm)}${o.place ? `, ${o.place}` : ""}`;

/** What each is called: by size and place, and where several are alike by their number. */
export function namesOf(offcuts: readonly Offcut[]): ReadonlyMap<string, string> {
  const seen = new Map<string, number>();
  return new Map(
    offcuts.map((o) => {
      const name = sizeOf(o);
      const times = (seen.get(name) ?? 0) + 1;
      seen.set(name, times);
      return [o.id, times > 1 ? `${name}, no. ${times}` : name];
    }),
  );
}

/** Rests of sheet of the thickness that is typed: those that are ticked are cut first. */
export function useStock(on: boolean, figures: Figures) {
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const per = unitOf(figures) === "inch" ? INCH : 1;
  const gauge = Number(textOf(figures, "gauge")) * per;
  const all = useQuery({ ...offcutsQuery(gauge), enabled: on && gauge > 0, placeholderData: keepPreviousData }).data ?? [];
  const fitting = all.filter((o) => o.usedAt === null);
  const chosen = fitting.filter((o) => ticked.has(o.id));
  const names = namesOf(fitting);
  const nameOf = (o: Offcut) => names.get(o.id) ?? sizeOf(o);
  const rows: { offcuts?: Row[] } = on
    ? { offcuts: chosen.map((o) => ({ name: nameOf(o), width: String(o.widthMm / per), height: String(o.heightMm / per) })) }
    : {};
  const tick = (id: string) => setTicked((t) => (t.has(id) ? new Set([...t].filter((x) => x !== id)) : new Set([...t, id])));
  return { fitting, chosen, nameOf, used: all.filter((o) => o.usedAt !== null), rows, tick, gauge };
}

/** What lies in stock, what is cut from it, and what is left over to be kept. */
export function Stock({
  stock,
  out,
  build,
  figures,
}: {
  stock: ReturnType<typeof useStock>;
  out: Out;
  build: Schemas["BuildCard"] | undefined;
  figures: Figures;
}) {
  const role = useUser()?.role;
  const may = role === "manager" || role === "technician";
  const [place, setPlace] = useState("");
  const [material, setMaterial] = useState("mild steel");
  const [kept, setKept] = useState<ReadonlySet<string>>(new Set());
  const sheets = list<CutSheet>(out, "sheets");
  const cutNow = stock.chosen.filter((o) => sheets.some((s) => s.offcut === stock.nameOf(o)));
  const rests = sheets.flatMap((s, i) => s.rests.map((r) => ({ ...r, key: `${JSON.stringify(figures)} ${i} ${r.xMm} ${r.yMm}` })));
  const use = useSend(
    (offcuts: readonly Offcut[]) =>
      Promise.all(
        offcuts.map((o) =>
          ask(
            api.POST("/api/offcuts/{id}/use", { params: { path: { id: o.id } }, body: { buildId: build?.id ?? null, version: o.version } }),
          ),
        ),
      ),
    { says: "Out of stock" },
  );
  const back = useSend((id: string) => ask(api.POST("/api/offcuts/{id}/put-back", { params: { path: { id } } })), {
    says: "Back in stock",
  });
  const keep = useSend(
    (r: { key: string; widthMm: number; heightMm: number }) =>
      ask(
        api.POST("/api/offcuts", {
          body: {
            id: newId(),
            widthMm: Math.floor(r.widthMm),
            heightMm: Math.floor(r.heightMm),
            gaugeMm: stock.gauge,
            material,
            place,
            buildId: build?.id ?? null,
          },
        }),
      ),
    { says: "In stock", onDone: (_, r) => setKept((k) => new Set([...k, r.key])) },
  );
  return (
    <section aria-label="Stock">
      <h2>
        In stock <small>{stock.gauge || "?"} mm thick</small>
      </h2>
      {stock.fitting.length === 0 && <p className="text-ink2">No rest of this thickness.</p>}
      {stock.fitting.map((o) => (
        <label key={o.id} className="flex items-center gap-2 min-h-7">
          <input type="checkbox" checked={stock.chosen.includes(o)} onChange={() => stock.tick(o.id)} />
          {stock.nameOf(o)} <span className="text-ink2">{o.material}</span>
        </label>
      ))}
      {may && cutNow.length > 0 && (
        <button type="button" className="btn mt-1" disabled={use.isPending} onClick={() => use.mutate(cutNow)}>
          Cut: take {counted(cutNow.length, "rest")} out of stock
        </button>
      )}
      {rests.length > 0 && may && (
        <div className="mt-2">
          <div className="grid grid-cols-2 gap-2">
            <TextField label="Lies in" name="place" value={place} onChange={setPlace} />
            <TextField label="Sheet of" name="material" value={material} onChange={setMaterial} />
          </div>
          {rests.slice(0, 8).map((r) => (
            <p key={r.key} className="flex items-center gap-2 mt-1">
              <span className="flex-1">
                Left over: {Math.floor(r.widthMm)} × {Math.floor(r.heightMm)}
              </span>
              <button type="button" className="btn" disabled={kept.has(r.key) || keep.isPending} onClick={() => keep.mutate(r)}>
                {kept.has(r.key) ? "kept" : "Keep it"}
              </button>
            </p>
          ))}
        </div>
      )}
      {stock.used.length > 0 && (
        <details className="mt-2">
          <summary>Used lately</summary>
          {stock.used.map((o) => (
            <p key={o.id} className="text-ink2">
              {sizeOf(o)}, {o.usedBy}
              {o.usedFor ? ` for ${o.usedFor}` : ""}
              {may && (
                <button type="button" className="btn btn-quiet" onClick={() => back.mutate(o.id)}>
                  Put back
                </button>
              )}
            </p>
          ))}
        </details>
      )}
    </section>
  );
}
