import type { Schemas } from "../api/client";
import { DabMark } from "../ui/Dab";

type LabelView = Schemas["LabelView"];

/** Width and height of a label, in millimetres. */
export const LABEL = { width: 95, height: 35 };

const CUT = 8;

/** The square code and the white edge of four modules that a reader needs round it. */
const SQUARE = 18;
const EDGE = 3.6;

/** The outline with the corner of its side cut off; the same shape is tag, label and, after one snip, the bag. */
export function outline(side: Schemas["PanelSide"], w: number, h: number, cut: number) {
  if (side === "left") return `M${cut},0H${w}V${h}H0V${cut}Z`;
  if (side === "right") return `M0,0H${w - cut}L${w},${cut}V${h}H0Z`;
  return `M0,0H${w}V${h}H0Z`;
}

function Square({ modules, x, y, size }: { modules: string[]; x: number; y: number; size: number }) {
  const n = modules.length;
  const one = size / n;
  const d = modules.flatMap((row, r) => [...row].map((m, c) => (m === "1" ? `M${c},${r}h1v1h-1Z` : ""))).join("");
  return (
    <g transform={`translate(${x},${y}) scale(${one})`}>
      <path d={d} fill="#000" shapeRendering="crispEdges" />
    </g>
  );
}

const clip = (text: string, most: number) => (text.length > most ? `${text.slice(0, most - 1).trimEnd()}…` : text);

/**
 * One label in millimetres: left is a solid block at the left edge, right an open one at the right edge, so that the side
 * shows by place, fill, letter and feel. 6 and 9 carry a bar.
 */
export function Label({ of: l, mono = false }: { of: LabelView; mono?: boolean }) {
  const { width: w, height: h } = LABEL;
  const right = l.side === "right";
  const sided = l.side !== "centre";
  const text = right ? EDGE * 2 + SQUARE : sided ? 16.5 : 4;
  const qr = right ? EDGE : w - EDGE - SQUARE;
  const digits = String(l.code);
  const step = 7.4;
  return (
    <svg
      viewBox={`-0.3 -0.3 ${w + 0.6} ${h + 0.6}`}
      width={`${w + 0.6}mm`}
      height={`${h + 0.6}mm`}
      className="label"
      role="img"
      aria-label={`Label ${l.scan.slice(3)}, ${l.what}, ${l.place}`}
    >
      <path d={outline("centre", w, h, 0)} fill="none" stroke="#000" strokeWidth=".15" strokeDasharray="1 .8" />
      <path d={outline(l.side, w, h, CUT)} fill="#fff" stroke="#000" strokeWidth=".35" />
      {l.side === "left" && <path d={`M${CUT},0H13V${h}H0V${CUT}Z`} fill="#000" />}
      {right && <path d={`M${w - 13},0H${w - CUT}L${w},${CUT}V${h}H${w - 13}Z`} fill="#fff" stroke="#000" strokeWidth="1.5" />}
      {sided && (
        <text
          x={right ? w - 6.5 : 6.5}
          y={h * 0.66}
          textAnchor="middle"
          fontSize="11"
          fontWeight="760"
          fill={right ? "#000" : "#fff"}
          className="flare"
        >
          {right ? "R" : "L"}
        </text>
      )}
      {[...digits].map((d, i) => (
        <g key={`${d}${i}`} transform={`translate(${text + i * step},11.6)`}>
          <text fontSize="12.4" fontWeight="760" className="flare">
            {d}
          </text>
          {(d === "6" || d === "9") && <path d="M.6,1.5h5.6" stroke="#000" strokeWidth=".8" />}
        </g>
      ))}
      <g transform={`translate(${text + digits.length * step + 2},3.6) scale(.27)`}>
        <DabMark number={l.buildNumber} colour={mono ? "#000000" : l.colourHex} />
      </g>
      <text x={text} y="18.4" fontSize="4" fontWeight="700">
        {clip(l.what, 27)}
      </text>
      <text x={text} y="22.6" fontSize="3.2">
        {clip(l.from, 34)}
      </text>
      <text x={text} y="26.8" fontSize="3.2" fontWeight="680">
        {clip(l.holds, 31)}
      </text>
      {l.pattern && (
        <g>
          <rect x={text - 1} y="28.6" width="51" height="4.4" fill="none" stroke="#000" strokeWidth=".3" strokeDasharray="1 .6" />
          <text x={text} y="31.9" fontSize="3" fontWeight="640">
            KEEP: pattern, {clip(l.pattern, 26)}
          </text>
        </g>
      )}
      <Square modules={l.modules} x={qr} y={EDGE} size={SQUARE} />
      <text x={qr + SQUARE / 2} y="29" fontSize="4" fontWeight="720" textAnchor="middle">
        {clip(l.place, 12)}
      </text>
      <text x={qr + SQUARE / 2} y="32.8" fontSize="2.9" textAnchor="middle">
        {l.off}
      </text>
    </svg>
  );
}
