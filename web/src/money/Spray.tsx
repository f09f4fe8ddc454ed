import type { Schemas } from "../api/client";
import { f } from "../geometry";
import { layerColour } from "../pictures/Strata";
import { INK, mix, P3 } from "../tokens";

type Amounts = { stage: Schemas["Stage"] | null; low: number; likely: number; high: number; jobs: { amount: number }[] };

const WIDTH = 232;
const HEIGHT = 34;

/** Low, likely and high of one row on the scale that all rows share: a body of paint, an upright at likely, a whisker to high, like jobs as dots below. */
export function Spray({ of: r, most, paint }: { of: Amounts; most: number; paint: string }) {
  const x = (v: number) => (v / most) * WIDTH;
  const tail = Math.max(0, r.low - (r.likely - r.low) * 0.55);
  const tip = r.high + (r.high - r.likely) * 0.35;
  const fill = r.stage ? layerColour(r.stage, paint) : mix(P3, "#5F6B66", 0.5);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} width={WIDTH} height={HEIGHT} className="block" aria-hidden="true">
      <path
        d={`M${f(x(tail))},14L${f(x(r.low))},10.5L${f(x(r.likely))},5L${f(x(r.high))},11L${f(Math.min(WIDTH, x(tip)))},14L${f(x(r.high))},17L${f(x(r.likely))},23L${f(x(r.low))},17.5Z`}
        fill={fill}
        stroke={INK}
        strokeOpacity=".35"
        strokeWidth=".6"
      />
      <path
        d={`M${f(x(r.likely))},3V25M${f(x(r.likely))},14H${f(x(r.high))}M${f(x(r.high))},10V18`}
        stroke={INK}
        strokeWidth="1.5"
        fill="none"
      />
      {r.jobs
        .filter((j) => j.amount <= most)
        .slice(0, 24)
        .map((j, i) => (
          <circle key={`${i}${j.amount}`} cx={f(x(j.amount))} cy="30" r="1.7" fill={INK} />
        ))}
    </svg>
  );
}
