import { f } from "../geometry";
import { CHALK, CHALK2, GUIDE, GUIDE3, OXIDE_LT } from "../tokens";
import { type Datum, lastRoundOf, type Point, pointName, roundOf } from "./datumWords";

/** A millimetre off is drawn so many pixels long. */
const OFF_PX = 5;

type View = { name: string; up: (p: Point) => number; offUp: (o: { y: number; z: number }) => number };

/** The points of the sheet from above and from the side on one scale, each with the way it is off, many times as long as it is. */
export function DatumPicture({
  of: d,
  width,
  chosen,
  onPick,
}: {
  of: Datum;
  width: number;
  chosen: string | null;
  onPick: (key: string) => void;
}) {
  const xs = d.points.map((p) => p.at.x);
  const [x0, x1] = [Math.min(...xs), Math.max(...xs)];
  const ys = d.points.map((p) => p.at.y);
  const zs = d.points.map((p) => p.at.z);
  const wide = Math.max(...ys) - Math.min(...ys) || 1;
  const high = Math.max(...zs) - Math.min(...zs) || 1;
  const px = Math.min((width - 130) / (x1 - x0 || 1), 300 / wide, 190 / high);
  const ox = (width - (x1 - x0) * px) / 2;
  const X = ox - x0 * px;
  const planY = 70 + Math.max(...ys) * px;
  const sideY = 70 + wide * px + 90 + Math.max(...zs) * px;
  const height = sideY - Math.min(...zs) * px + 84;
  const views: View[] = [
    { name: "plan", up: (p) => planY - p.at.y * px, offUp: (o) => -o.y },
    { name: "side", up: (p) => sideY - p.at.z * px, offUp: (o) => -o.z },
  ];
  const pairs = d.points
    .filter((p) => p.typed.side === "left")
    .flatMap((a) => d.points.filter((b) => b.typed.side === "right" && b.typed.letter === a.typed.letter).map((b) => [a, b] as const));
  const round = lastRoundOf(d);
  const metres = Array.from({ length: Math.floor(x1 / 1000) - Math.ceil(x0 / 1000) + 1 }, (_, i) => Math.ceil(x0 / 1000) + i);
  return (
    <svg
      className="on-guide block w-full"
      viewBox={`0 0 ${width} ${f(height)}`}
      role="group"
      aria-label="The shell on its points, from above and from the side"
    >
      <text x="16" y="24" fontSize="15" fontWeight="680" fill={CHALK}>
        The shell on its points
      </text>
      <text x="16" y="42" fontSize="12.5" fill={CHALK2}>
        1 mm off is drawn {OFF_PX} px long; the ring is the {d.toleranceMm} mm allowed; from above, left side up
      </text>
      <path d={`M20,${f(planY)}H${width - 20}`} stroke={CHALK2} strokeDasharray="10 4 2 4" />
      {metres.map((m) => (
        <g key={m}>
          <path d={`M${f(X + m * 1000 * px)},58V${f(height - 30)}`} stroke={GUIDE3} strokeDasharray="2 5" />
          <text x={f(X + m * 1000 * px)} y={height - 12} textAnchor="middle" fontSize="12" fill={CHALK2}>
            {m} m
          </text>
        </g>
      ))}
      <Rails points={d.points} at={(p) => [X + p.at.x * px, planY - p.at.y * px]} />
      <g stroke={GUIDE3}>
        {d.points.map((p) => (
          <path key={p.key} d={`M${f(X + p.at.x * px)},${f(sideY - p.at.z * px)}V${f(height - 34)}`} />
        ))}
        <path d={`M20,${f(height - 34)}H${width - 20}`} strokeWidth="3" />
      </g>
      <Rails points={d.points} at={(p) => [X + p.at.x * px, sideY - p.at.z * px]} />
      <text x="16" y={f(sideY - Math.max(...zs) * px - 34)} fontSize="12.5" fill={CHALK2}>
        from the side, both sides on one another
      </text>
      {pairs.map(([a, b]) => (
        <path
          key={a.key}
          d={`M${f(X + a.at.x * px)},${f(planY - a.at.y * px)}L${f(X + b.at.x * px)},${f(planY - b.at.y * px)}`}
          stroke={GUIDE3}
        />
      ))}
      {views.map((v) => (
        <g key={v.name}>
          {d.points.map((p) => {
            const r = roundOf(p, round);
            const before = roundOf(p, "beforeCut");
            const bent = r?.isBent ?? false;
            const picked = chosen === p.key;
            const [cx, cy] = [X + p.at.x * px, v.up(p)];
            const ring = Math.max(6, d.toleranceMm * OFF_PX);
            const arrow = (o: { x: number; y: number; z: number }) => [o.x * OFF_PX, v.offUp(o) * OFF_PX] as const;
            const tip = r?.off ? arrow(r.off) : null;
            const was = r !== before && before?.off ? arrow(before.off) : null;
            const label = p.typed.side === "right" ? ring + 15 : -ring - 5;
            return (
              <g
                key={p.key}
                {...(v.name === "plan"
                  ? {
                      role: "button",
                      tabIndex: 0,
                      "aria-pressed": picked,
                      "aria-label": `${pointName(p)}: ${r?.off ? `${r.off.length.toFixed(1)} mm off${bent ? ", bent" : ""}` : "not read"}`,
                      onKeyDown: (e: React.KeyboardEvent) => {
                        if (e.key === "Enter" || e.key === " ") {
                          e.preventDefault();
                          onPick(p.key);
                        }
                      },
                      onClick: () => onPick(p.key),
                    }
                  : { "aria-hidden": true })}
                transform={`translate(${f(cx)},${f(cy)})`}
                style={v.name === "plan" ? { cursor: "pointer" } : undefined}
              >
                <circle
                  r={ring}
                  fill={GUIDE}
                  fillOpacity=".8"
                  stroke={bent ? OXIDE_LT : r ? CHALK : CHALK2}
                  strokeWidth={picked ? 3 : 1.6}
                  strokeDasharray={r ? undefined : "2 3"}
                />
                {was && (
                  <path d={`M0,0L${f(was[0])},${f(was[1])}`} stroke={bent ? OXIDE_LT : CHALK2} strokeDasharray="3 3" strokeWidth="1.4" />
                )}
                {tip && (
                  <>
                    <path d={`M0,0L${f(tip[0])},${f(tip[1])}`} stroke={bent ? OXIDE_LT : CHALK} strokeWidth="2.4" strokeLinecap="round" />
                    <circle cx={f(tip[0])} cy={f(tip[1])} r="2.6" fill={bent ? OXIDE_LT : CHALK} />
                  </>
                )}
                {p.typed.isProtected && (
                  <rect x={-ring - 5} y={-ring - 5} width={2 * ring + 10} height={2 * ring + 10} fill="none" stroke={CHALK2} />
                )}
                {(v.name === "plan" || p.typed.side !== "right" || bent) && (
                  <text
                    y={label}
                    textAnchor="middle"
                    fontSize="14"
                    fontWeight="680"
                    fill={bent ? OXIDE_LT : CHALK}
                    className="halo"
                    stroke={GUIDE}
                  >
                    {p.typed.letter}
                  </text>
                )}
              </g>
            );
          })}
        </g>
      ))}
    </svg>
  );
}

/** The low points of each side on one line, so that one sees the frame in them. */
function Rails({ points, at }: { points: readonly Point[]; at: (p: Point) => readonly [number, number] }) {
  const middle = points.reduce((sum, p) => sum + p.at.z, 0) / Math.max(1, points.length);
  return (
    <g fill="none" stroke={GUIDE3} strokeWidth="9" strokeLinejoin="round" strokeLinecap="round">
      {(["left", "right"] as const).map((side) => {
        const along = points.filter((p) => p.typed.side === side && p.at.z <= middle).toSorted((a, b) => a.at.x - b.at.x);
        const path = along.map((p) => at(p).map(f).join(",")).join("L");
        return along.length > 1 ? <path key={side} d={`M${path}`} /> : null;
      })}
    </g>
  );
}
