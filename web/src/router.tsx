import { useQuery } from "@tanstack/react-query";
import { createRootRoute, createRoute, createRouter, lazyRouteComponent, Outlet, redirect } from "@tanstack/react-router";
import { useEffect } from "react";
import { AppFrame } from "./AppFrame";
import { SignInAgain } from "./access/SignInAgain";
import { queries, sessionQuery } from "./api/queries";
import { unsentOf } from "./api/unsent";
import { PlaceLink } from "./ui/PlaceLink";

/** Every page, and what they share: what this browser has not sent yet. */
function Root() {
  const account = useQuery({ ...sessionQuery, enabled: false }).data?.user?.accountId ?? null;
  useEffect(() => void unsentOf(account), [account]);
  return (
    <>
      <Outlet />
      <SignInAgain />
    </>
  );
}

const rootRoute = createRootRoute({
  component: Root,
  notFoundComponent: () => (
    <main className="p-8">
      <h1>There is nothing at this address</h1>
      <p className="mt-2">
        <PlaceLink to="/">Back to the floor</PlaceLink>
      </p>
    </main>
  ),
});

/** A page that could not be shown: after an update of the shop's machine its script may have another name. */
function Broken({ error }: { error: unknown }) {
  return (
    <main className="p-8" role="alert">
      <h1>This page could not be shown</h1>
      <p className="mt-2 text-ink2">{error instanceof Error ? error.message : "Something went wrong here."}</p>
      <button type="button" className="btn mt-3" onClick={() => location.reload()}>
        Load it again
      </button>
    </main>
  );
}

const needsUser = async ({ location }: { location: { href: string } }) => {
  const session = await queries.ensureQueryData(sessionQuery);
  if (session.needsSetUp) throw redirect({ to: "/first-visit" });
  if (!session.user) throw redirect({ to: "/sign-in", search: { to: location.href } });
};

const signIn = createRoute({
  getParentRoute: () => rootRoute,
  path: "/sign-in",
  validateSearch: (s: Record<string, unknown>): { to?: string } => (typeof s.to === "string" && s.to.startsWith("/") ? { to: s.to } : {}),
  component: lazyRouteComponent(() => import("./access/SignInPage"), "SignInPage"),
});
const firstVisit = createRoute({
  getParentRoute: () => rootRoute,
  path: "/first-visit",
  component: lazyRouteComponent(() => import("./access/SignInPage"), "FirstVisitPage"),
});
const privatePage = createRoute({
  getParentRoute: () => rootRoute,
  path: "/r/$token",
  component: lazyRouteComponent(() => import("./reports/PrivatePage"), "PrivatePage"),
});
const privatePaper = createRoute({
  getParentRoute: () => rootRoute,
  path: "/r/$token/papers/$id",
  component: lazyRouteComponent(() => import("./money/PaperPages"), "PrivatePaperPage"),
});
const printPaper = createRoute({
  getParentRoute: () => rootRoute,
  path: "/print/papers/$ticket",
  component: lazyRouteComponent(() => import("./money/PaperPages"), "PaperPrintPage"),
});
const printPage = createRoute({
  getParentRoute: () => rootRoute,
  path: "/print/$ticket",
  component: lazyRouteComponent(() => import("./reports/PrintPage"), "PrintPage"),
});
const clock = createRoute({
  getParentRoute: () => rootRoute,
  path: "/clock",
  beforeLoad: needsUser,
  component: lazyRouteComponent(() => import("./labour/ClockPage"), "ClockPage"),
});

const frame = createRoute({ getParentRoute: () => rootRoute, id: "frame", beforeLoad: needsUser, component: AppFrame });
const floor = createRoute({
  getParentRoute: () => frame,
  path: "/",
  component: lazyRouteComponent(() => import("./overview/FloorPage"), "FloorPage"),
});
const builds = createRoute({
  getParentRoute: () => frame,
  path: "/builds",
  component: lazyRouteComponent(() => import("./overview/BuildsPage"), "BuildsPage"),
});
const openBuild = createRoute({
  getParentRoute: () => frame,
  path: "/builds/new",
  component: lazyRouteComponent(() => import("./sequence/OpenBuild"), "OpenBuild"),
});
const plan = createRoute({
  getParentRoute: () => frame,
  path: "/plan",
  validateSearch: (s: Record<string, unknown>): { at?: string; by?: "builds" } => ({
    ...(typeof s.at === "string" ? { at: s.at } : {}),
    ...(s.by === "builds" ? { by: s.by } : {}),
  }),
  component: lazyRouteComponent(() => import("./plan/PlanPage"), "PlanPage"),
});
const ofWeek = (s: Record<string, unknown>): { of?: string } =>
  typeof s.of === "string" && /^\d{4}-\d{2}-\d{2}$/.test(s.of) ? { of: s.of } : {};
const week = createRoute({
  getParentRoute: () => frame,
  path: "/plan/week",
  validateSearch: ofWeek,
  component: lazyRouteComponent(() => import("./plan/WeekPage"), "WeekPage"),
});
const weekSheets = createRoute({
  getParentRoute: () => frame,
  path: "/plan/week/sheets",
  validateSearch: ofWeek,
  component: lazyRouteComponent(() => import("./plan/WeekPrint"), "WeekPrint"),
});
const whatIf = createRoute({
  getParentRoute: () => frame,
  path: "/plan/what-if",
  component: lazyRouteComponent(() => import("./plan/WhatIfPage"), "WhatIfPage"),
});
// Where it was before the plan had pages.
const whatIfBefore = createRoute({
  getParentRoute: () => frame,
  path: "/what-if",
  beforeLoad: () => {
    throw redirect({ to: "/plan/what-if" });
  },
});
const build = createRoute({
  getParentRoute: () => frame,
  path: "/builds/$number",
  component: lazyRouteComponent(() => import("./builds/BuildFrame"), "BuildFrame"),
});
const buildBody = createRoute({
  getParentRoute: () => build,
  path: "/",
  component: lazyRouteComponent(() => import("./survey/BodyTab"), "BodyTab"),
});
const tab = (path: string, load: () => Promise<Record<string, unknown>>, name: string) =>
  createRoute({
    getParentRoute: () => build,
    path,
    component: lazyRouteComponent(load as () => Promise<Record<string, () => React.ReactNode>>, name),
  });
const tabs = [
  tab("/arrival", () => import("./builds/ArrivalTab"), "ArrivalTab"),
  tab("/survey", () => import("./survey/SurveyTab"), "SurveyTab"),
  tab("/two-bodies", () => import("./survey/TwoBodiesTab"), "TwoBodiesTab"),
  tab("/forecast", () => import("./plan/ForecastTab"), "ForecastTab"),
  tab("/sequence", () => import("./sequence/SequenceTab"), "SequenceTab"),
  tab("/teardown", () => import("./teardown/TeardownTab"), "TeardownTab"),
  tab("/bags", () => import("./teardown/BagsTab"), "BagsTab"),
  tab("/datum", () => import("./fitup/DatumTab"), "DatumTab"),
  tab("/openings", () => import("./fitup/OpeningsTab"), "OpeningsTab"),
  tab("/figures", () => import("./fitup/FiguresTab"), "FiguresTab"),
  tab("/gaps", () => import("./fitup/GapsTab"), "GapsTab"),
  tab("/hours", () => import("./labour/HoursTab"), "HoursTab"),
  tab("/parts", () => import("./parts/PartsTab"), "PartsTab"),
  tab("/outside", () => import("./outside/OutsideTab"), "OutsideTab"),
  tab("/photos", () => import("./photos/PhotosTab"), "PhotosTab"),
  tab("/money", () => import("./money/MoneyTab"), "MoneyTab"),
  tab("/estimate", () => import("./money/PapersTab"), "PapersTab"),
  tab("/client", () => import("./reports/ClientTab"), "ClientTab"),
];
const labelsPage = createRoute({
  getParentRoute: () => rootRoute,
  path: "/print/labels/$ticket",
  component: lazyRouteComponent(() => import("./teardown/LabelsPage"), "LabelsPage"),
});
const find = createRoute({
  getParentRoute: () => rootRoute,
  path: "/find/$number",
  component: lazyRouteComponent(() => import("./survey/FindPage"), "FindPage"),
});
const shop = createRoute({
  getParentRoute: () => frame,
  path: "/shop",
  validateSearch: (s: Record<string, unknown>): { open?: string } => (typeof s.open === "string" ? { open: s.open } : {}),
  component: lazyRouteComponent(() => import("./shop/ShopPage"), "ShopPage"),
});
const shopPlan = createRoute({
  getParentRoute: () => frame,
  path: "/shop/plan",
  component: lazyRouteComponent(() => import("./shop/DrawPlanPage"), "DrawPlanPage"),
});
const gauge = createRoute({
  getParentRoute: () => frame,
  path: "/stand-ins/gauge",
  component: lazyRouteComponent(() => import("./fitup/GaugePage"), "GaugePage"),
});
const ofBench = (s: Record<string, unknown>): { build?: number; from?: string } => ({
  ...(Number.isInteger(Number(s.build)) && Number(s.build) > 0 ? { build: Number(s.build) } : {}),
  ...(typeof s.from === "string" ? { from: s.from } : {}),
});
const bench = createRoute({
  getParentRoute: () => frame,
  path: "/bench",
  validateSearch: ofBench,
  component: lazyRouteComponent(() => import("./bench/BenchPage"), "BenchPage"),
});
const benchSum = createRoute({
  getParentRoute: () => frame,
  path: "/bench/$sum",
  validateSearch: ofBench,
  component: lazyRouteComponent(() => import("./bench/BenchPage"), "BenchPage"),
});
const benchPrint = createRoute({
  getParentRoute: () => frame,
  path: "/bench/print",
  validateSearch: (s: Record<string, unknown>): { figures?: string } =>
    s.figures === undefined ? {} : { figures: typeof s.figures === "string" ? s.figures : JSON.stringify(s.figures) },
  component: lazyRouteComponent(() => import("./bench/TaperPrint"), "TaperPrint"),
});

const tree = rootRoute.addChildren([
  signIn,
  firstVisit,
  privatePage,
  privatePaper,
  printPage,
  printPaper,
  clock,
  find,
  labelsPage,
  frame.addChildren([
    floor,
    plan,
    week,
    weekSheets,
    whatIf,
    whatIfBefore,
    builds,
    openBuild,
    build.addChildren([buildBody, ...tabs]),
    shop,
    shopPlan,
    bench,
    benchPrint,
    gauge,
    benchSum,
  ]),
]);

export const router = createRouter({ routeTree: tree, defaultPreload: "intent", defaultErrorComponent: Broken, scrollRestoration: true });

declare module "@tanstack/react-router" {
  interface Register {
    router: typeof router;
  }
}
