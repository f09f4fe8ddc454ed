import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { bodyQuery, buildsQuery, photosQuery, queries, surveyQuery } from "../api/queries";
import { bodyOf, card, dimensions, draw, press, problem, type Sent, server, signIn, type, written } from "../testing";
import { boxRound } from "./FindingSheet";
import { OpenFinding } from "./Findings";
import { FindPage, neighbours } from "./FindPage";
import { SurveyTab } from "./SurveyTab";
import { axisEnd, breakEvenWords } from "./VerdictBars";

vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useParams: () => ({ number: "45" }),
  useNavigate: () => vi.fn(),
}));

const square = (x: number, y: number) => `M${x},${y}L${x + 40},${y}L${x + 40},${y + 60}L${x},${y + 60}Z`;
const place = (key: string, name: string, change: Partial<Schemas["PlaceView"]> = {}): Schemas["PlaceView"] => ({
  key,
  name,
  group: "outside",
  side: "right",
  path: square(0, 0),
  spot: null,
  harder: null,
  round: true,
  carries: false,
  looked: true,
  worst: null,
  marks: 0,
  findings: 0,
  ...change,
});
const way = (verdict: Schemas["Verdict"], change: Partial<Schemas["WayView"]> = {}): Schemas["WayView"] => ({
  verdict,
  hours: 0,
  trade: "metal",
  leadDays: 0,
  riskPercent: 0,
  notSold: false,
  material: 0,
  sheetM2Price: 0,
  partPrice: 0,
  freightPrice: 0,
  labour: 0,
  sheet: 0,
  part: 0,
  freight: 0,
  wait: 0,
  hidden: 0,
  total: 0,
  barred: null,
  breakEvenHours: null,
  against: null,
  ...change,
});
const ways = [
  way("leave", { barred: "structural, may not be left" }),
  way("repair", {
    hours: 14,
    labour: 812,
    sheet: 60,
    hidden: 130.8,
    total: 1002.8,
    riskPercent: 15,
    breakEvenHours: 11.795,
    against: "replace",
  }),
  way("replace", {
    hours: 6,
    labour: 348,
    part: 268,
    freight: 55,
    wait: 144,
    hidden: 40.75,
    total: 855.75,
    leadDays: 4,
    partPrice: 268,
    freightPrice: 55,
  }),
];
const finding = (change: Partial<Schemas["FindingView"]> = {}): Schemas["FindingView"] => ({
  id: "f1",
  number: 1,
  place: "sillR",
  placeName: "R sill",
  at: { x: 20, y: 30 },
  area: [],
  areaM2: 0,
  kind: "rustThrough",
  probe: "goesThrough",
  sizeMm: 480,
  structural: true,
  gaugeMm: 1.2,
  note: "",
  photoId: null,
  behind: null,
  foundBy: "Bram Holt",
  foundAt: "2026-10-13T08:10:00Z",
  ways,
  cheapest: "replace",
  choice: null,
  choiceReason: "",
  chosenBy: null,
  chosenAt: null,
  agreedBy: null,
  agreedAt: null,
  planned: false,
  notDoneWhy: null,
  mended: false,
  version: 5,
  ...change,
});
const survey = (change: Partial<Schemas["SurveyBody"]> = {}): Schemas["SurveyBody"] => ({
  history: ["crashedRight"],
  seen: 2,
  total: 4,
  places: [
    place("sillR", "R sill", { spot: "both ends", harder: "it was hit on the right" }),
    place("roof", "Roof", { path: square(60, 0), side: "centre" }),
    place("doorL", "L door", { path: square(-60, 0), looked: false }),
    place("floorFL", "L front floor", { group: "floor", path: square(0, 100), looked: false }),
  ],
  stillDark: [place("doorL", "L door", { looked: false }), place("floorFL", "L front floor", { group: "floor", looked: false })],
  marks: [{ id: "m1", place: "sillR", at: { x: 10, y: 10 }, result: "goesThrough", by: "Bram Holt", on: "2026-10-13T08:00:00Z" }],
  findings: [
    finding(),
    finding({
      id: "f2",
      number: 2,
      placeName: "Roof",
      place: "roof",
      kind: "dent",
      probe: null,
      structural: false,
      sizeMm: 140,
      ways: [way("leave")],
    }),
  ],
  verdicts: 855.75,
  ...change,
});

const body = {
  body: {
    style: "pickup",
    name: "Pick-up",
    dimensions,
    minX: -100,
    minY: 0,
    maxX: 140,
    maxY: 200,
    panels: ["sillR", "roof", "doorL"].map((key, i) => ({
      key,
      name: key,
      side: "centre",
      path: square([0, 60, -60][i] ?? 0, 0),
      labels: [],
      zones: {},
    })),
    openings: [],
    shutLines: [],
    decor: { dark: [], light: [], lamps: [], bolts: [], handles: [], grille: "M0,1L1,1" },
  },
  panels: [],
} as unknown as Schemas["BodyStateView"];

beforeEach(() => {
  queries.clear();
  signIn("manager", { now: "2026-10-13T09:42:00Z" });
  queries.setQueryData(buildsQuery.queryKey, [card({ id: "b45", number: 45, title: "Dotterel pick-up" })]);
  queries.setQueryData(bodyQuery("b45").queryKey, body);
  queries.setQueryData(photosQuery("b45").queryKey, []);
  queries.setQueryData(surveyQuery("b45").queryKey, survey());
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("the survey", () => {
  it("says of every place whether it was looked at, and what the punch said", () => {
    draw(<SurveyTab />);
    expect(screen.getByRole("button", { name: "doorL, not looked at" })).toBeTruthy();
    expect(screen.getByRole("button", { name: "L front floor, not looked at" })).toBeTruthy();
    expect(screen.getByText("places looked at").parentElement?.textContent).toBe("2 of 4 places looked at");
    expect(screen.getByText("History: crashed right.")).toBeTruthy();
  });

  it("notes what the punch says where the map is tapped, and what was looked at", async () => {
    const sent = server();
    draw(<SurveyTab />);
    press("Dents");
    fireEvent.click(screen.getByRole("button", { name: "doorL, not looked at" }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      url: "/api/builds/b45/survey/marks",
      body: { place: "doorL", at: { x: -40, y: 30 }, result: "dents" },
    });
    press("Nothing there");
    fireEvent.keyDown(screen.getByRole("button", { name: "L front floor, not looked at" }), { key: "Enter" });
    await waitFor(() => expect(sent[1]).toMatchObject({ url: "/api/builds/b45/survey/looks", body: { place: "floorFL" } }));
  });

  it("tells the usual trouble of a place, why to look harder, and takes a mark back", async () => {
    const sent = server();
    draw(<SurveyTab />);
    fireEvent.click(screen.getByRole("button", { name: /^sillR/ }));
    expect(screen.getByText("Usual trouble: both ends.")).toBeTruthy();
    expect(screen.getByText("Look harder: it was hit on the right.")).toBeTruthy();
    press("Take back");
    await waitFor(() => expect(sent[0]?.url).toBe("/api/marks/m1/take-back"));
  });

  it("keeps a finding with the size it takes and where it was tapped", async () => {
    const sent = server(problem("sizeMm", "A size must be between 1 mm and 20 m."));
    draw(<SurveyTab />);
    press("Finding");
    fireEvent.click(screen.getByRole("button", { name: /^roof/ }));
    type("What", "dent");
    type("Damage, width, mm", "200");
    type("Damage, length, mm", "100");
    type("Note", "low spot");
    press("Keep it");
    expect((await screen.findByRole("alert")).textContent).toBe("A size must be between 1 mm and 20 m.");
    expect(bodyOf(sent)).toMatchObject({ place: "roof", kind: "dent", sizeMm: null, note: "low spot", probe: null });
    expect(bodyOf<{ area: unknown[] }>(sent).area).toEqual(boxRound({ x: 80, y: 30 }, 200, 100));
  });

  it("shows the four ways on one scale and says at which hours another wins", () => {
    draw(<SurveyTab />);
    expect(
      screen.getByRole("img", { name: "Leave: structural, may not be left; Repair: £1,002.80; Replace: £855.75, cheapest" }),
    ).toBeTruthy();
    expect(breakEvenWords(ways, "replace")).toBe("Repair wins below 11.8 h: at 14 h it is £147.05 dearer than to replace.");
    expect([axisEnd(ways), axisEnd([way("leave")])]).toEqual([1200, 400]);
    expect(screen.getByText("labour £812.00")).toBeTruthy();
  });

  it("chooses an allowed way with its reason; a barred one is not offered", async () => {
    const sent = server();
    draw(<SurveyTab />);
    expect(screen.queryByRole("button", { name: "Leave" })).toBeNull();
    type("Because", "the section has the mount in it");
    press("Replace");
    await waitFor(() =>
      expect(sent[0]).toMatchObject({
        url: "/api/findings/f1/choose",
        body: { verdict: "replace", reason: "the section has the mount in it" },
      }),
    );
  });

  it("waits for the manager until agreed, then shows the work before it is made", async () => {
    const chosen = { choice: "replace" as const, chosenBy: "Bram Holt", chosenAt: "2026-10-13T08:31:00Z" };
    queries.setQueryData(surveyQuery("b45").queryKey, survey({ findings: [finding(chosen)] }));
    const sent = server();
    const { unmount } = draw(<SurveyTab />);
    expect(screen.getByText("Waits for the manager")).toBeTruthy();
    press("Agree");
    await waitFor(() => expect(sent[0]?.url).toBe("/api/findings/f1/agree"));
    unmount();
    queries.setQueryData(
      surveyQuery("b45").queryKey,
      survey({ findings: [finding({ ...chosen, agreedBy: "Sunniva Roake", agreedAt: "2026-10-13T09:00:00Z" })] }),
    );
    queries.setQueryData(["verdict-work", "f1", 5], {
      operation: { id: "o", name: "R sill: replace, finding 1", budgetMinutes: 360, trade: "metal" },
      parts: [{ id: "p", name: "R sill, new section (finding 1)", unitCost: 268 }],
      adds: { labour: 348, parts: 335, outside: 0, materials: 0 },
      removeOperations: [],
      removeParts: [],
      cannotUndo: ["“R sill: repair” has been begun and stays."],
    });
    draw(<SurveyTab />);
    press("Make the work");
    expect(screen.getByText("R sill: replace, finding 1: 6 h metal")).toBeTruthy();
    expect(screen.getByText("labour +£348.00, parts +£335.00")).toBeTruthy();
    expect(screen.getByText(/has been begun and stays/)).toBeTruthy();
    press("Create the work");
    await waitFor(() => expect(sent[1]?.url).toBe("/api/findings/f1/apply"));
  });

  it("judges what each way takes, without those that cannot be done", async () => {
    const sent = server();
    draw(<SurveyTab />);
    press("What each way takes");
    const replace = screen.getByRole("group", { name: "Replace" });
    fireEvent.change(within(replace).getByLabelText("Hours"), { target: { value: "7.5" } });
    expect((within(replace).getByLabelText("Part") as HTMLInputElement).value).toBe("268");
    press("Compare");
    await waitFor(() => expect(sent).toHaveLength(1));
    const { options, version } = bodyOf<{ options: Schemas["FindingOption"][]; version: number }>(sent);
    expect(version).toBe(5);
    expect(options.map((o) => [o.verdict, o.hours, o.part])).toEqual([
      ["repair", 14, 0],
      ["replace", 7.5, 268],
    ]);
  });

  it("shows a technician hours and days, not money, and lets him choose", () => {
    signIn("technician", { personId: "bram", now: "2026-10-13T09:42:00Z" });
    draw(<SurveyTab />);
    expect(screen.getByText("6 h metal, 4 days lead")).toBeTruthy();
    expect(screen.queryByText(/£/)).toBeNull();
    expect(screen.queryByRole("button", { name: "Agree" })).toBeNull();
    expect(screen.getByRole("button", { name: "Repair" })).toBeTruthy();
  });

  it("opens another finding from its line or its mark", () => {
    draw(<SurveyTab />);
    fireEvent.click(screen.getByRole("button", { name: /^Finding 2/ }));
    expect(screen.getByRole("article", { name: "Finding 2" })).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: /R sill.*rust through/ }));
    expect(screen.getByRole("article", { name: "Finding 1" })).toBeTruthy();
  });

  it.each([
    ["twisted", 1],
    ["collision", 1],
    ["rustThrough", 0],
  ] as const)("leads from what is out of shape to the datum: %s", (kind, links) => {
    server();
    draw(<OpenFinding finding={finding({ kind })} all={[]} />);
    expect(screen.queryAllByRole("link", { name: "By how much: to the datum" })).toHaveLength(links);
  });

  it("tells a vehicle's life", async () => {
    const sent = server();
    draw(<SurveyTab />);
    press("History");
    fireEvent.click(screen.getByLabelText("salt air"));
    press("Save");
    await waitFor(() => expect(bodyOf(sent)).toEqual({ history: ["crashedRight", "saltAir"] }));
  });
});

describe("found something, on the phone", () => {
  const find = () => {
    signIn("technician", { personId: "bram", now: "2026-10-13T09:42:00Z" });
    draw(<FindPage />);
  };
  const kept = (sent: Sent[]) => waitFor(() => expect(sent).toHaveLength(1));

  it("needs a place and a kind; the rest may stay out", async () => {
    const sent = server();
    find();
    expect((screen.getByRole("button", { name: "Keep it" }) as HTMLButtonElement).disabled).toBe(true);
    fireEvent.click(screen.getByRole("button", { name: "Roof" }));
    expect(screen.getByText("Say what it is.")).toBeTruthy();
    press("Dent");
    press("goes through");
    type("Note", "under the drip rail");
    press("Keep it");
    await kept(sent);
    expect(sent[0]).toMatchObject({
      method: "PUT",
      body: { place: "roof", kind: "dent", probe: "goesThrough", note: "under the drip rail", photoId: null },
    });
  });

  it("offers the neighbours of a place that is narrower than a thumb", () => {
    expect(neighbours(survey().places, "sillR", { x: 60, y: 30 }).map((p) => p.key)).toEqual(["roof", "doorL"]);
    find();
    fireEvent.click(screen.getByRole("button", { name: "R sill" }));
    fireEvent.click(screen.getAllByRole("button", { name: "Roof" }).at(-1) as HTMLElement);
    expect(screen.getByText("Roof", { selector: "b" })).toBeTruthy();
  });

  it("finds places on the floor, and keeps what was entered when there is no connection", async () => {
    server(new TypeError("Failed to fetch"));
    find();
    press("Floor, structure");
    press("L front floor");
    press("Rust");
    type("Note", "by the pedal box");
    press("Keep it");
    expect(await screen.findByText(/was not sent and is not kept\. It stands here/)).toBeTruthy();
    expect(written("Note")).toBe("by the pedal box");
  });
});
