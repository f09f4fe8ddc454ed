import { useId } from "react";
import type { Schemas } from "../api/client";
import { money } from "../format";
import { f } from "../geometry";
import { INK, INK2, P0, P1, P2, P4 } from "../tokens";

type Way = Schemas["WayView"];

const WIDTH = 448;
const ROW = 84;

const NAMES: Record<Schemas["Verdict"], string> = { leave: "Leave", repair: "Repair", replace: "Replace", fabricate: "Fabricate" };
export const verdictName = (v: Schemas["Verdict"]) => NAMES[v];

const hoursText = (h: number) => `${Math.round(h * 10) / 10} h`;

type Part = { key: string; amount: number; text: string };

const partsOf = (w: Way): Part[] =>
  [
    { key: "labour", amount: w.labour, text: "labour" },
    { key: "sheet", amount: w.sheet, text: "metal, gas" },
    { key: "part", amount: w.part, text: "part" },
    { key: "freight", amount: w.freight, text: "freight" },
    { key: "wait", amount: w.wait, text: `${w.leadDays} d wait` },
    { key: "hidden", amount: w.hidden, text: "hidden" },
  ].filter((p) => p.amount > 0);

/** The money of an axis: it ends on a round figure above the dearest way. */
export const axisEnd = (ways: Way[]) => Math.max(400, Math.ceil(Math.max(0, ...ways.map((w) => w.total)) / 200) * 200);

/** The four ways side by side on one scale of money, each taken apart; the dashed upright is the cheapest. */
export function VerdictBars({ ways, cheapest }: { ways: Way[]; cheapest: Schemas["Verdict"] | null }) {
  const id = useId().replace(/:/g, "");
  const end = axisEnd(ways);
  const px = WIDTH / end;
  const least = ways.find((w) => w.verdict === cheapest);
  const height = 26 + ways.reduce((sum, w) => sum + (w.barred ? 30 : ROW), 0);
  let y = 26;
  const step = end / 7 > 300 ? 400 : 200;
  return (
    <svg viewBox={`-2 0 ${WIDTH + 4} ${height}`} className="block w-full" role="img" aria-label={barWords(ways, cheapest)}>
      <defs>
        <pattern id={`${id}-hidden`} width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
          <path d="M0,3H6" stroke={INK2} />
        </pattern>
        <pattern id={`${id}-part`} width="14" height="4" patternUnits="userSpaceOnUse">
          <rect width="14" height="4" fill="#A9B1B4" />
          <path d="M0,1H9M4,3H14" stroke="#8C969B" />
        </pattern>
      </defs>
      {Array.from({ length: Math.floor(end / step) + 1 }, (_, i) => i * step).map((v) => (
        <text key={v} x={v * px} y="10" fontSize="11" fill={INK2} textAnchor={v === 0 ? "start" : v === end ? "end" : "middle"}>
          {money(v).replace(/\.00$/, "")}
        </text>
      ))}
      <path d={`M0,16H${WIDTH}`} stroke={P4} />
      {ways.map((w) => {
        const top = y;
        y += w.barred ? 30 : ROW;
        return w.barred ? (
          <Barred key={w.verdict} way={w} y={top} />
        ) : (
          <Bar key={w.verdict} way={w} y={top} px={px} id={id} best={w.verdict === cheapest} />
        );
      })}
      {least && least.total > 0 && (
        <path d={`M${f(least.total * px)},16V${height - 6}`} stroke={INK} strokeWidth="1.4" strokeDasharray="5 4" />
      )}
    </svg>
  );
}

const barWords = (ways: Way[], cheapest: Schemas["Verdict"] | null) =>
  ways.map((w) => `${NAMES[w.verdict]}: ${w.barred ?? money(w.total)}${w.verdict === cheapest ? ", cheapest" : ""}`).join("; ");

function Barred({ way, y }: { way: Way; y: number }) {
  return (
    <g>
      <text y={y + 17} fontSize="13.5" fontWeight="660" fill={INK2}>
        {NAMES[way.verdict]}
      </text>
      <path d={`M72,${y + 12}h50`} stroke={INK2} strokeWidth="1.4" />
      <rect x="122" y={y + 6} width="5" height="12" fill={INK2} />
      <text x="136" y={y + 17} fontSize="12.5" fontWeight="560" fill={INK}>
        {way.barred}
      </text>
    </g>
  );
}

function Bar({ way: w, y, px, id, best }: { way: Way; y: number; px: number; id: string; best: boolean }) {
  const parts = partsOf(w);
  let x = 0;
  const free = [-1, -1, -1];
  const rate = w.hours > 0 ? w.labour / w.hours : 0;
  const even = w.breakEvenHours;
  const notch = even !== null && rate > 0 && even < w.hours * 3 ? even * rate * px : null;
  return (
    <g>
      <text y={y + 14} fontSize="13.5" fontWeight="680" fill={INK}>
        {NAMES[w.verdict]}
      </text>
      <text x="78" y={y + 14} fontSize="12" fill={INK2}>
        {w.leadDays > 0 ? `${w.leadDays} days lead` : "no wait"}
        {w.riskPercent > 0 ? `, ${w.riskPercent} % hidden` : ""}
      </text>
      <text x={WIDTH} y={y + 14} fontSize="14" fontWeight={best ? 720 : 600} fill={INK} textAnchor="end">
        {money(w.total)}
      </text>
      {parts.map((p) => {
        const width = Math.max(1, p.amount * px);
        const at = x;
        x += width;
        const label = `${p.text} ${money(p.amount)}`;
        const needs = label.length * 5.6;
        const start = Math.min(at, WIDTH - needs);
        // A label that would run into the one before it steps down a line.
        const line = Math.max(
          0,
          free.findIndex((end) => start > end + 4),
        );
        free[line] = start + needs;
        return (
          <g key={p.key}>
            <PartRect part={p.key} x={at} y={y + 21} w={width} id={id} days={w.leadDays} />
            {p.key === "labour" &&
              Array.from({ length: Math.max(0, Math.ceil(w.hours) - 1) }, (_, i) => (
                <path key={i} d={`M${f((i + 1) * rate * px)},${y + 40}v4`} stroke={P1} />
              ))}
            <text x={f(start)} y={y + 56 + line * 12} fontSize="11" fill={INK2}>
              {label}
            </text>
          </g>
        );
      })}
      {w.hours > 0 && w.labour * px > 50 && (
        <text x="7" y={y + 37} fontSize="12" fontWeight="640" fill={P0}>
          {Math.floor(w.hours)}:{String(Math.round((w.hours % 1) * 60)).padStart(2, "0")} h
        </text>
      )}
      {notch !== null && !best && (
        <g>
          <path d={`M${f(notch - 5)},${y + 13}h10l-5,7Z`} fill={INK} />
          <path d={`M${f(notch)},${y + 19}v25`} stroke={P0} strokeWidth="2.5" />
          {notch > 200 && even !== null && (
            <text x={f(notch + 9)} y={y + 17} fontSize="12" fontWeight="640" fill={INK}>
              {hoursText(even)}
            </text>
          )}
        </g>
      )}
    </g>
  );
}

function PartRect({ part, x, y, w, id, days }: { part: string; x: number; y: number; w: number; id: string; days: number }) {
  const fill: Record<string, string> = {
    labour: "#3E4649",
    sheet: "#8C969B",
    part: `url(#${id}-part)`,
    freight: P0,
    wait: P2,
    hidden: `url(#${id}-hidden)`,
  };
  return (
    <g>
      <rect
        x={f(x)}
        y={y}
        width={f(w)}
        height="23"
        fill={fill[part]}
        stroke={part === "hidden" ? INK2 : part === "freight" || part === "wait" ? P4 : "none"}
        strokeDasharray={part === "hidden" ? "4 3" : undefined}
      />
      {part === "wait" &&
        Array.from({ length: Math.max(0, Math.floor(days) - 1) }, (_, i) => (
          <path key={i} d={`M${f(x + ((i + 1) * w) / days)},${y}v23`} stroke={P4} />
        ))}
    </g>
  );
}

/** When the hours judged are past the point where another way is cheaper, or below it, in one sentence. */
export function breakEvenWords(ways: Way[], cheapest: Schemas["Verdict"] | null): string | null {
  const dearer = ways.filter((w) => !w.barred && w.verdict !== cheapest && w.breakEvenHours !== null && w.hours > w.breakEvenHours);
  const close = dearer.sort((a, b) => a.total - b.total)[0];
  const best = ways.find((w) => w.verdict === cheapest);
  if (!close || !best || close.breakEvenHours === null) return null;
  if (close.breakEvenHours < 0.05) return `${NAMES[close.verdict]} is dearer than to ${best.verdict} at any hours.`;
  return `${NAMES[close.verdict]} wins below ${hoursText(close.breakEvenHours)}: at ${hoursText(close.hours)} it is ${money(close.total - best.total)} dearer than to ${best.verdict}.`;
}

/** The four ways of a finding that is not opened, as thin bars: ink is the choice, a stop is barred. */
export function ThinBars({ ways, choice, end }: { ways: Way[]; choice: Schemas["Verdict"] | null; end: number }) {
  return (
    <svg viewBox="0 0 112 24" width="112" height="24" aria-hidden="true">
      {ways.map((w, i) => {
        const y = 2 + i * 6;
        return w.barred ? (
          <path key={w.verdict} d={`M0,${y + 1.5}h9M9,${y - 1}v5`} stroke={INK2} fill="none" />
        ) : (
          <rect
            key={w.verdict}
            y={y}
            width={f(Math.max(1, (w.total / end) * 112))}
            height="3.4"
            fill={w.verdict === choice ? INK : "#A6ABA7"}
          />
        );
      })}
    </svg>
  );
}
