import { useQuery } from "@tanstack/react-query";
import { shopQuery } from "../api/queries";
import { PlaceLink } from "../ui/PlaceLink";
import { Shown } from "../ui/States";
import { DrawPlan } from "./DrawPlan";

/** The shop's plan, drawn by hand. */
export function DrawPlanPage() {
  const shop = useQuery(shopQuery);
  return (
    <Shown of={shop}>
      {(s) => (
        <div className="px-5 pt-3 pb-10">
          <div className="flex items-baseline gap-4 mb-1">
            <h1 className="flex-1">The plan of the shop</h1>
            <PlaceLink className="btn" to="/">
              To the floor
            </PlaceLink>
          </div>
          <DrawPlan shop={s} />
        </div>
      )}
    </Shown>
  );
}
