import { act, cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { gaugeSends } from "../api/live";
import { bodyQuery, buildsQuery, fitQuery, operationsQuery, queries } from "../api/queries";
import { bodyOf, card, dimensions, draw, press, problem, server, signIn, type } from "../testing";
import { type Fit, inMm, type Line, nextOpen, parseReading, roundNow, walkOf } from "./fitWords";
import { edgesOf, GAP_CM, numbersOf, stretches } from "./GapMarks";
import { GapsTab } from "./GapsTab";

vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useParams: () => ({ number: "41" }),
}));

const LIMITS = { targetMm: 4, toleranceMm: 0.8, rangeMm: 0.8, flushMm: 0.6 };

const line = (change: Partial<Line> = {}): Line => ({
  key: "door/sill R",
  letter: "H",
  name: "Door to sill, R",
  side: "right",
  from: "front end",
  lengthMm: 1000,
  between: ["sillR"],
  hung: [],
  stationsMm: [0, 500, 1000],
  at: [
    [80, 200],
    [80, 250],
    [80, 300],
  ],
  flushAt: [1, 3],
  terms: { line: "door/sill R", isBright: false, own: null, leftOut: "" },
  limits: LIMITS,
  verdict: "notRead",
  words: "",
  next: "beforeWeld",
  rounds: [],
  foretold: [],
  acceptance: null,
  ...change,
});

const reading = (mm: number): Schemas["ReadingView"] => ({
  id: `r${mm}`,
  mm,
  typed: `${mm} mm`,
  by: "Wil",
  at: "2026-10-13T08:00:00Z",
  instrument: "",
});

const round = (gaps: (number | null)[], change: Partial<Schemas["LineRoundView"]> = {}): Schemas["LineRoundView"] => ({
  round: "beforeWeld",
  stations: gaps.map((g, i) => ({ number: i + 1, gap: g === null ? null : reading(g), flush: null, touched: "" })),
  meanMm: null,
  rangeMm: null,
  taperMmPerM: null,
  faults: [],
  off: gaps.flatMap((g, i) => (g !== null && Math.abs(g - 4) > 0.8 ? [i + 1] : [])),
  flushOff: [],
  worstMm: gaps.filter((g) => g !== null).sort((a, b) => Math.abs(b - 4) - Math.abs(a - 4))[0] ?? null,
  worstFlushMm: null,
  isComplete: false,
  ...change,
});

const sheetOf = (lines: Line[], change: Partial<Fit> = {}): Fit => ({
  painted: LIMITS,
  bright: { ...LIMITS, toleranceMm: 0.5 },
  filmUm: null,
  doors: [],
  sheetVersion: null,
  lines,
  changes: [],
  gates: [],
  ...change,
});

describe("a figure as it is typed or sent by a gauge", () => {
  it.each([
    ["4.7", "mm", 4.7],
    [" 4,7 ", "mm", 4.7],
    ["4.7mm", "inch", 4.7],
    ["0.157 in", "mm", 3.9878],
    ['.157"', "mm", 3.9878],
    ["157 thou", "mm", 3.9878],
    ["157", "thou", 3.9878],
    ["-0.2", "mm", -0.2],
    ["−0.2 mm", "mm", -0.2],
    ["+1.1", "mm", 1.1],
  ] as const)("%s in %s", (typed, unit, mm) => {
    expect(inMm(parseReading(typed, unit) ?? { value: Number.NaN, unit: "mm" })).toBeCloseTo(mm, 9);
  });

  it.each(["", "  ", "4.7.1", "four", "4 7", "4.7 cm", "--2", "1e3"])("“%s” is none", (typed) => {
    expect(parseReading(typed, "mm")).toBeNull();
  });
});

describe("the walk along a line", () => {
  it("goes from gap to gap, then to the flush that is asked for, and round to what was left out", () => {
    const l = line({ rounds: [round([4, null, null])] });
    const go = (after: Parameters<typeof nextOpen>[2], read: string[] = []) => nextOpen(l, roundNow(l), after, new Set(read));
    expect(walkOf(l)).toHaveLength(5);
    expect(go(null)).toEqual({ station: 2, measure: "gap" });
    expect(go({ station: 2, measure: "gap" }, ["gap 2"])).toEqual({ station: 3, measure: "gap" });
    expect(go({ station: 3, measure: "gap" }, ["gap 3"])).toEqual({ station: 1, measure: "flush" });
    expect(go({ station: 3, measure: "flush" }, ["flush 1", "flush 3"])).toEqual({ station: 2, measure: "gap" });
    expect(go({ station: 2, measure: "gap" }, ["gap 2", "gap 3", "flush 1", "flush 3"])).toBeNull();
  });

  it("asks again for what was touched, and begins the next round anew", () => {
    const touched = round([4, 4, 4]);
    if (touched.stations[1]) touched.stations[1].touched = "R door moved";
    expect(nextOpen(line(), touched, null, new Set(["flush 1", "flush 3"]))).toEqual({ station: 2, measure: "gap" });
    const next = roundNow(line({ next: "afterWeld", rounds: [round([4, 4, 4])] }));
    expect([next.round, next.stations.every((s) => s.gap === null)]).toEqual(["afterWeld", true]);
  });
});

describe("the gap on the body", () => {
  it("is as wide as it was read, to both sides of its line", () => {
    const [left, right] = edgesOf(line(), [4, 6, 2], 0, 2);
    left.forEach(([x, y], i) => {
      const [rx, ry] = right[i] ?? [0, 0];
      expect(Math.hypot(x - rx, y - ry)).toBeCloseTo(([4, 6, 2][i] ?? 0) * GAP_CM, 9);
      expect((x + rx) / 2).toBeCloseTo(80, 9);
    });
    expect(stretches(6, (i) => i === 0 || i > 2)).toEqual([
      [0, 0],
      [3, 5],
    ]);
  });

  it("shows the worst of each line that is out, and nothing on top of each other", () => {
    const a = line({ key: "a", rounds: [round([6.6, 4.5, 2.6])], verdict: "out" });
    const b = line({
      key: "b",
      at: [
        [80, 302],
        [70, 310],
        [60, 315],
      ],
      rounds: [round([4, 4, 4])],
    });
    const spots = numbersOf([b, a], 14, false);
    expect(spots.some((s) => s.line === "a" && s.station === 1)).toBe(true);
    for (const s of spots) for (const o of spots) expect(s === o || Math.abs(s.x - o.x) > 14 || Math.abs(s.y - o.y) > 14).toBe(true);
    expect(numbersOf([a, b], 14, true).map((s) => s.line)).toEqual(["a"]);
  });
});

describe("the page of gaps", () => {
  const show = (f: Fit) => {
    queries.setQueryData(buildsQuery.queryKey, [card({ id: "b41", number: 41 })]);
    queries.setQueryData(fitQuery("b41").queryKey, f);
    queries.setQueryData(operationsQuery("b41").queryKey, []);
    queries.setQueryData(bodyQuery("b41").queryKey, {
      body: {
        style: "coupe",
        name: "Coupe",
        dimensions,
        minX: 0,
        minY: 0,
        maxX: 100,
        maxY: 400,
        panels: [{ key: "sillR", name: "R sill", side: "right", path: "M0,0L10,0L10,10Z", labels: [], zones: {} }],
        openings: [],
        shutLines: [],
        decor: { dark: [], light: [], lamps: [], bolts: [], handles: [], grille: "M0,0" },
      },
      panels: [],
      flagged: [],
    } as never);
    draw(<GapsTab />);
  };
  beforeEach(() => {
    queries.clear();
    signIn("technician");
  });
  afterEach(cleanup);

  it("takes one number and Enter, and opens the next place", async () => {
    const sent = server(new Response("{}"), new Response("{}"));
    show(sheetOf([line()]));
    type("Gap at station 1, mm", "4.2");
    press("Enter");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(bodyOf<Schemas["ReadingBody"]>(sent)).toMatchObject({
      line: "door/sill R",
      round: "beforeWeld",
      station: 1,
      measure: "gap",
      value: 4.2,
      unit: "mm",
    });
    // The next one is open before the answer is there; letters are no figure.
    type("Gap at station 2, mm", "wide");
    press("Enter");
    expect(screen.getByRole("alert").textContent).toContain("That is no figure");
    expect(sent).toHaveLength(1);
    type("Gap at station 2, mm", "0.2 in");
    press("Enter");
    await waitFor(() => expect(sent[1]?.body).toMatchObject({ station: 2, value: 0.2, unit: "inch" }));
  });

  it("takes what a gauge sends where it is open, in a window that listens to it, and nowhere else", async () => {
    const sent = server();
    show(sheetOf([line()]));
    act(() => gaugeSends({ value: 4.2, unit: "mm" }));
    expect(sent).toEqual([]);
    fireEvent.click(screen.getByRole("button", { name: "Gauge" }));
    act(() => gaugeSends({ value: 4.2, unit: "mm" }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toMatchObject({ station: 1, measure: "gap", value: 4.2, unit: "mm", instrument: "wireless gauge" });
    act(() => gaugeSends({ value: 157, unit: "thou" }));
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent[1]?.body).toMatchObject({ station: 2, value: 157, unit: "thou" });
    fireEvent.click(screen.getByRole("button", { name: "Gauge" }));
    act(() => gaugeSends({ value: 4.4, unit: "mm" }));
    expect(sent).toHaveLength(2);
  });

  it("is read with large keys, the sign for flush alone", async () => {
    const sent = server(new Response("{}"));
    show(sheetOf([line({ rounds: [round([4, 4, 4])] })]));
    press("Read with large keys");
    const pad = within(screen.getByRole("region", { name: "Reading Door to sill, R" }));
    expect(pad.getByText("Flush at station 1 of 3")).toBeTruthy();
    for (const key of ["0", ".", "4", "3"]) fireEvent.click(pad.getByRole("button", { name: key }));
    fireEvent.click(pad.getByRole("button", { name: "Wipe the last figure" }));
    fireEvent.click(pad.getByRole("button", { name: "In or out" }));
    fireEvent.click(pad.getByRole("button", { name: /^Next/ }));
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ station: 1, measure: "flush", value: -0.4 }));
    expect(pad.getByText("Flush at station 3 of 3")).toBeTruthy();
    fireEvent.click(pad.getByRole("button", { name: /^Gap/ }));
    expect(pad.getByRole("button", { name: "In or out" })).toHaveProperty("disabled", true);
  });

  it("lets a technician propose and a manager accept, with a reason", async () => {
    const out = line({ verdict: "out", words: "too wide at 1 to 3", rounds: [round([5.2, 5.2, 5.2])] });
    const sent = server(problem("why", "Say why."), new Response("{}"));
    show(sheetOf([out]));
    press("Propose to leave it, say why");
    press("Save");
    expect(await screen.findByText("Say why.")).toBeTruthy();
    type(/^Why/, "the cover hides it");
    press("Save");
    await waitFor(() => expect(sent[1]?.body).toMatchObject({ line: "door/sill R", why: "the cover hides it" }));
  });

  it.each([
    ["manager", 1],
    ["technician", 0],
  ] as const)("shows a proposal to the %s, accepted by the manager alone", (role, buttons) => {
    signIn(role);
    const acceptance = { id: "a1", why: "the cover hides it", what: "", by: "Wil", at: "2026-10-13T08:00:00Z", acceptedBy: "" };
    show(sheetOf([line({ verdict: "out", rounds: [round([5.2, 5.2, 5.2])], acceptance })]));
    expect(screen.getByText(/Wil proposes to leave it: the cover hides it/)).toBeTruthy();
    expect(screen.queryAllByRole("button", { name: "Accept it" })).toHaveLength(buttons);
    expect(screen.getByRole("button", { name: "Take it back" })).toBeTruthy();
  });

  it("is read by the office, which enters nothing", () => {
    signIn("office");
    show(sheetOf([line({ verdict: "out", words: "too wide at 1", rounds: [round([5.2, 4, 4])] })]));
    expect(screen.queryByRole("button", { name: "Enter" })).toBeNull();
    expect(screen.queryByRole("button", { name: /leave it/ })).toBeNull();
    const row = screen.getByRole("button", { name: /H Door to sill, R out/ });
    expect(within(row.closest("tr") as HTMLElement).getByText("5.2")).toBeTruthy();
  });

  it("opens the least even of the lines that are out, and any other by its row or its letter", () => {
    const even = line({ key: "a", letter: "A", name: "Nose to bonnet", verdict: "out", rounds: [round([6, 6, 6], { rangeMm: 0 })] });
    const uneven = line({ verdict: "out", rounds: [round([6.6, 4.5, 2.6], { rangeMm: 4, taperMmPerM: -4 })] });
    show(sheetOf([even, uneven]));
    expect(screen.getByRole("heading", { level: 2, name: "H Door to sill, R" })).toBeTruthy();
    expect(screen.getByText("taper −4.0 mm/m")).toBeTruthy();
    press(/^A Nose to bonnet out/);
    expect(screen.getByRole("heading", { level: 2, name: "A Nose to bonnet" })).toBeTruthy();
  });
});
