import { act, cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import {
  bodyQuery,
  buildQuery,
  buildsQuery,
  chancesQuery,
  floorQuery,
  improvementQuery,
  operationsQuery,
  queries,
  shopQuery,
  styleQuery,
  stylesQuery,
  surveyQuery,
  templatesQuery,
} from "../api/queries";
import { BuildsPage } from "../overview/BuildsPage";
import { FloorPage } from "../overview/FloorPage";
import { BodyTab } from "../survey/BodyTab";
import { bodyOf, card, choicesOf, dimensions, draw, press, problem, server, signIn, station, type, written } from "../testing";
import { OpenBuildPage } from "./OpenBuildPage";

const navigate = vi.hoisted(() => vi.fn());
vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useParams: () => ({ number: "41" }),
  useNavigate: () => navigate,
}));

const shop = {
  layout: { walls: [], doors: [] },
  racks: [{ name: "C", shelves: 3, trays: 12 }],
  jobs: [],
  settings: { planWidthMm: 25000, planDepthMm: 20000 },
  people: [{ id: "wil", name: "Wil Aske" }],
  stations: [station("s1", "Prep 1", "prep", 0)],
  suppliers: [],
} as unknown as Schemas["ShopView"];
const shape = {
  style: "coupe",
  name: "Coupe",
  dimensions,
  minX: -60,
  minY: 0,
  maxX: 60,
  maxY: 100,
  panels: [
    {
      key: "bonnet",
      name: "Bonnet",
      side: "centre",
      path: "M-30,0L30,0L30,90L-30,90Z",
      labels: [],
      zones: { front: "M-30,0L30,0L30,30L-30,30Z" },
    },
  ],
  openings: [],
  shutLines: [],
  decor: { dark: [], light: [], lamps: [], bolts: [], handles: [], grille: "M0,1L1,1" },
} as unknown as Schemas["BodyView"];

beforeEach(() => {
  queries.clear();
  navigate.mockClear();
  signIn("manager", { now: "2026-10-13T09:42:00Z" });
  queries.setQueryData(shopQuery.queryKey, shop);
  queries.setQueryData(stylesQuery.queryKey, [{ key: "coupe", name: "Coupe", dimensions }] as Schemas["StyleView"][]);
  queries.setQueryData(styleQuery("coupe", dimensions).queryKey, shape);
  queries.setQueryData(templatesQuery.queryKey, [{ key: "paint-then-assemble", name: "Paint, then assemble", says: "", ownId: null }]);
  queries.setQueryData(buildsQuery.queryKey, [card({ promised: "2026-12-01", likely: "2026-12-19" })]);
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const chance = {
  id: "b1",
  p20: "2026-10-01",
  p95: "2027-02-01",
  p50: "2026-12-19",
  p80: "2027-01-14",
  p90: "2027-02-02",
  kept: 0.31,
  risks: [],
  partly: false,
};

describe("the chances in the list of builds", () => {
  it("says by when eight futures of ten have it done, and how often the promise is kept", () => {
    queries.setQueryData(chancesQuery.queryKey, [chance]);
    draw(<BuildsPage />);
    const row = screen.getAllByRole("row")[1] as HTMLElement;
    expect(row.textContent).toContain("14 Jan");
    expect(row.textContent).toContain("promise kept 3 times in 10");
  });

  it("offers a better order with who gains and who loses, and takes it only when told", async () => {
    queries.setQueryData(improvementQuery.queryKey, {
      id: "run-1",
      share: 1,
      before: 40.2,
      best: 31,
      least: 12.5,
      moves: [
        {
          buildId: "b41",
          buildNumber: 41,
          colourHex: "#1B6670",
          promised: "2026-12-15",
          before: "2027-01-02",
          after: "2026-12-27",
          before80: "2027-01-20",
          after80: "2027-02-11",
          keptBefore: 0.31,
          keptAfter: 0.22,
          riskier: true,
          days: -6.1,
          lateBefore: 18,
          lateAfter: 11.9,
        },
        {
          buildId: "b39",
          buildNumber: 39,
          colourHex: "#27375E",
          promised: null,
          before: "2026-12-01",
          after: "2026-12-03",
          before80: "2026-12-09",
          after80: "2026-12-11",
          keptBefore: null,
          keptAfter: null,
          riskier: false,
          days: 2,
          lateBefore: 0,
          lateAfter: 0,
        },
      ],
      better: true,
      daysSooner: 4.1,
      accepted: { by: "Ada", at: "2026-10-12T09:00:00Z" },
      failed: false,
      chosen: null,
    });
    const sent = server();
    draw(<BuildsPage />);
    press("A better order");
    const dialog = screen.getByRole("dialog");
    expect(dialog.textContent).toContain("31 days late instead of 40.2");
    expect(dialog.textContent).toContain("No plan can do better than 12.5");
    expect(within(dialog).getByRole("row", { name: /\b41:/ }).textContent).toContain("6.1 days sooner");
    expect(within(dialog).getByRole("row", { name: /\b41:/ }).textContent).toContain("18 → 12");
    expect(
      within(dialog).getByRole("img", { name: "41: likely 27 Dec instead of 2 Jan 2027, 8 in 10 by 11 Feb 2027 instead of 20 Jan 2027" }),
    ).toBeTruthy();
    // Sooner by the plan, and riskier: that is marked.
    expect(within(dialog).getByText("31 % → 22 %").className).toContain("text-oxide");
    expect(within(dialog).getByRole("row", { name: /\b39:/ }).textContent).toContain("2 days later");
    expect(within(dialog).getByText("likely 2 Jan 2027 → 27 Dec; 8 in 10 20 Jan 2027 → 11 Feb 2027")).toBeTruthy();
    expect(sent).toHaveLength(0);
    press("Take this order");
    await waitFor(() => expect(sent[0]).toMatchObject({ url: "/api/plan/improvement/run-1/accept", body: { builds: null } }));
    // For some builds it is shown once more before it counts.
    fireEvent.click(within(dialog).getByRole("checkbox", { name: "Take it for build 39" }));
    expect(within(dialog).queryByRole("button", { name: "Take this order" })).toBeNull();
    press("Show what comes of it for 41");
    await waitFor(() => expect(sent[1]).toMatchObject({ url: "/api/plan/improvement/run-1/choose", body: { builds: ["b41"] } }));
    const offered = queries.getQueryData<Schemas["ImprovementView"]>(improvementQuery.queryKey);
    act(() => {
      queries.setQueryData(improvementQuery.queryKey, { ...(offered as Schemas["ImprovementView"]), moves: null, share: 1 });
    });
    expect((await within(dialog).findByRole("status")).textContent).toBe("The rest is placed again…");
    act(() => {
      queries.setQueryData(improvementQuery.queryKey, { ...(offered as Schemas["ImprovementView"]), chosen: ["b41"], better: false });
    });
    await waitFor(() => expect(dialog.textContent).toContain("Taken for 41 only; the others keep their order"));
    expect(dialog.textContent).toContain("With these builds alone it is no better");
    press("Take this order for 41");
    await waitFor(() => expect(sent[2]).toMatchObject({ url: "/api/plan/improvement/run-1/accept", body: { builds: ["b41"] } }));
  });

  it("offers an order that is no less late but done sooner, and none that is neither", () => {
    const move = (days: number): Schemas["MoveRow"] => ({
      buildId: "b41",
      buildNumber: 41,
      colourHex: "#1B6670",
      promised: null,
      before: "2027-01-02",
      after: "2026-12-27",
      before80: "2027-01-02",
      after80: "2026-12-27",
      keptBefore: null,
      keptAfter: null,
      riskier: false,
      days,
      lateBefore: 0,
      lateAfter: 0,
    });
    const offer = (days: number) =>
      queries.setQueryData(improvementQuery.queryKey, {
        id: "run-1",
        share: 1,
        before: 0,
        best: 0,
        least: 0,
        moves: [move(days)],
        better: days < 0,
        daysSooner: -days,
        accepted: null,
        failed: false,
        chosen: null,
      });
    server();
    offer(-6);
    const { unmount } = draw(<BuildsPage />);
    press("A better order");
    expect(screen.getByRole("dialog").textContent).toContain("Nothing is late either way, but the builds together are done 6 days sooner");
    unmount();
    offer(2);
    draw(<BuildsPage />);
    press("A better order");
    expect(screen.getByRole("dialog").textContent).toContain("Nothing better was found");
    expect(screen.queryByRole("button", { name: "Take this order" })).toBeNull();
  });

  it("does not wait for the futures", () => {
    server(new Response("[]", { headers: { "content-type": "application/json" } }));
    draw(<BuildsPage />);
    expect(screen.getAllByRole("row")[1]?.textContent).toContain("19 Dec");
  });
});

describe("the floor's decisions", () => {
  const decision = (change: Partial<Schemas["DecisionRow"]>): Schemas["DecisionRow"] => ({
    id: "d1",
    buildId: "b1",
    buildNumber: 41,
    colourHex: "#1B6670",
    perWeek: 0,
    paperId: null,
    question: "Cut it out?",
    detail: "Too thin.",
    for: "client",
    call: { name: "O. Brandvold", phone: "0555 410 166", email: "" },
    options: ["Cut", "Patch"],
    dueOn: "2026-10-19",
    days: 2.9,
    worstBuild: 39,
    ...change,
  });
  const floor = (change: Partial<Schemas["FloorView"]> = {}) =>
    queries.setQueryData(floorQuery.queryKey, {
      builds: [card({})],
      decisions: [
        decision({}),
        decision({ id: "d2", question: "Polish?", for: "manager", call: null, options: ["Polish", "Spray"], days: 0, dueOn: "2026-10-18" }),
      ],
      daysWaiting: 2.9,
      away: [],
      readyGates: [{ operationId: "g", buildId: "b1", buildNumber: 41, name: "Fit-up signed" }],
      onTheClock: 2,
      todayMinutes: 135,
      nextFreight: "2026-10-15",
      onFreight: 3,
      now: "2026-10-13T09:42:00Z",
      futuresAt: "2026-10-13T07:30:00Z",
      contentions: [],
      flagged: [],
      inspections: [],
      ...change,
    } as Schemas["FloorView"]);

  it("rank what costs days, with whom to call; what costs none waits below", () => {
    floor();
    draw(<FloorPage />);
    expect(screen.getByRole("heading", { name: "2.9 days wait for your decisions" })).toBeTruthy();
    const row = screen.getByRole("heading", { name: /Cut it out/ }).closest("li") as HTMLElement;
    expect(row.textContent).toContain("The client's decision, needed by Mon 19 Oct; build 39 feels it most.");
    expect(within(row).getByRole("link", { name: "Call O. Brandvold, 0555 410 166" }).getAttribute("href")).toBe("tel:0555410166");
    expect(screen.getByText("Polish?")).toBeTruthy();
    expect(screen.getByRole("link", { name: "sign “Fit-up signed” on 41" })).toBeTruthy();
    expect(screen.getByText(/Next freight Thu 15 Oct, 3 expected by then/)).toBeTruthy();
  });

  it("say of what was asked just now that its days are being worked out, and nothing of all together", () => {
    floor({ decisions: [decision({}), decision({ id: "d3", question: "Weld it?", days: null })], daysWaiting: null });
    const { unmount } = draw(<FloorPage />);
    expect(screen.getByRole("heading", { name: "2 decisions waiting" })).toBeTruthy();
    expect(screen.getByText("Asked just now: the delay is being worked out").parentElement?.textContent).toContain("Weld it?");
    expect(screen.queryByText("No delay yet")?.parentElement?.textContent ?? "").not.toContain("Weld it?");
    unmount();
    floor({ decisions: [decision({ days: 0 })], daysWaiting: 0 });
    draw(<FloorPage />);
    expect(screen.getByRole("heading", { name: "No delay waits for you" })).toBeTruthy();
  });

  it("say as of when the likely days are, and nothing where none were worked out yet", () => {
    floor();
    const { unmount } = draw(<FloorPage />);
    expect(screen.getByText(/8 times in 10, as reckoned/)).toBeTruthy();
    unmount();
    floor({ futuresAt: null });
    draw(<FloorPage />);
    expect(screen.queryByText(/as reckoned/)).toBeNull();
  });

  it("ask who goes first where two builds want the same, and say what either costs", async () => {
    const sent = server();
    floor({
      flagged: [],
      inspections: [],
      contentions: [
        {
          first: "b41",
          firstNumber: 41,
          firstColourHex: "#1B6670",
          second: "b37",
          secondNumber: 37,
          secondColourHex: "#7A2F3E",
          operation: "Hang doors",
          kind: "station",
          over: "Bay is in use on 41",
          firstLoses: 1.5,
          secondGains: 4,
        },
      ],
    });
    draw(<FloorPage />);
    expect(screen.getByText(/Hang doors waits: Bay is in use on 41/)).toBeTruthy();
    expect(screen.getByText(/With 37 first it is done 4 days sooner, 41 1.5 days later/)).toBeTruthy();
    press("37 first");
    await waitFor(() =>
      expect(sent[0]).toMatchObject({ url: "/api/plan/contentions/answer", body: { first: "b41", second: "b37", turned: true } }),
    );
  });

  it("are settled where they stand", async () => {
    const sent = server();
    floor();
    draw(<FloorPage />);
    press("Patch");
    await waitFor(() => expect(sent[0]).toMatchObject({ url: "/api/decisions/d1/answer", body: { answer: "Patch" } }));
  });

  it("are read, not settled, by a technician; an address stands where there is no number", () => {
    signIn("technician", { now: "2026-10-13T09:42:00Z" });
    floor();
    const { unmount } = draw(<FloorPage />);
    expect(screen.queryByRole("button", { name: "Patch" })).toBeNull();
    unmount();
    signIn("office", { now: "2026-10-13T09:42:00Z" });
    floor({ decisions: [decision({ call: { name: "O. Brandvold", phone: "", email: "o@example.org" } })], nextFreight: "2026-10-13" });
    draw(<FloorPage />);
    expect(screen.getByRole("link", { name: /Write to O. Brandvold/ }).getAttribute("href")).toBe("mailto:o@example.org");
    expect(screen.getByText(/Next freight today/)).toBeTruthy();
  });
});

describe("the list of builds", () => {
  it("opens a build from its line, and lets only the manager open a new one", () => {
    draw(<BuildsPage />);
    const row = screen.getByRole("row", { name: /Whimbrel Courser/ });
    expect(within(row).getByText("19 Dec").className).toContain("oxide");
    fireEvent.click(within(row).getByRole("link"));
    expect(navigate).toHaveBeenCalledWith({ to: "/builds/41" });
    press("Open a build");
    expect(navigate).toHaveBeenLastCalledWith({ to: "/builds/new" });
    cleanup();
    signIn("technician", { now: "2026-10-13T09:42:00Z" });
    draw(<BuildsPage />);
    expect(screen.queryByRole("button", { name: "Open a build" })).toBeNull();
  });
});

describe("opening a build", () => {
  it("takes the style's own dimensions and the next number, and shows a refusal at its field", async () => {
    const sent = server(problem("clientName", "Please give the client name."));
    draw(<OpenBuildPage Ways={() => null} />);
    expect([written("Length, mm"), written("Wheelbase, mm")]).toEqual(["5160", "2850"]);
    expect(choicesOf("Stands at")).toEqual(["not here yet", "Prep 1"]);
    type("Make", "Plover");
    type("Width, mm", "1720");
    type("Promised for", "2027-03-01");
    press("Open the build");
    expect((await screen.findByRole("alert")).textContent).toBe("Please give the client name.");
    expect(bodyOf(sent)).toMatchObject({
      number: null,
      vehicle: { make: "Plover", style: "coupe", dimensions: { lengthMm: 5160, widthMm: 1720, wheelbaseMm: 2850 } },
      brief: { grade: "show", promised: "2027-03-01", milestones: [] },
      contract: { kind: "timeAndMaterials", price: null, stages: null },
      template: "paint-then-assemble",
      priority: 2,
      stationId: null,
    });
  });
});

describe("a build's body", () => {
  const operation = (id: string, change: Partial<Schemas["OperationView"]>) =>
    ({
      id,
      kind: "work",
      name: id,
      doneAt: null,
      after: [],
      starts: null,
      plannedPersonId: null,
      reason: null,
      ...change,
    }) as Schemas["OperationView"];
  beforeEach(() => {
    queries.setQueryData(bodyQuery("b1").queryKey, {
      body: shape,
      panels: [
        {
          panel: "bonnet",
          coat: "epoxy",
          held: "screwed",
          coats: ["epoxy"],
          zones: [],
          replace: false,
          newMetal: false,
          temporaryMetal: ["brace; blocks the lid"],
        },
      ],
      flagged: [],
      inspections: [],
    } as Schemas["BodyStateView"]);
    queries.setQueryData(buildQuery("b1").queryKey, {
      decisions: [],
      milestones: [{ name: "rolling", on: "2026-11-02" }],
    } as unknown as Schemas["BuildView"]);
    queries.setQueryData(operationsQuery("b1").queryKey, [
      operation("Strip", { doneAt: "2026-09-01T08:00:00Z" }),
      operation("Block", {
        starts: "2026-10-14T07:00:00Z",
        plannedPersonId: "wil",
        reason: { kind: "operation", ref: "Strip", text: "comes after Strip" },
      }),
      operation("Epoxy", { starts: "2026-10-13T08:00:00Z" }),
      operation("Fit-up signed", {
        kind: "gate",
        after: [
          { operation: "Strip", lagMinutes: 0 },
          { operation: "Epoxy", lagMinutes: 0 },
        ],
      }),
    ]);
    const finding = {
      id: "f",
      number: 1,
      place: "bonnet",
      placeName: "Bonnet",
      at: { x: 0, y: 40 },
      area: [],
      areaM2: 0,
      kind: "dent",
      probe: null,
      sizeMm: 140,
      structural: false,
      note: "low",
      choice: "repair",
      agreedBy: null,
      mended: false,
    };
    queries.setQueryData(surveyQuery("b1").queryKey, {
      places: [{ key: "bonnet", group: "outside" }],
      findings: [finding, { ...finding, id: "g", number: 2, mended: true }],
    } as unknown as Schemas["SurveyBody"]);
  });

  it("says what comes next and why not earlier, what was found, and what the next gate waits for", () => {
    draw(<BodyTab />);
    const next = screen.getByRole("heading", { name: /Next/ }).parentElement as HTMLElement;
    expect(
      within(next)
        .getAllByRole("row")
        .map((r) => r.textContent),
    ).toEqual(["13 OctEpoxy", "14 OctBlockcomes after StripWil", "2 Novrolling, as agreed"]);
    const found = screen.getByRole("heading", { name: /Findings/ }).parentElement as HTMLElement;
    expect(found.textContent).toContain("1 open");
    expect(found.textContent).toContain("Bonnet dent, 140 mm");
    expect(found.textContent).toContain("Repair, not agreed to yet. low");
    expect(screen.getByText("Gate: Fit-up signed").parentElement?.textContent).toContain("1 of 2 before it are done");
  });

  it("takes a correction of a panel by hand, and temporary metal out", async () => {
    const sent = server();
    draw(<BodyTab />);
    press("It is out");
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ panel: "bonnet", fact: "temporaryMetalOut", note: "brace; blocks the lid" }));
    fireEvent.click(screen.getByRole("button", { name: /^Bonnet, epoxy/ }));
    const panel = screen.getByRole("region", { name: "Bonnet" });
    expect(panel.textContent).toContain("epoxy, screwed · coats so far: epoxy");
    type("Wears now", "filler");
    await waitFor(() => expect(sent[1]?.body).toMatchObject({ panel: "bonnet", fact: "coat", coat: "filler", zone: null }));
  });
});
