import { QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { queries, styleQuery } from "../api/queries";
import { card, dimensions, station } from "../testing";
import { CarAbove, folded } from "./CarAbove";
import { FloorPlan, inRows, parked } from "./FloorPlan";
import { movesOf } from "./moves";
import { besideMarks, labelType, PanelMap } from "./PanelMap";

const panel = (key: string, name: string, side: Schemas["PanelSide"], x: number): Schemas["PanelView"] => ({
  key,
  name,
  side,
  path: `M${x},0L${x + 60},0L${x + 60},100L${x},100Z`,
  labels: [1, 2, 3].map((lines) => ({ lines, turned: false, x: x + 30, y: 50, width: 58 })),
  zones: { front: `M${x},0L${x + 60},0L${x + 60},30L${x},30Z` },
});
const body: Schemas["BodyView"] = {
  style: "coupe",
  name: "Coupe",
  dimensions,
  minX: -160,
  minY: 0,
  maxX: 160,
  maxY: 510,
  panels: [panel("bonnet", "Bonnet", "centre", -30), panel("wingL", "L wing", "left", -160), panel("wingR", "R wing", "right", 100)],
  openings: ["M-20,120L20,120L20,160L-20,160Z"],
  shutLines: [],
  decor: { dark: [], light: [], lamps: [], bolts: [], handles: [], grille: "M0,1L1,1" },
};
const state = (key: string, change: Partial<Schemas["PanelState"]> = {}): Schemas["PanelState"] => ({
  panel: key,
  coat: "epoxy",
  held: "dressed",
  coats: ["epoxy"],
  zones: [],
  replace: false,
  newMetal: false,
  temporaryMetal: [],
  ...change,
});

const car = { lengthMm: 5000, widthMm: 1800 };

describe("a label beside a mark", () => {
  const type = { line: 13, name: 12, coat: 11.5 };
  const fit = { x: 0, y: 100, turned: false, lines: [{ text: "R sill", bold: true }] };
  const panel = { y0: 0, y1: 300 };

  it("stays where nothing lies on it", () => {
    expect(besideMarks(fit, type, 1, [{ x: 0, y: 160 }], panel)).toEqual(fit);
    expect(besideMarks(fit, type, 1, [{ x: 90, y: 100 }], panel)).toEqual(fit);
  });

  it("moves along its panel until no mark lies on it", () => {
    const marks = [
      { x: 2, y: 98 },
      { x: 0, y: 125 },
    ];
    const moved = besideMarks(fit, type, 1, marks, panel);
    expect(moved?.y).toBeLessThan(98 - 13 - 6);
    expect(moved?.x).toBe(0);
  });

  it("is left out where it would leave its panel", () => {
    expect(besideMarks(fit, type, 1, [{ x: 0, y: 100 }], { y0: 90, y1: 110 })).toBeNull();
  });

  it("takes its length along the panel where it is turned", () => {
    const turned = { ...fit, turned: true };
    expect(besideMarks(turned, type, 1, [{ x: 0, y: 120 }], panel)?.y).toBeLessThan(100);
    expect(besideMarks(turned, type, 1, [{ x: 21, y: 100 }], panel)).toEqual(turned);
  });
});

describe("many vehicles in one yard", () => {
  it.each([1, 3, 6, 9, 14])("gives each of %i a place of its own on the ground", (count) => {
    for (const room of [
      { w: 330, d: 140 },
      { w: 840, d: 100 },
    ]) {
      const places = inRows(count, room);
      expect(places.across * places.w).toBeLessThanOrEqual(room.w + 0.001);
      expect(Math.ceil(count / places.across) * places.d).toBeLessThanOrEqual(room.d + 0.001);
    }
  });

  it("keeps their words while there is room for them", () => {
    expect(inRows(3, { w: 400, d: 100 })).toMatchObject({ across: 3 });
    expect(inRows(7, { w: 400, d: 140 }).across).toBeLessThan(7);
  });
});

describe("a vehicle in its place", () => {
  it("lies across where it fits, to scale", () => {
    const p = parked(car, 0.34, { w: 220, d: 80 });
    expect(p).toMatchObject({ upright: false, cm: 0.34 });
    expect(p.wide).toBeCloseTo(61.2);
  });

  it("stands along a place that is deeper than wide, and never over its neighbour", () => {
    const narrow = parked(car, 0.34, { w: 105, d: 190 });
    expect(narrow.upright).toBe(true);
    expect(narrow.wide).toBeLessThanOrEqual(105);
    const tiny = parked(car, 0.34, { w: 80, d: 70 });
    expect(Math.max(tiny.upright ? tiny.wide : tiny.long)).toBeLessThanOrEqual(80);
    expect(tiny.cm).toBeLessThan(0.34);
  });
});

const settings = { planWidthMm: 25000, planDepthMm: 20000 } as Schemas["SettingsBody"];
afterEach(cleanup);

function floor(builds: Schemas["BuildCard"][], decisions: Schemas["DecisionRow"][] = [], onOpen = vi.fn()) {
  queries.setQueryData(styleQuery("coupe", dimensions).queryKey, body);
  render(
    <QueryClientProvider client={queries}>
      <FloorPlan
        shop={settings}
        layout={{ walls: [], doors: [] }}
        stations={[station("s1", "Prep 1", "prep", 0), station("s2", "Bay B", "bay", 7000)]}
        builds={builds}
        away={[]}
        decisions={decisions}
        onOpen={onOpen}
      />
    </QueryClientProvider>,
  );
  return onOpen;
}

describe("the floor", () => {
  it("names every vehicle with its share, who is on it and for how long", () => {
    floor([card({ onIt: [{ personId: "p", name: "Wil", operationId: "o", operation: "Block", minutes: 107, panels: ["wingL"] }] })]);
    expect(screen.getByRole("link", { name: /Build 41, Whimbrel Courser. 48 %. Wil 1:47/ })).toBeTruthy();
    expect(screen.getByText("free")).toBeTruthy();
  });
  it("says what waits for whom, and how long nobody touched it", () => {
    const decision = { buildId: "b1", question: "Right floor pan: cut it out?", for: "client" } as Schemas["DecisionRow"];
    floor([card({ untouchedDays: 9 })], [decision]);
    expect(screen.getByText("waits for the client: right floor pan")).toBeTruthy();
    expect(screen.getByText("nobody, untouched 9 days")).toBeTruthy();
  });
  it("opens a build where it stands", () => {
    const open = floor([card({})]);
    fireEvent.click(screen.getByRole("link", { name: /Build 41/ }));
    expect(open).toHaveBeenCalledWith(expect.objectContaining({ number: 41 }));
  });
  it("says what for and when it goes on, and until when the place it goes to is free", () => {
    floor([card({ move: { to: "bay", on: "2026-10-20", stage: "metal", stationId: "s2", free: true } })]);
    expect(screen.getByText("metalwork, Tue 20 Oct")).toBeTruthy();
    expect(screen.getByText("free to Tue 20 Oct")).toBeTruthy();
    expect(screen.getByRole("link", { name: /goes to Bay B Tue 20 Oct/ })).toBeTruthy();
  });
  it("draws a coupe to scale: 4.5 m of a 25 m plan", () => {
    floor([card({})]);
    const scale = 850 / 25 / 100;
    const group = document.querySelector(`g[transform*="scale(${scale.toFixed(4)})"]`);
    expect(group).not.toBeNull();
  });
});

describe("moves", () => {
  const places = [station("s1", "Prep 1", "prep", 0), station("s2", "Bay A", "bay", 7000), station("s3", "Bay B", "bay", 14000)];
  const going = (id: string, at: string, to: string, on: string, free = true) =>
    card({ id, stationId: at, move: { to: "bay", on, stage: "metal", stationId: to, free } });
  const of = (builds: Schemas["BuildCard"][], stations = places) =>
    movesOf(builds, stations).map((m) => [m.build.id, m.to.name, m.free, m.drawn]);

  it("come soonest first, and none is drawn from the yard or to it", () => {
    const yard = station("yard", "Yard", "yard", 21000);
    expect(of([going("late", "s1", "s2", "2026-10-21"), going("soon", "yard", "s3", "2026-10-20")], [...places, yard])).toEqual([
      ["soon", "Bay B", true, false],
      ["late", "Bay A", true, true],
    ]);
    expect(of([going("out", "s1", "yard", "2026-10-20")], [...places, yard])).toEqual([["out", "Yard", true, false]]);
    expect(of([going("lost", "s9", "s2", "2026-10-21")])).toEqual([]);
  });
  it("are words only where another vehicle stands between, or the place is taken", () => {
    expect(of([going("a", "s1", "s3", "2026-10-20"), card({ id: "b", stationId: "s2" })])).toEqual([["a", "Bay B", true, false]]);
    const taken = of([going("a", "s1", "s2", "2026-10-20", false), card({ id: "b", stationId: "s2" }), card({ id: "c", stationId: "s3" })]);
    expect(taken).toEqual([["a", "Bay A", false, false]]);
  });
  it("lead to the edge of a taken place that lies straight across", () => {
    const booth = { ...station("s4", "Booth", "booth", 0), yMm: 6000 };
    expect(of([going("a", "s1", "s4", "2026-10-20", false), card({ id: "b", stationId: "s4" })], [...places, booth])).toEqual([
      ["a", "Booth", false, true],
    ]);
  });
});

describe("a body from above", () => {
  it("folds the girth to the stated width and keeps left and right alike", () => {
    const move = folded(body);
    expect(move(160, 10)).toEqual([85, 10]);
    expect(move(-160, 10)).toEqual([-85, 10]);
    const [near] = move(20, 0);
    expect(near).toBeGreaterThan(15);
    expect(move(0, 5)).toEqual([0, 5]);
  });
  it("wears what its panels wear", () => {
    const { container } = render(
      <svg>
        <title>car</title>
        <CarAbove body={body} coats={{ bonnet: "epoxy", wingL: "base" }} paint="#1B6670" />
      </svg>,
    );
    const fills = [...container.querySelectorAll("path")].map((p) => p.getAttribute("fill"));
    expect(fills).toContain("#565D60");
    expect(fills).toContain("#1B6670");
  });
});

describe("the panel map", () => {
  it("gives each panel its state as its name and answers keys", () => {
    const pick = vi.fn();
    render(
      <PanelMap
        body={body}
        states={[state("bonnet", { held: "tacked" }), state("wingL", { held: "away" }), state("wingR")]}
        paint="#1B6670"
        width={600}
        height={500}
        onPick={pick}
      />,
    );
    const bonnet = screen.getByRole("button", { name: "Bonnet, epoxy, tacked" });
    expect(screen.getByRole("button", { name: "L wing, away" })).toBeTruthy();
    bonnet.focus();
    fireEvent.keyDown(bonnet, { key: "Enter" });
    expect(pick).toHaveBeenCalledWith("bonnet", { x: 0, y: 50 });
    fireEvent.keyDown(bonnet, { key: "ArrowDown" });
    expect(document.activeElement?.getAttribute("data-panel")).toBe("wingL");
    fireEvent.keyDown(document.activeElement as Element, { key: "ArrowUp" });
    expect(document.activeElement?.getAttribute("data-panel")).toBe("bonnet");
  });
  it("counts what the panels wear, those that are away left out", () => {
    render(
      <PanelMap
        body={body}
        states={[state("bonnet"), state("wingL", { held: "away" }), state("wingR", { coat: "filler" })]}
        paint="#1B6670"
        width={600}
        height={500}
      />,
    );
    expect(screen.getByText("What the panels wear").parentElement?.textContent).toMatch(/epoxy1filler1/);
  });
  it("writes its labels as large as the rooms allow, and leaves them out where nobody could read them", () => {
    expect(labelType(1.4)).toEqual({ line: 13, name: 12, coat: 11.5 });
    const long = labelType(626 / 516);
    expect(long?.line).toBeCloseTo(12.74, 2);
    expect(labelType(0.9)).toBeNull();
    const { container } = render(<PanelMap body={body} states={[state("bonnet")]} paint="#1B6670" width={792} height={652} />);
    expect(container.querySelector("text.halo")?.textContent).toBe("Bonnetepoxy");
  });
  it("draws a left zone mirrored from the right one's path", () => {
    const { container } = render(
      <PanelMap
        body={body}
        states={[state("wingL", { zones: [{ zone: "front", coat: "filler", replace: false, newMetal: false }] })]}
        paint="#1B6670"
        width={600}
        height={500}
      />,
    );
    const paths = [...container.querySelectorAll("g[clip-path] path")].map((p) => p.getAttribute("d"));
    expect(paths).toContain("M160,0L100,0L100,30L160,30Z");
  });
});
