import { cleanup, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { buildsQuery, openingsQuery, queries } from "../api/queries";
import { card, draw, press, problem, server, signIn, type } from "../testing";
import { OpeningsTab } from "./OpeningsTab";

vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useParams: () => ({ number: "41" }),
}));

type Opening = Schemas["OpeningView"];

const round = (change: Partial<Schemas["OpeningRoundView"]> = {}): Schemas["OpeningRoundView"] => ({
  id: "o1",
  diagonal1: 1510,
  diagonal2: 1490,
  width: 1200,
  side: 900,
  unit: "mm",
  when: "before the floor is cut",
  by: "Wil",
  at: "2026-10-13T08:00:00Z",
  shearMm: 12.5,
  leanDeg: 0.8,
  impliedSideMm: 900.06,
  mismatchMm: -0.06,
  isConsistent: true,
  driftMm: null,
  ...change,
});

const opening = (key: string, name: string, change: Partial<Opening> = {}): Opening => ({
  key,
  name,
  wrong: "",
  advice: "",
  rounds: [],
  ...change,
});

const leaning = opening("cabin", "Cabin floor", { wrong: "leans 12.5 mm to the right", advice: "Pull the diagonal.", rounds: [round()] });

describe("the page of openings", () => {
  const show = (all: Opening[]) => {
    queries.setQueryData(buildsQuery.queryKey, [card({ id: "b41", number: 41 })]);
    queries.setQueryData(openingsQuery("b41").queryKey, all);
    draw(<OpeningsTab />);
  };
  beforeEach(() => {
    queries.clear();
    signIn("technician");
  });
  afterEach(cleanup);

  it("opens the one that is wrong, with its sums and what to do", () => {
    show([opening("doorL", "L door opening", { rounds: [round({ shearMm: 0.4 })] }), leaning]);
    expect(screen.getByRole("heading", { level: 2, name: "Cabin floor" })).toBeTruthy();
    expect(screen.getByText("Leans 12.5 mm to the right")).toBeTruthy();
    expect(screen.getByText(/\(1510² − 1490²\) \/ \(4 × 1200\) = \+12.5/)).toBeTruthy();
    expect(screen.getByText(/= 900.06; measured 900: the four figures agree/)).toBeTruthy();
    expect(screen.getByText("Pull the diagonal.")).toBeTruthy();
    press(/^L door opening/);
    expect(screen.getByRole("heading", { level: 2, name: "L door opening" })).toBeTruthy();
  });

  it("shows a figure in inches as it was typed, and what a weld pulled", () => {
    show([
      opening("screen", "Screen opening", {
        rounds: [
          round({ unit: "inch", diagonal1: 60, diagonal2: 59, width: 47, side: 36, shearMm: 16.079, impliedSideMm: 914.4 }),
          round({ id: "o2", driftMm: -11.3 }),
        ],
      }),
    ]);
    const measured = within(screen.getByRole("region", { name: "Screen opening, measured" }));
    expect(measured.getByText(/leans 12.5 to the right, −11.3 since the one before/)).toBeTruthy();
    cleanup();
    show([
      opening("screen", "Screen opening", {
        rounds: [round({ unit: "inch", diagonal1: 60, diagonal2: 59, width: 47, side: 36, shearMm: 16.079, impliedSideMm: 914.4 })],
      }),
    ]);
    expect(screen.getByText(/\(60² − 59²\) \/ \(4 × 47\) = \+0.6/)).toBeTruthy();
    expect(screen.getByText(/= 36.00; measured 36/)).toBeTruthy();
  });

  it("keeps four figures together, and shows the one that cannot be at its field", async () => {
    const sent = server(problem("diagonal1", "No opening has these diagonals at this width: read them again."), new Response("{}"));
    show([opening("cabin", "Cabin floor")]);
    type("Bottom left to top right, mm", "600");
    type("Bottom right to top left, mm", "590");
    type("Width, mm", "1200");
    expect(screen.getByRole("button", { name: "Keep the four figures" })).toHaveProperty("disabled", true);
    type("A slanted side, mm", "900");
    type("When: before or after what", "before the weld");
    press("Keep the four figures");
    expect(await screen.findByText(/No opening has these diagonals/)).toBeTruthy();
    type(/^Bottom left to top right/, "1510");
    press("Keep the four figures");
    await waitFor(() =>
      expect(sent[1]?.body).toMatchObject({ opening: "cabin", diagonal1: 1510, width: 1200, unit: "mm", when: "before the weld" }),
    );
  });

  it("is read by the office, which enters nothing", () => {
    signIn("office");
    show([leaning]);
    expect(screen.queryByRole("button", { name: "Keep the four figures" })).toBeNull();
    expect(screen.queryByRole("button", { name: "Take it back" })).toBeNull();
  });
});
