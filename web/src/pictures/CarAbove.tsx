import { useMemo } from "react";
import type { Schemas } from "../api/client";
import { mapPath } from "../geometry";
import { GUIDE, mix, P0 } from "../tokens";
import { tint } from "./finishes";

type Body = Schemas["BodyView"];

/**
 * The same body folded up again and seen from above: girth becomes width as on a rounded section, so the sides shorten
 * towards the edge. Half the stated width is its widest point.
 */
export function folded(body: Body): (x: number, y: number) => [number, number] {
  const half = body.dimensions.widthMm / 20;
  const reach = Math.max(-body.minX, body.maxX);
  return (x, y) => [half * Math.sin((Math.min(1, Math.abs(x) / reach) * Math.PI) / 2) * Math.sign(x), y];
}

type Props = { body: Body; coats: Record<string, Schemas["Coat"]>; paint: string; mode?: "coats" | "outline" };

/** Nose and tail turn down, so a vehicle is shorter in plan than laid flat; a rule of thumb. */
export const PLAN_LENGTH = 0.87;

/** A vehicle in plan, in centimetres, nose to the right, its middle at the origin; each panel in the coat it wears. */
export function CarAbove({ body, coats, paint, mode = "coats" }: Props) {
  const shapes = useMemo(() => {
    const move = folded(body);
    return {
      panels: body.panels.map((p) => ({ key: p.key, d: mapPath(p.path, move) })),
      openings: body.openings.map((d) => mapPath(d, move)),
    };
  }, [body]);
  const half = body.dimensions.widthMm / 20;
  const middle = (body.minY + body.maxY) / 2;
  const axles = body.panels.some((p) => p.key === "boardR") ? 1 : 0;
  return (
    <g transform={`rotate(90) scale(1,${PLAN_LENGTH}) translate(0,${-middle})`}>
      {[0.2, 0.77].map((t) =>
        [-1, 1].map((s) => {
          const y = body.minY + (body.maxY - body.minY) * t;
          return <rect key={`${t}${s}`} x={s * (half - 9 - axles * 3) - 9} y={y - 29} width="18" height="58" rx="5" fill="#1B1F21" />;
        }),
      )}
      <path
        d={`M${-half * 0.9},${body.minY + 34}C${-half * 0.8},${body.minY + 4} ${half * 0.8},${body.minY + 4} ${half * 0.9},${body.minY + 34}L${half * 0.9},${body.maxY - 40}C${half * 0.8},${body.maxY - 6} ${-half * 0.8},${body.maxY - 6} ${-half * 0.9},${body.maxY - 40}Z`}
        fill={mode === "outline" ? P0 : GUIDE}
        fillOpacity={mode === "outline" ? 1 : 0.92}
      />
      {shapes.panels.map((p) => {
        const colour = tint(coats[p.key] ?? "asFound", paint);
        return <path key={p.key} d={p.d} fill={colour} stroke={mix(colour, "#14181A", 0.55)} strokeWidth="1.1" />;
      })}
      <g fill="#30373A" fillOpacity=".9">
        {shapes.openings.map((d) => (
          <path key={d} d={d} />
        ))}
      </g>
    </g>
  );
}

/** Somebody seen from above, to scale: 48 cm across the shoulders. */
export function PersonAbove({ x, y, turn = 0, colour = "#22272A" }: { x: number; y: number; turn?: number; colour?: string }) {
  return (
    <g transform={`translate(${x},${y}) rotate(${turn})`}>
      <path d="M-4.5,0C-4.5,-6 -1,-9.5 2,-9C6,-8.6 5.5,-5 4.6,-4L4.6,4C5.5,5 6,8.6 2,9C-1,9.5 -4.5,6 -4.5,0Z" fill={colour} />
      <circle cx=".6" r="4.3" fill={P0} stroke={colour} strokeWidth="1.3" />
    </g>
  );
}
