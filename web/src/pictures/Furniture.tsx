import type { Schemas } from "../api/client";
import { f } from "../geometry";
import { GUIDE, GUIDE3, P0, P2, P3, P4, seeded } from "../tokens";

type Station = Schemas["StationView"];

/** Walls, doors and what stands in a place: everything of the plan that is not a vehicle. */

export function Gravel() {
  const r = seeded(9);
  return (
    <g fill={P4} fillOpacity=".4">
      {Array.from({ length: 26 }, (_, i) => (
        <circle key={i} cx={f(r() * 46)} cy={f(r() * 46)} r={(0.4 + r() * 0.5).toFixed(2)} />
      ))}
    </g>
  );
}

export function Quay({ y, w }: { y: number; w: number }) {
  const n = Math.floor(w / 13);
  return (
    <g fill="none" aria-hidden="true">
      <path d={`M0,${y - 4}H${w}`} stroke={GUIDE3} strokeWidth="2" />
      <path d={`M0,${y + 2}${Array.from({ length: n }, (_, i) => `q6.5,${i % 2 ? -3 : 3} 13,0`).join("")}`} stroke={P4} />
    </g>
  );
}

export function RollerDoor({ x, y, w }: { x: number; y: number; w: number }) {
  return (
    <g>
      <path d={`M${x},${y}h${w}`} stroke={P0} strokeWidth="8" />
      <path d={`M${x},${y}h${w}`} stroke={GUIDE3} strokeWidth="1.5" strokeDasharray="3 3" />
    </g>
  );
}

export function Room({ x, y, w, d, station, slab }: { x: number; y: number; w: number; d: number; station: Station; slab: number }) {
  const inner = y + d < slab - 2;
  const dy = inner ? y + d : y;
  return (
    <g>
      <path d={`M${x},${y}h${w}v${d}h${-w}Z`} fill="none" stroke={GUIDE} strokeWidth="4" />
      {station.doorHeightMm ? <RollerDoor x={x + w * 0.26} y={dy} w={w * 0.52} /> : inner && <LeafDoor x={x + w * 0.2} y={dy} />}
    </g>
  );
}

function LeafDoor({ x, y }: { x: number; y: number }) {
  return (
    <g>
      <path d={`M${x},${y}h31`} stroke={P0} strokeWidth="6" />
      <path d={`M${x},${y}v31A31 31 0 0 0 ${x + 31},${y}`} fill="none" stroke={P4} />
    </g>
  );
}

/** What belongs to a kind of place, drawn to scale as far as the place goes. */
export function Furniture({ station, px }: { station: Station; px: (mm: number) => number }) {
  const [x, y, w, d] = [px(station.xMm), px(station.yMm), px(station.widthMm), px(station.depthMm)];
  switch (station.kind) {
    case "booth":
      return (
        <g>
          <rect x={x + 16} y={y + 28} width={w - 34} height={d * 0.52} fill="url(#booth-grate)" opacity=".55" />
          <g fill="none" stroke={P3}>
            {Array.from({ length: Math.floor((w - 30) / 30) }, (_, i) => (
              <rect key={i} x={x + 16 + i * 30} y={y + 6} width="28" height="7" />
            ))}
          </g>
        </g>
      );
    case "stores":
      return (
        <g fill="none" stroke={P4}>
          {Array.from({ length: Math.max(1, Math.floor(w / 40)) }, (_, i) => (
            <path key={i} d={`M${x + 16 + i * 38},${y + 10}h15v${d * 0.45}h-15Zm0,${d * 0.11}h15m-15,${d * 0.11}h15m-15,${d * 0.11}h15`} />
          ))}
        </g>
      );
    case "office":
      return (
        <g fill="none" stroke={P4}>
          <rect x={x + w * 0.42} y={y + 32} width={w * 0.36} height="24" />
          <rect x={x + w - 24} y={y + 8} width="18" height={d * 0.5} />
        </g>
      );
    case "mix":
      return (
        <g fill="none" stroke={P4}>
          <rect x={x + 5} y={y + 7} width="14" height={d * 0.5} />
          {Array.from({ length: 7 }, (_, i) => (
            <circle key={i} cx={x + 12} cy={y + 14 + i * 11} r="4.2" />
          ))}
        </g>
      );
    case "jig":
      return (
        <g stroke={P3} fill="none">
          <path d={`M${x + 16},${y + d * 0.23}h${w * 0.69}M${x + 16},${y + d * 0.53}h${w * 0.69}`} strokeWidth="3" />
          {Array.from({ length: 8 }, (_, i) => (
            <path key={i} d={`M${x + 22 + i * w * 0.09},${y + d * 0.15}v${d * 0.46}`} strokeWidth="1.4" />
          ))}
        </g>
      );
    case "lift":
      return (
        <g fill={GUIDE3}>
          {[0.3, 0.56].map((t) => [0.05, 0.56].map((v) => <rect key={`${t}${v}`} x={x + w * t} y={y + d * v} width="11" height="11" />))}
        </g>
      );
    case "bench":
      return <rect x={x + 16} y={y + 12} width={w * 0.74} height={d * 0.24} fill={P2} stroke={P4} />;
    case "engine":
      return (
        <g fill="none" stroke={P4}>
          <circle cx={x + 34} cy={y + 30} r="9" />
          <rect x={x + 60} y={y + 20} width="30" height="22" rx="3" />
          <rect x={x + 16} y={y + d - 46} width={w * 0.76} height="15" />
        </g>
      );
    case "blast":
      return <Media x={x + w * 0.86} y={y + 26} />;
    default:
      return null;
  }
}

function Media({ x, y }: { x: number; y: number }) {
  const r = seeded(31);
  const gauss = () => r() + r() + r() - 1.5;
  return (
    <g fill={P4}>
      {Array.from({ length: 130 }, (_, i) => (
        <circle key={i} cx={f(x + gauss() * 22)} cy={f(y + Math.abs(gauss()) * 18)} r={(0.5 + r() * 0.6).toFixed(2)} />
      ))}
    </g>
  );
}
