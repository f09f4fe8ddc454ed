import type { ReactNode } from "react";
import { useMay } from "../api/queries";
import { PlaceLink } from "../ui/PlaceLink";

/** The pages of the plan, the one you are in as the title. */
export function PlanPages({ here, children }: { here: "plan" | "week" | "what-if"; children?: ReactNode }) {
  const may = useMay();
  const pages = [
    { key: "plan", to: "/plan", name: "Plan" },
    { key: "week", to: "/plan/week", name: "Week" },
    ...(may.manager ? [{ key: "what-if", to: "/plan/what-if", name: "What if" }] : []),
  ];
  return (
    <div className="plan-top">
      <h1>{pages.find((p) => p.key === here)?.name ?? "Plan"}</h1>
      {pages.length > 1 && (
        <nav aria-label="Pages of the plan" className="flex gap-3">
          {pages.map((p) => (
            <PlaceLink key={p.key} to={p.to} aria-current={p.key === here ? "page" : undefined} className="plan-page-link">
              {p.name}
            </PlaceLink>
          ))}
        </nav>
      )}
      {children}
    </div>
  );
}
