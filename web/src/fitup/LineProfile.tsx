import { f } from "../geometry";
import { CHALK, CHALK2, GUIDE, GUIDE3, OXIDE_LT } from "../tokens";
import { type At, type Line, mm, ROUNDS, roundName, roundNow, signed } from "./fitWords";

const [LEFT, RIGHT, TOP, HIGH] = [34, 40, 14, 176];

/** A line opened: its gap at each station in every round, what is foretold, what a move would do, and flush below. */
export function LineProfile({
  line,
  width,
  moved,
  at,
  onAt,
}: {
  line: Line;
  width: number;
  /** What each station would read with the panel moved; none: nothing is tried. */
  moved?: readonly (number | null)[];
  at: At | null;
  onAt: (at: At) => void;
}) {
  const now = roundNow(line);
  const values = [
    ...line.rounds.flatMap((r) => r.stations.map((s) => s.gap?.mm)),
    ...line.foretold,
    ...(moved ?? []),
    line.limits.targetMm + line.limits.toleranceMm + 1,
  ].filter((v): v is number => v != null);
  const most = Math.max(8, ...values) + 0.3;
  const x = (pos: number) => LEFT + 8 + (pos / Math.max(1, line.lengthMm)) * (width - LEFT - RIGHT - 16);
  const y = (v: number) => TOP + HIGH - (Math.max(0, v) / most) * HIGH;
  const step = most > 16 ? 4 : 2;
  const flushY = TOP + HIGH + 66;
  const flushScale = Math.min(15, 20 / Math.max(0.1, Math.abs(now.worstFlushMm ?? 0)));
  const trace = (gaps: readonly (number | null | undefined)[]) => {
    const pts = gaps.flatMap((g, i) => (g == null ? [] : [`${f(x(line.stationsMm[i] ?? 0))},${f(y(g))}`]));
    return pts.length > 1 ? `M${pts.join("L")}` : undefined;
  };
  const [low, high] = [line.limits.targetMm - line.limits.toleranceMm, line.limits.targetMm + line.limits.toleranceMm];
  return (
    <svg
      className="on-guide block w-full"
      viewBox={`0 0 ${width} ${flushY + 40}`}
      role="group"
      aria-label={`${line.name}, station by station`}
    >
      <rect x={LEFT} y={TOP} width={width - LEFT - RIGHT} height={HIGH} fill={GUIDE3} fillOpacity=".45" />
      <rect x={LEFT} y={y(high)} width={width - LEFT - RIGHT} height={y(low) - y(high)} fill={GUIDE3} />
      {[low, high].map((v) => (
        <g key={v}>
          <path d={`M${LEFT},${y(v)}H${width - RIGHT}`} stroke={CHALK2} strokeDasharray="2 3" />
          <text x={width - RIGHT + 4} y={y(v) + 4} fontSize="11.5" fill={CHALK2}>
            {mm(v)}
          </text>
        </g>
      ))}
      {Array.from({ length: Math.floor(most / step) + 1 }, (_, i) => i * step).map((v) => (
        <g key={v}>
          <path d={`M${LEFT - 5},${y(v)}h5`} stroke={CHALK2} />
          <text x={LEFT - 8} y={y(v) + 4} textAnchor="end" fontSize="11.5" fill={CHALK2}>
            {v}
          </text>
        </g>
      ))}
      {line.rounds
        .filter((r) => r.round !== now.round)
        .map((r) => (
          <g key={r.round}>
            <path d={trace(r.stations.map((s) => s.gap?.mm))} fill="none" stroke={CHALK2} strokeWidth="1.4" />
            {r.stations.map((s) =>
              s.gap ? (
                <circle key={s.number} cx={x(line.stationsMm[s.number - 1] ?? 0)} cy={y(s.gap.mm)} r="3" fill={GUIDE} stroke={CHALK2} />
              ) : null,
            )}
          </g>
        ))}
      <path d={trace(line.foretold)} fill="none" stroke={CHALK} strokeDasharray="1.5 4" strokeWidth="1.6" strokeLinecap="round" />
      {moved && <path d={trace(moved)} fill="none" stroke={CHALK} strokeDasharray="8 5" strokeWidth="1.8" />}
      <path d={trace(now.stations.map((s) => s.gap?.mm))} fill="none" stroke={CHALK} strokeWidth="2.2" />
      {now.stations.map((s) => {
        const sx = x(line.stationsMm[s.number - 1] ?? 0);
        const off = now.off.includes(s.number);
        const flushOff = now.flushOff.includes(s.number);
        const here = at?.station === s.number;
        return (
          <g key={s.number}>
            {s.gap && (
              <>
                <path d={`M${sx},${y(s.gap.mm)}V${TOP + HIGH}`} stroke={off ? OXIDE_LT : CHALK2} strokeOpacity={off ? 0.9 : 0.35} />
                <circle
                  cx={sx}
                  cy={y(s.gap.mm)}
                  r="3.6"
                  fill={s.touched ? GUIDE : off ? OXIDE_LT : CHALK}
                  stroke={off ? OXIDE_LT : CHALK}
                  strokeWidth="1.4"
                />
              </>
            )}
            {s.flush && (
              <>
                <path
                  d={`M${sx},${flushY}V${flushY - s.flush.mm * flushScale}`}
                  stroke={flushOff ? OXIDE_LT : CHALK}
                  strokeWidth="7"
                  strokeLinecap="butt"
                />
                <text x={sx} y={flushY + 34} textAnchor="middle" fontSize="11.5" fill={flushOff ? OXIDE_LT : CHALK}>
                  {signed(s.flush.mm)}
                </text>
              </>
            )}
            <g
              role="button"
              tabIndex={here ? 0 : -1}
              aria-pressed={here}
              aria-label={`Station ${s.number}: ${s.gap ? `${mm(s.gap.mm)} mm${off ? ", out" : ""}` : "not read"}`}
              onClick={() => onAt({ station: s.number, measure: at?.measure ?? "gap" })}
              onKeyDown={(e) => {
                const to = e.key === "ArrowRight" ? s.number + 1 : e.key === "ArrowLeft" ? s.number - 1 : null;
                if (to !== null && to >= 1 && to <= now.stations.length) onAt({ station: to, measure: at?.measure ?? "gap" });
              }}
            >
              <rect x={sx - 17} y={TOP + HIGH + 1} width="34" height="26" fill={here ? CHALK : "transparent"} />
              <text
                x={sx}
                y={TOP + HIGH + 19}
                textAnchor="middle"
                fontSize="13"
                fontWeight={off ? 720 : 600}
                fill={here ? GUIDE : off ? OXIDE_LT : CHALK}
              >
                {s.gap ? mm(s.gap.mm) : "·"}
              </text>
            </g>
          </g>
        );
      })}
      <path d={`M${LEFT},${flushY}H${width - RIGHT}`} stroke={CHALK2} />
      {line.limits.flushMm * flushScale < 22 && (
        <path d={`M${LEFT},${flushY - line.limits.flushMm * flushScale}H${width - RIGHT}`} stroke={CHALK2} strokeDasharray="2 3" />
      )}
      <text x={LEFT - 8} y={flushY + 4} textAnchor="end" fontSize="11.5" fill={CHALK2}>
        flush
      </text>
    </svg>
  );
}

/** What the strokes of the profile mean, as far as they are there. */
export function ProfileKey({ line, moved }: { line: Line; moved: boolean }) {
  const now = roundNow(line);
  return (
    <p className="text-chalk2 text-[12.5px]">
      {[
        ...ROUNDS.filter((r) => line.rounds.some((x) => x.round === r)).map((r) => `${r === now.round ? "●" : "○"} ${roundName(r)}`),
        line.foretold.length > 0 && "··· after paint, foretold",
        moved && "- - with the move",
      ]
        .filter(Boolean)
        .join("   ")}
    </p>
  );
}
