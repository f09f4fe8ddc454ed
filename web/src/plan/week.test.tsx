import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { calendarsQuery, queries, shopQuery, weekQuery } from "../api/queries";
import { readIn } from "../format";
import { bodyOf, draw, press, problem, server, signIn, type } from "../testing";
import { WeekPage } from "./WeekPage";
import { WeekPrint } from "./WeekPrint";
import { fillIns, shownDays, type Week, weekText } from "./weekWords";

const place = vi.hoisted(() => ({ search: {} as { of?: string } }));
vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useNavigate: () => (to: { search: { of?: string } }) => {
    place.search = to.search;
  },
  useLocation: () => ({ pathname: "/plan/week", search: place.search }),
}));

const day = (n: number, hour = "07:00") => `2026-10-${12 + n}T${hour}:00Z`;
const week = (change: Partial<Week> = {}): Week => ({
  of: "2026-10-12",
  today: "2026-10-13",
  now: day(1, "09:42"),
  committedAt: null,
  committedBy: "",
  countedAt: null,
  countedFrom: "2026-10-16",
  promised: 0,
  kept: 0,
  not: 0,
  percent: null,
  days: Array.from({ length: 7 }, (_, i) => ({
    date: `2026-10-${12 + i}`,
    from: `2026-10-${11 + i}T23:00:00Z`,
    opens: i < 5 ? day(i) : null,
    closes: i < 5 ? day(i, "15:30") : null,
  })),
  builds: [
    { id: "b41", number: 41, colourHex: "#1B6670", title: "Whimbrel", fillIn: false },
    { id: "b45", number: 45, colourHex: "#606E36", title: "Dotterel", fillIn: true },
  ],
  people: [
    {
      id: "wil",
      name: "Wil Aske",
      trades: ["body"],
      freeMinutes: 240,
      absent: [],
      blocks: [
        { key: "o1", operationId: "x", buildId: "b41", name: "Block", from: day(2), to: day(2, "11:00"), state: "offered", passed: false },
        {
          key: "o2",
          operationId: "y",
          buildId: "b45",
          name: "Bed floor",
          from: day(3, "12:00"),
          to: day(3, "14:00"),
          state: "offered",
          passed: false,
        },
      ],
      promises: [],
      offers: [
        { operationId: "x", buildId: "b41", name: "Block", minutes: 240, whole: true },
        { operationId: "y", buildId: "b45", name: "Bed floor", minutes: 120, whole: false },
      ],
    },
  ],
  places: [{ id: "s1", name: "Prep 1", held: [{ buildId: "b41", placeId: "s1", from: day(0), to: null }] }],
  past: [
    { monday: "2026-09-28", promised: 4, kept: 3, extra: 0, percent: 75 },
    { monday: "2026-10-05", promised: 3, kept: 1, extra: 1, percent: 33.3 },
  ],
  reasons: [{ reason: "part not here", times: 2 }],
  ...change,
});
const promise = (change: object = {}) => ({
  id: "p1",
  operationId: "x",
  buildId: "b41",
  name: "Block",
  minutes: 240,
  whole: true,
  state: "promised" as const,
  keptOn: null,
  reason: "",
  ...change,
});
const committed = (...promises: ReturnType<typeof promise>[]) => {
  const [wil] = week().people;
  return week({
    committedAt: day(0, "06:45"),
    committedBy: "Sunniva Roake",
    promised: promises.length,
    people: [{ ...(wil as Week["people"][number]), promises }],
  });
};
const see = (w: Week) => {
  queries.setQueryData(weekQuery(null).queryKey, w);
  draw(<WeekPage />);
};

beforeEach(() => {
  queries.clear();
  place.search = {};
  signIn("manager", { now: "2026-10-13T09:42:00Z" });
  queries.setQueryData(calendarsQuery.queryKey, []);
  queries.setQueryData(shopQuery.queryKey, { settings: { name: "Kettle Quay" }, people: [] } as never);
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("the week in words", () => {
  it("says whether it is committed, what was kept, and how it was counted", () => {
    expect(weekText(week())).toBe("12 Oct to 16 Oct, not committed yet.");
    expect(weekText(committed(promise()))).toBe("12 Oct to 16 Oct, committed Mon 12 Oct 07:45 by Sunniva Roake. 1 promise: 0 kept, 0 not.");
    expect(weekText({ ...committed(promise()), countedAt: day(4, "15:00"), kept: 1, percent: 100 })).toBe(
      "12 Oct to 16 Oct, counted Fri 16 Oct. 1 promise: 1 kept, 0 not, 100 %.",
    );
  });

  it("shows the days on which the shop works, and any other on which somebody did", () => {
    expect(shownDays(week()).map((d) => d.date.slice(-2))).toEqual(["12", "13", "14", "15", "16"]);
    const [wil] = week().people;
    const saturday = {
      ...(wil as Week["people"][number]),
      blocks: [{ ...(wil?.blocks[0] as never as object), from: day(5), to: day(5, "09:00") }],
    } as Week["people"][number];
    expect(shownDays(week({ people: [saturday] })).map((d) => d.date.slice(-2))).toEqual(["12", "13", "14", "15", "16", "17"]);
  });

  it("names the half hours that go to builds that fill in, those that are over not among them", () => {
    expect(fillIns(week()).map((x) => x.block.name)).toEqual(["Bed floor"]);
    expect(fillIns(week({ now: day(4) }))).toEqual([]);
  });
});

describe("the page of the week", () => {
  it("writes its days as whoever reads it does", () => {
    readIn("en-US");
    see(week());
    readIn("en-GB");
    expect(screen.getByText("13 Tue")).toBeTruthy();
    expect(screen.getByRole("region", { name: /Useful half hours/ }).textContent).toMatch(/Thu 13:00 Wil Aske 2 h: 45 Bed floor/);
  });

  it("lists what is planned for each, with what is free", () => {
    see(week());
    const wil = within(screen.getByRole("region", { name: "Wil Aske" }));
    expect(wil.getByText("4 h free")).toBeTruthy();
    expect(wil.getAllByRole("listitem").map((r) => r.textContent)).toEqual([
      "41Block, 4 h, to be doneplanned",
      "45Bed floor, 2 h of itplanned",
    ]);
    expect(screen.getByRole("region", { name: /Promises kept/ }).textContent).toContain("33 %");
    expect(screen.getByRole("region", { name: /Why not/ }).textContent).toContain("part not here2");
  });

  it("commits what is chosen of the draft, fewer hours where that is said", async () => {
    const sent = server();
    see(week());
    press("Commit the week");
    expect(screen.getByRole("button", { name: "Commit 2 promises" })).toBeTruthy();
    fireEvent.click(screen.getByLabelText(/^45 Bed floor/));
    type("Hours promised: Wil Aske, Block", "2.5");
    press("Commit 1 promise");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(bodyOf(sent)).toMatchObject({ of: "2026-10-12", promises: [{ operationId: "x", personId: "wil", minutes: 150 }] });
  });

  it("counts the week from its last day on, with a reason for what was not kept", async () => {
    const sent = server(problem("reasons", "Say why Block was not done."));
    see({
      ...committed(
        promise({ state: "slips" }),
        promise({ id: "p2", operationId: "z", name: "Done it", state: "kept", keptOn: "2026-10-13" }),
      ),
      kept: 1,
    });
    expect(screen.queryByRole("button", { name: "Count the week" })).toBeNull();
    cleanup();
    see({
      ...committed(
        promise({ state: "slips" }),
        promise({ id: "p2", operationId: "z", name: "Done it", state: "kept", keptOn: "2026-10-13" }),
      ),
      kept: 1,
      today: "2026-10-16",
    });
    press("Count the week");
    press("Count it");
    expect((await screen.findByRole("alert")).textContent).toContain("Say why Block");
    type(/Wil Aske: 41 Block/, "part not here");
    press("Count it");
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent[1]?.body).toMatchObject({ of: "2026-10-12", reasons: [{ promiseId: "p1", reason: "part not here" }] });
  });

  it("says of each promise how it stands", () => {
    see(committed(promise({ state: "slips" }), promise({ id: "p2", operationId: "z", name: "Mask", state: "kept", keptOn: "2026-10-13" })));
    const rows = within(screen.getByRole("region", { name: "Wil Aske" })).getAllByRole("listitem");
    expect(rows.map((r) => r.textContent)).toEqual([
      "41Block, 4 h, to be donecannot be kept as the plan stands",
      "41Mask, 4 h, to be donekept Tue 13 Oct",
      "45Bed floor, 2 h of itoffered, promised by nobody",
    ]);
  });

  it("takes a commitment back on its own day, and not later", async () => {
    const sent = server();
    see({ ...committed(promise()), committedAt: day(1, "06:45") });
    press("Take it back");
    await waitFor(() => expect(sent[0]?.body).toEqual({ of: "2026-10-12" }));
    cleanup();
    see(committed(promise()));
    expect(screen.queryByRole("button", { name: "Take it back" })).toBeNull();
  });

  it("lets a technician read, and make a calendar of their own only", async () => {
    signIn("technician", { personId: "wil", now: "2026-10-13T09:42:00Z" });
    const sent = server(Response.json({ id: "c1", path: "/api/calendars/secret/plan.ics" }));
    see(week());
    expect(screen.queryByRole("button", { name: "Commit the week" })).toBeNull();
    press("Calendars");
    expect(screen.getAllByRole("button", { name: /^Make an address/ })).toHaveLength(1);
    press("Make an address: Wil Aske");
    expect(((await screen.findByLabelText(/The address for Wil Aske/)) as HTMLInputElement).value).toMatch(
      /^http.*\/api\/calendars\/secret\/plan\.ics$/,
    );
    expect(bodyOf(sent)).toMatchObject({ personId: "wil", stationId: null });
  });

  it("closes an address", async () => {
    queries.setQueryData(calendarsQuery.queryKey, [{ id: "c1", personId: null, stationId: "s1", madeAt: day(0) }]);
    const sent = server();
    see(week());
    press("Calendars");
    press("Close the address of Prep 1");
    await waitFor(() => expect(sent[0]?.url).toBe("/api/calendars/c1/revoke"));
  });

  it("goes to other weeks, and says what an empty shop lacks", () => {
    see(week());
    press("Week before");
    expect(place.search.of).toBe("2026-10-05");
    cleanup();
    place.search = {};
    see(week({ people: [], past: [], reasons: [], places: [], builds: [] }));
    expect(screen.getByText(/Nobody works here yet/)).toBeTruthy();
    expect(screen.getByText("No week has been counted yet.")).toBeTruthy();
  });
});

describe("its sheets", () => {
  it("has one for each person and place, with boxes for what is promised and the days below", () => {
    queries.setQueryData(weekQuery(null).queryKey, committed(promise({ state: "kept" })));
    draw(<WeekPrint />);
    const sheets = screen.getAllByRole("article");
    expect(sheets.map((s) => within(s).getByRole("heading", { level: 1 }).textContent)).toEqual(["Wil Aske", "Prep 1"]);
    expect(sheets[0]?.textContent).toContain("Kettle Quay, Mon 12 Oct to 16 Oct");
    expect(sheets[0]?.textContent).toContain("✓41Block4 h, to be done");
    expect(sheets[0]?.textContent).toContain("08:00 to 12:00");
    expect(sheets[1]?.textContent).toContain("41 Whimbrel");
  });
});
