import { Link } from "@tanstack/react-router";
import type { Schemas } from "../api/client";
import { day } from "../format";

/** Places whose inspection is to be renewed: the plan takes it that it is, and closes the place once it has run out. */
export function Inspections({ rows }: { rows: Schemas["InspectionRow"][] }) {
  if (rows.length === 0) return null;
  return (
    <div className="border-t border-p3 pt-2 mb-2">
      <b>To be inspected</b>
      <ul>
        {rows.map((r) => (
          <li key={r.stationId} className="py-1">
            {r.name}: {r.what}{" "}
            {r.past ? <span className="text-oxide">ran out on {day(r.until)}, closed</span> : <>runs out on {day(r.until)}</>}
          </li>
        ))}
      </ul>
      <Link to="/shop" className="underline">
        Enter the new date
      </Link>
    </div>
  );
}
