import { f } from "../geometry";
import { CHALK, CHALK2, GUIDE, OXIDE_LT } from "../tokens";
import { isOpen, type Line, lastRound, mm, verdictWords } from "./fitWords";

/** A gap of a millimetre is drawn so many centimetres wide: about seven times life. */
export const GAP_CM = 0.72;

type Pt = readonly [number, number];
const ptOf = (p: readonly number[] | undefined): Pt => [p?.[0] ?? 0, p?.[1] ?? 0];

/** A unit vector across the line at a station, to its left as one walks. */
function acrossAt(line: Line, i: number): Pt {
  const [a, b] = [ptOf(line.at[Math.max(0, i - 1)]), ptOf(line.at[Math.min(line.at.length - 1, i + 1)])];
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const long = Math.hypot(dx, dy) || 1;
  return [-dy / long, dx / long];
}

/** Both edges of a stretch of the gap, as wide as it was read. */
export function edgesOf(line: Line, gaps: readonly (number | null)[], from: number, to: number): [Pt[], Pt[]] {
  const [left, right]: [Pt[], Pt[]] = [[], []];
  for (let i = from; i <= to; i++) {
    const [x, y] = ptOf(line.at[i]);
    const [nx, ny] = acrossAt(line, i);
    const half = ((gaps[i] ?? 0) * GAP_CM) / 2;
    left.push([x + nx * half, y + ny * half]);
    right.push([x - nx * half, y - ny * half]);
  }
  return [left, right];
}

/** Stretches of stations, counted from 0, each with its neighbours, that a test holds for. */
export function stretches(n: number, holds: (i: number) => boolean): [number, number][] {
  const found: [number, number][] = [];
  for (let i = 0; i < n; i++) {
    if (!holds(i)) continue;
    const last = found.at(-1);
    if (last && last[1] === i - 1) last[1] = i;
    else found.push([i, i]);
  }
  return found;
}

const path = (pts: readonly Pt[]) => `M${pts.map(([x, y]) => `${f(x)},${f(y)}`).join("L")}`;

/** Where the letter of a line stands. */
export const discOf = (l: Line) => {
  const [x, y] = ptOf(l.at[Math.floor(l.at.length / 2)]);
  return { x, y };
};

type Spot = { line: string; station: number; x: number; y: number };

/** Where numbers stand: the worst of each line that is out first, then both ends of the long ones, where two would not lie on each other. */
export function numbersOf(lines: readonly Line[], room: number, crowded: boolean): Spot[] {
  const wanted = (l: Line): { worst: number[]; ends: number[] } => {
    const last = lastRound(l);
    const read = (last?.stations ?? []).filter((s) => s.gap).map((s) => s.number);
    const worst = last?.stations.find((s) => s.gap && s.gap.mm === last.worstMm)?.number;
    const ends = l.lengthMm < 500 ? [worst] : [read[1] ?? read[0], read.at(-2) ?? read.at(-1)];
    return { worst: last?.off.length && worst ? [worst] : [], ends: ends.filter((n): n is number => n !== undefined) };
  };
  const spots: Spot[] = lines.map((l) => ({ line: "", station: 0, ...discOf(l) }));
  const place = (l: Line, station: number, must: boolean) => {
    const [x, y] = ptOf(l.at[station - 1]);
    const free = spots.every((s) => Math.abs(s.x - x) > room * 1.5 || Math.abs(s.y - y) > room);
    if (free || must) spots.push({ line: l.key, station, x, y });
  };
  for (const l of lines) for (const n of wanted(l).worst) place(l, n, true);
  if (!crowded) for (const l of lines) for (const n of wanted(l).ends) place(l, n, false);
  return spots.filter((s) => s.line !== "");
}

/** Shut lines on a body laid flat: the gap as wide as it was read, its numbers in it, bright where it is out, and the letter by which the sheet knows it. */
export function GapMarks({
  lines,
  one,
  chosen,
  onPick,
  crowded = false,
  bare = false,
}: {
  lines: readonly Line[];
  one: number;
  chosen?: string | null;
  onPick?: (key: string) => void;
  crowded?: boolean;
  /** Without the letters of the sheet. */
  bare?: boolean;
}) {
  const spots = numbersOf(lines, 14 * one, crowded);
  return (
    <g className="gap-marks">
      {lines.map((l) => {
        const last = lastRound(l);
        const gaps = (last?.stations ?? []).map((s) => s.gap?.mm ?? null);
        const read = (i: number) => gaps[i] != null;
        const off = new Set(last?.off.map((n) => n - 1));
        const middle = discOf(l);
        const picked = chosen === l.key;
        const pick = onPick && {
          role: "button",
          tabIndex: 0,
          "aria-pressed": picked,
          onClick: () => onPick(l.key),
          onKeyDown: (e: React.KeyboardEvent) => {
            if (e.key === "Enter" || e.key === " ") {
              e.preventDefault();
              onPick(l.key);
            }
          },
        };
        return (
          <g
            key={l.key}
            data-line={l.key}
            aria-label={`${l.letter} ${l.name}: ${verdictWords(l)}${last?.worstMm != null ? `, worst ${mm(last.worstMm)} mm` : ""}`}
            {...(pick ?? { role: "img" })}
          >
            <path d={path(l.at.map(ptOf))} fill="none" stroke="transparent" strokeWidth={26 * one} pointerEvents="stroke" />
            {!last && (
              <path
                d={path(l.at.map(ptOf))}
                fill="none"
                stroke={l.verdict === "leftOut" ? CHALK2 : CHALK}
                strokeWidth={1.2 * one}
                strokeDasharray={`${3 * one} ${4 * one}`}
              />
            )}
            {stretches(l.at.length, read).map(([a, b]) => {
              const [left, right] = edgesOf(l, gaps, a, b);
              return (
                <g key={a}>
                  <path d={`${path([...left, ...right.toReversed()])}Z`} fill={GUIDE} stroke={CHALK} strokeWidth={one} />
                </g>
              );
            })}
            {stretches(l.at.length, (i) => read(i) && off.has(i)).map(([a, b]) => {
              // A single station is drawn to the middle of its neighbours.
              const [left, right] = edgesOf(l, gaps, Math.max(0, a - (a === b ? 1 : 0)), Math.min(l.at.length - 1, b + (a === b ? 1 : 0)));
              return (
                <g key={a} fill="none" stroke={OXIDE_LT} strokeWidth={2.6 * one} strokeLinecap="round">
                  <path d={path(left)} />
                  <path d={path(right)} />
                </g>
              );
            })}
            {!bare && (
              <g transform={`translate(${f(middle.x)},${f(middle.y)}) scale(${one})`}>
                <circle
                  r="9"
                  fill={picked ? CHALK : GUIDE}
                  stroke={isOpen(l) && last ? OXIDE_LT : CHALK}
                  strokeWidth={isOpen(l) && last ? 2 : 1.2}
                />
                <text y="4" textAnchor="middle" fontSize="11.5" fontWeight="680" fill={picked ? GUIDE : CHALK}>
                  {l.letter}
                </text>
              </g>
            )}
          </g>
        );
      })}
      {/* Numbers lie over every edge. */}
      <g pointerEvents="none" aria-hidden="true">
        {spots.map(({ line, station, x, y }) => {
          const last = lastRound(lines.find((l) => l.key === line) as Line);
          const off = last?.off.includes(station);
          return (
            <text
              key={`${line} ${station}`}
              x={f(x)}
              y={f(y + 4 * one)}
              textAnchor="middle"
              className="halo"
              stroke={GUIDE}
              fill={off ? OXIDE_LT : CHALK}
              style={{ fontSize: 11.5 * one, fontWeight: off ? 720 : 560, strokeWidth: 4 * one }}
            >
              {mm(last?.stations[station - 1]?.gap?.mm ?? 0)}
            </text>
          );
        })}
      </g>
    </g>
  );
}
