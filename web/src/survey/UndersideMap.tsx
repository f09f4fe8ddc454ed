import { type ReactNode, useRef } from "react";
import type { Schemas } from "../api/client";
import { boxOf, f, middleOf, pointAt } from "../geometry";
import { useLasso } from "../pictures/useLasso";
import { CHALK, CHALK2, GUIDE, GUIDE3, INK } from "../tokens";

type Place = Schemas["PlaceView"];

const WORST = { rings: "rings", dents: "dents", goesThrough: "goes through" };

/** What a place under the body says to those who do not see it. */
export const placeWords = (p: Place) =>
  [p.name, !p.looked ? "not looked at" : p.worst ? WORST[p.worst] : "looked at", p.findings > 0 ? `${p.findings} found` : null]
    .filter(Boolean)
    .join(", ");

type Props = {
  places: Place[];
  width: number;
  height: number;
  selected?: string | null;
  onPick: (place: string, at: Schemas["MapPoint"]) => void;
  onDraw?: (place: string, area: Schemas["MapPoint"][]) => void;
  overlay?: (one: number) => ReactNode;
};

/** Floor, structure and what is seen from inside, from above: dark where nobody has looked. */
export function UndersideMap({ places, width, height, selected, onPick, onDraw, overlay }: Props) {
  const group = useRef<SVGGElement>(null);
  const lasso = useLasso(group, onDraw);
  if (places.length === 0) return null;
  const boxes = places.map((p) => boxOf(p.path));
  const [x0, y0] = [Math.min(...boxes.map((b) => b.x0)), Math.min(...boxes.map((b) => b.y0))];
  const [x1, y1] = [Math.max(...boxes.map((b) => b.x1)), Math.max(...boxes.map((b) => b.y1))];
  const scale = Math.min((width - 8) / (x1 - x0), (height - 22) / (y1 - y0));
  const one = 1 / scale;
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="block w-full map on-guide"
      role="group"
      aria-label="Floor, structure and inside, seen from above"
    >
      <g
        transform={`translate(${f((width - (x1 - x0) * scale) / 2 - x0 * scale)},${f(4 - y0 * scale)}) scale(${scale.toFixed(4)})`}
        ref={group}
      >
        {places.map((p, i) => {
          const box = boxes[i] ?? { x0: 0, y0: 0, x1: 0, y1: 0 };
          const wide = (box.x1 - box.x0) * scale;
          const tall = (box.y1 - box.y0) * scale;
          const turned = wide < 46 && tall > wide;
          const [cx, cy] = [(box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2];
          return (
            <g
              key={p.key}
              role="button"
              tabIndex={0}
              aria-label={placeWords(p)}
              aria-pressed={selected === p.key}
              onClick={(e) => !onDraw && onPick(p.key, pointAt(group.current, e) ?? middleOf(p.path))}
              {...lasso.on(p.key)}
              onKeyDown={(e) => {
                if (e.key !== "Enter" && e.key !== " ") return;
                e.preventDefault();
                onPick(p.key, middleOf(p.path));
              }}
            >
              <path
                className="edge"
                d={p.path}
                fill={p.looked ? "#A7AEAE" : GUIDE}
                stroke={selected === p.key ? CHALK : p.looked ? "#14181A" : GUIDE3}
                strokeWidth={(selected === p.key ? 2.2 : 1.2) * one}
              />
              {(turned ? tall : wide) > p.name.length * 5.4 && Math.min(wide, tall) > 11 && (
                <text
                  transform={`translate(${f(cx)},${f(cy)})${turned ? ` rotate(${cx < 0 ? -90 : 90})` : ""}`}
                  dy={4 * one}
                  textAnchor="middle"
                  fontSize={11 * one}
                  fontWeight="600"
                  fill={p.looked ? INK : CHALK2}
                  pointerEvents="none"
                >
                  {p.name}
                </text>
              )}
            </g>
          );
        })}
        {overlay?.(one)}
        {lasso.drawn}
      </g>
      <text x={width / 2} y={height - 4} textAnchor="middle" fontSize="11.5" fill={CHALK2}>
        Floor, structure and inside, seen from above
      </text>
    </svg>
  );
}
