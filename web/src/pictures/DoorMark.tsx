import type { Schemas } from "../api/client";
import { P0 } from "../tokens";

/** An opening: the wall is broken and dashed across it. */
export function DoorMark({ door: d, stroke, width = 160 }: { door: Schemas["PlanDoor"]; stroke: string; width?: number }) {
  const half = d.widthMm / 2;
  const path = d.along ? `M${d.xMm - half},${d.yMm}H${d.xMm + half}` : `M${d.xMm},${d.yMm - half}V${d.yMm + half}`;
  return (
    <>
      <path d={path} stroke={P0} strokeWidth={width * 1.2} />
      <path d={path} stroke={stroke} strokeWidth={width * 0.3} strokeDasharray={`${width} ${width * 0.7}`} />
    </>
  );
}
