import type { Schemas } from "../api/client";
import { PlaceLink } from "../ui/PlaceLink";

type Group = Schemas["PageGroup"];
type Page = { path: string; name: string; desk?: boolean };

/** The pages of a build in their groups, in the order of work; a group without a page has none yet. */
export const GROUPS: { group: Group; name: string; pages: Page[] }[] = [
  { group: "body", name: "Body", pages: [{ path: "", name: "Body" }] },
  {
    group: "takeIn",
    name: "Take in",
    pages: [
      { path: "/arrival", name: "Arrival" },
      { path: "/survey", name: "Survey" },
      { path: "/two-bodies", name: "Two bodies", desk: true },
      { path: "/estimate", name: "Estimate", desk: true },
    ],
  },
  {
    group: "work",
    name: "Work",
    pages: [
      { path: "/sequence", name: "Sequence" },
      { path: "/forecast", name: "Forecast" },
      { path: "/hours", name: "Hours" },
    ],
  },
  {
    group: "apart",
    name: "Apart",
    pages: [
      { path: "/teardown", name: "Teardown" },
      { path: "/bags", name: "Bags" },
    ],
  },
  {
    group: "measure",
    name: "Measure",
    pages: [
      { path: "/datum", name: "Datum" },
      { path: "/gaps", name: "Gaps" },
      { path: "/openings", name: "Openings" },
      { path: "/figures", name: "Figures" },
    ],
  },
  { group: "coats", name: "Coats", pages: [] },
  { group: "together", name: "Together", pages: [] },
  {
    group: "goods",
    name: "Goods",
    pages: [
      { path: "/parts", name: "Parts" },
      { path: "/outside", name: "Outside" },
    ],
  },
  { group: "record", name: "Record", pages: [{ path: "/photos", name: "Photos" }] },
  {
    group: "client",
    name: "Client",
    pages: [
      { path: "/money", name: "Money", desk: true },
      { path: "/client", name: "Reports", desk: true },
    ],
  },
];

/** Whether a page shows prices, so that only manager and office see it. */
export const isForDesk = (path: string) => GROUPS.some((g) => g.pages.some((p) => p.desk && p.path === path));

/** Groups that a role sees: those of which it may see no page are not there. */
export const groupsFor = (desk: boolean) =>
  GROUPS.map((g) => ({ ...g, pages: g.pages.filter((p) => desk || !p.desk), later: g.pages.length === 0 })).filter(
    (g) => g.later || g.pages.length > 0,
  );

/** What waits on a build for somebody with these groups in sight. */
export const waitsFor = (waits: readonly Schemas["Waiting"][], desk: boolean) => {
  const seen = new Set(groupsFor(desk).map((g) => g.group));
  return waits.filter((w) => seen.has(w.group));
};

type Props = { base: string; path: string; desk: boolean; waits: readonly Schemas["Waiting"][] };

/** The strip: the group one is in opens where it stands, the others are one word each. On the phone all are open, a line each. */
export function BuildPlaces({ base, path, desk, waits }: Props) {
  return (
    <ul className="groups">
      {groupsFor(desk).map((g) => {
        const here = g.pages.some((p) => p.path === path);
        const waiting = waits.find((w) => w.group === g.group);
        const only = g.pages.length === 1 && g.pages[0]?.name === g.name;
        return (
          <li key={g.group} className={here && !only ? "group group-open" : "group"}>
            {g.later ? (
              // biome-ignore lint/a11y/useValidAnchor: a place that is not there yet
              <a role="link" aria-disabled="true" className="later">
                {g.name}
              </a>
            ) : (
              <PlaceLink
                to={base + (g.pages[0]?.path ?? "")}
                className="group-name"
                aria-current={here && only ? "page" : undefined}
                aria-label={waiting ? `${g.name}: ${waiting.says}` : undefined}
                title={waiting?.says}
              >
                {g.name}
                {waiting && <sup aria-hidden="true">{waiting.count}</sup>}
              </PlaceLink>
            )}
            {!only && (
              <span className="group-pages">
                {g.pages.map((p) => (
                  <PlaceLink key={p.path} to={base + p.path} aria-current={p.path === path ? "page" : undefined}>
                    {p.name}
                  </PlaceLink>
                ))}
              </span>
            )}
          </li>
        );
      })}
    </ul>
  );
}
