import type { Schemas } from "../api/client";
import { counted } from "../format";
import { CHALK, CHALK2, GUIDE3, inkOn } from "../tokens";

type Bag = Schemas["BagView"];

type Rack = Schemas["ShopRack"];
const TRAY = { w: 40, h: 20 };

/** The address of a tray as it stands on labels: C3-7, or Loft 3-7. */
export const addressOf = (rack: Rack, shelf: number, tray: number) => `${rack.name}${rack.name.length > 1 ? " " : ""}${shelf}-${tray}`;

/** Bags of each tray of the shop's racks, by address; what lies elsewhere is not on the racks. */
export function traysOf(bags: Bag[], racks: Rack[]): Map<string, Bag[]> {
  const known = new Map<string, string>();
  for (const r of racks)
    for (let shelf = 1; shelf <= r.shelves; shelf++)
      for (let tray = 1; tray <= r.trays; tray++) known.set(addressOf(r, shelf, tray).toLowerCase(), addressOf(r, shelf, tray));
  const trays = new Map<string, Bag[]>();
  for (const b of bags) {
    const at = b.state === "onShelf" ? known.get(b.place.trim().toLowerCase()) : undefined;
    if (at) trays.set(at, [...(trays.get(at) ?? []), b]);
  }
  return trays;
}

/** The racks seen from the aisle: half of the trays below, half above, shelves from the floor; a figure is the bags in a tray. */
export function Racks({
  bags,
  racks,
  colour,
  open,
  onOpen,
}: {
  bags: Bag[];
  racks: Rack[];
  colour: string;
  open: string | null;
  onOpen: (tray: string) => void;
}) {
  const trays = traysOf(bags, racks);
  return (
    <div className="grid grid-cols-2 gap-x-6 gap-y-4 max-[900px]:grid-cols-1">
      {racks.map((rack) => {
        const { name: letter, shelves } = rack;
        const perRow = rack.trays > 6 ? Math.ceil(rack.trays / 2) : 6;
        const here = [...traysOf(bags, [rack]).values()].reduce((n, b) => n + b.length, 0);
        return (
          <svg
            key={letter}
            viewBox={`0 0 ${perRow * (TRAY.w + 4) + 30} ${shelves * 52 + 26}`}
            className="w-full max-h-[300px]"
            role="group"
            aria-label={`Rack ${letter}, ${counted(here, "bag")}`}
          >
            <text x="22" y="14" fontSize="14" fontWeight="700" fill={CHALK}>
              Rack {letter}
            </text>
            <text x={perRow * (TRAY.w + 4) + 26} y="14" fontSize="12" fill={CHALK2} textAnchor="end">
              {here === 0 ? "none of this build" : counted(here, "bag")}
            </text>
            {Array.from({ length: shelves }, (_, i) => shelves - i).map((shelf, row) => {
              const y = 24 + row * 52;
              return (
                <g key={shelf}>
                  <path d={`M20,${y + 46}H${perRow * (TRAY.w + 4) + 26}`} stroke={CHALK2} strokeWidth="2.5" />
                  <text x="6" y={y + 30} fontSize="11" fill={CHALK2}>
                    {shelf}
                  </text>
                  {Array.from({ length: rack.trays }, (_, t) => t + 1).map((n) => {
                    const tray = addressOf(rack, shelf, n);
                    const inside = trays.get(tray);
                    const x = 24 + ((n - 1) % perRow) * (TRAY.w + 4);
                    const top = n > perRow ? y : y + 23;
                    if (!inside)
                      return <path key={n} d={`M${x},${top}h${TRAY.w}l-3,${TRAY.h}h${6 - TRAY.w}Z`} fill={GUIDE3} fillOpacity=".35" />;
                    const picked = tray === open;
                    return (
                      <g
                        key={n}
                        role="button"
                        tabIndex={0}
                        aria-label={`Tray ${tray}, ${counted(inside.length, "bag")}`}
                        aria-pressed={picked}
                        onClick={() => onOpen(tray)}
                        onKeyDown={(e) => (e.key === "Enter" || e.key === " ") && onOpen(tray)}
                      >
                        <path className="edge" d={`M${x},${top}h${TRAY.w}l-3,${TRAY.h}h${6 - TRAY.w}Z`} fill={picked ? CHALK : colour} />
                        <text
                          x={x + TRAY.w / 2}
                          y={top + 14.5}
                          textAnchor="middle"
                          fontSize="12"
                          fontWeight="660"
                          fill={picked ? "#22272A" : inkOn(colour)}
                        >
                          {inside.length > 9 ? "9+" : inside.length}
                        </text>
                      </g>
                    );
                  })}
                </g>
              );
            })}
          </svg>
        );
      })}
    </div>
  );
}

const STATES: [Schemas["BagState"], string][] = [
  ["onShelf", "on shelf"],
  ["atSupplier", "at supplier"],
  ["onCar", "on the car"],
  ["withClient", "with client"],
  ["sold", "sold"],
  ["scrapped", "scrapped"],
  ["notFound", "not found"],
];
export const stateName = (s: Schemas["BagState"]) => STATES.find(([k]) => k === s)?.[1] ?? s;
export const BAG_STATES = STATES.map(([s]) => s);

/** All that came off as one bar: every length is its count, and they add up. */
export function CameOff({ counts, colour }: { counts: Schemas["TeardownCounts"]; colour: string }) {
  const pieces = counts.pieces as Record<Schemas["BagState"], number>;
  const parts = STATES.map(([s, name]) => ({ s, name, n: pieces[s] ?? 0 })).filter((p) => p.n > 0);
  let x = 0;
  return (
    <div>
      <p className="flex items-baseline gap-3 flex-wrap">
        <b className="text-[15px]">{counted(counts.cameOff, "piece")} came off</b>
        <span className="text-chalk2 text-[12.5px]">
          with {counted(counts.fasteners, "fastener")}, {counted(counts.bags, "bag")} on the shelves
          {counts.asPattern > 0 && `, ${counts.asPattern} kept as patterns`}
        </span>
      </p>
      {counts.cameOff > 0 && (
        <svg viewBox="0 0 840 22" className="w-full mt-1" role="img" aria-label={parts.map((p) => `${p.n} ${p.name}`).join(", ")}>
          {parts.map((p) => {
            const w = (840 * p.n) / counts.cameOff;
            const at = x;
            x += w;
            const fill =
              p.s === "onShelf" || p.s === "onCar" ? colour : p.s === "notFound" ? "#EE9270" : p.s === "atSupplier" ? "#7B827F" : GUIDE3;
            return (
              <g key={p.s}>
                <rect x={at} width={Math.max(1.5, w - 1)} height="22" fill={fill} fillOpacity={p.s === "onCar" ? 0.6 : 1} />
                {w > (p.name.length + 5) * 6.2 && (
                  <text x={at + 7} y="15" fontSize="12" fontWeight="640" fill={p.s === "onShelf" ? inkOn(colour) : CHALK}>
                    {p.n} {p.name}
                  </text>
                )}
              </g>
            );
          })}
        </svg>
      )}
      <p className="text-chalk2 text-[12.5px]">{parts.map((p) => `${p.n} ${p.name}`).join(" + ")}</p>
    </div>
  );
}
