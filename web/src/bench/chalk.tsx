import { f } from "../geometry";
import { CHALK, CHALK2, GUIDE } from "../tokens";

/** Words on the charcoal. */
export function Say({
  x,
  y,
  children,
  size = 14,
  colour = CHALK,
  anchor = "middle",
  turn = 0,
  bold = false,
}: {
  x: number;
  y: number;
  children: React.ReactNode;
  size?: number;
  colour?: string;
  anchor?: "start" | "middle" | "end";
  turn?: number;
  bold?: boolean;
}) {
  return (
    <text
      x={f(x)}
      y={f(y)}
      fontSize={size}
      fill={colour}
      textAnchor={anchor}
      fontWeight={bold ? 700 : 450}
      className={size < 15 ? "halo fine" : "halo"}
      stroke={GUIDE}
      transform={turn ? `rotate(${f(turn)} ${f(x)} ${f(y)})` : undefined}
    >
      {children}
    </text>
  );
}

/** A line with a mark across at both ends. */
export function Dim({ from, to, colour = CHALK2 }: { from: [number, number]; to: [number, number]; colour?: string }) {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const long = Math.hypot(dx, dy) || 1;
  const [nx, ny] = [(-dy / long) * 5, (dx / long) * 5];
  return (
    <path
      d={`M${f(from[0])},${f(from[1])}L${f(to[0])},${f(to[1])}M${f(from[0] - nx)},${f(from[1] - ny)}L${f(from[0] + nx)},${f(from[1] + ny)}M${f(to[0] - nx)},${f(to[1] - ny)}L${f(to[0] + nx)},${f(to[1] + ny)}`}
      fill="none"
      stroke={colour}
      strokeWidth="1.3"
    />
  );
}

/** How long a rule of a round length is at a scale. */
export function ScaleBar({ perMm, y = 524 }: { perMm: number; y?: number }) {
  const mm = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000].find((v) => v * perMm >= 60) ?? 5000;
  const w = mm * perMm;
  return (
    <g className="fine">
      <path d={`M20,${y - 5}v5h${f(w)}v-5`} fill="none" stroke={CHALK2} />
      <text className="fine" x={f(26 + w)} y={y} fontSize="12.5" fill={CHALK2}>
        {mm >= 1000 ? `${mm / 1000} m` : `${mm} mm`}
      </text>
    </g>
  );
}
