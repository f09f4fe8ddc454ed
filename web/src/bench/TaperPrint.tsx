import { useQuery } from "@tanstack/react-query";
import { useLocation } from "@tanstack/react-router";
import { useState } from "react";
import { sumQuery } from "../api/queries";
import { CHALK2, INK } from "../tokens";
import { ChoiceField } from "../ui/Field";
import { Shown } from "../ui/States";
import { type Figures, num, nums, type Out } from "./figures";

/** What can be printed on, with a margin of 12 mm that every printer reaches. */
const PAPERS = { a4: { name: "A4", w: 210, h: 297 }, letter: { name: "Letter", w: 215.9, h: 279.4 } } as const;
const MARGIN = 12;
const FOOT = 26;
const OVERLAP = 10;

/** Where a page of the template begins along it, and how much of it is on the page; pages lap over. */
export function pagesOf(long: number, room: number): { from: number; to: number }[] {
  const pages = [];
  for (let from = 0; ; from += room - OVERLAP) {
    pages.push({ from, to: Math.min(long, from + room) });
    if (from + room >= long - 1e-6) return pages;
  }
}

/** A taper at full size, on as many pages as it takes, each with a mark of 100 mm to lay a rule on. */
export function TaperPrint() {
  const { figures } = useLocation().search as { figures?: unknown };
  const [paper, setPaper] = useState<keyof typeof PAPERS>("a4");
  const sum = useQuery(sumQuery("taper", read(figures)));
  const { w, h, name } = PAPERS[paper];
  // Landscape: a taper is longer than it is high.
  const [wide, high] = [h - 2 * MARGIN, w - 2 * MARGIN];
  return (
    <div className="taper-print">
      <style>{`@page { size: ${name} landscape; margin: ${MARGIN}mm }`}</style>
      <div className="no-print px-5 py-3 flex flex-wrap gap-3 items-end">
        <ChoiceField
          label="Paper"
          value={paper}
          onChange={setPaper}
          options={[
            ["a4", "A4"],
            ["letter", "Letter"],
          ]}
        />
        <button type="button" className="btn btn-ink" onClick={() => window.print()}>
          Print
        </button>
        <p>At 100 %, never “fit to page”. Lay a rule on the mark before you cut by it.</p>
      </div>
      <Shown of={sum}>
        {(s) => {
          if (!s.answer) return <p className="p-5 wrong">{s.why}</p>;
          const out = s.answer.out as Out;
          const values = nums(out, "valuesMm");
          const step = num(out, "stepMm");
          const [least, most] = [Math.min(0, ...values), Math.max(0, ...values)];
          const room = high - FOOT - 14;
          if (most - least > room) {
            return (
              <p className="p-5 wrong">
                It rises by {(most - least).toFixed(1)} mm and {name} has {room.toFixed(0)} mm for it: mark it out by the table.
              </p>
            );
          }
          const base = 10 + most;
          const pages = pagesOf(step * (values.length - 1), wide - 8);
          return pages.map((page, n) => (
            <svg
              key={page.from}
              className="taper-page"
              style={{ width: `${wide}mm`, height: `${high}mm` }}
              viewBox={`0 0 ${wide} ${high}`}
              role="img"
              aria-label={`Page ${n + 1} of ${pages.length}`}
            >
              <g transform={`translate(${4 - page.from} 0)`}>
                <clipPath id={`page${n}`}>
                  <rect x={page.from - 4} y="0" width={wide} height={high - FOOT} />
                </clipPath>
                <g clipPath={`url(#page${n})`}>
                  <path d={`M0,${base}H${step * (values.length - 1)}`} stroke={INK} strokeWidth="0.2" />
                  <path d={`M${values.map((v, i) => `${i * step},${base - v}`).join("L")}`} fill="none" stroke={INK} strokeWidth="0.35" />
                  {values.map((v, i) => (
                    <g key={i}>
                      <path d={`M${i * step},${base + 2}V${base - v}`} stroke={INK} strokeWidth="0.2" />
                      <text x={i * step + 0.8} y={base + 5.5} fontSize="3.2">
                        {i + 1}: {v.toFixed(1)}
                      </text>
                    </g>
                  ))}
                </g>
                {n > 0 && <path d={`M${page.from + OVERLAP},0V${high - FOOT}`} stroke={CHALK2} strokeWidth="0.3" strokeDasharray="2 2" />}
              </g>
              <path
                className="control-mark"
                d={`M10,${high - 12}h100M10,${high - 15}v6M110,${high - 15}v6`}
                fill="none"
                stroke={INK}
                strokeWidth="0.3"
              />
              <text x="60" y={high - 14} fontSize="3.4" textAnchor="middle">
                100 mm
              </text>
              <text x="116" y={high - 10.5} fontSize="3.4">
                Page {n + 1} of {pages.length}
                {n > 0 ? `; laps ${OVERLAP} mm over the page before, to the dashed line` : ""}
              </text>
            </svg>
          ));
        }}
      </Shown>
    </div>
  );
}

/** Figures out of the address, which the router may have read already; none where somebody cut it short. */
function read(figures: unknown): Figures {
  try {
    const value: unknown = typeof figures === "string" ? JSON.parse(figures) : figures;
    return value && typeof value === "object" && !Array.isArray(value) ? (value as Figures) : {};
  } catch {
    return {};
  }
}
