import type { Schemas } from "../api/client";
import { CHALK, GUIDE } from "../tokens";

type Probe = Schemas["Probe"];

const GLYPHS: Record<Probe, string> = {
  rings: "M-2,0a2,2 0 1 0 4,0a2,2 0 1 0 -4,0M-4.4,-3.4a5.6,5.6 0 0 0 0,6.8M4.4,-3.4a5.6,5.6 0 0 1 0,6.8",
  dents: "M-5,-1.5c1,5.5 9,5.5 10,0M0,-6V1M-1.8,-1L0,1.2L1.8,-1",
  goesThrough: "M-3.6,0a3.6,3.6 0 1 0 7.2,0a3.6,3.6 0 1 0 -7.2,0M-4.6,-6.4L4.6,6.4",
};

/** What the punch said, as a chalk mark on a dark scuff. */
export function PunchGlyph({ result, x = 0, y = 0, size = 1 }: { result: Probe; x?: number; y?: number; size?: number }) {
  return (
    <g transform={`translate(${x},${y}) scale(${size})`} aria-hidden="true">
      <circle r="8.5" fill={GUIDE} fillOpacity=".78" />
      <path d={GLYPHS[result]} fill="none" stroke={CHALK} strokeWidth="1.5" strokeLinecap="round" />
    </g>
  );
}

/** A finding's number in its ring. */
export function FindingDisc({
  number,
  x = 0,
  y = 0,
  size = 1,
  open = false,
}: {
  number: number;
  x?: number;
  y?: number;
  size?: number;
  open?: boolean;
}) {
  return (
    <g transform={`translate(${x},${y}) scale(${size})`} aria-hidden="true">
      <circle r="11" fill={open ? CHALK : GUIDE} />
      <circle r="9.4" fill="none" stroke={open ? GUIDE : CHALK} strokeWidth="1.4" strokeDasharray="57 2" />
      <text y="4.4" textAnchor="middle" fontSize="12.5" fontWeight="680" fill={open ? GUIDE : CHALK}>
        {number}
      </text>
    </g>
  );
}

/** Marks and findings on a map, in its own centimetres. */
export function Overlay({
  marks,
  findings,
  open,
  one,
  onOpen,
}: {
  marks: Schemas["MarkView"][];
  findings: Schemas["FindingView"][];
  open?: string | null;
  one: number;
  onOpen?: (id: string) => void;
}) {
  return (
    <g>
      <g pointerEvents="none">
        {findings
          .filter((f) => f.area.length > 2)
          .map((f) => (
            <path
              key={f.id}
              d={`M${f.area.map((p) => `${p.x},${p.y}`).join("L")}Z`}
              fill={CHALK}
              fillOpacity=".12"
              stroke={CHALK}
              strokeWidth={1.4 * one}
              strokeDasharray={`${5 * one} ${3 * one}`}
            />
          ))}
        {marks.map((m) => (
          <PunchGlyph key={m.id} result={m.result} x={m.at.x} y={m.at.y} size={one} />
        ))}
      </g>
      {findings.map((f) => (
        // biome-ignore lint/a11y/noStaticElementInteractions: the list of findings opens them by keyboard
        <g
          key={f.id}
          role={onOpen ? "button" : undefined}
          tabIndex={onOpen ? 0 : undefined}
          aria-label={onOpen ? `Finding ${f.number}, ${f.placeName}` : undefined}
          onClick={onOpen && (() => onOpen(f.id))}
          onKeyDown={onOpen && ((e) => (e.key === "Enter" || e.key === " ") && onOpen(f.id))}
          className={onOpen ? "cursor-pointer" : ""}
        >
          <FindingDisc number={f.number} x={f.at.x} y={f.at.y} size={one} open={f.id === open} />
        </g>
      ))}
    </g>
  );
}
