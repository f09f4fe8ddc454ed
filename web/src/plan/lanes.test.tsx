import { createMemoryHistory } from "@tanstack/react-router";
import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { lanesQuery, queries, startsOnQuery, whyQuery } from "../api/queries";
import { draw, problem, server, signIn } from "../testing";
import { atX, axisOf, panned, showing, ticksOf, xOf, zoomed } from "./axis";
import { beside, joined, rowsOf } from "./laneRows";
import { PlanPage } from "./PlanPage";
import { linksOf, promisesLate } from "./PlanPicture";
import { WorkColumn } from "./WorkColumn";

const DAY = 86_400_000;
const START = Date.parse("2026-10-05T00:00:00Z");
const iso = (day: number, hour = 0) => new Date(START + day * DAY + hour * 3_600_000).toISOString();
const DAYS: Schemas["LaneDay"][] = Array.from({ length: 300 }, (_, i) => ({
  date: iso(i).slice(0, 10),
  from: iso(i),
  closed: i % 7 > 4,
  freight: false,
}));

const work = (key: string, from: number, to: number, more: Partial<Schemas["LaneWork"]> = {}): Schemas["LaneWork"] => ({
  key,
  operationId: key,
  buildId: "b1",
  name: `Work ${key}`,
  start: iso(from),
  finish: iso(to),
  placeId: "p1",
  people: ["ann"],
  hours: [{ from: iso(from), to: iso(to) }],
  dryUntil: null,
  asks: false,
  away: false,
  cures: false,
  worked: false,
  pinnedOn: null,
  pinnedTo: null,
  pinnedAt: null,
  broken: [],
  version: 1,
  ...more,
});

const build = (number: number, more: Partial<Schemas["LaneBuild"]> = {}): Schemas["LaneBuild"] => ({
  id: `b${number}`,
  number,
  colourHex: "#1B6670",
  title: `Plover ${number}`,
  paused: false,
  fillIn: false,
  promised: "2026-12-01",
  p20: "2026-11-01",
  p50: "2026-11-10",
  p80: "2026-11-20",
  p95: "2026-12-10",
  partly: false,
  daysLate: null,
  carrier: null,
  ...more,
});

const VIEW: Schemas["LanesView"] = {
  now: iso(8, 10),
  today: "2026-10-13",
  days: DAYS,
  builds: [build(1), build(2)],
  places: [
    { id: "p1", name: "Bay A", kind: "bay" },
    { id: "p2", name: "Booth", kind: "booth" },
  ],
  people: [{ id: "ann", name: "Ann", share: 0.4, freeMinutes: 900, absent: [], kept: [] }],
  work: [work("a", 9, 10), work("b", 10, 12, { placeId: "p2", buildId: "b2" }), work("c", 12, 14)],
  held: [],
  away: [],
  futuresAt: iso(8, 9),
  fullBooth: null,
};

describe("the axis", () => {
  const a = axisOf(DAYS, 1000, START, 14.4);

  it("has one length of a day up to the fold and another behind it, without a jump", () => {
    expect(xOf(a, START + 10 * DAY)).toBeCloseTo(144);
    expect(a.foldX).toBe(800);
    expect(xOf(a, a.foldAt)).toBeCloseTo(800);
    expect(xOf(a, a.last)).toBeCloseTo(1000);
    expect(a.far).toBeLessThan(a.near);
    for (const x of [0, 400, 799, 801, 990]) expect(xOf(a, atX(a, x))).toBeCloseTo(x);
  });

  it("folds nothing where all of it fits", () => {
    const all = axisOf(DAYS, 1000, START, 0);
    expect(all.foldX).toBe(1000);
    expect(xOf(all, all.last)).toBeCloseTo(1000);
    expect(all.near).toBeCloseTo(1000 / 300);
  });

  it("moves by pixels and stays within what there is", () => {
    expect(panned(DAYS, a, 144).from).toBe(START + 10 * DAY);
    expect(panned(DAYS, a, -500).from).toBe(START);
    const end = panned(DAYS, a, 1e6);
    expect(xOf(end, end.last)).toBeCloseTo(1000);
  });

  it("keeps what is under the pointer when the scale changes", () => {
    const moved = axisOf(DAYS, 1000, START + 30 * DAY, 14.4);
    const at = atX(moved, 300);
    expect(xOf(zoomed(DAYS, moved, 300, 2), at)).toBeCloseTo(300);
    expect(zoomed(DAYS, moved, 300, 1e6).near).toBe(640);
  });

  it("brings an instant into sight only where it is not", () => {
    expect(showing(DAYS, a, START + 5 * DAY)).toBe(a);
    const there = showing(DAYS, a, START + 100 * DAY);
    expect(xOf(there, START + 100 * DAY)).toBeCloseTo(240);
  });

  it("names Mondays and, behind the fold, months", () => {
    const { dates, letters } = ticksOf(DAYS, a);
    expect(dates[0]?.text).toBe("5 Oct");
    expect(dates[1]?.text).toBe("12");
    // Every second one: they are thirty-four pixels apart at least.
    expect(dates.filter((t) => t.x > a.foldX).map((t) => t.text)).toEqual(["Dec", "Feb", "Apr", "Jun"]);
    expect(letters.slice(0, 7).map((t) => t.text)).toEqual(["M", "T", "W", "T", "F", "S", "S"]);
  });
});

describe("the lanes", () => {
  it("are of the places that are used, the people and what is away", () => {
    const { rows } = rowsOf({ ...VIEW, work: VIEW.work.filter((w) => w.key !== "b") }, "shop");
    expect(rows.map((r) => r.name)).toEqual(["Bay A", "Ann"]);
    expect(rowsOf(VIEW, "builds").rows.map((r) => r.name)).toEqual(["Plover 1", "Plover 2"]);
  });

  it("put work of the same time under each other, and a person's never", () => {
    const both = { ...VIEW, work: [work("a", 9, 12), work("b", 10, 11), work("c", 12, 13)] };
    const [place, person] = rowsOf(both, "shop").rows;
    const y = (key: string) => place?.blocks.find((b) => b.work.key === key)?.y;
    expect(y("b")).toBeGreaterThan(y("a") ?? 0);
    expect(y("c")).toBe(y("a"));
    expect(new Set(person?.blocks.map((b) => b.y)).size).toBe(1);
  });

  it("show what several people worked on once in the place and once for each of them", () => {
    const two = {
      ...VIEW,
      people: [...VIEW.people, { id: "bea", name: "Bea", share: 0, freeMinutes: 0, absent: [], kept: [] }],
      work: [
        work("x ann", 1, 2, { operationId: "x", worked: true }),
        work("x bea", 1.5, 3, { operationId: "x", worked: true, people: ["bea"] }),
      ],
    };
    const [place, ann, bea] = rowsOf(two, "shop").rows;
    expect(place?.blocks).toHaveLength(1);
    expect(place?.blocks[0]?.parts).toEqual([{ from: START + DAY, to: START + 3 * DAY }]);
    expect([ann?.blocks.length, bea?.blocks.length]).toEqual([1, 1]);
  });

  it("close nights where a day is short", () => {
    const parts = [
      { from: 0, to: 8 },
      { from: 24, to: 32 },
      { from: 96, to: 100 },
    ];
    expect(joined(parts, 20)).toEqual([
      { from: 0, to: 32 },
      { from: 96, to: 100 },
    ]);
    expect(joined(parts, 2)).toEqual(parts);
  });

  it("are walked with the arrow keys", () => {
    const { rows } = rowsOf(VIEW, "shop");
    const first = beside(rows, null, "right");
    expect(first?.work.key).toBe("a");
    const key = first?.key ?? "";
    expect(beside(rows, key, "right")?.work.key).toBe("c");
    expect(beside(rows, key, "left")).toBeUndefined();
    expect(beside(rows, key, "down")?.work.key).toBe("b");
    expect(beside(rows, beside(rows, key, "down")?.key ?? "", "up")?.work.key).toBe("a");
    expect(beside(rows, key, "up")).toBeUndefined();
  });
});

describe("the page", () => {
  afterEach(cleanup);
  beforeEach(() => {
    vi.stubGlobal(
      "ResizeObserver",
      class {
        observe = () => undefined;
        disconnect = () => undefined;
      },
    );
    queries.clear();
    signIn("manager", { now: iso(8, 10) });
  });

  it("says how many promises are late, and which most", () => {
    expect(promisesLate(VIEW)).toBe("All 2 promises are likely kept.");
    // Before any future was drawn nothing is said of them.
    expect(promisesLate({ ...VIEW, futuresAt: null })).toBe("Whether the promises are likely kept is being worked out.");
    expect(promisesLate({ ...VIEW, builds: [build(1, { daysLate: 9 }), build(2), build(3, { promised: null })] })).toBe(
      "1 of 2 promises likely late, 1 by 9 days.",
    );
    expect(promisesLate({ ...VIEW, builds: [build(1, { promised: null })] })).toBe("Nothing is promised yet.");
  });

  it("shows promises, their likely day, and what has none", () => {
    queries.setQueryData(lanesQuery.queryKey, {
      ...VIEW,
      builds: [build(1, { daysLate: 9, p50: "2026-12-10" }), build(2, { partly: true }), build(3, { paused: true, p50: null })],
    });
    draw(<PlanPage />);
    const rows = within(screen.getByRole("table", { name: "Promises" }))
      .getAllByRole("row")
      .slice(1);
    expect(rows[0]?.textContent).toContain("10 Dec+9 days late");
    expect(rows[1]?.textContent).toContain("no date");
    expect(rows[2]?.textContent).toContain("paused");
  });

  it("tells of a late build the work on which its day hangs, and when the booth has no room", () => {
    const carrier = { operationId: "a", name: "Floor pan", days: 6.5 };
    queries.setQueryData(lanesQuery.queryKey, {
      ...VIEW,
      builds: [build(1, { daysLate: 9, carrier }), build(2, { carrier })],
      fullBooth: { from: "2026-11-03", to: "2026-11-08" },
    });
    draw(<PlanPage />);
    expect(screen.getByRole("row", { name: /9 days late/ }).textContent).toContain("hangs most on Floor pan, 6.5 days");
    expect(screen.getAllByText(/hangs most on/)).toHaveLength(1);
    expect(screen.getByText(/Booth full 3 to 8 Nov\./)).toBeTruthy();
    cleanup();
    queries.setQueryData(lanesQuery.queryKey, VIEW);
    draw(<PlanPage />);
    expect(screen.queryByText(/Booth full/)).toBeNull();
  });

  it("links what is chosen with what holds it, to the root, and with what it holds", () => {
    expect(linksOf("bay a", { holders: ["b", "c"], followers: ["d", "e"] })).toEqual([
      { from: "b", to: "a" },
      { from: "c", to: "b" },
      { from: "a", to: "d" },
      { from: "a", to: "e" },
    ]);
    expect(linksOf(null, { holders: ["b"], followers: [] })).toEqual([]);
  });

  it("has nothing to show in a shop without builds", () => {
    queries.setQueryData(lanesQuery.queryKey, { ...VIEW, builds: [], work: [] });
    draw(<PlanPage />);
    expect(screen.getByText(/No build is open/)).toBeTruthy();
    expect(screen.queryByRole("listbox")).toBeNull();
  });

  it("tells the same as a table, the first sixty and more on asking", () => {
    queries.setQueryData(lanesQuery.queryKey, { ...VIEW, work: Array.from({ length: 70 }, (_, i) => work(`w${i}`, 9 + i, 10 + i)) });
    draw(<PlanPage />);
    fireEvent.click(screen.getByRole("button", { name: "As a table" }));
    const table = () => within(screen.getByRole("region", { name: "The plan as a table" })).getAllByRole("row");
    expect(table()).toHaveLength(61);
    expect(table()[1]?.textContent).toContain("Work w0");
    expect(table()[1]?.textContent).toContain("Bay A");
    fireEvent.click(screen.getByRole("button", { name: "10 more" }));
    expect(table()).toHaveLength(71);
  });

  const WHY: Schemas["WhyAnswer"] = {
    roots: ["Chrome or paint?, due Thu 15 Oct"],
    withoutThem: iso(9, 8),
    soonerDays: 3,
    rows: [
      { key: "a", build: "1", name: "Work a", start: iso(9), kind: "operation", text: "comes after Sealer", slackDays: 2 },
      { key: "s", build: "1", name: "Sealer", start: iso(8), kind: "decision", text: "Chrome or paint?", slackDays: 0 },
    ],
    followers: [{ key: "c", buildNumber: 2, name: "Clear coat", start: iso(12), roomDays: 0, over: "Booth" }],
  };

  it("says what holds a block and what it holds, and goes there", () => {
    queries.setQueryData(whyQuery("a").queryKey, WHY);
    const gone: string[] = [];
    draw(<WorkColumn work={work("a", 9, 10)} view={VIEW} onGo={(k) => gone.push(k)} onClose={() => gone.push("closed")} />);
    expect(screen.getByText("Chrome or paint?, due Thu 15 Oct")).toBeTruthy();
    expect(screen.getByRole("link", { name: "Decide now" }).getAttribute("href")).toBe("/");
    fireEvent.click(screen.getByRole("button", { name: "Sealer" }));
    fireEvent.click(screen.getByRole("button", { name: "2 Clear coat" }));
    fireEvent.click(screen.getByRole("button", { name: "Close" }));
    expect(gone).toEqual(["s", "c", "closed"]);
    expect(screen.getByText(/each day here is a day there/)).toBeTruthy();
  });

  it("offers no decision where none holds it", () => {
    queries.setQueryData(whyQuery("a").queryKey, { ...WHY, rows: WHY.rows.slice(0, 1), followers: [] });
    draw(<WorkColumn work={work("a", 9, 10)} view={VIEW} onGo={() => undefined} onClose={() => undefined} />);
    expect(screen.queryByRole("link", { name: "Decide now" })).toBeNull();
    expect(screen.getByText("Nothing follows it.")).toBeTruthy();
  });

  it("says what another day costs, and asks nothing of a day that has passed", async () => {
    queries.setQueryData(whyQuery("a").queryKey, WHY);
    queries.setQueryData(startsOnQuery("a", "2026-11-10").queryKey, {
      start: iso(36, 8),
      finish: iso(37, 12),
      moves: [
        { buildId: "b1", buildNumber: 1, days: 13 },
        { buildId: "b2", buildNumber: 2, days: -1 },
      ],
      sooner: false,
    });
    draw(<WorkColumn work={work("a", 9, 10)} view={VIEW} onGo={() => undefined} onClose={() => undefined} />);
    const day = screen.getByLabelText("Day on which it would start");
    fireEvent.change(day, { target: { value: "2026-11-10" } });
    await waitFor(() => expect(screen.getByText(/Planned finishes: 1: 13 days later, 2: 1 day sooner/)).toBeTruthy());
    fireEvent.change(day, { target: { value: "2026-10-12" } });
    expect(screen.getByText("Nothing starts in the past.")).toBeTruthy();
  });
});

describe("holding work until a day", () => {
  afterEach(cleanup);
  beforeEach(() => {
    queries.clear();
    signIn("manager", { now: iso(8, 10) });
    vi.stubGlobal(
      "ResizeObserver",
      class {
        observe = () => undefined;
        disconnect = () => undefined;
      },
    );
    const ida = { id: "ida", name: "Ida", share: 0.1, freeMinutes: 2900, absent: [], kept: [] };
    queries.setQueryData(lanesQuery.queryKey, {
      ...VIEW,
      people: [...VIEW.people, ida],
      work: [work("a", 9, 10, { pinnedOn: "2026-10-14", version: 7 })],
    });
    queries.setQueryData(whyQuery("a").queryKey, { roots: [], withoutThem: null, soonerDays: 0, rows: [], followers: [] });
  });
  const page = (role: "manager" | "technician" = "manager") => {
    if (role !== "manager") signIn(role, { now: iso(8, 10) });
    draw(<PlanPage />, createMemoryHistory({ initialEntries: ["/plan?at=a"] }));
  };

  it("is the manager’s: others read until when", () => {
    page("technician");
    expect(screen.getByText(/Pinned: Wed/)).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Unpin" })).toBeNull();
  });

  it("is sent with the version that was seen, taken back with the version it made, and done again", async () => {
    const kept = (version: number) =>
      new Response(JSON.stringify({ id: "a", version }), { status: 200, headers: { "content-type": "application/json" } });
    const sent = server(kept(8), kept(9), kept(10));
    page();
    fireEvent.click(screen.getByRole("button", { name: "Unpin" }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({ url: "/api/operations/a/pin", body: { on: null, personId: null, placeId: null, version: 7 } });
    fireEvent.click(await screen.findByRole("button", { name: "Undo" }));
    await waitFor(() => expect(sent[1]).toMatchObject({ body: { on: "2026-10-14", version: 8 } }));
    const redo = await screen.findByRole("button", { name: "Redo" });
    await waitFor(() => expect(redo.hasAttribute("disabled")).toBe(false));
    fireEvent.click(redo);
    await waitFor(() => expect(sent[2]).toMatchObject({ body: { on: null, version: 9 } }));
  });

  it("shows what the plan says of another person before it is kept, and names the rule against one that cannot", async () => {
    const trial = (over: object) =>
      Response.json({
        moves: [{ buildId: "b1", buildNumber: 1, days: 2 }],
        start: iso(10, 8),
        finish: iso(11, 9),
        withoutDate: [],
        reason: "",
        ...over,
      });
    const sent = server(
      problem("personId", "Ida has not the trade paint."),
      trial({}),
      new Response(JSON.stringify({ id: "a", version: 8 }), { status: 200, headers: { "content-type": "application/json" } }),
    );
    page();
    fireEvent.change(screen.getByLabelText("By"), { target: { value: "ida" } });
    expect(await screen.findByText("Ida has not the trade paint.")).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Pin it so" })).toBeNull();
    expect(sent[0]).toMatchObject({
      url: "/api/operations/a/pin/try",
      body: { on: "2026-10-14", personId: "ida", placeId: null, version: 7 },
    });
    fireEvent.change(screen.getByLabelText("By"), { target: { value: "ann" } });
    expect(await screen.findByText(/1: 2 days later/)).toBeTruthy();
    fireEvent.click(await screen.findByRole("button", { name: "Pin it so" }));
    await waitFor(() =>
      expect(sent[2]).toMatchObject({ url: "/api/operations/a/pin", body: { on: "2026-10-14", personId: "ann", version: 7 } }),
    );
  });

  it("says with its rule that it cannot start sooner, and keeps nothing then", async () => {
    queries.setQueryData(lanesQuery.queryKey, { ...VIEW, work: [work("a", 12, 13, { version: 7 })] });
    server(Response.json({ moves: [], start: iso(12, 8), finish: iso(13, 9), withoutDate: [], reason: "epoxy cures" }));
    page();
    fireEvent.change(screen.getByLabelText("To start on"), { target: { value: "2026-10-15" } });
    expect((await screen.findByRole("alert")).textContent).toMatch(/^It cannot start sooner than .*: epoxy cures\.$/);
    expect(screen.queryByRole("button", { name: "Pin it so" })).toBeNull();
  });

  it("puts work before other work of its lanes after the plan has answered", async () => {
    queries.setQueryData(lanesQuery.queryKey, { ...VIEW, work: [work("z", 8, 9), work("a", 10, 11, { version: 7 })] });
    const sent = server(
      Response.json({
        moves: [{ buildId: "b2", buildNumber: 2, days: 1 }],
        start: iso(8, 8),
        finish: iso(9, 9),
        withoutDate: [],
        reason: "",
      }),
      Response.json({}),
    );
    page();
    fireEvent.change(screen.getByLabelText("Work that goes first now"), { target: { value: "z" } });
    expect(await screen.findByText(/2: 1 day later/)).toBeTruthy();
    expect(sent[0]).toMatchObject({ url: "/api/operations/a/before/try", body: { other: "z" } });
    fireEvent.click(await screen.findByRole("button", { name: "Put it before" }));
    await waitFor(() => expect(sent[1]).toMatchObject({ url: "/api/operations/a/before", body: { other: "z" } }));
  });

  it("says what is not kept, in the headline and at the work, and goes from one to the next", async () => {
    const lost = (key: string, says: string) => work(key, 9, 10, { pinnedOn: "2026-10-12", broken: [says], version: 7 });
    queries.setQueryData(lanesQuery.queryKey, {
      ...VIEW,
      work: [lost("a", "It was to start on Mon."), lost("b", "It was to be done by Ida.")],
    });
    for (const id of ["a", "b"])
      queries.setQueryData(whyQuery(id).queryKey, { roots: [], withoutThem: null, soonerDays: 0, rows: [], followers: [] });
    page();
    expect(screen.getByRole("list", { name: "What is not kept" }).textContent).toBe("It was to start on Mon.");
    fireEvent.click(screen.getByRole("button", { name: "2 pins are not kept" }));
    await waitFor(() => expect(screen.getByRole("list", { name: "What is not kept" }).textContent).toBe("It was to be done by Ida."));
  });
});
