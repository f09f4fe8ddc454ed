import { useRef } from "react";
import { f, pointAt } from "../geometry";
import { CHALK, CHALK2, GUIDE, GUIDE3, INK, OXIDE_LT, P3, P4, PAPER } from "../tokens";
import { Dim, Say, ScaleBar } from "./chalk";
import { type Figures, num, type Out, textOf } from "./figures";

export type DrawingProps = { out: Out; figures: Figures; show: (mm: number) => string; put: (key: string, value: string) => void };

/** The wheel from behind in its arch, and half of it from the side, on one axle. */
export function WheelDrawing({ out, figures, show, put }: DrawingProps) {
  const group = useRef<SVGGElement>(null);
  const from = useRef<{ x: number; offset: number } | null>(null);
  const d = num(out, "diameterMm");
  const s = 420 / Math.max(d, num(out, "wasDiameterMm"), 1);
  const [hub, axle] = [300, 284];
  const at = (mm: number) => hub + mm * s;
  const half = num(out, "sectionMm") / 2;
  const offset = num(out, "offsetMm");
  const rimHalf = num(out, "rimWidthMm") / 2;
  const [x0, x1] = [at(-half - offset), at(half - offset)];
  const [r0, r1] = [at(-rimHalf - offset), at(rimHalf - offset)];
  const [top, bead] = [axle - (d / 2) * s, axle - (num(out, "rimMm") / 2) * s];
  const lip = at(num(out, "lipAtMm"));
  const spring = at(-num(out, "springAtMm"));
  const arch = axle - num(out, "archAtMm") * s;
  const [tight, close, low] = [out.tight === true, out.close === true, out.low === true];
  const section = (up: 1 | -1) => {
    const [t, b] = up === 1 ? [top, bead] : [2 * axle - top, 2 * axle - bead];
    const e = 12 * up;
    return `M${f(r0)},${f(b)}C${f(x0 - 5)},${f(b - e)} ${f(x0 - 2)},${f(t + 2 * e)} ${f(x0 + 10)},${f(t)}L${f(x1 - 10)},${f(t)}C${f(x1 + 2)},${f(t + 2 * e)} ${f(x1 + 5)},${f(b - e)} ${f(r1)},${f(b)}`;
  };
  // The wheel that is on the car, as a shadow of it.
  const old = { x: at(-num(out, "wasSectionMm") / 2 - num(out, "wasOffsetMm")), r: (num(out, "wasDiameterMm") / 2) * s };
  const [cx, edge] = [744, 484];
  const r = (d / 2) * s;
  const coils = Array.from({ length: 9 }, (_, i) => 150 + i * 15);
  return (
    <g ref={group}>
      <path d={`M40,${axle}H${edge + 20}`} stroke={CHALK2} strokeDasharray="14 4 3 4" />
      <path
        d={`M${f(spring - 62)},${f(axle + 70)}V${f(arch + 60)}C${f(spring - 62)},${f(arch)} ${f(x0 - 40)},${f(arch)} ${f(x0)},${f(arch)}L${f(x1 - 14)},${f(arch)}C${f(lip)},${f(arch)} ${f(lip + 4)},${f(arch + 30)} ${f(lip)},${f(top + 52)}q3,7 7,0C${f(lip + 12)},${f(arch + 10)} ${f(lip + 4)},${f(arch - 40)} ${f(lip + 12)},${f(arch - 60)}`}
        fill="none"
        stroke={P4}
        strokeWidth="4"
      />
      <rect x={f(spring - 20)} y="132" width="9" height="190" fill={GUIDE3} />
      {coils.map((y) => (
        <path key={y} d={`M${f(spring - 30)},${y + 5}L${f(spring - 2)},${y - 2}`} stroke={P4} strokeWidth="6" strokeLinecap="round" />
      ))}
      <g
        className="bench-drag"
        onPointerDown={(e) => {
          const p = pointAt(group.current, e);
          if (!p) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          from.current = { x: p.x, offset };
        }}
        onPointerMove={(e) => {
          const p = from.current && pointAt(group.current, e);
          if (p && from.current) put("offset", String(Math.round(from.current.offset - (p.x - from.current.x) / s)));
        }}
        onPointerUp={() => {
          from.current = null;
        }}
      >
        <path d={`M${f(r0 - 4)},${f(top)}H${f(r1 + 4)}V${f(2 * axle - top)}H${f(r0 - 4)}Z`} fill={GUIDE} fillOpacity="0.01" />
        {([1, -1] as const).map((up) => (
          <g key={up}>
            <path d={section(up)} fill={INK} stroke={CHALK} strokeWidth="3" />
            <path
              d={`M${f(x0 + 12)},${f(axle - (axle - top - 8) * up)}H${f(x1 - 12)}`}
              stroke={P4}
              strokeWidth="12"
              strokeDasharray="2 3"
            />
            <rect
              x={f(old.x)}
              y={f(up === 1 ? axle - old.r : axle + old.r - (axle - bead) * 0.4)}
              width={f(num(out, "wasSectionMm") * s)}
              height={f((axle - bead) * 0.4)}
              rx="8"
              fill="none"
              stroke={CHALK2}
              strokeDasharray="5 5"
            />
            <path
              d={`M${f(r0)},${f(axle - (axle - bead) * up)}h14l10,${f(16 * up)}H${f(r1 - 24)}l10,${f(-16 * up)}h14`}
              fill="none"
              stroke={P3}
              strokeWidth="5"
            />
            <path
              d={`M${f(hub)},${f(axle - 40 * up)}C${f(hub + 22)},${f(axle - 90 * up)} ${f(r1 - 26)},${f(axle - (axle - bead - 40) * up)} ${f(r1 - 22)},${f(axle - (axle - bead - 14) * up)}`}
              fill="none"
              stroke={P3}
              strokeWidth="11"
            />
          </g>
        ))}
        <rect x={f(hub - 34)} y={axle - 42} width="34" height="84" fill={P4} />
        <rect x={f(hub - 48)} y={axle - 96} width="12" height="192" fill={P3} />
      </g>
      <rect x={f(spring - 20)} y={axle - 20} width={f(hub - 34 - spring + 20)} height="40" fill={GUIDE3} />
      <path d={`M${hub},40V${f(2 * axle - top + 26)}`} stroke={CHALK2} strokeDasharray="3 4" />
      <path d={`M${f(Math.min(x1, lip))},${f(top + 60)}H${f(Math.max(x1, lip))}`} stroke={tight ? OXIDE_LT : CHALK} strokeWidth="8" />
      <Say x={Math.max(x1, lip) + 12} y={top + 66} anchor="start" size={22} bold colour={tight ? OXIDE_LT : CHALK}>
        {show(num(out, "lipMm"))}
      </Say>
      <Say x={Math.max(x1, lip) + 12} y={top + 83} anchor="start" size={12.5} colour={CHALK2}>
        to the lip
      </Say>
      <path d={`M${f(Math.min(x0, spring))},${f(top + 36)}H${f(Math.max(x0, spring))}`} stroke={close ? OXIDE_LT : CHALK} strokeWidth="8" />
      <path d={`M${f((x0 + spring) / 2)},${f(top + 34)}L110,62`} stroke={CHALK2} />
      <Say x={104} y={48} size={22} bold colour={close ? OXIDE_LT : CHALK}>
        {show(num(out, "springMm"))}
      </Say>
      <Say x={104} y={64} size={12.5} colour={CHALK2}>
        to the spring
      </Say>
      <Dim from={[hub - 26, arch]} to={[hub - 26, top]} colour={low ? OXIDE_LT : CHALK2} />
      <Say x={hub + 8} y={(arch + top) / 2 - 4} anchor="start" size={13} colour={low ? OXIDE_LT : CHALK}>
        {show(num(out, "aboveMm"))} at bump
      </Say>
      <Dim from={[hub, 2 * axle - top + 18]} to={[x1, 2 * axle - top + 18]} />
      <Dim from={[x0, 2 * axle - top + 18]} to={[hub, 2 * axle - top + 18]} />
      <Say x={(hub + x1) / 2} y={2 * axle - top + 38} size={13}>
        {show(num(out, "outerMm"))}
      </Say>
      <Say x={(hub + x0) / 2} y={2 * axle - top + 38} size={13}>
        {show(num(out, "innerMm"))}
      </Say>
      <g clipPath="inset(0 0 0 0)">
        <path
          d={`M${edge},20H${cx}V${f(axle - num(out, "archAtMm") * s)}A${f(num(out, "archAtMm") * s)} ${f(num(out, "archAtMm") * s)} 0 0 0 ${f(cx - num(out, "archAtMm") * s)},${axle}V${axle + 90}H${edge}Z`}
          fill={PAPER}
          fillOpacity=".72"
        />
        <path d={`M${cx},${f(axle - r)}A${f(r)} ${f(r)} 0 0 0 ${cx},${f(axle + r)}Z`} fill={INK} stroke={CHALK} strokeWidth="2" />
        <path
          d={`M${cx},${f(bead)}A${f(axle - bead)} ${f(axle - bead)} 0 0 0 ${cx},${f(2 * axle - bead)}Z`}
          fill={GUIDE3}
          stroke={P3}
          strokeWidth="4"
        />
        {[100, 140, 180, 220, 260].map((a) => {
          const [c, n] = [Math.cos((a * Math.PI) / 180), Math.sin((a * Math.PI) / 180)];
          const rim = axle - bead - 8;
          return (
            <path
              key={a}
              d={`M${f(cx + 34 * c)},${f(axle + 34 * n)}L${f(cx + rim * c)},${f(axle + rim * n)}`}
              stroke={P3}
              strokeWidth="20"
            />
          );
        })}
        <path d={`M${cx},${axle - 46}A46 46 0 0 0 ${cx},${axle + 46}Z`} fill={P4} />
      </g>
      <OffsetRuler now={offset} from={num(out, "leastOffsetMm")} to={num(out, "mostOffsetMm")} clear={!tight && !close} />
      <ScaleBar perMm={s} />
      <title>{`${textOf(figures, "tyre")}: ${show(num(out, "lipMm"))} to the lip, ${show(num(out, "springMm"))} to the spring`}</title>
    </g>
  );
}

/** Which offsets clear lip and spring, and where this one lies. */
function OffsetRuler({ now, from, to, clear }: { now: number; from: number; to: number; clear: boolean }) {
  const [least, most] = [Math.min(now, from, to) - 6, Math.max(now, from, to) + 6];
  const x = (v: number) => 484 + ((v - least) / Math.max(1e-9, most - least)) * 252;
  return (
    <g className="fine">
      <path d="M484,514H736" stroke={CHALK2} strokeWidth="5" strokeOpacity=".5" />
      {to > from && <path d={`M${f(x(from))},514H${f(x(to))}`} stroke={CHALK} strokeWidth="9" />}
      <path d={`M${f(x(now))},504v20`} stroke={clear ? CHALK : OXIDE_LT} strokeWidth="3" />
      <Say x={x(now)} y={536} size={12.5} colour={clear ? CHALK : OXIDE_LT}>
        offset {now}
      </Say>
      {to > from && Math.abs(x((from + to) / 2) - x(now)) > 75 && (
        <Say x={x((from + to) / 2)} y={536} size={12.5} colour={CHALK2}>
          clears both
        </Say>
      )}
    </g>
  );
}

/** A body on its dolly under a door. */
export function DoorDrawing({ out, show }: DrawingProps) {
  const [body, dolly, margin, door] = ["bodyMm", "dollyMm", "marginMm", "doorMm"].map((k) => num(out, k)) as [
    number,
    number,
    number,
    number,
  ];
  const s = 430 / Math.max(body + dolly + margin, door, 1);
  const floor = 500;
  const y = (mm: number) => floor - mm * s;
  const fits = out.fits === true;
  const [x0, x1] = [210, 550];
  const w = x1 - x0;
  const b = y(dolly);
  const h = body * s;
  return (
    <g>
      <rect x="170" y={f(y(door))} width="420" height={f(door * s)} fill={GUIDE3} fillOpacity=".5" />
      <path d={`M150,${floor}V${f(y(door))}H610V${floor}`} fill="none" stroke={P4} strokeWidth="9" />
      <path d={`M40,${floor}H720`} stroke={CHALK2} strokeWidth="2" />
      <path
        d={`M${x0 + 20},${f(b)}L${x0},${f(b - h * 0.28)}C${x0 + 4},${f(b - h * 0.52)} ${x0 + 30},${f(b - h * 0.56)} ${x0 + 44},${f(b - h * 0.58)}C${x0 + 70},${f(b - h * 0.96)} ${x0 + 100},${f(b - h)} ${x0 + w / 2},${f(b - h)}S${x1 - 70},${f(b - h * 0.96)} ${x1 - 44},${f(b - h * 0.58)}C${x1 - 30},${f(b - h * 0.56)} ${x1 - 4},${f(b - h * 0.52)} ${x1},${f(b - h * 0.28)}L${x1 - 20},${f(b)}Z`}
        fill={P3}
        stroke={CHALK}
        strokeWidth="2"
      />
      <path
        d={`M${x0 + 72},${f(b - h * 0.6)}C${x0 + 92},${f(b - h * 0.88)} ${x0 + 116},${f(b - h * 0.92)} ${x0 + w / 2},${f(b - h * 0.92)}S${x1 - 92},${f(b - h * 0.88)} ${x1 - 72},${f(b - h * 0.6)}Z`}
        fill={GUIDE}
        fillOpacity=".75"
      />
      {dolly > 0 && (
        <g stroke={P4} strokeWidth="8" fill="none">
          <path d={`M${x0 + 40},${f(b + 4)}H${x1 - 40}M${x0 + 60},${f(b + 4)}V${floor - 12}M${x1 - 60},${f(b + 4)}V${floor - 12}`} />
          <circle cx={x0 + 60} cy={floor - 9} r="7" fill={GUIDE} strokeWidth="4" />
          <circle cx={x1 - 60} cy={floor - 9} r="7" fill={GUIDE} strokeWidth="4" />
        </g>
      )}
      <rect
        x={x0}
        y={f(y(body + dolly + margin))}
        width={w}
        height={f(margin * s)}
        fill={fits ? CHALK2 : OXIDE_LT}
        fillOpacity=".28"
        stroke={fits ? CHALK2 : OXIDE_LT}
        strokeDasharray="5 4"
      />
      <Dim from={[70, floor]} to={[70, y(door)]} />
      <Dim from={[680, floor]} to={[680, y(body + dolly + margin)]} colour={fits ? CHALK2 : OXIDE_LT} />
      <Say x={690} y={y(body + dolly + margin) - 10} anchor="end" size={15} bold colour={fits ? CHALK : OXIDE_LT}>
        needs {show(body + dolly + margin)}
      </Say>
      <ScaleBar perMm={s} />
    </g>
  );
}

/** Axles and corners from above, their errors large. */
export function ChassisDrawing({ out, show }: DrawingProps) {
  const TIMES = 20;
  const [left, right, track] = [num(out, "leftMm"), num(out, "rightMm"), num(out, "trackMm")];
  const s = Math.min(330 / Math.max(left, right, 1), 300 / Math.max(track, 1));
  const [cx, front] = [380, 100];
  const half = (track / 2) * s;
  const base = front + Math.min(left, right) * s;
  const limit = (v: number) => Math.max(-40, Math.min(40, v));
  const [dl, dr] = [limit((left - Math.min(left, right)) * s * TIMES), limit((right - Math.min(left, right)) * s * TIMES)];
  const [fo, ro] = [limit(num(out, "frontOffMm") * s * TIMES), limit(num(out, "rearOffMm") * s * TIMES)];
  const bad = out.isLongerOff === true;
  const gap = out.cornerGapMm;
  const high = out.frontLeftHigh;
  const wheel = (x: number, y: number, turn: number, name: string) => (
    <rect
      key={name}
      x={f(x - 11)}
      y={f(y - 30)}
      width="22"
      height="60"
      rx="6"
      fill={INK}
      stroke={CHALK}
      transform={`rotate(${f(turn)} ${f(x)} ${f(y)})`}
    />
  );
  const skew = (Math.atan2(dl - dr, 2 * half) * 180) / Math.PI;
  return (
    <g>
      <path d={`M${cx},30V520`} stroke={CHALK2} strokeDasharray="14 4 3 4" />
      <rect x={f(cx - half)} y={front} width={f(2 * half)} height={f(base - front)} fill="none" stroke={CHALK2} strokeDasharray="4 4" />
      <path d={`M${f(cx - half + fo)},${front}H${f(cx + half + fo)}`} stroke={CHALK} strokeWidth="6" />
      <path
        d={`M${f(cx - half + ro)},${f(base + dl)}L${f(cx + half + ro)},${f(base + dr)}`}
        stroke={bad ? OXIDE_LT : CHALK}
        strokeWidth="6"
      />
      <path
        d={`M${f(cx - half * 0.55)},${front - 20}V${f(base + 30)}M${f(cx + half * 0.55)},${front - 20}V${f(base + 30)}`}
        stroke={P4}
        strokeWidth="12"
        strokeOpacity=".6"
      />
      {wheel(cx - half + fo, front, 0, "fl")}
      {wheel(cx + half + fo, front, 0, "fr")}
      {wheel(cx - half + ro, base + dl, -skew, "rl")}
      {wheel(cx + half + ro, base + dr, -skew, "rr")}
      {typeof gap === "number" && gap > 0 && typeof high === "boolean" && (
        <g>
          <path
            d={high ? `M${f(cx - half)},${front}L${f(cx + half)},${f(base)}` : `M${f(cx + half)},${front}L${f(cx - half)},${f(base)}`}
            stroke={OXIDE_LT}
            strokeDasharray="7 5"
            strokeWidth="2"
          />
          <Say x={cx} y={front + (base - front) * 0.7} size={13} colour={OXIDE_LT}>
            high along this line, {show(gap)} under the fourth corner
          </Say>
        </g>
      )}
      <ScaleBar perMm={s} />
    </g>
  );
}
