import { cleanup, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { besideQuery, buildsQuery, outlookQuery, queries, shopQuery, whatIfsQuery } from "../api/queries";
import { card, draw, press, problem, server, signIn, type } from "../testing";
import { ForecastTab } from "./ForecastTab";
import { monthsOf, scaleOf } from "./Spans";
import { WhatIfPage } from "./WhatIfPage";

vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useParams: () => ({ number: "41" }),
  useNavigate: () => vi.fn(),
}));

const figures = (change: Partial<Schemas["PlanFigures"]>): Schemas["PlanFigures"] => ({
  minutes: 6000,
  wages: 3000,
  overtime: 0,
  daysLate: 4,
  used: [
    { id: "wil", name: "Wil", isPerson: true, share: 0.5, freeMinutes: 600 },
    { id: "Booth", name: "Booth", isPerson: false, share: 0.25, freeMinutes: 600 },
    { id: "idle", name: "Idle", isPerson: true, share: 0, freeMinutes: 600 },
  ],
  ...change,
});
const beside: Schemas["PlansBeside"] = {
  builds: [
    {
      id: "b1",
      number: 41,
      title: "Courser",
      maybe: false,
      promised: "2026-12-15",
      likelyBefore: "2026-12-11",
      likelyAfter: "2026-12-18",
      p80Before: "2027-01-04",
      p80After: "2027-01-12",
      keptBefore: 0.42,
      keptAfter: 0.2,
      days: 7,
    },
    {
      id: "n",
      number: 47,
      title: "Heron Two",
      maybe: true,
      promised: null,
      likelyBefore: null,
      likelyAfter: "2027-03-01",
      p80Before: null,
      p80After: "2027-04-01",
      keptBefore: null,
      keptAfter: null,
      days: null,
    },
  ],
  before: figures({}),
  after: figures({ wages: 3300, overtime: 100, used: [{ id: "wil", name: "Wil", isPerson: true, share: 0.75, freeMinutes: 600 }] }),
  lateCostBefore: 144,
  lateCostAfter: 396,
  weeks: 8,
  without: ["Clear coat"],
};
const sandbox: Schemas["WhatIfView"] = {
  id: "w1",
  name: "Wil ill",
  changes: [{ kind: "absence", personId: "wil", from: "2026-11-02", to: "2026-11-13", count: 1 }],
  version: 5,
};

beforeEach(() => {
  queries.clear();
  signIn("manager", { now: "2026-10-13T09:42:00Z" });
  queries.setQueryData(buildsQuery.queryKey, [card({})]);
  queries.setQueryData(shopQuery.queryKey, {
    people: [{ id: "wil", name: "Wil Aske", active: true }],
    stations: [],
  } as unknown as Schemas["ShopView"]);
  queries.setQueryData(whatIfsQuery.queryKey, [sandbox]);
  queries.setQueryData(besideQuery("w1", 5).queryKey, beside);
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("what if", () => {
  it("shows who moves, what it costs and who is used more", () => {
    draw(<WhatIfPage />);
    expect(screen.getByText("Wil Aske is away from 2 Nov to 13 Nov.")).toBeTruthy();
    const row = screen.getByRole("row", { name: /Courser/ });
    expect(row.textContent).toContain("7 days later");
    expect(row.textContent).toContain("11 Dec → 18 Dec");
    expect(row.textContent).toContain("4 times in 10 → 2 times in 10");
    expect(screen.getByRole("row", { name: /Heron Two/ }).textContent).toContain("new");
    expect(screen.getByText(/Without a date then: Clear coat/)).toBeTruthy();
    const cost = screen.getByRole("region", { name: "Cost" });
    expect(within(cost).getByRole("row", { name: /Wages/ }).textContent).toContain("£3,300.00");
    expect(screen.getByRole("region", { name: "Use" }).textContent).toContain("50 % → 75 %");
    expect(screen.getByRole("region", { name: "Use" }).textContent).not.toContain("Idle");
  });

  it("is adopted or dropped", async () => {
    const sent = server();
    draw(<WhatIfPage />);
    press("Adopt it");
    await waitFor(() => expect(sent[0]).toMatchObject({ method: "POST", url: "/api/plan/what-ifs/w1/adopt" }));
    press("Drop it");
    await waitFor(() => expect(sent[1]).toMatchObject({ method: "DELETE", url: "/api/plan/what-ifs/w1" }));
  });

  it("tries several things at once, each with what it needs", async () => {
    const sent = server(problem("personId", "Say who is away."));
    draw(<WhatIfPage />);
    press("Try something");
    type("What it is called", "Winter");
    press("And also");
    press("Show it beside the plan");
    expect((await screen.findByRole("alert")).textContent).toBe("Say who is away.");
    expect(sent[0]?.body).toMatchObject({
      name: "Winter",
      changes: [
        { kind: "absence", from: "2026-10-13", to: "2026-10-26" },
        { kind: "moreStations", station: "booth", count: 1 },
      ],
    });
    type(/^Who/, "wil");
    press("Show it beside the plan");
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent[1]?.body).toMatchObject({ changes: [{ personId: "wil" }, { station: "booth" }] });
  });

  it("forgets what the last kind of change said", async () => {
    const sent = server();
    draw(<WhatIfPage />);
    press("Try something");
    type("What it is called", "Newcomer");
    type("Suppose", "newBuild");
    expect(screen.queryByLabelText("Who")).toBeNull();
    type("Make", "Heron");
    type("Client", "N. Client");
    press("Show it beside the plan");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toMatchObject({
      changes: [{ kind: "newBuild", from: null, build: { make: "Heron", client: "N. Client", arrives: "2026-11-10" } }],
    });
  });
});

describe("the forecast", () => {
  const CHANCE: Schemas["BuildChance"] = {
    id: "b1",
    p20: "2026-10-01",
    p50: "2026-12-17",
    p80: "2027-01-04",
    p90: "2027-01-08",
    p95: "2027-02-01",
    kept: 0.4,
    risks: [],
    partly: false,
  };
  const outlook = (change: Partial<Schemas["OutlookView"]>) =>
    queries.setQueryData(outlookQuery("b1").queryKey, {
      chance: CHANCE,
      carriers: [{ operationId: "o", name: "Glass and seals", days: 6.3 }],
      nights: [
        {
          on: "2026-10-10",
          p50: "2026-12-10",
          p80: "2026-12-20",
          p90: "2026-12-24",
          kept: 0.6,
          holdsKind: "person",
          holds: "Fill: Wil is on 39",
          days: null,
          changed: [],
        },
        {
          on: "2026-10-11",
          p50: "2026-12-10",
          p80: "2026-12-20",
          p90: "2026-12-24",
          kept: 0.6,
          holdsKind: "person",
          holds: "",
          days: 0,
          changed: [],
        },
        {
          on: "2026-10-12",
          p50: "2026-12-17",
          p80: "2027-01-04",
          p90: "2027-01-08",
          kept: 0.4,
          holdsKind: "part",
          holds: "Seal",
          days: 7,
          changed: ["parts"],
        },
      ],
      without: [],
      causes: [],
      outOfReach: [{ operationId: "r", name: "Weld behind the mount", why: "cannot be done in the rotisserie", until: "On the cart" }],
      inserted: [{ name: "Clean again", before: "Prime", why: "its window is over" }],
      cover: { by: "2026-11-02", amount: 1200 },
      against: {
        why: "Estimate 1 accepted",
        at: "2026-04-21T08:00:00Z",
        finish: "2026-08-18",
        kept: 2,
        stages: [{ stage: "metal", budget: 40, planned: 40, earned: 30, spent: 36 }],
        indices: { cpi: 0.83, spi: 0.75, atIndex: 48, atBudget: 46 },
      },
      ...change,
    } as Schemas["OutlookView"]);

  it("says how sure it is, what moved it, and what the plan puts in", () => {
    outlook({});
    draw(<ForecastTab />);
    expect(screen.getByText(/Of a thousand futures half are done by/).textContent).toContain("The promise is kept 4 times in 10");
    const nights = screen.getByRole("region", { name: "Night by night" });
    expect(within(nights).getAllByRole("row")).toHaveLength(3);
    expect(nights.textContent).toContain("7 days later");
    expect(nights.textContent).toContain("changed: parts; Seal");
    const says = screen.getByRole("region", { name: "What the plan says" }).textContent;
    expect(says).toContain("Money for the next work must be there by 2 Nov");
    expect(says).toContain("Weld behind the mount is out of reach");
    expect(says).toContain("Clean again comes in before Prime");
    expect(screen.getByRole("region", { name: "Against what was agreed" }).textContent).toContain("0.83");
  });

  it("says once what stops thirty operations, and who can change it", () => {
    const causes: Schemas["CauseRow"][] = [
      {
        kind: "trade",
        text: "nobody has the trade strip",
        own: ["Arrival round", "Trim out", "Doors off", "Strip paint", "Blast"],
        behind: 25,
      },
      { kind: "part", text: "carpet, no date", own: ["Carpet"], behind: 0 },
    ];
    const without = [
      { operationId: "a", buildId: "b1", name: "Arrival round", kind: "trade" as const, text: "nobody has the trade strip" },
    ];
    outlook({ causes, without: [..."abcd"].map((operationId) => ({ ...without[0], operationId }) as Schemas["WithoutDateRow"]) });
    draw(<ForecastTab />);
    const says = screen.getByRole("region", { name: "What the plan says" });
    expect(says.textContent).toContain("30 operations have no date: nobody has the trade strip");
    expect(says.textContent).toContain("Arrival round; Trim out; Doors off; and 2 others; 25 come after those");
    expect(says.textContent).toContain("Carpet has no date: carpet, no date");
    expect(within(says).getByRole("link", { name: "Who does what" }).getAttribute("href")).toBe("/shop");
    expect(within(says).getByText("All 4 without a date")).toBeTruthy();
    cleanup();
    signIn("technician", { now: "2026-10-13T09:42:00Z" });
    draw(<ForecastTab />);
    expect(screen.queryByRole("link", { name: "Who does what" })).toBeNull();
  });

  it("says nothing of a finish that is only of a part", () => {
    outlook({
      chance: { ...CHANCE, kept: null, partly: true },
      against: null,
      nights: [],
    });
    draw(<ForecastTab />);
    expect(screen.getByText(/nothing can be said of the finish/)).toBeTruthy();
    expect(screen.queryByText(/promise is kept/)).toBeNull();
    expect(screen.getByText(/kept tonight/)).toBeTruthy();
  });

  it("marks months between the first day and the last", () => {
    const scale = scaleOf("2026-10-13", ["2026-12-31", null], 300);
    expect(monthsOf(scale).map((m) => m.name)).toEqual(["Nov", "Dec", "Jan"]);
    expect(monthsOf(scale)[0]?.x).toBeCloseTo((19 / 81.37) * 300, 0);
  });
});
