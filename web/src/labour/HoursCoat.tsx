import type { Schemas } from "../api/client";
import { layerColour } from "../pictures/Strata";
import { CHALK, CHALK2, GUIDE3, OXIDE_LT } from "../tokens";

/** One coat lying down: its length is the hours allowed, fill is done, the line is spent, hatch is over. */
export function HoursCoat({ job }: { job: Schemas["ClockJob"] }) {
  const w = 186;
  const allowed = Math.max(job.budgetMinutes, 1);
  const done = w * Math.min(1, job.statedShare ?? 0);
  const spent = w * Math.min(1.12, job.spentMinutes / allowed);
  const edge = (x0: number, x1: number) => {
    const pts: string[] = [];
    for (let x = x0; x <= x1; x += 6) pts.push(`${x},${(3 + Math.sin(x * 0.07) * 1.4).toFixed(1)}`);
    pts.push(`${x1},${(3 + Math.sin(x1 * 0.07) * 1.4).toFixed(1)}`);
    return `M${x0},27L${pts.join("L")}L${x1},27Z`;
  };
  return (
    <svg
      width="212"
      height="32"
      viewBox="0 0 212 32"
      className="block mt-3"
      role="img"
      aria-label={`${Math.round((100 * job.spentMinutes) / allowed)} percent of the allowed time is spent`}
    >
      <defs>
        <pattern id="coat-over" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
          <path d="M0,3H6" stroke={OXIDE_LT} strokeWidth="2.2" />
        </pattern>
      </defs>
      <path d={edge(0, w)} fill={GUIDE3} />
      <path d={edge(0, done)} fill={layerColour(job.stage, job.colourHex)} />
      {spent > done && <path d={edge(done, spent)} fill="url(#coat-over)" />}
      <path d={`M${w},1V29`} stroke={CHALK2} strokeWidth="1.5" />
      <path d={`M${spent},0V30`} stroke={CHALK} strokeWidth="3" />
    </svg>
  );
}
