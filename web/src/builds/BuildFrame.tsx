import { Outlet, useLocation } from "@tanstack/react-router";
import { Ended, useMay } from "../api/queries";
import { Dab } from "../ui/Dab";
import { PlaceLink } from "../ui/PlaceLink";
import { useCard } from "./useBuild";

const TABS: [string, string, "all" | "desk"][] = [
  ["", "Body", "all"],
  ["/arrival", "Arrival", "all"],
  ["/survey", "Survey", "all"],
  ["/sequence", "Sequence", "all"],
  ["/forecast", "Forecast", "all"],
  ["/teardown", "Teardown", "all"],
  ["/bags", "Bags", "all"],
  ["/hours", "Hours", "all"],
  ["/parts", "Parts", "all"],
  ["/outside", "Outside", "all"],
  ["/photos", "Photos", "all"],
  ["/estimate", "Estimate", "desk"],
  ["/money", "Money", "desk"],
  ["/client", "Client", "desk"],
];

/** The places of one build. */
export function BuildFrame() {
  const card = useCard();
  const { pathname } = useLocation();
  const may = useMay();
  if (card === undefined) return <p className="p-5 text-ink2">Loading…</p>;
  if (card === null) return <p className="p-5">There is no build with this number.</p>;
  const base = `/builds/${card.number}`;
  const ended = card.status === "closed" || card.status === "withdrawn";
  return (
    <Ended.Provider value={ended}>
      <nav className="subplaces" aria-label={`Build ${card.number}`}>
        <span className="flex items-center gap-2 mr-2">
          <Dab number={card.number} colour={card.colourHex} />
          <b className="font-[680] text-[14px]">{card.title}</b>
        </span>
        {TABS.filter((t) => t[2] === "all" || may.desk).map(([path, name]) => {
          const to = base + path;
          return (
            <PlaceLink key={path} to={to} aria-current={pathname.replace(/\/$/, "") === to ? "page" : undefined}>
              {name}
            </PlaceLink>
          );
        })}
      </nav>
      {ended && (
        <p role="status" className="mx-5 mt-3 border-t-4 border-ink pt-1">
          <b className="font-[680]">{card.status === "withdrawn" ? "Withdrawn by the client." : "Handed over."}</b> It is kept to be read;
          only what was under way still comes in.
        </p>
      )}
      <Outlet />
    </Ended.Provider>
  );
}
