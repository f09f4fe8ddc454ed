import { type PointerEvent, useEffect, useRef, useState } from "react";
import { api, ask, newId, Problem, type Schemas } from "../api/client";
import { STATIONS, size } from "../format";
import { DoorMark } from "../pictures/DoorMark";
import { GUIDE, INK, INK2, OXIDE, P0, P2, P3, P4 } from "../tokens";
import { CheckField, ChoiceField, LengthField, NumberField, TextField } from "../ui/Field";
import { useLatest } from "../ui/useLatest";
import { useSend } from "../ui/useSend";
import {
  between,
  doorAt,
  freeSpot,
  LEAST,
  lengthOf,
  moved,
  nextName,
  type Point,
  type Spot,
  STEP,
  sized,
  snap,
  wallBetween,
} from "./planDrawing";

type Shop = Schemas["ShopView"];
type Station = Schemas["StationView"];
type Tool = "place" | "wall" | "door";
type Chosen = { what: "place"; id: string } | { what: "wall" | "door"; index: number } | null;
type Drag =
  | { what: "new"; from: Point; to: Point }
  | { what: "move" | "size"; id: string; side: string; from: Point; was: Spot; now: Spot }
  | null;

const SIDES = ["nw", "n", "ne", "e", "se", "s", "sw", "w"];
/** A usual coupe, to see whether a place is large enough. */
const COUPE = { long: 4700, wide: 1700 };
const PLACE = { widthMm: 6500, depthMm: 4500 };

const spotOf = (s: Station): Spot => ({ xMm: s.xMm, yMm: s.yMm, widthMm: s.widthMm, depthMm: s.depthMm });

const bodyOf = (s: Station, to: Partial<Schemas["StationBody"]> = {}): Schemas["StationBody"] => ({
  copies: 1,
  name: s.name,
  kind: s.kind,
  count: s.count,
  xMm: s.xMm,
  yMm: s.yMm,
  widthMm: s.widthMm,
  depthMm: s.depthMm,
  doorHeightMm: s.doorHeightMm,
  walled: s.walled,
  version: s.version,
  ...to,
});

/** Places, walls and doors drawn with pointer or keys on the shop's ground, to scale; each change is kept at once and can be undone. */
export function DrawPlan({ shop }: { shop: Shop }) {
  const plan = { w: shop.settings.planWidthMm, d: shop.settings.planDepthMm };
  const [tool, setTool] = useState<Tool>("place");
  const [chosen, setChosen] = useState<Chosen>(null);
  const { drawn: drag, latest: dragLatest, set: setDrag } = useLatest<Drag>(null);
  const [undo, setUndo] = useState<(() => Promise<unknown>)[]>([]);
  const svg = useRef<SVGSVGElement>(null);
  const change = useSend((a: { doIt: () => Promise<unknown>; back: () => Promise<unknown> }) => a.doIt(), {
    quiet: true,
    onDone: (_, a) => setUndo((u) => [...u.slice(-29), a.back]),
  });
  const takeBack = useSend((back: () => Promise<unknown>) => back(), { onDone: () => setUndo((u) => u.slice(0, -1)) });

  const put = (id: string, body: Schemas["StationBody"]) => ask(api.PUT("/api/shop/stations/{id}", { params: { path: { id } }, body }));
  const remove = (id: string) => ask(api.DELETE("/api/shop/stations/{id}", { params: { path: { id } } }));
  const setLayout = (layout: Schemas["ShopLayout"], to = plan) =>
    ask(api.PUT("/api/shop/layout", { body: { layout, planWidthMm: to.w, planDepthMm: to.d, version: null } }));
  const place = (s: Station, to: Partial<Schemas["StationBody"]>) =>
    change.mutate({ doIt: () => put(s.id, bodyOf(s, to)), back: () => put(s.id, bodyOf(s, { version: null })) });
  const add = (spot: Spot) => {
    const id = newId();
    const name = nextName(
      "bay",
      shop.stations.map((s) => s.name),
    );
    const body = { ...spot, copies: 1, name, kind: "bay" as const, count: 1, doorHeightMm: null, walled: false, version: null };
    change.mutate(
      { doIt: () => put(id, body), back: () => remove(id) },
      {
        onSuccess: () => setChosen({ what: "place", id }),
      },
    );
  };
  const takeOff = (s: Station) => {
    change.mutate(
      { doIt: () => remove(s.id), back: () => put(newId(), bodyOf(s, { version: null })) },
      { onSuccess: () => setChosen(null) },
    );
  };
  const layout = (to: Schemas["ShopLayout"]) => change.mutate({ doIt: () => setLayout(to), back: () => setLayout(shop.layout) });

  const at = (e: PointerEvent): Point => {
    const onScreen = svg.current?.getScreenCTM?.();
    return onScreen ? new DOMPoint(e.clientX, e.clientY).matrixTransform(onScreen.inverse()) : { x: e.clientX, y: e.clientY };
  };
  const begin = (e: PointerEvent) => {
    const p = at(e);
    setChosen(null);
    if (tool === "door") {
      const door = doorAt(p, shop.layout.walls ?? [], plan);
      if (door) layout({ ...shop.layout, doors: [...(shop.layout.doors ?? []), door] });
      return;
    }
    svg.current?.setPointerCapture?.(e.pointerId);
    setDrag({ what: "new", from: p, to: p });
  };
  const take = (e: PointerEvent, s: Station, side: string) => {
    e.stopPropagation();
    setChosen({ what: "place", id: s.id });
    svg.current?.setPointerCapture?.(e.pointerId);
    setDrag({ what: side ? "size" : "move", id: s.id, side, from: at(e), was: spotOf(s), now: spotOf(s) });
  };
  const go = (e: PointerEvent) => {
    const d = dragLatest.current;
    if (!d) return;
    const p = at(e);
    if (d.what === "new") setDrag({ ...d, to: p });
    else
      setDrag({
        ...d,
        now: d.what === "move" ? moved(d.was, p.x - d.from.x, p.y - d.from.y, plan) : sized(d.was, d.side, p, plan),
      });
  };
  const end = (e: PointerEvent) => {
    go(e);
    const d = dragLatest.current;
    setDrag(null);
    if (!d) return;
    if (d.what === "new") {
      if (tool === "wall") {
        const wall = wallBetween(d.from, d.to, plan);
        if (lengthOf(wall) >= 300) layout({ ...shop.layout, walls: [...(shop.layout.walls ?? []), wall] });
        return;
      }
      const spot = between(d.from, d.to, plan);
      if (spot.widthMm >= LEAST && spot.depthMm >= LEAST) add(spot);
      return;
    }
    const s = shop.stations.find((x) => x.id === d.id);
    if (s && JSON.stringify(d.now) !== JSON.stringify(d.was)) place(s, d.now);
  };
  const picked = chosen?.what === "place" ? shop.stations.find((s) => s.id === chosen.id) : undefined;
  const keys = (e: React.KeyboardEvent, s: Station) => {
    const by = e.shiftKey ? 1000 : STEP;
    const way: Record<string, [number, number]> = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] };
    const to = way[e.key];
    if (to) {
      e.preventDefault();
      place(s, moved(spotOf(s), to[0], to[1], plan));
    } else if (e.key === "Delete") takeOff(s);
    else if (e.key === "Enter" || e.key === " ") {
      e.preventDefault();
      setChosen({ what: "place", id: s.id });
    }
  };
  const shownSpot = (s: Station) => (drag && drag.what !== "new" && drag.id === s.id ? drag.now : spotOf(s));
  const free = freeSpot(PLACE, shop.stations.map(spotOf), plan);
  /** Millimetres of the plan that are about a pixel of the screen. */
  const u = Math.max(plan.w / 860, plan.d / 480);
  const tools: [Tool, string][] = [
    ["place", "Place"],
    ["wall", "Wall"],
    ["door", "Door"],
  ];
  return (
    <div>
      <p className="text-ink2 mb-2">
        {size(plan.w, plan.d)}. Drag to draw, corners to size, or type a length; a place takes one vehicle unless you say more.
      </p>
      <svg
        ref={svg}
        className="block w-full max-h-[62vh] touch-none select-none"
        preserveAspectRatio="xMinYMin meet"
        viewBox={`${-4 * u} ${-20 * u} ${plan.w + 60 * u} ${plan.d + 26 * u}`}
        role="group"
        aria-label={`Plan of the shop, ${shop.stations.length} places`}
        onPointerMove={go}
        onPointerUp={end}
        onPointerCancel={() => setDrag(null)}
      >
        <rect width={plan.w} height={plan.d} fill={P0} onPointerDown={begin} style={{ cursor: "crosshair" }} />
        <g stroke={P2} strokeWidth="20" pointerEvents="none">
          {Array.from({ length: Math.floor(plan.w / 1000) }, (_, i) => (
            <path key={`x${i}`} d={`M${(i + 1) * 1000},0V${plan.d}`} strokeOpacity={(i + 1) % 5 === 0 ? 1 : 0.45} />
          ))}
          {Array.from({ length: Math.floor(plan.d / 1000) }, (_, i) => (
            <path key={`y${i}`} d={`M0,${(i + 1) * 1000}H${plan.w}`} strokeOpacity={(i + 1) % 5 === 0 ? 1 : 0.45} />
          ))}
        </g>
        <rect width={plan.w} height={plan.d} fill="none" stroke={GUIDE} strokeWidth="160" pointerEvents="none" />
        {shop.stations.map((s) => (
          <DrawnPlace
            key={s.id}
            station={s}
            spot={shownSpot(s)}
            chosen={picked?.id === s.id}
            u={u}
            takesVehicles={shop.vehiclePlaces.includes(s.kind)}
            onTake={(e, side) => take(e, s, side)}
            onKey={(e) => keys(e, s)}
          />
        ))}
        {(shop.layout.walls ?? []).map((w, i) => (
          <path
            key={`${w.fromXMm},${w.fromYMm},${w.toXMm},${w.toYMm}`}
            d={`M${w.fromXMm},${w.fromYMm}L${w.toXMm},${w.toYMm}`}
            stroke={chosen?.what === "wall" && chosen.index === i ? OXIDE : GUIDE}
            strokeWidth="160"
            role="button"
            tabIndex={0}
            aria-label={`Wall ${i + 1}, ${size(Math.round(lengthOf(w)))}`}
            style={{ cursor: "pointer" }}
            onPointerDown={(e) => {
              e.stopPropagation();
              setChosen({ what: "wall", index: i });
            }}
            onKeyDown={(e) => (e.key === "Enter" || e.key === " ") && setChosen({ what: "wall", index: i })}
          />
        ))}
        {(shop.layout.doors ?? []).map((d, i) => (
          <g
            key={`${d.xMm},${d.yMm},${d.along}`}
            role="button"
            tabIndex={0}
            aria-label={`Door ${i + 1}, ${size(d.widthMm)} wide, ${size(d.heightMm)} high`}
            style={{ cursor: "pointer" }}
            onPointerDown={(e) => {
              e.stopPropagation();
              setChosen({ what: "door", index: i });
            }}
            onKeyDown={(e) => (e.key === "Enter" || e.key === " ") && setChosen({ what: "door", index: i })}
          >
            <DoorMark door={d} stroke={chosen?.what === "door" && chosen.index === i ? OXIDE : GUIDE} />
          </g>
        ))}
        {drag?.what === "new" && tool === "place" && <NewSpot spot={between(drag.from, drag.to, plan)} u={u} />}
        {drag?.what === "new" && tool === "wall" && <NewWall wall={wallBetween(drag.from, drag.to, plan)} u={u} />}
      </svg>
      <div className="flex flex-wrap gap-2 mt-3" role="toolbar" aria-label="Drawing">
        {tools.map(([t, name]) => (
          <button
            key={t}
            type="button"
            className={`btn ${tool === t ? "btn-ink" : ""}`}
            aria-pressed={tool === t}
            onClick={() => setTool(t)}
          >
            {name}
          </button>
        ))}
        <button type="button" className="btn" disabled={!free || change.isPending} onClick={() => free && add(free)}>
          Add a place of {size(PLACE.widthMm, PLACE.depthMm)}
        </button>
        <button
          type="button"
          className="btn"
          disabled={undo.length === 0 || takeBack.isPending}
          onClick={() => {
            const back = undo.at(-1);
            if (back) takeBack.mutate(back);
          }}
        >
          Undo
        </button>
      </div>
      {change.error && (
        <p className="wrong mt-2" role="alert">
          {change.error instanceof Problem ? change.error.message : "That was not kept."}
        </p>
      )}
      {picked && (
        <PlaceForm
          key={`${picked.id}${picked.version}`}
          station={picked}
          problem={change.error}
          onSave={(to) => place(picked, to)}
          onDelete={() => takeOff(picked)}
          busy={change.isPending}
        />
      )}
      {chosen && chosen.what !== "place" && <LineForm shop={shop} chosen={chosen} onChange={layout} onGone={() => setChosen(null)} />}
      <GroundForm
        key={`${plan.w},${plan.d}`}
        plan={plan}
        onSave={(to) => change.mutate({ doIt: () => setLayout(shop.layout, to), back: () => setLayout(shop.layout, plan) })}
      />
    </div>
  );
}

function DrawnPlace({
  station: s,
  spot,
  chosen,
  u,
  takesVehicles,
  onTake,
  onKey,
}: {
  station: Station;
  spot: Spot;
  chosen: boolean;
  u: number;
  takesVehicles: boolean;
  onTake: (e: PointerEvent, side: string) => void;
  onKey: (e: React.KeyboardEvent) => void;
}) {
  const { xMm: x, yMm: y, widthMm: w, depthMm: d } = spot;
  const lies = w >= d;
  const [long, wide] = lies ? [COUPE.long, COUPE.wide] : [COUPE.wide, COUPE.long];
  const fits = w >= long && d >= wide;
  const corner = (side: string): Point => ({
    x: x + (side.includes("w") ? 0 : side.includes("e") ? w : w / 2),
    y: y + (side.includes("n") ? 0 : side.includes("s") ? d : d / 2),
  });
  return (
    <g>
      <g
        role="button"
        tabIndex={0}
        aria-pressed={chosen}
        aria-label={`${s.name}, ${s.kind}, ${size(w)} by ${size(d)}`}
        onPointerDown={(e) => onTake(e, "")}
        onKeyDown={onKey}
        style={{ cursor: "move" }}
      >
        <rect
          x={x}
          y={y}
          width={w}
          height={d}
          fill={chosen ? P2 : P0}
          fillOpacity={chosen ? 0.6 : 0.01}
          stroke={chosen ? INK : s.walled ? GUIDE : P4}
          strokeWidth={s.walled ? 110 : 50}
          strokeDasharray={s.walled || chosen ? undefined : "400 200"}
        />
        <text x={x + 7 * u} y={y + 17 * u} fontSize={13.5 * u} fontWeight="650" fill={INK}>
          {s.name}
        </text>
        {chosen && takesVehicles && (
          <text x={x + 7 * u} y={y + 33 * u} fontSize={12 * u} fill={INK2}>
            takes {s.count === 1 ? "1 vehicle" : `${s.count} vehicles`}
          </text>
        )}
        {chosen && takesVehicles && (
          <>
            <rect
              x={x + w / 2 - long / 2}
              y={y + d / 2 - wide / 2}
              width={long}
              height={wide}
              rx="700"
              fill="none"
              stroke={fits ? P4 : OXIDE}
              strokeWidth="40"
              strokeDasharray="160 120"
            />
            {lies && d > 2600 && (
              <text x={x + w / 2} y={y + d / 2 + 4 * u} fontSize={12 * u} textAnchor="middle" fill={fits ? INK2 : OXIDE}>
                a {size(COUPE.long)} coupe{fits ? ", for size" : " does not fit"}
              </text>
            )}
          </>
        )}
      </g>
      {chosen && (
        <>
          <text x={x + w / 2} y={y - 9 * u} fontSize={12.5 * u} fontWeight="650" textAnchor="middle" fill={INK} pointerEvents="none">
            {size(w)}
          </text>
          <text x={x + w + 9 * u} y={y + d / 2 + 4 * u} fontSize={12.5 * u} fontWeight="650" fill={INK} pointerEvents="none">
            {size(d)}
          </text>
          {SIDES.map((side) => {
            const p = corner(side);
            return (
              <rect
                key={side}
                x={p.x - 5 * u}
                y={p.y - 5 * u}
                width={10 * u}
                height={10 * u}
                fill={P0}
                stroke={INK}
                strokeWidth={1.6 * u}
                style={{ cursor: `${side}-resize` }}
                onPointerDown={(e) => onTake(e, side)}
              />
            );
          })}
        </>
      )}
    </g>
  );
}

function NewSpot({ spot: s, u }: { spot: Spot; u: number }) {
  return (
    <g pointerEvents="none">
      <rect x={s.xMm} y={s.yMm} width={s.widthMm} height={s.depthMm} fill={P3} fillOpacity=".4" stroke={INK} strokeWidth="50" />
      <text x={s.xMm + s.widthMm / 2} y={s.yMm - 200} fontSize={12.5 * u} fontWeight="650" textAnchor="middle" fill={INK}>
        {size(s.widthMm)} by {size(s.depthMm)}
      </text>
    </g>
  );
}

function NewWall({ wall: w, u }: { wall: Schemas["PlanWall"]; u: number }) {
  return (
    <g pointerEvents="none">
      <path d={`M${w.fromXMm},${w.fromYMm}L${w.toXMm},${w.toYMm}`} stroke={INK} strokeWidth="160" />
      <text x={w.toXMm + 200} y={w.toYMm - 200} fontSize={12.5 * u} fontWeight="650" fill={INK}>
        {size(Math.round(lengthOf(w)))}
      </text>
    </g>
  );
}

function PlaceForm({
  station: s,
  problem,
  onSave,
  onDelete,
  busy,
}: {
  station: Station;
  problem: unknown;
  onSave: (to: Partial<Schemas["StationBody"]>) => void;
  onDelete: () => void;
  busy: boolean;
}) {
  const [f, setF] = useState({
    name: s.name,
    kind: s.kind,
    count: s.count,
    widthMm: s.widthMm,
    depthMm: s.depthMm,
    walled: s.walled,
    doorHeightMm: s.doorHeightMm,
  });
  const first = useRef<HTMLFormElement>(null);
  useEffect(() => first.current?.querySelector("input")?.select(), []);
  return (
    <form
      ref={first}
      className="grid grid-cols-6 max-[700px]:grid-cols-2 gap-3 items-end mt-3 border-t border-p3 pt-3"
      aria-label={`Place ${s.name}`}
      onSubmit={(e) => {
        e.preventDefault();
        onSave(f);
      }}
    >
      <TextField label="Name" name="name" value={f.name} onChange={(name) => setF({ ...f, name })} problem={problem} autoFocus />
      <ChoiceField
        label="Kind"
        value={f.kind}
        onChange={(kind) => setF({ ...f, kind, walled: ["booth", "mix", "blast", "stores", "office", "engine"].includes(kind) })}
        options={STATIONS.map((k) => [k, k] as const)}
      />
      <LengthField label="Width" name="widthMm" value={f.widthMm} onChange={(v) => setF({ ...f, widthMm: v ?? 0 })} problem={problem} />
      <LengthField label="Depth" name="depthMm" value={f.depthMm} onChange={(v) => setF({ ...f, depthMm: v ?? 0 })} problem={problem} />
      <NumberField label="Takes at once" name="count" value={f.count} onChange={(v) => setF({ ...f, count: v ?? 1 })} problem={problem} />
      <LengthField
        label="Door height"
        name="doorHeightMm"
        value={f.doorHeightMm}
        onChange={(v) => setF({ ...f, doorHeightMm: v })}
        problem={problem}
      />
      <div className="col-span-full flex flex-wrap gap-3 items-center">
        <button type="submit" className="btn btn-ink" disabled={busy}>
          Save the place
        </button>
        <CheckField label="Walls round it" value={f.walled} onChange={(walled) => setF({ ...f, walled })} />
        <button type="button" className="btn" disabled={busy} onClick={onDelete}>
          Delete
        </button>
        <span className="text-ink2">Arrow keys move it on the plan, with Shift by a metre.</span>
      </div>
    </form>
  );
}

/** A wall or a door that was chosen. */
function LineForm({
  shop,
  chosen,
  onChange,
  onGone,
}: {
  shop: Shop;
  chosen: { what: "wall" | "door"; index: number };
  onChange: (to: Schemas["ShopLayout"]) => void;
  onGone: () => void;
}) {
  const [walls, doors] = [shop.layout.walls ?? [], shop.layout.doors ?? []];
  const door = chosen.what === "door" ? doors[chosen.index] : undefined;
  const gone = () => {
    onChange(
      chosen.what === "wall"
        ? { walls: walls.filter((_, i) => i !== chosen.index), doors }
        : { walls, doors: doors.filter((_, i) => i !== chosen.index) },
    );
    onGone();
  };
  const wide = (to: Partial<Schemas["PlanDoor"]>) =>
    onChange({ walls, doors: doors.map((d, i) => (i === chosen.index ? { ...d, ...to } : d)) });
  return (
    <div className="flex flex-wrap gap-3 items-end mt-3 border-t border-p3 pt-3">
      {door && (
        <>
          <LengthField label="Door, wide" value={door.widthMm} onChange={(v) => v && v >= 300 && wide({ widthMm: snap(v) })} />
          <LengthField label="high" value={door.heightMm} onChange={(v) => v && v >= 500 && wide({ heightMm: snap(v) })} />
        </>
      )}
      <button type="button" className="btn" onClick={gone}>
        Delete the {chosen.what}
      </button>
    </div>
  );
}

/** How large the ground is. */
function GroundForm({ plan, onSave }: { plan: { w: number; d: number }; onSave: (to: { w: number; d: number }) => void }) {
  const [to, setTo] = useState(plan);
  const same = to.w === plan.w && to.d === plan.d;
  return (
    <form
      className="flex flex-wrap gap-3 items-end mt-4"
      aria-label="The ground"
      onSubmit={(e) => {
        e.preventDefault();
        onSave(to);
      }}
    >
      <LengthField label="The ground, wide" value={to.w} onChange={(v) => setTo({ ...to, w: v ?? 0 })} />
      <LengthField label="deep" value={to.d} onChange={(v) => setTo({ ...to, d: v ?? 0 })} />
      <button type="submit" className="btn" disabled={same}>
        Save the size
      </button>
    </form>
  );
}
