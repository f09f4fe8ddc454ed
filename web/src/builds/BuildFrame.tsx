import { Outlet, useLocation, useNavigate } from "@tanstack/react-router";
import { useMay } from "../api/queries";
import { Dab } from "../ui/Dab";
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
  const navigate = useNavigate();
  const may = useMay();
  if (card === undefined) return <p className="p-5 text-ink2">Loading…</p>;
  if (card === null) return <p className="p-5">There is no open build with this number.</p>;
  const base = `/builds/${card.number}`;
  return (
    <>
      <nav className="subplaces" aria-label={`Build ${card.number}`}>
        <span className="flex items-center gap-2 mr-2">
          <Dab number={card.number} colour={card.colourHex} />
          <b className="font-[680] text-[14px]">{card.title}</b>
        </span>
        {TABS.filter((t) => t[2] === "all" || may.desk).map(([path, name]) => {
          const to = base + path;
          return (
            <a
              key={path}
              href={to}
              aria-current={pathname.replace(/\/$/, "") === to ? "page" : undefined}
              onClick={(e) => {
                if (e.metaKey || e.ctrlKey || e.shiftKey) return;
                e.preventDefault();
                void navigate({ to });
              }}
            >
              {name}
            </a>
          );
        })}
      </nav>
      <Outlet />
    </>
  );
}
