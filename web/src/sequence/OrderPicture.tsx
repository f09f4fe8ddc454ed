import type { Schemas } from "../api/client";
import { dateOf, day, days, month } from "../format";
import { layerColour } from "../pictures/Strata";
import { CHALK, CHALK2, contrast, GUIDE, GUIDE3, mix, seeded } from "../tokens";
import { type Axis, axisOf, layOrder, type Order, type Stretch, xOf } from "./orderLayout";
import { GateMark, Stipple, strandPath, water } from "./riverMarks";

const LANE = 36;
const TOP = 34;
const PER_PERSON = 15;
const EDGE = 12;
const MS_A_DAY = 86_400_000;

type Way = { title: string; view: Schemas["WayLook"] };

/** Orders of work one below the other on one axis of days: length is days, thickness is people, so area is hours. */
export function OrderPicture({ ways, paint, width }: { ways: Way[]; paint: string; width: number }) {
  const axis = axisOf(
    ways.map((w) => w.view.works),
    width - 2 * EDGE,
  );
  if (!axis) return <p className="text-chalk2 py-4">Nothing of it has a date.</p>;
  let y = TOP;
  const rows = ways.map((w) => {
    const order = layOrder(w.view.works, axis);
    const row = { ...w, order, title: w.title, top: y, middle: y + 58 + order.above * LANE };
    y = row.middle + 34 + order.below * LANE;
    return row;
  });
  const ends = rows.map((r) => Math.max(...r.order.stretches.map((s) => s.x2)));
  const last = ends.length === 2 ? ends : null;
  return (
    <svg width={width} height={y + 24} viewBox={`0 0 ${width} ${y + 24}`} role="img" aria-label={rows.map(told).join(" ")}>
      <g transform={`translate(${EDGE},0)`}>
        <Months axis={axis} height={y} />
        {rows.map((r) => (
          <Row key={r.title} order={r.order} title={r.title} top={r.top} middle={r.middle} paint={paint} width={axis.width} />
        ))}
        {last && <Difference ends={last as [number, number]} from={rows[0]?.middle ?? 0} y={y} view={ways as [Way, Way]} />}
      </g>
    </svg>
  );
}

const told = (r: Way) =>
  `${r.title}: ${r.view.works.filter((o) => o.doneAt === null).length} operations to come${r.view.finish ? `, planned to be finished ${day(dateOf(r.view.finish))}` : ""}.`;

/** The year with the month in which it begins. */
const monthAt = (t: number) => {
  const date = new Date(t).toISOString().slice(0, 10);
  return date.slice(5, 7) === "01" ? `${month(date)} ${date.slice(0, 4)}` : month(date);
};

function Months({ axis, height }: { axis: Axis; height: number }) {
  const first = new Date(axis.from);
  const all = Array.from({ length: 60 }, (_, i) => Date.UTC(first.getUTCFullYear(), first.getUTCMonth() + 1 + i, 1)).filter(
    (t) => t < axis.to,
  );
  const step = Math.max(1, Math.ceil(all.length / Math.max(1, Math.floor(axis.width / 62))));
  return all.map((t, i) => (
    <g key={t}>
      <path d={`M${xOf(axis, t)},26V${height}`} stroke={GUIDE3} strokeWidth={1} />
      {i % step === 0 && (
        <text x={xOf(axis, t)} y={18} textAnchor="middle" fontSize={11} fill={CHALK2}>
          {monthAt(t)}
        </text>
      )}
    </g>
  ));
}

function Row({
  order,
  title,
  top,
  middle,
  paint,
  width,
}: {
  order: Order;
  title: string;
  top: number;
  middle: number;
  paint: string;
  width: number;
}) {
  const yOf = (lane: number) => middle + lane * LANE;
  return (
    <g>
      {top > TOP && <path d={`M0,${top - 2}H${width}`} stroke={CHALK2} strokeWidth={1} strokeDasharray="3,3" />}
      <text x={0} y={top + 14} fontSize={12} fontWeight={640} fill={CHALK}>
        {title}
      </text>
      {order.threads.map(({ from, to, late }) => (
        <path
          key={from.work.id + to.work.id}
          d={strandPath(from.x2, yOf(from.lane), Math.max(to.x1, from.x2), yOf(to.lane), late)}
          fill="none"
          stroke={CHALK2}
          strokeWidth={1}
        />
      ))}
      {order.stretches.map((s) => (
        <Work key={s.work.id} s={s} y={yOf(s.lane)} paint={paint} />
      ))}
      {order.names.map((n) => (
        <text
          key={`${n.text} ${n.lane} ${n.x}`}
          x={n.x}
          y={yOf(n.lane) - 22}
          fontSize={11}
          fill={CHALK}
          stroke={GUIDE}
          strokeWidth={3}
          paintOrder="stroke"
        >
          {n.text}
        </text>
      ))}
    </g>
  );
}

function Work({ s, y, paint }: { s: Stretch; y: number; paint: string }) {
  const own = layerColour(s.work.stage, paint);
  const colour = contrast(own, GUIDE) < 1.8 ? mix(own, "#FFFFFF", 0.25) : own;
  const seed = s.work.position;
  if (s.work.kind === "gate") return <GateMark x={s.x1} y={y} g={9} state="locked" s={0.55} />;
  if (s.work.kind === "cure") return <Stipple x1={s.x1} x2={s.x2} y={y} seed={seed} colour={mix(colour, CHALK, 0.3)} />;
  if (s.work.kind === "outside") return <path d={`M${s.x1},${y}H${s.x2}`} stroke={colour} strokeWidth={3.5} />;
  const h = Math.min(3, s.work.people) * PER_PERSON;
  const edge = h * (0.55 + 0.2 * seeded(seed)());
  return <path d={water(s.x1, s.x2, y, h, edge, edge, 0.3, seed)} fill={colour} />;
}

/** By how many days the second ends later than the first, or sooner. */
function Difference({ ends, from, y, view }: { ends: [number, number]; from: number; y: number; view: [Way, Way] }) {
  const [a, b] = view.map((w) => w.view.finish);
  if (!a || !b) return null;
  const n = Math.round(((Date.parse(b) - Date.parse(a)) / MS_A_DAY) * 10) / 10;
  const [x1, x2] = [Math.min(...ends), Math.max(...ends)];
  return (
    <g>
      <path d={`M${ends[0]},${from}V${y + 2}M${ends[1]},${y - 60}V${y + 2}`} stroke={CHALK} strokeDasharray="1.5,3" fill="none" />
      <path d={`M${x1},${y + 4}H${Math.max(x2, x1 + 1)}`} stroke={CHALK} strokeWidth={3} />
      <text x={x2} y={y + 20} textAnchor="end" fontSize={12} fontWeight={640} fill={CHALK}>
        {n === 0 ? "the same day" : `${days(Math.abs(n))} ${Math.abs(n) === 1 ? "day" : "days"} ${n > 0 ? "later" : "sooner"}`}
      </text>
    </g>
  );
}
