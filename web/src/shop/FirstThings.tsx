import { useQuery } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../api/client";
import { buildsQuery, firstThingsQuery } from "../api/queries";
import { PlaceLink } from "../ui/PlaceLink";
import { useSend } from "../ui/useSend";

type Thing = Schemas["FirstThing"];

const TITLES: Record<Thing["key"], string> = {
  shop: "The shop",
  week: "The week",
  places: "Places",
  people: "People and their rates",
  suppliers: "Suppliers",
  racks: "Racks",
  accounts: "Accounts",
  build: "A first build",
  standing: "Where they stand",
};

/** Where each thing is entered. */
const goesTo = (key: Thing["key"], lost: string): string =>
  key === "places" ? "/shop/plan" : key === "build" ? "/builds/new" : key === "standing" ? lost : `/shop?open=${key}`;

/** What a new shop enters, in the order that saves most typing; each can wait. */
export function FirstThings() {
  const view = useQuery(firstThingsQuery).data;
  const builds = useQuery(buildsQuery).data ?? [];
  const away = useSend((to: boolean) => ask(api.PUT("/api/shop/first-things", { body: { away: to } })));
  if (!view) return null;
  const lost = builds.find((b) => b.stationId === null && b.awayAt === "");
  const next = view.things.find((t) => t.state !== "done");
  return (
    <section className="pt-3 pl-4 pr-5 pb-6" aria-label="First things">
      <h1>First things</h1>
      <p className="text-ink2 mt-[3px] mb-[9px]">In the order that saves most typing. Each can wait; the plan says what it misses.</p>
      <ol className="list-none border-b border-p3">
        {view.things.map((t) => (
          <li key={t.key} className="flex items-center gap-3 border-t border-p3 py-[10px]">
            <Mark state={t.state} />
            <span className="flex-1">
              <b className="text-[14.5px]">{TITLES[t.key]}</b>
              <span className="block text-ink2">{t.says}</span>
            </span>
            {t.state === "done" ? (
              <PlaceLink className="btn btn-quiet" to={goesTo(t.key, `/builds/${lost?.number}`)} aria-label={`Look at: ${TITLES[t.key]}`}>
                Look
              </PlaceLink>
            ) : (
              <PlaceLink
                className={`btn ${t === next ? "btn-ink" : ""}`}
                to={goesTo(t.key, `/builds/${lost?.number}`)}
                aria-label={`${verb(t)}: ${TITLES[t.key]}`}
              >
                {verb(t)}
              </PlaceLink>
            )}
          </li>
        ))}
      </ol>
      <p className="mt-4">
        <b>Rather look first?</b> A sample shop with ten builds stands beside yours and is never mixed with it. On the machine that runs
        First Coat: <code className="select-all">./firstcoat demo</code>
      </p>
      <button type="button" className="btn btn-quiet !px-0 mt-3" disabled={away.isPending} onClick={() => away.mutate(true)}>
        Put this list away
      </button>
    </section>
  );
}

const verb = (t: Thing) => (t.state === "begun" ? "Finish" : t.key === "places" ? "Draw" : "Start");

/** Empty, half or ticked. */
function Mark({ state }: { state: Thing["state"] }) {
  return (
    <svg
      width="16"
      height="16"
      viewBox="0 0 16 16"
      className="flex-none"
      role="img"
      aria-label={state === "done" ? "done" : state === "begun" ? "begun" : "to do"}
    >
      <rect
        x="1.25"
        y="1.25"
        width="13.5"
        height="13.5"
        fill={state === "done" ? "currentColor" : "none"}
        stroke="currentColor"
        strokeWidth="1.5"
      />
      {state === "begun" && <rect x="1.25" y="8" width="13.5" height="6.75" fill="currentColor" />}
      {state === "done" && <path d="M4,8.2l2.8,3L12,4.8" fill="none" stroke="#efefeb" strokeWidth="1.8" />}
    </svg>
  );
}
