import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { bodiesQuery, buildsQuery, operationsQuery, queries, surveyQuery } from "../api/queries";
import { bodyOf, card, draw, press, server, signIn, type } from "../testing";
import { TwoBodiesTab, yearMarks } from "./TwoBodiesTab";

vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useParams: () => ({ number: "45" }),
  useNavigate: () => vi.fn(),
}));

const cost = (total: number | null, how: string): Schemas["ZoneCost"] => ({
  total,
  how,
  parts: { labour: total ?? 0, bought: 0, wait: 0, hidden: 0 },
});
const rung = (zone: string, own: Schemas["ZoneCost"], other: Schemas["ZoneCost"], ownWins: boolean | null): Schemas["Rung"] => ({
  zone,
  name: zone,
  places: [zone],
  own,
  other,
  ownWins,
});

const compared = (change: Partial<Schemas["ComparedView"]> = {}): Schemas["ComparedView"] => ({
  id: "o1",
  name: "Sallow Farm body",
  ownYear: 1962,
  year: 1965,
  seenOn: "2026-10-11",
  heldUntil: "2026-10-19",
  purchase: 650,
  freight: 286,
  zones: [
    {
      zone: "sill",
      looked: true,
      structural: true,
      ways: [
        {
          verdict: "repair",
          hours: 2,
          trade: "metal",
          material: 0,
          sheetM2Price: 0,
          part: 4,
          freight: 0,
          leadDays: 0,
          riskPercent: 10,
          notSold: false,
        },
      ],
      note: "",
    },
  ],
  spans: [],
  identity: "",
  decisionId: null,
  rungs: [
    rung("Sill", cost(1290.45, "replace ×2"), cost(138.6, "repair"), false),
    rung("Wing", cost(791.2, "repair ×2"), cost(1305.15, "replace ×2"), true),
    rung("Roof", cost(0, "sound"), cost(0, "sound"), null),
  ],
  ownTotal: 2081.65,
  otherTotal: 2379.75,
  ownSaves: 298.1,
  ownWon: 1,
  otherWon: 1,
  fits: [
    { part: "Doors", fits: true, differs: "", spans: [{ part: "Doors", from: 1958, to: 1968, differs: "" }] },
    { part: "Bonnet", fits: false, differs: "catch moved", spans: [{ part: "Bonnet", from: 1958, to: 1963, differs: "" }] },
  ],
  version: 2,
  ...change,
});

const show = (all: Schemas["ComparedView"][]) => {
  queries.setQueryData(bodiesQuery("b45").queryKey, all);
  return draw(<TwoBodiesTab />);
};

beforeEach(() => {
  queries.clear();
  signIn("office", { now: "2026-10-13T09:42:00Z" });
  queries.setQueryData(buildsQuery.queryKey, [card({ id: "b45", number: 45 })]);
  queries.setQueryData(operationsQuery("b45").queryKey, [
    { id: "op", kind: "work", name: "Strip", doneAt: null },
  ] as Schemas["OperationView"][]);
  const place = (key: string, name: string) => ({ key, name, round: true }) as Schemas["PlaceView"];
  queries.setQueryData(surveyQuery("b45").queryKey, {
    places: [place("sillL", "L sill"), place("sillR", "R sill"), place("roof", "Roof")],
  } as Schemas["SurveyBody"]);
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("two bodies", () => {
  it("says which is cheaper by how much, and leaves the identity to local law", () => {
    show([compared()]);
    expect(screen.getByText("Keep the body 45 came with. It is £298.10 cheaper.")).toBeTruthy();
    expect(screen.getByText(/£1,443.75 of work, £650.00 to buy, £286.00 to bring/)).toBeTruthy();
    expect(screen.getByText(/Which of the two carries the vehicle's legal identity/).parentElement?.textContent).toContain("local law");
    expect(screen.getByText("£1,290.45 replace ×2")).toBeTruthy();
    expect(screen.getByText(/1 more zones are alike/)).toBeTruthy();
    expect(screen.getByText(/1 of 2 parts cross from 1962 to 1965/)).toBeTruthy();
    expect(screen.getByText("catch moved")).toBeTruthy();
  });
  it("gives no answer while a zone is dark, and the other way round when the other is cheaper", () => {
    show([compared({ ownSaves: null, ownTotal: null, rungs: [rung("Sill", cost(null, "not looked at"), cost(1, "repair"), null)] })]);
    expect(screen.getByText("1 zone has no sum yet: no answer before that.")).toBeTruthy();
    expect(screen.getByText("no total")).toBeTruthy();
    cleanup();
    show([compared({ ownSaves: -40 })]);
    expect(screen.getByText("Take “Sallow Farm body”. It is £40.00 cheaper.")).toBeTruthy();
  });
  it("asks which to save and holds the work that is named", async () => {
    const sent = server();
    show([compared()]);
    press("Ask which body to save");
    fireEvent.click(within(screen.getByRole("dialog")).getByRole("checkbox", { name: "Strip" }));
    press("Ask");
    await waitFor(() => expect(sent[0]).toMatchObject({ url: "/api/bodies/o1/ask", body: { holds: ["op"], dueOn: "2026-10-19" } }));
  });
  it("keeps a zone dark until it is judged, and one that is sound without ways", async () => {
    const sent = server();
    show([]);
    press("Another body");
    type("Name", "Barn find");
    type("sill is", "sound");
    type("Roof is", "repair");
    type("hours", "4");
    press("Save");
    await waitFor(() => expect(sent).toHaveLength(1));
    const zones = bodyOf<{ zones: { zone: string; looked: boolean; ways: { verdict: string; hours: number }[] }[] }>(sent).zones;
    expect(zones).toMatchObject([
      { zone: "sill", looked: true, ways: [] },
      { zone: "roof", looked: true, ways: [{ verdict: "repair", hours: 4 }] },
    ]);
  });
});

describe("the years over the spans", () => {
  const at = (y: number) => (y - 1952) * 35;
  it("names the two bodies and, where there is room, the first and the last", () =>
    expect(yearMarks([1954, 1956], [1952, 1960], at).map((m) => `${m.year}${m.own ? " own" : ""}`)).toEqual([
      "1954 own",
      "1956 own",
      "1952",
      "1960",
    ]));
  it("lets an end go that would run into a body, and says a year once", () => {
    expect(yearMarks([1954, 1956], [1955, 1957], (y) => at(y) / 2).map((m) => m.year)).toEqual([1954, 1956]);
    expect(yearMarks([null, 1956], [1956, 1960], at).map((m) => m.year)).toEqual([1956, 1960]);
  });
});
