import { cleanup, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { buildsQuery, datumQuery, queries } from "../api/queries";
import { card, draw, press, problem, server, signIn, type } from "../testing";
import { DatumTab } from "./DatumTab";
import { type Datum, type Point, wayWords } from "./datumWords";

vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useParams: () => ({ number: "43" }),
}));

const way = (x: number, y: number, z: number) => ({ x, y, z, length: Math.hypot(x, y, z) });

const point = (letter: string, side: "left" | "right", x: number, y: number, z: number, change: Partial<Point> = {}): Point => ({
  key: `${letter} ${side === "left" ? "L" : "R"}`,
  typed: { letter, side, name: "", at: { x, y, z, unit: "mm" }, isProtected: false },
  at: way(x, y, z),
  rounds: [],
  moved: null,
  ...change,
});

const read = (off: ReturnType<typeof way> | null, change: Partial<Schemas["PointRoundView"]> = {}): Schemas["PointRoundView"] => ({
  round: "beforeCut",
  readingId: "r",
  at: way(0, 0, 0),
  off,
  isBent: false,
  tool: "laser",
  instrument: "cross laser 2",
  by: "Bram",
  readAt: "2026-10-09T10:00:00Z",
  ...change,
});

const NO_FIGURES = { figures: {}, skewDeg: null, offCentreMm: null, twistMm: null, cornerGapMm: null } as Schemas["ChassisView"];

const sheet = (change: Partial<Datum> = {}): Datum => ({
  version: 7,
  drawing: "FS 12",
  revision: "B",
  page: "3",
  toleranceMm: 2,
  points: [
    point("A", "left", 0, 400, 100, { rounds: [read(way(0.1, 0, 0.2))] }),
    point("A", "right", 0, -400, 100),
    point("D", "right", 2000, -400, 60, { rounds: [read(way(-1.1, 1.2, 12), { isBent: true })], moved: way(0, 0, -9) }),
  ],
  fits: [{ round: "beforeCut", rmsMm: 0.4, why: "", agree: 11, bent: ["D R"], isSearched: true }],
  mirror: null,
  diagonals: null,
  before: NO_FIGURES,
  after: NO_FIGURES,
  ...change,
});

describe("which way a point is off", () => {
  it.each([
    [way(-1.1, 1.2, 2.5), "right", "up 2.5, in 1.2, forward 1.1"],
    [way(0, 1.2, 0), "left", "out 1.2"],
    [way(0, -1.2, 0.04), "left", "in 1.2"],
    [way(0, 1.2, -3), "centre", "down 3.0, left 1.2"],
    [way(0.01, 0, 0), "left", "in its place"],
  ] as const)("%o on the %s", (off, side, says) => expect(wayWords(off, side)).toBe(says));
});

describe("the datum page", () => {
  const show = (d: Datum) => {
    queries.setQueryData(buildsQuery.queryKey, [card({ id: "b43", number: 43 })]);
    queries.setQueryData(datumQuery("b43").queryKey, d);
    draw(<DatumTab />);
  };
  beforeEach(() => {
    queries.clear();
    signIn("technician");
  });
  afterEach(cleanup);

  it("says what is bent, by how much and which way, and what moved", () => {
    show(sheet());
    expect(screen.getByText(/laid on the sheet by the 11 that agree, 0.4 mm off on average; bent: D R/)).toBeTruthy();
    press("D R: 12.1 mm off, bent");
    const one = within(screen.getByRole("region", { name: "D R" }));
    expect(one.getByText(/12.1 off, up 12.0, in 1.2, forward 1.1/)).toBeTruthy();
    expect(one.getByText(/Pull it back by what it is off, then read all points again/)).toBeTruthy();
    const row = within(screen.getByRole("table", { name: "Points" }))
      .getByRole("button", { name: /^D R/ })
      .closest("tr") as HTMLElement;
    expect([...row.querySelectorAll("td")].map((c) => c.textContent)).toEqual(["12.1", "", "9.0"]);
    expect(screen.getByRole("button", { name: "A R: not read" })).toBeTruthy();
  });

  it("says why a shell cannot be laid on its sheet, and shows each figure with its sum", () => {
    show(
      sheet({
        fits: [
          { round: "beforeCut", rmsMm: null, why: "Three points at least say how the shell lies.", agree: 0, bent: [], isSearched: false },
        ],
        diagonals: { leftToRight: 3633.9, rightToLeft: 3636.1 },
        before: {
          ...NO_FIGURES,
          figures: { wheelbaseLeftMm: 2844, wheelbaseRightMm: 2840, trackMm: 1400 },
          skewDeg: 0.1637,
        } as Schemas["ChassisView"],
      }),
    );
    expect(screen.getByText(/Three points at least/)).toBeTruthy();
    expect(screen.getByRole("row", { name: "Diagonals 3633.9 − 3636.1 -2.2 mm" })).toBeTruthy();
    expect(screen.getByRole("row", { name: "Skew, before atan((2844 − 2840) / 1400) 0.164°" })).toBeTruthy();
  });

  it("takes a sheet from lines, and shows the line that is wrong at its field", async () => {
    const sent = server(problem("text", "Line 3: y is “two”, which is no number."), new Response("{}"));
    show(sheet({ version: null, points: [], fits: [] }));
    press("Enter the reference sheet");
    type("Drawing it is from", "FS 12");
    type("or its lines", "point,x,y,z\nA L,1,2,3\nA R,1,two,3");
    press("Save");
    expect(await screen.findByText("Line 3: y is “two”, which is no number.")).toBeTruthy();
    type(/^or its lines/, "point,x,y,z\nA L,1,2,3");
    press("Save");
    await waitFor(() =>
      expect(sent[1]?.body).toMatchObject({ drawing: "FS 12", unit: "mm", version: null, text: "point,x,y,z\nA L,1,2,3" }),
    );
  });

  it("reads one point after the other, and none without its three lengths", async () => {
    const sent = server(new Response("{}"));
    show(sheet());
    press("Read a point");
    expect((screen.getByLabelText("Point") as HTMLSelectElement).value).toBe("A R");
    type("To the rear, x", "10");
    type("To the left, y", "-398.5");
    expect((screen.getByRole("button", { name: "Enter" }) as HTMLButtonElement).disabled).toBe(true);
    type("Up, z", "501");
    press("Enter");
    await waitFor(() =>
      expect(sent[0]?.body).toMatchObject({ point: "A R", x: 10, y: -398.5, z: 501, round: "beforeCut", tool: "laser", unit: "mm" }),
    );
    await waitFor(() => expect((screen.getByLabelText("Point") as HTMLSelectElement).value).toBe("D R"));
    expect((screen.getByLabelText("Up, z") as HTMLInputElement).value).toBe("");
  });

  it("is read by the office, which enters nothing", () => {
    signIn("office");
    show(sheet());
    expect(screen.queryByRole("button", { name: "Read a point" })).toBeNull();
    press(/^D R: 12.1/);
    expect(screen.queryByRole("button", { name: "Take it back" })).toBeNull();
  });
});
