import { type PointerEvent, useRef } from "react";
import type { Schemas } from "../api/client";
import { f } from "../geometry";
import { CHALK, CHALK2, GUIDE3, OXIDE_LT } from "../tokens";
import { type Move, mm } from "./fitWords";

type Advice = Schemas["FitAdviceView"];
type Moved = Schemas["MovedLineView"];

/** Moves are drawn so many times as large as they are. */
const TIMES = 8;
/** A millimetre of shim is dragged over so many pixels. */
const DRAG = 26;

const end = (l: Moved | undefined, i: number): [number, number] | null => {
  const at = l && (i < 0 ? l.xMm.length - 1 : 0);
  return l && at !== undefined ? [l.xMm[at] ?? 0, l.yMm[at] ?? 0] : null;
};

/** The panel in its own plane, nose left, as it hangs and as the move would hang it, with the figures in the drawing. */
export function HangPicture({ of: a, move, width, onMove }: { of: Advice; move: Move; width: number; onMove: (move: Move) => void }) {
  const drag = useRef<{ x: number; shim: number; at: "lower" | "upper" } | null>(null);
  const [long, high] = [a.lengthMm, a.heightMm];
  const px = Math.min((width - 120) / long, 210 / high);
  const [ox, oy] = [70, 50];
  const height = high * px + 92;
  // A door stands on its lower edge; a lid lies about its middle, its right side down.
  const toX = (x: number) => ox + x * px;
  const toY = (y: number) => (a.isDoor ? oy + (high - y) * px : oy + (high / 2 + y) * px);
  const corners: [number, number][] = outline(a, long, high);
  const moved = corners.map(([x, y]) => byMove(a, move, x, y, TIMES));
  const line = (pts: readonly (readonly [number, number])[]) => `M${pts.map(([x, y]) => `${f(toX(x))},${f(toY(y))}`).join("L")}Z`;
  const hang = a.hang;
  const hinges = hang
    ? ([
        ["upper", hang.lowerHingeUpMm + hang.hingeSpacingMm],
        ["lower", hang.lowerHingeUpMm],
      ] as const)
    : [];
  const hingeX = hang ? long - hang.hingeToRearMm : 0;
  const shimAt = (at: "lower" | "upper") => (move.behind === at ? (move.shimMm ?? 0) : 0);
  const set = (at: "lower" | "upper", shim: number) => {
    const to = Math.round(Math.max(0, Math.min(12, shim)) * 10) / 10;
    onMove({ ...move, shimMm: to, behind: to === 0 ? null : at });
  };
  const onDown = (at: "lower" | "upper") => (e: PointerEvent<SVGGElement>) => {
    e.currentTarget.setPointerCapture(e.pointerId);
    drag.current = { x: e.clientX, shim: shimAt(at), at };
  };
  const onDrag = (e: PointerEvent) => {
    if (drag.current) set(drag.current.at, drag.current.shim + (e.clientX - drag.current.x) / DRAG);
  };
  return (
    <svg
      className="on-guide block w-full"
      viewBox={`0 0 ${width} ${f(height)}`}
      role="group"
      aria-label="The panel as it hangs and as it would"
    >
      <path d={line(corners)} fill={GUIDE3} fillOpacity=".7" stroke={CHALK2} strokeDasharray="5 4" />
      <path d={line(moved)} fill="none" stroke={CHALK} strokeWidth="1.8" />
      <text x={ox} y={16} fontSize="12.5" fill={CHALK2}>
        {!a.isDoor ? "from above" : a.panel.endsWith("R") ? "from inside" : "from outside"}, nose left; the move drawn {TIMES} times
      </text>
      {hang && (
        <>
          <Measure x0={toX(hingeX)} x1={toX(long)} y={oy - 8} text={`L ${Math.round(hang.hingeToRearMm)}`} />
          <g stroke={CHALK2}>
            <path d={`M${ox - 26},${toY(hang.lowerHingeUpMm)}V${toY(hang.lowerHingeUpMm + hang.hingeSpacingMm)}`} />
            <path d={`M${ox - 30},${toY(hang.lowerHingeUpMm)}h8M${ox - 30},${toY(hang.lowerHingeUpMm + hang.hingeSpacingMm)}h8`} />
          </g>
          <text
            x={ox - 32}
            y={(toY(hang.lowerHingeUpMm) + toY(hang.lowerHingeUpMm + hang.hingeSpacingMm)) / 2}
            fontSize="12.5"
            fill={CHALK}
            textAnchor="middle"
            transform={`rotate(-90 ${ox - 32} ${(toY(hang.lowerHingeUpMm) + toY(hang.lowerHingeUpMm + hang.hingeSpacingMm)) / 2})`}
          >
            h {Math.round(hang.hingeSpacingMm)}
          </text>
          {hinges.map(([at, up]) => (
            <g
              key={at}
              role="slider"
              tabIndex={0}
              aria-label={`Shim behind the ${at} hinge, mm`}
              aria-valuenow={shimAt(at)}
              aria-valuemin={0}
              aria-valuemax={12}
              transform={`translate(${f(toX(hingeX))},${f(toY(up))})`}
              style={{ cursor: "ew-resize", touchAction: "none" }}
              onPointerDown={onDown(at)}
              onPointerMove={onDrag}
              onPointerUp={() => {
                drag.current = null;
              }}
              onKeyDown={(e) => {
                const by = e.key === "ArrowRight" || e.key === "ArrowUp" ? 0.1 : e.key === "ArrowLeft" || e.key === "ArrowDown" ? -0.1 : 0;
                if (by === 0) return;
                e.preventDefault();
                set(at, shimAt(at) + by);
              }}
            >
              <rect x="-22" y="-14" width="60" height="28" fill="transparent" />
              <rect x="-2" y="-5" width="30" height="10" fill={CHALK2} />
              <rect
                x={-3 - shimAt(at) * 4}
                y="-9"
                width={Math.max(1.5, shimAt(at) * 4)}
                height="18"
                fill={shimAt(at) > 0 ? OXIDE_LT : CHALK2}
              />
              <circle r="4" fill={CHALK} />
              {shimAt(at) > 0 && (
                <text x="34" y="5" fontSize="15" fontWeight="680" fill={CHALK}>
                  shim {mm(shimAt(at))}
                </text>
              )}
            </g>
          ))}
        </>
      )}
      <text
        x={toX(long / 2)}
        y={toY(a.isDoor ? high / 2 : 0)}
        textAnchor="middle"
        fontSize="13.5"
        fontWeight="640"
        fill={CHALK}
        className="halo"
        stroke={GUIDE3}
      >
        {figuresOf(move)}
      </text>
    </svg>
  );
}

/** The panel's corners, from where the lines round it end; a line that is not there is straight between its neighbours. */
function outline(a: Advice, long: number, high: number): [number, number][] {
  const at = (edge: Schemas["PanelEdge"]) => a.lines.find((l) => l.edge === edge);
  const [front, rear, bottom] = [at("front"), at("rear"), at("bottom")];
  const half = high / 2;
  if (!a.isDoor)
    return [
      [0, -half],
      [long, -half],
      [long, half],
      [0, half],
    ];
  return [
    end(front, 0) ?? end(bottom, 0) ?? [0, 0],
    end(front, -1) ?? [0, high],
    end(rear, -1) ?? [long, high],
    end(rear, 0) ?? end(bottom, -1) ?? [long, 0],
  ];
}

/** Where a point of the panel comes to, so many times as far as it does. */
function byMove(a: Advice, m: Move, x: number, y: number, times: number): [number, number] {
  if (a.isDoor && a.hang) {
    const turn = m.behind === "lower" ? 1 : m.behind === "upper" ? -1 : 0;
    const angle = (turn * (m.shimMm ?? 0)) / a.hang.hingeSpacingMm;
    const pivot = a.hang.lowerHingeUpMm + (m.behind === "lower" ? a.hang.hingeSpacingMm : 0);
    const hinges = a.lengthMm - a.hang.hingeToRearMm;
    return [x + times * ((m.rearwardMm ?? 0) - angle * (y - pivot)), y + times * ((m.raiseMm ?? 0) + angle * (x - hinges))];
  }
  const angle = (m.turnMmPerM ?? 0) / 1000;
  return [x + times * ((m.rearwardMm ?? 0) + angle * y), y + times * ((m.rightMm ?? 0) - angle * (x - a.lengthMm / 2))];
}

const figuresOf = (m: Move) =>
  [
    m.raiseMm ? `${m.raiseMm > 0 ? "up" : "down"} ${mm(Math.abs(m.raiseMm))}` : "",
    m.rearwardMm ? `${m.rearwardMm > 0 ? "rearward" : "forward"} ${mm(Math.abs(m.rearwardMm))}` : "",
    m.rightMm ? `${m.rightMm > 0 ? "right" : "left"} ${mm(Math.abs(m.rightMm))}` : "",
    m.turnMmPerM ? `turned ${mm(Math.abs(m.turnMmPerM))} in a metre` : "",
  ]
    .filter(Boolean)
    .join(", ");

function Measure({ x0, x1, y, text }: { x0: number; x1: number; y: number; text: string }) {
  return (
    <g>
      <path d={`M${f(x0)},${y}H${f(x1)}M${f(x0)},${y - 4}v8M${f(x1)},${y - 4}v8`} stroke={CHALK2} />
      <text x={(x0 + x1) / 2} y={y + 4} textAnchor="middle" fontSize="12.5" fill={CHALK} className="halo" stroke="#262B2E">
        {text}
      </text>
    </g>
  );
}
