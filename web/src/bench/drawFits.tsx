import { f } from "../geometry";
import { CHALK, CHALK2, GUIDE, GUIDE3, OXIDE_LT, P3, P4 } from "../tokens";
import { Dim, Say, ScaleBar } from "./chalk";
import type { DrawingProps } from "./drawVehicles";
import { list, num, nums } from "./figures";

const CORNERS = ["bottom left", "bottom right", "top right", "top left"];

/** An opening as it leans, and square behind it. */
export function OpeningDrawing({ out }: DrawingProps) {
  const TIMES = 8;
  const [wide, high] = [num(out, "widthMm"), num(out, "highMm")];
  const s = Math.min(460 / Math.max(wide, 1), 350 / Math.max(high, 1));
  const lean = Math.max(-90, Math.min(90, num(out, "shearMm") * s * TIMES));
  const [x0, y0] = [380 - (wide * s) / 2, 440];
  const [x1, y1] = [x0 + wide * s, y0 - high * s];
  const wrong = out.consistent === false || out.square === false;
  const corners: [number, number][] = [
    [x0, y0],
    [x1, y0],
    [x1 + lean, y1],
    [x0 + lean, y1],
  ];
  const at = (i: number) => (corners[i] ?? [0, 0]).map(f).join(",");
  return (
    <g>
      <rect
        x={f(x0)}
        y={f(y1)}
        width={f(wide * s)}
        height={f(high * s)}
        fill={GUIDE3}
        fillOpacity=".55"
        stroke={CHALK2}
        strokeDasharray="4 4"
      />
      <path d={`M${at(0)}L${at(1)}L${at(2)}L${at(3)}Z`} fill="none" stroke={wrong ? OXIDE_LT : CHALK} strokeWidth="4" />
      <path d={`M${at(0)}L${at(2)}M${at(1)}L${at(3)}`} stroke={CHALK} strokeWidth="1.4" />
      {corners.map(([x, y], i) => (
        <circle key={CORNERS[i]} cx={f(x)} cy={f(y)} r="5" fill={GUIDE} stroke={CHALK} strokeWidth="1.8" />
      ))}
      <ScaleBar perMm={s} />
    </g>
  );
}

/** A line's gap by station, the limits behind it, and the door with its shim below. */
export function GapDrawing({ out, show }: DrawingProps) {
  const stations = list<{ posMm: number; gapMm: number }>(out, "stations");
  const off = new Set(nums(out, "off"));
  const [target, tolerance] = [num(out, "targetMm"), num(out, "toleranceMm")];
  const most = Math.max(...stations.map((s) => s.gapMm), target + tolerance, 1);
  const [first, last] = [Math.min(...stations.map((s) => s.posMm)), Math.max(...stations.map((s) => s.posMm))];
  const x = (mm: number) => 90 + (last > first ? ((mm - first) / (last - first)) * 580 : 290);
  const y = (mm: number) => 230 - (mm / most) * 110;
  const shim = out.shimMm;
  const door = { x0: 190, x1: 590, y0: 330, y1: 470 };
  const hingeY = (lower: boolean) => (lower ? door.y1 - 28 : door.y0 + 28);
  return (
    <g>
      <rect
        x="70"
        y={f(y(target + tolerance))}
        width="620"
        height={f(y(Math.max(0, target - tolerance)) - y(target + tolerance))}
        fill={GUIDE3}
        fillOpacity=".75"
      />
      <path d={`M70,${f(y(target))}H690`} stroke={CHALK2} strokeDasharray="5 4" />
      <path d="M70,230H690" stroke={P4} strokeWidth="2" />
      <path d={`M${stations.map((s) => `${f(x(s.posMm))},${f(y(s.gapMm))}`).join("L")}`} fill="none" stroke={CHALK} strokeWidth="2" />
      {stations.map((s, i) => (
        <g key={`${i} ${s.posMm}`}>
          <path d={`M${f(x(s.posMm))},230V${f(y(s.gapMm))}`} stroke={off.has(i) ? OXIDE_LT : CHALK2} strokeWidth="3" />
          <circle cx={f(x(s.posMm))} cy={f(y(s.gapMm))} r="4.5" fill={off.has(i) ? OXIDE_LT : CHALK} />
          <Say x={x(s.posMm)} y={y(s.gapMm) - 9} size={13} bold={off.has(i)} colour={off.has(i) ? OXIDE_LT : CHALK}>
            {show(s.gapMm)}
          </Say>
          <Say x={x(s.posMm)} y={248} size={12} colour={CHALK2}>
            {i + 1}
          </Say>
        </g>
      ))}
      <path
        d={`M${door.x0},${door.y0}H${door.x1 - 60}C${door.x1 - 20},${door.y0} ${door.x1},${door.y0 + 20} ${door.x1},${door.y0 + 50}V${door.y1}H${door.x0}Z`}
        fill={P3}
        fillOpacity=".35"
        stroke={CHALK}
        strokeWidth="2"
      />
      {[false, true].map((lower) => (
        <rect key={`${lower}`} x={door.x0 - 14} y={hingeY(lower) - 12} width="20" height="24" fill={P4} stroke={CHALK} />
      ))}
      <Dim from={[door.x0 - 26, hingeY(false)]} to={[door.x0 - 26, hingeY(true)]} />
      <Dim from={[door.x0, door.y1 + 12]} to={[door.x1, door.y1 + 12]} />
      {typeof shim === "number" && typeof out.lower === "boolean" && (
        <g>
          <rect x={door.x0 - 21} y={hingeY(out.lower) - 12} width="7" height="24" fill={OXIDE_LT} />
          <Say x={door.x0 + 14} y={hingeY(out.lower) + 5} anchor="start" size={15} bold>
            shim {shim.toFixed(2)} mm here
          </Say>
        </g>
      )}
    </g>
  );
}

/** Dimensions end to end: what opens the clearance above, what takes it below, and what is left. */
export function ChainDrawing({ out, show }: DrawingProps) {
  const links = list<{ name: string; mm: number; tolMm: number; takes: boolean }>(out, "links");
  const opens = links.filter((l) => !l.takes).reduce((sum, l) => sum + l.mm, 0);
  const takes = links.filter((l) => l.takes).reduce((sum, l) => sum + l.mm, 0);
  const s = 620 / Math.max(opens, takes + num(out, "movementMm"), 1);
  let [a, b] = [70, 70];
  const clear = out.clears === true;
  const bars = links.map((l) => {
    const w = l.mm * s;
    const x = l.takes ? b : a;
    if (l.takes) b += w;
    else a += w;
    return { ...l, x, w, y: l.takes ? 240 : 130 };
  });
  const moved = num(out, "movementMm") * s;
  return (
    <g>
      {bars.map((l, i) => (
        <g key={`${i} ${l.name}`}>
          <rect x={f(l.x)} y={l.y} width={f(Math.max(1, l.w))} height="56" fill={l.takes ? P4 : P3} fillOpacity=".5" stroke={CHALK} />
          {l.tolMm > 0 && (
            <rect x={f(l.x + l.w - l.tolMm * s)} y={l.y} width={f(2 * l.tolMm * s)} height="56" fill={CHALK2} fillOpacity=".5" />
          )}
          <Say x={l.x + l.w / 2} y={l.takes ? l.y + 74 : l.y - 10} size={13}>
            {l.name}
          </Say>
          <Say x={l.x + l.w / 2} y={l.y + 34} size={13} bold>
            {l.w > 60 ? `${l.takes ? "−" : ""}${show(l.mm)}` : ""}
          </Say>
        </g>
      ))}
      {moved > 0 && (
        <g>
          <rect x={f(b)} y="240" width={f(moved)} height="56" fill="none" stroke={CHALK2} strokeDasharray="4 3" />
          <Say x={b + moved / 2} y={228} size={12.5} colour={CHALK2}>
            moves
          </Say>
        </g>
      )}
      <path d={`M${f(a)},186V350M${f(b + moved)},296V350`} stroke={CHALK2} strokeDasharray="3 3" />
      <Dim from={[b + moved, 350]} to={[a, 350]} colour={clear ? CHALK : OXIDE_LT} />
      <Say x={Math.min(690, (a + b + moved) / 2)} y={385} size={22} bold colour={clear ? CHALK : OXIDE_LT}>
        {show(num(out, "leastMm"))}
      </Say>
      <Say x={Math.min(690, (a + b + moved) / 2)} y={403} size={12.5} colour={CHALK2}>
        left at the worst
      </Say>
    </g>
  );
}

/** Tacks along a seam or round a patch, numbered in the order in which they are set. */
export function TacksDrawing({ out }: DrawingProps) {
  const order = nums(out, "order");
  const count = order.length;
  const closed = out.closed === true;
  const place = (i: number): [number, number] => {
    if (!closed) return [70 + (620 * i) / Math.max(1, count - 1), 170];
    // Round a patch with round corners, clockwise from the top left.
    const [w, h, r] = [500, 340, 60];
    const round = 2 * (w - 2 * r) + 2 * (h - 2 * r) + 2 * Math.PI * r;
    let d = (round * i) / count;
    const [x0, y0] = [380 - w / 2, 250 - h / 2];
    const arc = (cx: number, cy: number, from: number): [number, number] => [
      cx + r * Math.cos(from + d / r),
      cy + r * Math.sin(from + d / r),
    ];
    const sides: [number, (d: number) => [number, number]][] = [
      [w - 2 * r, (d) => [x0 + r + d, y0]],
      [(Math.PI * r) / 2, () => arc(x0 + w - r, y0 + r, -Math.PI / 2)],
      [h - 2 * r, (d) => [x0 + w, y0 + r + d]],
      [(Math.PI * r) / 2, () => arc(x0 + w - r, y0 + h - r, 0)],
      [w - 2 * r, (d) => [x0 + w - r - d, y0 + h]],
      [(Math.PI * r) / 2, () => arc(x0 + r, y0 + h - r, Math.PI / 2)],
      [h - 2 * r, (d) => [x0, y0 + h - r - d]],
      [(Math.PI * r) / 2, () => arc(x0 + r, y0 + r, Math.PI)],
    ];
    for (const [long, at] of sides) {
      if (d <= long) return at(d);
      d -= long;
    }
    return [x0 + r, y0];
  };
  const turn = new Map(order.map((tack, i) => [tack, i + 1]));
  const dense = count > 60;
  return (
    <g>
      {closed ? (
        <rect x="130" y="80" width="500" height="340" rx="60" fill={P3} fillOpacity=".22" stroke={CHALK2} strokeWidth="2" />
      ) : (
        <path d="M50,170H710" stroke={CHALK2} strokeWidth="2" />
      )}
      {Array.from({ length: count }, (_, i) => {
        const [x, y] = place(i);
        const n = turn.get(i) ?? 0;
        const [dx, dy] = closed ? [(x - 380) / 250, (y - 250) / 170] : [0, i % 2 ? 1 : -1];
        const away = 18 / (Math.hypot(dx, dy) || 1);
        return (
          <g key={i}>
            <circle cx={f(x)} cy={f(y)} r={n <= 4 ? 7 : 5} fill={n <= 4 ? CHALK : CHALK2} />
            {!dense && (
              <Say x={x + dx * away} y={y + dy * away + 4} size={n <= 4 ? 15 : 12} bold={n <= 4} colour={n <= 4 ? CHALK : CHALK2}>
                {n}
              </Say>
            )}
          </g>
        );
      })}
    </g>
  );
}

/** A flange with its holes, each by how far it lies from one end. */
export function HolesDrawing({ out, show }: DrawingProps) {
  const at = nums(out, "positionsMm");
  const s = 640 / Math.max(num(out, "lengthMm"), 1);
  const every = Math.max(1, Math.ceil(at.length / 14));
  return (
    <g>
      <rect x="60" y="210" width="640" height="70" fill={P3} fillOpacity=".4" stroke={CHALK} strokeWidth="2" />
      <path d="M60,210V190H700V210" fill="none" stroke={P4} strokeWidth="4" />
      {at.map((x, i) => (
        <g key={x}>
          <circle
            cx={f(60 + x * s)}
            cy="245"
            r={f(Math.min(9, Math.max(2.5, ((at[1] ?? 0) - (at[0] ?? 0)) * s * 0.25 || 9)))}
            fill={GUIDE}
            stroke={CHALK}
          />
          {(i % every === 0 || i === at.length - 1) && (
            <Say x={60 + x * s} y={300} size={12.5} turn={40} anchor="start">
              {show(x)}
            </Say>
          )}
        </g>
      ))}
      <Dim from={[60, 364]} to={[700, 364]} />
      <ScaleBar perMm={s} />
    </g>
  );
}
