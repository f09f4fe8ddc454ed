import { MutationCache, QueryCache, QueryClient, queryOptions, useQuery } from "@tanstack/react-query";
import { createContext, useContext } from "react";
import { takeShopWays } from "../format";
import { api, ask, Problem, type Schemas } from "./client";
import { setSignedOut } from "./signedOut";

/** What any answer may tell of the whole page: that nobody is signed in any more, or that nothing can be kept. */
const notice = (e: Error) => {
  const session = queries.getQueryData(sessionQuery.queryKey);
  if (!(e instanceof Problem) || !session) return;
  if (e.status === 507) queries.setQueryData(sessionQuery.queryKey, { ...session, diskFull: true });
  if (e.status === 401 && !e.field && session.user) setSignedOut(true);
};

export const queries = new QueryClient({
  queryCache: new QueryCache({ onError: notice }),
  mutationCache: new MutationCache({ onError: notice }),
  defaultOptions: {
    queries: { staleTime: 30_000, retry: (n, e) => !(e instanceof Problem) && n < 2, refetchOnWindowFocus: true },
    mutations: { networkMode: "always" },
  },
});

/** What never changes while somebody is signed in. */
const LASTING = ["session", "styles", "templates", "unfolded", "sum"];

/**
 * What a kind of change leaves as it was: no plan is made anew by it, and nothing but these pages shows it. Any other kind
 * may show anywhere.
 */
export const ONLY: Record<string, readonly string[]> = {
  Photo: ["gate", "photos", "survey", "assemblies", "reassembly", "arrival", "bags", "reports", "page"],
  BagMove: ["bags", "assemblies", "reassembly", "builds", "floor", "card"],
  Baseline: ["outlook"],
  ForecastNight: ["outlook"],
  CommittedWeek: ["week"],
  CalendarLink: ["calendars"],
  WhatIf: ["what-ifs", "beside"],
  PrivateLink: ["links", "reports", "papers"],
  Account: ["accounts"],
  ShopTime: ["shop-time", "clock"],
  Acknowledgement: ["acknowledgements", "clock"],
  Provision: ["provisions", "gate"],
  FitReading: ["fit", "gate", "work"],
  BenchTry: ["tries"],
  SpecFigure: ["figures"],
  CentreReading: ["figures"],
  MirrorPlace: ["figures"],
  BodyMount: ["figures"],
  BoltSet: ["figures"],
  SheetOffcut: ["offcuts"],
  WireTable: ["wires"],
  OpeningReading: ["openings", "gate", "work"],
  DatumSheet: ["datum", "gate", "work"],
  DatumReading: ["datum", "gate"],
  FitAcceptance: ["fit", "gate", "builds", "card"],
  FitChange: ["fit", "gate"],
  FitSheet: ["fit", "gate", "work"],
  Ripple: ["ripples"],
  SequenceChange: ["sequence-changes"],
  ShopTemplate: ["templates"],
  Futures: ["chances", "builds", "floor", "card", "outlook", "lanes"],
  Advice: ["floor", "outlook", "papers"],
};

/** Whether what was asked may be another after a change of some kinds; no kinds: after anything. */
export const concerns = (key: readonly unknown[], kinds?: ReadonlySet<string>) =>
  !LASTING.includes(String(key[0])) && (!kinds || [...kinds].some((k) => !(k in ONLY) || ONLY[k]?.includes(String(key[0]))));

/**
 * Asks again for what is on screen and may have changed. An answer that is under way may be older than the change, so it
 * is dropped first; a first load would otherwise be taken as fresh.
 */
export async function askAgain(kinds?: ReadonlySet<string>) {
  const filter = { predicate: (q: { queryKey: readonly unknown[] }) => concerns(q.queryKey, kinds) };
  await queries.cancelQueries(filter);
  await queries.invalidateQueries(filter);
}

export const sessionQuery = queryOptions({
  queryKey: ["session"],
  queryFn: async () => {
    const now = await ask(api.GET("/api/session"));
    takeShopWays(now.shop ?? null, now.now);
    const before: Schemas["SessionView"] | undefined = queries.getQueryData(["session"]);
    // Whoever worked here a moment ago is asked for the password; the page keeps what it is until then.
    // So does a window beside which somebody else signed in: nothing of it goes under another name.
    if (before?.user && now.user?.accountId !== before.user.accountId) {
      setSignedOut(true);
      return { ...now, user: before.user };
    }
    if (before?.user) setSignedOut(false);
    return now;
  },
  staleTime: 5 * 60_000,
  refetchInterval: 60_000,
  refetchOnWindowFocus: "always",
});
export const shopQuery = queryOptions({ queryKey: ["shop"], queryFn: () => ask(api.GET("/api/shop")) });
export const firstThingsQuery = queryOptions({ queryKey: ["first-things"], queryFn: () => ask(api.GET("/api/shop/first-things")) });
export const shopTimeQuery = queryOptions({ queryKey: ["shop-time"], queryFn: () => ask(api.GET("/api/shop-time")) });
export const clientsQuery = (typed: string) =>
  queryOptions({
    queryKey: ["clients", typed],
    queryFn: () => ask(api.GET("/api/clients", { params: { query: { typed } } })),
    enabled: typed.trim().length >= 2,
    staleTime: 10_000,
  });
export const floorQuery = queryOptions({ queryKey: ["floor"], queryFn: () => ask(api.GET("/api/floor")), refetchInterval: 60_000 });
export const buildsQuery = queryOptions({ queryKey: ["builds"], queryFn: () => ask(api.GET("/api/builds")) });
/** The card of a build that may have ended. */
export const cardQuery = (number: number) =>
  queryOptions({
    queryKey: ["card", number],
    queryFn: () => ask(api.GET("/api/builds/numbered/{number}", { params: { path: { number } } })),
  });
export const endedQuery = queryOptions({ queryKey: ["ended"], queryFn: () => ask(api.GET("/api/builds/ended")) });
export const stylesQuery = queryOptions({ queryKey: ["styles"], queryFn: () => ask(api.GET("/api/body-styles")), staleTime: Infinity });
export const templatesQuery = queryOptions({ queryKey: ["templates"], queryFn: () => ask(api.GET("/api/templates")), staleTime: Infinity });
export const clockQuery = queryOptions({ queryKey: ["clock"], queryFn: () => ask(api.GET("/api/clock")), refetchInterval: 60_000 });

/** Sampled futures of every build; they are drawn anew after a change, so the page does not wait for them. */
export const chancesQuery = queryOptions({ queryKey: ["chances"], queryFn: () => ask(api.GET("/api/plan/chances")) });
/** Work of several builds that could be made ready for once. */
export const setUpsQuery = queryOptions({ queryKey: ["set-ups"], queryFn: () => ask(api.GET("/api/plan/set-ups")) });
export const improvementQuery = queryOptions({ queryKey: ["improvement"], queryFn: () => ask(api.GET("/api/plan/improvement")) });
export const whatIfsQuery = queryOptions({ queryKey: ["what-ifs"], queryFn: () => ask(api.GET("/api/plan/what-ifs")) });

const path = (id: string) => ({ params: { path: { id } } });
export const buildQuery = (id: string) =>
  queryOptions({ queryKey: ["build", id], queryFn: () => ask(api.GET("/api/builds/{id}", path(id))) });
export const bodyQuery = (id: string) =>
  queryOptions({ queryKey: ["body", id], queryFn: () => ask(api.GET("/api/builds/{id}/body", path(id))) });
export const bagsQuery = (id: string) =>
  queryOptions({ queryKey: ["bags", id], queryFn: () => ask(api.GET("/api/builds/{id}/bags", path(id))) });
export const surveyQuery = (id: string) =>
  queryOptions({ queryKey: ["survey", id], queryFn: () => ask(api.GET("/api/builds/{id}/survey", path(id))) });
export const operationsQuery = (id: string) =>
  queryOptions({ queryKey: ["operations", id], queryFn: () => ask(api.GET("/api/builds/{id}/operations", path(id))) });
export const lanesQuery = queryOptions({ queryKey: ["lanes"], queryFn: () => ask(api.GET("/api/plan/lanes")) });
/** @param of Any day of the week; null: this one. */
export const weekQuery = (of: string | null) =>
  queryOptions({
    queryKey: ["week", of],
    queryFn: () => ask(api.GET("/api/plan/week", { params: { query: of ? { of } : {} } })),
    refetchInterval: 5 * 60_000,
  });
export const calendarsQuery = queryOptions({ queryKey: ["calendars"], queryFn: () => ask(api.GET("/api/calendars")) });
export const startsOnQuery = (id: string, on: string) =>
  queryOptions({
    queryKey: ["starts-on", id, on],
    queryFn: () => ask(api.GET("/api/operations/{id}/starts-on", { params: { path: { id }, query: { on } } })),
  });
export const whyQuery = (id: string) =>
  queryOptions({ queryKey: ["why", id], queryFn: () => ask(api.GET("/api/operations/{id}/why", path(id))) });
export const aheadQuery = (id: string) =>
  queryOptions({ queryKey: ["ahead", id], queryFn: () => ask(api.GET("/api/builds/{id}/ahead", path(id))) });
export const outlookQuery = (id: string) =>
  queryOptions({ queryKey: ["outlook", id], queryFn: () => ask(api.GET("/api/builds/{id}/outlook", path(id))) });
/** What each answer to a question on which practitioners differ would change of a way to run a build. */
export const waysQuery = (way: Schemas["WayBody"]) =>
  queryOptions({ queryKey: ["ways", way], queryFn: () => ask(api.POST("/api/ways", { body: way })) });
/** The order of work that follows from a way. */
export const wayQuery = (way: Schemas["WayBody"]) =>
  queryOptions({ queryKey: ["way", way], queryFn: () => ask(api.POST("/api/ways/look", { body: way })) });
export const wayChancesQuery = (way: Schemas["WayBody"]) =>
  queryOptions({ queryKey: ["way chances", way], queryFn: () => ask(api.POST("/api/ways/chances", { body: way })) });
export const besideQuery = (id: string, version: number) =>
  queryOptions({ queryKey: ["beside", id, version], queryFn: () => ask(api.GET("/api/plan/what-ifs/{id}/beside", path(id))) });
/** What a gate asks for, by its operation. */
/** What a gate asks for, of one side where that is signed by itself. */
export const gateQuery = (id: string, side?: Schemas["PanelSide"]) =>
  queryOptions({
    queryKey: ["gate", id, side ?? "all"],
    queryFn: () => ask(api.GET("/api/operations/{id}/gate", { params: { path: { id }, query: side ? { side } : {} } })),
  });
export const provisionsQuery = (id: string) =>
  queryOptions({ queryKey: ["provisions", id], queryFn: () => ask(api.GET("/api/builds/{id}/provisions", path(id))) });
export const fitQuery = (id: string) =>
  queryOptions({ queryKey: ["fit", id], queryFn: () => ask(api.GET("/api/builds/{id}/fit", path(id))) });
export const datumQuery = (id: string) =>
  queryOptions({ queryKey: ["datum", id], queryFn: () => ask(api.GET("/api/builds/{id}/datum", path(id))) });
export const openingsQuery = (id: string) =>
  queryOptions({ queryKey: ["openings", id], queryFn: () => ask(api.GET("/api/builds/{id}/openings", path(id))) });
/** What a bench sum comes to; the same figures have the same answer. */
export const sumQuery = (sum: string, figures: object) =>
  queryOptions({
    queryKey: ["sum", sum, figures],
    queryFn: () => ask(api.POST("/api/bench/sums/{sum}", { params: { path: { sum } }, body: figures as never })),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
  });
export const triesQuery = (id: string) =>
  queryOptions({ queryKey: ["tries", id], queryFn: () => ask(api.GET("/api/builds/{id}/bench/tries", path(id))) });
export const workQuery = (id: string) =>
  queryOptions({ queryKey: ["work", id], queryFn: () => ask(api.GET("/api/builds/{id}/bench/work", path(id))) });
/** Rests of sheet of one thickness, and those that were used last. */
export const offcutsQuery = (gaugeMm: number) =>
  queryOptions({
    queryKey: ["offcuts", gaugeMm],
    queryFn: () => ask(api.GET("/api/offcuts", { params: { query: { gaugeMm } } })),
    enabled: gaugeMm > 0,
  });
export const wiresQuery = queryOptions({ queryKey: ["wires"], queryFn: () => ask(api.GET("/api/wires")) });
export const figuresQuery = (id: string) =>
  queryOptions({ queryKey: ["figures", id], queryFn: () => ask(api.GET("/api/builds/{id}/figures", path(id))) });
export const sequenceChangesQuery = (id: string) =>
  queryOptions({ queryKey: ["sequence-changes", id], queryFn: () => ask(api.GET("/api/builds/{id}/sequence-changes", path(id))) });
export const ripplesQuery = (id: string) =>
  queryOptions({ queryKey: ["ripples", id], queryFn: () => ask(api.GET("/api/builds/{id}/ripples", path(id))) });
export const restingQuery = (operation: string) =>
  queryOptions({ queryKey: ["resting", operation], queryFn: () => ask(api.GET("/api/operations/{id}/rests", path(operation))) });
export const hoursQuery = (id: string) =>
  queryOptions({ queryKey: ["hours", id], queryFn: () => ask(api.GET("/api/builds/{id}/hours", path(id))) });
export const acknowledgementsQuery = (id: string) =>
  queryOptions({ queryKey: ["acknowledgements", id], queryFn: () => ask(api.GET("/api/builds/{id}/acknowledgements", path(id))) });
export const partsQuery = (id: string) =>
  queryOptions({ queryKey: ["parts", id], queryFn: () => ask(api.GET("/api/builds/{id}/parts", path(id))) });
export const outsideQuery = (id: string) =>
  queryOptions({ queryKey: ["outside", id], queryFn: () => ask(api.GET("/api/builds/{id}/outside", path(id))) });
export const photosQuery = (id: string) =>
  queryOptions({ queryKey: ["photos", id], queryFn: () => ask(api.GET("/api/builds/{id}/photos", path(id))) });
export const moneyQuery = (id: string) =>
  queryOptions({ queryKey: ["money", id], queryFn: () => ask(api.GET("/api/builds/{id}/money", path(id))) });
export const assembliesQuery = (id: string) =>
  queryOptions({ queryKey: ["assemblies", id], queryFn: () => ask(api.GET("/api/builds/{id}/assemblies", path(id))) });
export const reassemblyQuery = (id: string) =>
  queryOptions({ queryKey: ["reassembly", id], queryFn: () => ask(api.GET("/api/assemblies/{id}/back", path(id))) });
export const arrivalQuery = (id: string) =>
  queryOptions({ queryKey: ["arrival", id], queryFn: () => ask(api.GET("/api/builds/{id}/arrival", path(id))) });
export const bodiesQuery = (id: string) =>
  queryOptions({ queryKey: ["bodies", id], queryFn: () => ask(api.GET("/api/builds/{id}/bodies", path(id))) });
export const papersQuery = (id: string) =>
  queryOptions({ queryKey: ["papers", id], queryFn: () => ask(api.GET("/api/builds/{id}/papers", path(id))) });
/** A paper as the client sees it; a draft's page changes with its version. */
export const paperPageQuery = (id: string, version: number) =>
  queryOptions({ queryKey: ["paper-page", id, version], queryFn: () => ask(api.GET("/api/papers/{id}/page", path(id))) });
export const reportsQuery = (id: string) =>
  queryOptions({ queryKey: ["reports", id], queryFn: () => ask(api.GET("/api/builds/{id}/reports", path(id))) });
export const linksQuery = (id: string) =>
  queryOptions({ queryKey: ["links", id], queryFn: () => ask(api.GET("/api/builds/{id}/links", path(id))) });
export const pageQuery = (id: string) =>
  queryOptions({ queryKey: ["page", id], queryFn: () => ask(api.GET("/api/reports/{id}/page", path(id))) });

/** An unfolded body of a style with given dimensions; it never changes. */
export const styleQuery = (style: Schemas["BodyStyleKey"], d: Schemas["BodyDimensions"]) =>
  queryOptions({
    queryKey: ["unfolded", style, d.lengthMm, d.widthMm, d.wheelbaseMm],
    queryFn: () => ask(api.GET("/api/body-styles/{style}", { params: { path: { style }, query: { ...d } } })),
    staleTime: Infinity,
  });

export const useUser = () => useQuery(sessionQuery).data?.user ?? null;
export const useShopHead = () => useQuery(sessionQuery).data?.shop ?? null;

/** Whether the page shows a build that has ended and is kept to be read. */
export const Ended = createContext(false);

/**
 * What a role sees; the server holds the rule, the screen leaves out what would be refused.
 * Of a build that has ended the manager only settles what was under way: `settle`.
 */
export function useMay() {
  const role = useUser()?.role;
  const ended = useContext(Ended);
  return {
    manager: role === "manager" && !ended,
    settle: role === "manager",
    desk: role === "manager" || role === "office",
    technician: role === "technician",
  };
}
