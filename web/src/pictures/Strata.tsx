import { useId } from "react";
import type { Schemas } from "../api/client";
import { hours, stageName } from "../format";
import { f, polyline } from "../geometry";
import { CHALK2, INK, INK2, mix, OXIDE, P1 } from "../tokens";

type Layer = Schemas["Layer"];

const LAYERS: Record<Schemas["Stage"], string | "paint" | "tint"> = {
  teardown: "#77736B",
  strip: "#9AA3A7",
  metal: "#6B777E",
  epoxy: "#4A5053",
  fill: "#C6A684",
  colour: "paint",
  polish: "tint",
  driveline: "#7D8B80",
  trim: "#D5C6A4",
  assembly: "#BFC3BE",
};

export function layerColour(stage: Schemas["Stage"], paint: string): string {
  const c = LAYERS[stage];
  return c === "paint" ? paint : c === "tint" ? mix(paint, "#FFFFFF", 0.28) : c;
}

const wave = (i: number, x: number, amp: number) =>
  amp * (Math.sin(x * 0.031 + i * 2.1) + 0.6 * Math.sin(x * 0.083 + i * 4.7) + 0.35 * Math.sin(x * 0.19 + i));

const MOST_OVER = 0.5;

type Row = { layer: Layer; y0: number; y1: number };

/** Where each layer lies: thickness is its budget, so area is hours. */
export function strataRows(layers: Layer[], y: number, h: number): Row[] {
  const total = layers.reduce((sum, l) => sum + l.budget, 0) || 1;
  let bottom = y + h;
  return layers.map((layer) => {
    const top = bottom - (h * layer.budget) / total;
    const row = { layer, y0: top, y1: bottom };
    bottom = top;
    return row;
  });
}

type CoreProps = {
  layers: Layer[];
  paint: string;
  x: number;
  y: number;
  w: number;
  h: number;
  ground?: string;
  ink?: string;
  amp?: number;
  detail?: boolean;
  inkWidth?: number;
  mostOver?: number;
};

/**
 * A build's hours as layers of a cut: fill is earned, the ink line is spent, hatching is spent beyond earned. The full
 * width `w` is 100 % of the budget; the ink may pass it up to half again.
 */
export function StrataCore({
  layers,
  paint,
  x,
  y,
  w,
  h,
  ground = P1,
  ink = INK,
  amp = 1,
  detail = true,
  inkWidth = 1.6,
  mostOver = MOST_OVER,
}: CoreProps) {
  const hatch = useId();
  const rows = strataRows(layers, y, h);
  const n = rows.length;
  const edge = (i: number, xa: number, xb: number): [number, number][] => {
    const at = i < n ? (rows[i]?.y1 ?? y) : (rows[n - 1]?.y0 ?? y);
    const a = i > 0 && i < n ? amp : amp * 0.5;
    const pts: [number, number][] = [];
    for (let q = xa; q < xb - 0.01; q += 6) pts.push([q, at + wave(i, q - x, a)]);
    pts.push([xb, at + wave(i, xb - x, a)]);
    return pts;
  };
  const band = (i: number, xa: number, xb: number) => polyline([...edge(i + 1, xa, xb), ...edge(i, xa, xb).reverse()], true);
  const line: [number, number][] = rows.flatMap((r): [number, number][] => {
    const s = r.layer.budget ? Math.min(r.layer.spent / r.layer.budget, 1 + mostOver) : 0;
    return [
      [x + w * s, r.y1],
      [x + w * s, r.y0],
    ];
  });
  return (
    <g>
      <defs>
        <pattern id={hatch} width={detail ? 4 : 3} height={detail ? 4 : 3} patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
          <path d={`M0,${detail ? 2 : 1.5}H4`} stroke={OXIDE} strokeWidth={detail ? 1.5 : 1.2} />
        </pattern>
      </defs>
      {rows.map(({ layer }, i) => {
        const colour = layerColour(layer.stage, paint);
        const e = layer.budget ? layer.earned / layer.budget : 0;
        const s = layer.budget ? Math.min(layer.spent / layer.budget, 1 + mostOver) : 0;
        return (
          <g key={layer.stage}>
            <path d={band(i, x, x + w)} fill={mix(colour, ground, 0.74)} />
            {e > 0 && <path d={band(i, x, x + w * e)} fill={colour} />}
            {s > e && (
              <>
                <path d={band(i, x + w * e, x + w * s)} fill={OXIDE} fillOpacity={0.18} />
                <path d={band(i, x + w * e, x + w * s)} fill={`url(#${hatch})`} />
              </>
            )}
          </g>
        );
      })}
      {rows.slice(1).map((r, i) => (
        <path key={r.layer.stage} d={polyline(edge(i + 1, x, x + w))} fill="none" stroke={ground} strokeWidth={detail ? 0.9 : 0.5} />
      ))}
      <path d={`M${f(x + w)},${f(y - 3)}V${f(y + h + 3)}`} stroke={ink === INK ? INK2 : CHALK2} strokeWidth={detail ? 1 : 0.8} />
      <path d={polyline(line)} fill="none" stroke={ground} strokeWidth={inkWidth + 2} strokeLinejoin="round" />
      <path d={polyline(line)} fill="none" stroke={ink} strokeWidth={inkWidth} strokeLinejoin="round" />
    </g>
  );
}

/** Words of the whole picture for those who cannot see it. */
export function strataText(layers: Layer[]): string {
  const sum = (pick: (l: Layer) => number) => layers.reduce((t, l) => t + pick(l), 0);
  return `${hours(sum((l) => l.earned))} of ${hours(sum((l) => l.budget))} hours earned, ${hours(sum((l) => l.spent))} spent`;
}

type Props = { layers: Layer[]; paint: string; width?: number; height?: number; ground?: string; over?: boolean };

/** The strata of one build with its figures: spent of budget, and what is over or in hand against what was earned. */
export function Strata({ layers, paint, width = 448, height = 300, ground = P1, over = true }: Props) {
  const shown = layers.filter((l) => l.budget > 0 || l.spent > 0);
  const left = 112;
  const bar = width - left - 120;
  const top = 20;
  const h = height - 44;
  const rows = strataRows(shown, top, h);
  const ys = spread(rows.map((r) => (r.y0 + r.y1) / 2 + 4));
  const total = (pick: (l: Layer) => number) => shown.reduce((t, l) => t + pick(l), 0);
  const w100 = bar / 1.18;
  return (
    <svg className="strata block w-full" viewBox={`0 0 ${width} ${height}`} role="img" aria-label={strataText(layers)}>
      <text className="sh" x={left + w100} y={11} textAnchor="end">
        budget 100 %
      </text>
      <text className="sh" x={width - (over ? 42 : 0)} y={11} textAnchor="end">
        spent / budget
      </text>
      {over && (
        <text className="sh" x={width} y={11} textAnchor="end">
          over, h
        </text>
      )}
      <StrataCore layers={shown} paint={paint} x={left} y={top} w={w100} h={h} ground={ground} mostOver={0.17} />
      {rows.map(({ layer }, i) => {
        const beyond = Math.round((layer.spent - layer.earned) / 60);
        return (
          <g key={layer.stage}>
            <text className={`sn ${layer.spent > 0 && layer.earned < layer.budget ? "cur" : ""}`} x={left - 8} y={ys[i]} textAnchor="end">
              {stageName(layer.stage)}
            </text>
            <text className="sv" x={width - (over ? 42 : 0)} y={ys[i]} textAnchor="end">
              {hours(layer.spent)} / {hours(layer.budget)}
            </text>
            {over && (
              <text className={`sd ${beyond > 0 ? "ov" : ""}`} x={width} y={ys[i]} textAnchor="end">
                {beyond === 0 ? "" : beyond > 0 ? `+${beyond}` : `−${-beyond}`}
              </text>
            )}
          </g>
        );
      })}
      <path d={`M0,${height - 20}H${width}`} stroke={mix(ground, "#000000", 0.16)} />
      <text className="sn cur" x={left - 8} y={height - 5} textAnchor="end">
        Build
      </text>
      <text className="sn" x={left} y={height - 5}>
        {hours(total((l) => l.earned))} h earned,{" "}
        {total((l) => l.budget) ? Math.round((100 * total((l) => l.earned)) / total((l) => l.budget)) : 0} %
      </text>
      <text className="sv" x={width - (over ? 42 : 0)} y={height - 5} textAnchor="end">
        {hours(total((l) => l.spent))} / {hours(total((l) => l.budget))}
      </text>
    </svg>
  );
}

/** Moves labels apart so that none lies on another: at least 13 px, bottom up. */
export function spread(ys: number[], least = 13): number[] {
  const out = [...ys];
  for (let i = 1; i < out.length; i++) out[i] = Math.min(out[i] ?? 0, (out[i - 1] ?? 0) - least);
  return out;
}

/** The small strata of the floor: the same rule, no words. */
export function StrataMini({
  layers,
  paint,
  x,
  y,
  w = 40,
  h = 80,
  ground,
}: {
  layers: Layer[];
  paint: string;
  x: number;
  y: number;
  w?: number;
  h?: number;
  ground: string;
}) {
  return (
    <StrataCore
      layers={layers.filter((l) => l.budget > 0)}
      paint={paint}
      x={x}
      y={y}
      w={w}
      h={h}
      ground={ground}
      amp={0.35}
      detail={false}
      inkWidth={1.2}
      mostOver={0.3}
    />
  );
}
