import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { arrivalQuery, buildsQuery, operationsQuery, photosQuery, queries } from "../api/queries";
import { bodyOf, card, draw, press, problem, server, signIn, type } from "../testing";
import { ArrivalTab } from "./ArrivalTab";
import { wedge } from "./Round";

vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useParams: () => ({ number: "41" }),
  useNavigate: () => vi.fn(),
}));

const station = (key: string, name: string, photoId: string | null): Schemas["StationOfRound"] => ({
  key,
  name,
  at: { x: 0, y: -170 },
  aim: { x: 0, y: 90 },
  halfAngle: 24,
  photoId,
});

const arrival = (change: Partial<Schemas["ArrivalView"]> = {}): Schemas["ArrivalView"] => ({
  written: true,
  cameOn: "2026-10-12",
  as: "rollingShell",
  onWhose: "",
  serial: 1187,
  breaks: [{ at: 1150, before: "cone clutch", from: "plate clutch", fitted: "plate clutch", past: 37 }],
  odometer: 48210,
  keys: 1,
  fluids: ["fuel"],
  battery: "none",
  storage: "shelf 12",
  promised: [
    { id: "p1", what: "Head lamps", promised: 2, came: 0, missing: 2, askedOn: null, by: null },
    { id: "p2", what: "Wheels", promised: 5, came: 4, missing: 1, askedOn: "2026-10-12", by: "2026-10-24" },
    { id: "p3", what: "Doors", promised: 5, came: 5, missing: 0, askedOn: null, by: null },
  ],
  piecesPromised: 12,
  piecesCame: 9,
  cameUnasked: ["a horn"],
  standIns: [{ id: "s1", what: "Radiator core", whose: "build 43", returnBy: "2026-10-01", returnedOn: null }],
  toUndo: ["bars in the door openings"],
  hazards: [
    {
      id: "h1",
      hazard: "asbestos",
      where: "Pad behind the bulkhead",
      next: "Licensed removal is booked",
      expectedOn: "2026-10-22",
      settled: false,
      method: "",
      settledBy: "",
      settledAt: null,
      caution: "Stop, do not disturb. Local codes come first.",
    },
  ],
  heights: { bodyMm: 2310, dollyMm: 520, keptFreeMm: 50, lower: [{ how: "Bows off", byMm: 640 }] },
  doors: [
    { stationId: "d1", name: "Bay A", doorMm: 3200, spareMm: 320, fits: true, ways: [] },
    { stationId: "d2", name: "Booth", doorMm: 2750, spareMm: -130, fits: false, ways: [{ how: "Bows off", byMm: 640, spareMm: 510 }] },
  ],
  round: [station("front", "front", "ph1"), station("leftFront", "left front", null)],
  taken: 1,
  version: 5,
  ...change,
});

const show = (a = arrival()) => {
  queries.setQueryData(arrivalQuery("b41").queryKey, a);
  return draw(<ArrivalTab />);
};

beforeEach(() => {
  queries.clear();
  signIn("office", { now: "2026-10-13T09:42:00Z" });
  queries.setQueryData(buildsQuery.queryKey, [card({ id: "b41", client: "Vessay Coast Trips" })]);
  queries.setQueryData(photosQuery("b41").queryKey, [
    { id: "ph2", takenAt: "2026-10-12T10:00:00Z", caption: "left front" },
  ] as Schemas["PhotoView"][]);
  queries.setQueryData(operationsQuery("b41").queryKey, [
    { id: "o1", kind: "work", name: "Lamps in", doneAt: null },
  ] as Schemas["OperationView"][]);
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("how a vehicle came", () => {
  it("says it in a line, counts what came, and marks what is overdue", () => {
    show();
    expect(
      screen.getByText("Came 12 Oct, rolling shell; clock at 48,210; one key; no battery; in it: fuel; loose things: shelf 12."),
    ).toBeTruthy();
    expect(screen.getByText(/9 of 12 pieces came/).textContent).toContain("1 request is out");
    expect(screen.getByText("4 of 5")).toBeTruthy();
    expect(screen.getByText("by 24 Oct")).toBeTruthy();
    expect(screen.getByText("overdue")).toBeTruthy();
    expect(screen.getByText(/37 after the change at 1150; before it cone clutch/)).toBeTruthy();
    expect(screen.getByText("Stop, do not disturb. Local codes come first.")).toBeTruthy();
  });
  it("answers each door, and what would make it pass", () => {
    show();
    expect(screen.getByRole("img", { name: "Bay A: 320 mm to spare" })).toBeTruthy();
    expect(screen.getByRole("img", { name: "Booth: 130 mm too high" })).toBeTruthy();
    expect(screen.getByText("Bows off (640 mm) leaves 510 mm")).toBeTruthy();
  });
  it("asks the client for what is missing, by a day, for some work", async () => {
    const sent = server();
    show();
    press("Ask for Head lamps");
    expect(screen.getByRole("dialog", { name: "Ask Vessay Coast Trips for 2 head lamps" })).toBeTruthy();
    type("By", "2026-10-30");
    type("Needed for", "o1");
    press("Ask");
    await waitFor(() =>
      expect(sent[0]).toMatchObject({ url: "/api/builds/b41/arrival/pieces/p1/ask", body: { by: "2026-10-30", operationId: "o1" } }),
    );
    expect(screen.queryByRole("button", { name: "Ask for Doors" })).toBeNull();
  });
  it("puts a photo to its place in the round", async () => {
    const sent = server();
    show();
    press("Next: 2, left front");
    press("It shows this");
    await waitFor(() => expect(sent[0]).toMatchObject({ url: "/api/builds/b41/arrival/round/leftFront", body: { photoId: "ph2" } }));
  });
  it("notes that what was borrowed went back", async () => {
    const sent = server();
    show();
    press("Returned");
    await waitFor(() => expect(sent[0]?.url).toBe("/api/builds/b41/arrival/stand-ins/s1/return"));
  });
  it("is written down line by line, in the shop's unit", async () => {
    const sent = server(problem("keys", "Between none and a hundred keys."));
    signIn("office", { now: "2026-10-13T09:42:00Z", units: "us" });
    show();
    press("Change");
    const sheet = within(screen.getByRole("dialog"));
    fireEvent.change(sheet.getByLabelText("Body height, in"), { target: { value: "90" } });
    type("Came unasked, one per line", "a horn\n\n two springs ");
    type("Keys", "101");
    press("Save");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(bodyOf<object>(sent)).toMatchObject({
      cameUnasked: ["a horn", "two springs"],
      heights: { bodyMm: 2286, dollyMm: 520 },
      keys: 101,
      version: 5,
      promised: [{ id: "p1", came: 0 }, { id: "p2" }, { id: "p3" }],
    });
    expect((await sheet.findByRole("alert")).textContent).toBe("Between none and a hundred keys.");
  });
  it("starts with nothing written", () => {
    show(
      arrival({
        written: false,
        cameOn: null,
        promised: [],
        piecesPromised: 0,
        piecesCame: 0,
        standIns: [],
        heights: null,
        doors: [],
        hazards: [],
        breaks: [],
        serial: null,
        toUndo: [],
      }),
    );
    expect(screen.getByText("Nobody has written it down yet.")).toBeTruthy();
    expect(screen.getByRole("button", { name: "Write it down" })).toBeTruthy();
    expect(screen.getByText(/Measure the height and the dolly/)).toBeTruthy();
  });
  it("opens a wedge of twice the half angle towards its aim", () => {
    const [, a, b] =
      wedge({ at: { x: 0, y: 0 }, aim: { x: 100, y: 0 }, halfAngle: 30 })
        .match(/L([-\d.]+),([-\d.]+)L/)
        ?.map(Number) ?? [];
    expect((Math.atan2(b ?? 0, a ?? 0) * 180) / Math.PI).toBeCloseTo(-30, 1);
  });
});
