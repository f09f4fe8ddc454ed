import type { PointerEvent, RefObject } from "react";
import type { Schemas } from "../api/client";
import { f, pointAt } from "../geometry";
import { CHALK } from "../tokens";
import { useLatest } from "../ui/useLatest";

type MapPoint = Schemas["MapPoint"];

/** Corners nearer than this many centimetres say nothing more. */
const APART = 1.5;
const MOST = 120;

/** The corners of a drawn line that say something: apart from each other, and no more than the survey keeps. */
export function cornersOf(drawn: readonly MapPoint[]): MapPoint[] {
  const apart: MapPoint[] = [];
  for (const p of drawn) {
    const last = apart.at(-1);
    if (!last || Math.hypot(p.x - last.x, p.y - last.y) >= APART)
      apart.push({ x: Math.round(p.x * 10) / 10, y: Math.round(p.y * 10) / 10 });
  }
  const every = Math.ceil(apart.length / MOST);
  return apart.filter((_, i) => i % every === 0);
}

export const centreOf = (points: readonly MapPoint[]): MapPoint => ({
  x: points.reduce((sum, p) => sum + p.x, 0) / points.length,
  y: points.reduce((sum, p) => sum + p.y, 0) / points.length,
});

/** Draws an area by hand: press on a place, go round what is bad, let go. */
export function useLasso(group: RefObject<SVGGElement | null>, onDraw?: (place: string, area: MapPoint[]) => void) {
  const { drawn: drawing, latest, set: setDrawing } = useLatest<{ place: string; points: MapPoint[] } | null>(null);
  const add = (e: PointerEvent) => {
    const at = latest.current && pointAt(group.current, e);
    if (latest.current && at) setDrawing({ ...latest.current, points: [...latest.current.points, at] });
  };
  return {
    drawn: drawing && drawing.points.length > 1 && (
      <path
        d={`M${drawing.points.map((p) => `${f(p.x)},${f(p.y)}`).join("L")}Z`}
        fill={CHALK}
        fillOpacity=".25"
        stroke={CHALK}
        strokeWidth="1.2"
        pointerEvents="none"
      />
    ),
    on: (place: string) =>
      onDraw
        ? {
            onPointerDown: (e: PointerEvent) => {
              e.preventDefault();
              e.currentTarget.setPointerCapture?.(e.pointerId);
              const at = pointAt(group.current, e);
              setDrawing({ place, points: at ? [at] : [] });
            },
            onPointerMove: add,
            onPointerUp: () => {
              const done = latest.current;
              if (!done) return;
              const corners = cornersOf(done.points);
              setDrawing(null);
              if (corners.length >= 3) onDraw(done.place, corners);
            },
            style: { touchAction: "none" as const },
          }
        : {},
  };
}
