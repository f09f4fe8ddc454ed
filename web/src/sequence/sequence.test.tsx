import { act, cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import {
  aheadQuery,
  bodyQuery,
  buildQuery,
  buildsQuery,
  gateQuery,
  linksQuery,
  operationsQuery,
  photosQuery,
  queries,
  reportsQuery,
  shopQuery,
  whyQuery,
} from "../api/queries";
import { ClientTab } from "../reports/ClientTab";
import { bodyOf, card, choicesOf, draw, operation, press, problem, server, signIn, station, type, written } from "../testing";
import { SequenceTab } from "./SequenceTab";

vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useParams: () => ({ number: "41" }),
  useNavigate: () => vi.fn(),
  useLocation: () => ({ search: {} }),
}));

const strip = operation({ id: "o0", name: "Strip", doneAt: "2026-09-01T10:00:00Z", doneBy: "Wil Aske", statedShare: null });
const block = operation({ startBy: "2026-10-14T15:30:00Z", after: [{ operation: "o0", lagMinutes: 120 }] });
const gate = operation({
  id: "g1",
  kind: "gate",
  name: "Uniform coat looked over",
  gate: "uniformCoat",
  trade: null,
  panels: [],
  coat: null,
  statedShare: null,
  after: [{ operation: "o1", lagMinutes: 0 }],
  reason: { kind: "operation", ref: "o1", text: "comes after Block the left side" },
});

beforeEach(() => {
  queries.clear();
  signIn("manager", { now: "2026-10-13T09:42:00Z" });
  queries.setQueryData(buildsQuery.queryKey, [card({ id: "b41" })]);
  queries.setQueryData(shopQuery.queryKey, {
    plan: {},
    people: [{ id: "wil", name: "Wil Aske" }],
    stations: [station("s1", "Prep 1", "prep", 0)],
    suppliers: [],
    vehiclePlaces: ["booth"],
  } as unknown as Schemas["ShopView"]);
  queries.setQueryData(operationsQuery("b41").queryKey, [strip, block, gate]);
  queries.setQueryData(bodyQuery("b41").queryKey, {
    body: { panels: ["wingL", "wingR", "bonnet"].map((key) => ({ key, name: key })) },
    panels: [],
  } as unknown as Schemas["BodyStateView"]);
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("the sequence", () => {
  it("shows what is left, when, by whom and why not earlier; what is done on demand", () => {
    draw(<SequenceTab />);
    const row = screen.getByRole("row", { name: /^Block the left side/ });
    expect(row.textContent).toContain("1:35 / 8");
    expect(row.textContent).toContain("13 Oct to 14 Oct");
    expect(row.textContent).toContain("Wil Aske");
    expect(row.textContent).toContain("40 % done");
    expect(row.textContent).toContain("start by 14 Oct, 16:30");
    expect(row.textContent).toContain("Strip + 2 h");
    const looked = screen.getByRole("row", { name: /^Gate: Uniform coat/ }).textContent;
    expect(looked).toContain("after Block the left side");
    expect(looked).not.toContain("start by");
    expect(screen.queryByRole("row", { name: /^Strip/ })).toBeNull();
    press("Show the one that is done");
    expect(screen.getByText("done 1 Sep")).toBeTruthy();
  });

  it("says where the vehicle stands, who moves it where, and how the kept times are used", () => {
    const stay = (change: Partial<Schemas["StayView"]>): Schemas["StayView"] => ({
      place: "Prep 1",
      from: "2026-10-12T07:00:00Z",
      to: null,
      for: null,
      movedAt: null,
      movedBy: [],
      gone: false,
      ...change,
    });
    const kept = { person: "Wil", day: "tuesday", from: "08:00:00", to: "08:30:00", unused: null, unusedOn: null, missed: 0 } as const;
    const path = aheadQuery("b41").queryKey;
    queries.setQueryData(path, {
      stays: [
        stay({ to: "2026-10-14T08:45:00Z" }),
        stay({ place: "Booth", from: "2026-10-14T09:00:00Z", for: "Spray the sealer", movedBy: ["Wil", "Joss"] }),
        stay({ place: "Bay 2", from: "2026-10-15T09:00:00Z", movedBy: ["Wil"] }),
        stay({ place: null, from: "2026-10-20T05:00:00Z", gone: true }),
      ],
      kept: [kept, { ...kept, day: "thursday", unused: "Wil is away", unusedOn: "2026-10-22", missed: 2 }],
      fills: [{ person: "Joss", from: "2026-10-13T12:30:00Z", to: "2026-10-13T14:00:00Z", work: "Polish the bezels" }],
    });
    draw(<SequenceTab />);
    const where = screen.getByRole("region", { name: "Where it stands" });
    const lines = () =>
      within(where)
        .getAllByRole("listitem")
        .map((l) => l.textContent);
    expect(lines()).toEqual([
      "Stands now: Prep 1 until Wed 14 Oct, 09:45",
      "Booth from Wed 14 Oct, 10:00 for Spray the sealer; Wil and Joss move it",
      "Bay 2 from Thu 15 Oct, 10:00, to make room; Wil moves it",
      "Wil keeps Tuesdays 08:00 to 08:30 for it",
      "Wil keeps Thursdays 08:00 to 08:30 for it; unused on Thu 22 Oct: Wil is away; missed 2 times in eight weeks",
      "Tue 13 Oct, 13:30 Joss 1.5 h: Polish the bezels",
    ]);
    press("All 3 moves");
    expect(lines()[3]).toBe("Out of the shop from Tue 20 Oct, 06:00");
    press("Only the next moves");
    expect(lines()).toHaveLength(6);
    cleanup();
    queries.setQueryData(path, { stays: [stay({ place: null })], kept: [], fills: [] });
    draw(<SequenceTab />);
    expect(screen.getByText(/In no place that is known; nothing planned moves it/)).toBeTruthy();
  });

  it("says what holds it first, then the way there with its slack", () => {
    queries.setQueryData(operationsQuery("b41").queryKey, [{ ...block, reason: { kind: "person", ref: "x", text: "Wil is on 39" } }]);
    queries.setQueryData(whyQuery(block.id).queryKey, {
      followers: [],
      roots: ["grille, here Mon 12 Oct"],
      withoutThem: "2026-10-09T08:00:00Z",
      soonerDays: 4,
      rows: [
        {
          key: block.id,
          build: "41",
          name: block.name,
          start: "2026-10-13T08:00:00Z",
          kind: "operation",
          text: "comes after Fit",
          slackDays: 0,
        },
        {
          key: "x",
          build: "41",
          name: "Fit",
          start: "2026-10-12T08:00:00Z",
          kind: "part",
          text: "grille, here Mon 12 Oct",
          slackDays: 2.5,
        },
      ],
    });
    draw(<SequenceTab />);
    press("Show why: Block the left side");
    const rows = screen.getAllByRole("listitem");
    expect(rows.map((r) => r.textContent)).toEqual([
      "grille, here Mon 12 Oct",
      "13 Oct09:00Block the left side on 41comes after Fitno slack",
      "12 Oct09:00Fit on 41grille, here Mon 12 Octcan be 2.5 days later without moving the end",
    ]);
    expect(screen.getByText("Without it, and everything else as it is: 9 Oct, 09:00, 4 days sooner.")).toBeTruthy();
  });

  it("stands in the order in which it is worked, whatever the template's order", () => {
    const planned = (id: string, name: string, position: number, starts: string | null) =>
      operation({ id, name, position, starts, finishes: starts, after: [], startBy: null });
    queries.setQueryData(operationsQuery("b41").queryKey, [
      planned("a", "Late", 1, "2026-10-20T07:00:00Z"),
      planned("b", "No date", 2, null),
      planned("c", "Early", 3, "2026-10-13T07:00:00Z"),
      planned("d", "Early too", 2, "2026-10-13T07:00:00Z"),
      strip,
    ]);
    draw(<SequenceTab />);
    press(/^Show the one/);
    const names = screen.getAllByRole("row").map((r) => r.querySelector("b")?.textContent);
    expect(names.slice(1)).toEqual(["Strip", "Early too", "Early", "Late", "No date"]);
  });

  it("lets only the manager change it, and a person sign a gate", async () => {
    signIn("technician", { personId: "wil", now: "2026-10-13T09:42:00Z" });
    const sent = server();
    draw(<SequenceTab />);
    expect(screen.queryByRole("button", { name: "Add an operation" })).toBeNull();
    expect(screen.queryByRole("button", { name: /^Edit/ })).toBeNull();
    const ask = (words: string, missing: string, must: boolean) => ({ words, missing, must, of: null });
    const sheet = (...asks: Schemas["GateAsk"][]) =>
      queries.setQueryData(gateQuery("g1").queryKey, { asks, others: ["Ida Moe"], sides: false });
    sheet(ask("Block", "Block is not done", true), ask("A photo of each of 2 pieces of work", "no photo of Sill", false));
    press("Sign: Uniform coat looked over");
    // What is open bars the name; what is missing does not, and stays with it.
    const dialog = within(screen.getByRole("dialog"));
    expect(dialog.getByText("Not yet: what is open comes first.")).toBeTruthy();
    expect(dialog.queryByRole("button", { name: /^Sign/ })).toBeNull();
    act(() => {
      sheet(ask("Block", "", true), ask("A photo of each of 2 pieces of work", "no photo of Sill", false));
    });
    expect(await dialog.findByText("What is missing stays with your name: no photo of Sill.")).toBeTruthy();
    press("Sign without it");
    await waitFor(() => expect(sent[0]).toMatchObject({ url: "/api/operations/g1/sign", body: { seen: ["no photo of Sill"] } }));
  });

  it("signs one side of the dry build by itself, by what that side is asked", async () => {
    signIn("technician", { personId: "wil", now: "2026-10-13T09:42:00Z" });
    const sent = server();
    draw(<SequenceTab />);
    const open = { words: "All 2 shut lines read", missing: "not read to the end: B", must: true, of: null };
    queries.setQueryData(gateQuery("g1").queryKey, { asks: [open], others: ["Ida Moe"], sides: true });
    queries.setQueryData(gateQuery("g1", "left").queryKey, { asks: [{ ...open, missing: "" }], others: ["Ida Moe"], sides: true });
    press("Sign: Uniform coat looked over");
    const dialog = within(screen.getByRole("dialog"));
    expect(dialog.getByText("Not yet: what is open comes first.")).toBeTruthy();
    fireEvent.click(dialog.getByLabelText("the left side"));
    expect(await dialog.findByRole("button", { name: "Sign" })).toBeTruthy();
    press("Sign");
    await waitFor(() => expect(sent[0]).toMatchObject({ url: "/api/operations/g1/sign", body: { seen: [], side: "left" } }));
  });

  it("changes hours, panels and links of an operation with the version that was seen", async () => {
    const sent = server();
    draw(<SequenceTab />);
    press("Edit: Block the left side");
    expect(written("Hours")).toBe("8");
    type("Hours", "6.5");
    fireEvent.click(screen.getByLabelText("bonnet"));
    type("wait, h", "24");
    type("at most, h", "48");
    fireEvent.click(screen.getByLabelText("work added when it lapses"));
    type("Who", "wil");
    type("One in five takes less than, h", "5");
    type("One in five takes more than, h", "9");
    press("More hands");
    type("Holds a station from its start", "booth");
    type("until the end of", "g1");
    fireEvent.click(screen.getByLabelText("wet coat"));
    press("Save");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(bodyOf(sent)).toMatchObject({
      name: "Block the left side",
      budgetMinutes: 390,
      panels: ["wingL", "bonnet"],
      personId: "wil",
      after: [{ operation: "o0", lagMinutes: 1440, atMostMinutes: 2880, lapse: { name: "Clean again", minutes: 60, trade: "strip" } }],
      version: 7,
      terms: {
        lowMinutes: 300,
        highMinutes: 540,
        with: [{ trade: "hand", count: 1 }],
        hold: { station: "booth", until: "g1" },
        kinds: ["wetCoat"],
        supplierId: null,
      },
    });
  });

  it.each([
    ["booth", "onBody"],
    ["bench", "beside"],
  ])("puts work that moves to the %s where it is usually done there: %s", async (place, body) => {
    const sent = server();
    draw(<SequenceTab />);
    press("Edit: Block the left side");
    type("Station", place);
    press("Save");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(bodyOf(sent)).toMatchObject({ station: place, terms: { body } });
  });

  it("links and unlinks, and shows a refused cycle at the links", async () => {
    const sent = server(problem("after", "A cycle: Block the left side, Uniform coat looked over."));
    draw(<SequenceTab />);
    press("Edit: Block the left side");
    expect(choicesOf("Link after…")).toEqual(["choose an operation", "Uniform coat looked over"]);
    press("Unlink");
    type("Link after…", "g1");
    press("Save");
    expect((await screen.findByRole("alert")).textContent).toMatch(/A cycle: Block the left side/);
    expect(bodyOf(sent)).toMatchObject({ after: [{ operation: "g1", lagMinutes: 0 }] });
  });

  it("adds a cure with its hours on the clock and no trade", async () => {
    const sent = server();
    draw(<SequenceTab />);
    press("Add an operation");
    type("Name", "Filler cures");
    type("Kind", "cure");
    expect(screen.queryByLabelText("Trade")).toBeNull();
    type("Hours it takes", "16");
    press("Save");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(bodyOf(sent)).toMatchObject({
      name: "Filler cures",
      kind: "cure",
      trade: null,
      budgetMinutes: 0,
      clockMinutes: 960,
      version: null,
    });
  });

  it("opens a gate without a signature only for a reason", async () => {
    const sent = server(problem("reason", "Give a reason."));
    draw(<SequenceTab />);
    fireEvent.click(within(screen.getByRole("row", { name: /^Gate: Uniform coat/ })).getByRole("button", { name: /without/i }));
    press("Open the gate");
    expect((await screen.findByRole("alert")).textContent).toBe("Give a reason.");
    expect(sent[0]?.url).toBe("/api/operations/g1/override");
  });
});

describe("reports to the client", () => {
  const report = (change: Partial<Schemas["ReportRow"]> = {}): Schemas["ReportRow"] => ({
    id: "r1",
    number: 3,
    draft: true,
    title: "Your Courser, week 26",
    publishedAt: null,
    publishedBy: null,
    sentTo: "",
    text: { title: "Your Courser, week 26", lede: "Most is in primer.", done: ["Left side blocked"], next: [], photos: ["p1"] },
    version: 4,
    ...change,
  });
  beforeEach(() => {
    queries.setQueryData(reportsQuery("b41").queryKey, [report()]);
    queries.setQueryData(linksQuery("b41").queryKey, []);
    queries.setQueryData(buildQuery("b41").queryKey, { clientEmail: "o@brandvold.example" } as unknown as Schemas["BuildView"]);
    queries.setQueryData(photosQuery("b41").queryKey, [
      { id: "p1", caption: "Wing", clientMaySee: true, thumbHash: "t1" },
      { id: "p2", caption: "Sill", clientMaySee: true, thumbHash: "t2" },
      { id: "p3", caption: "Hidden", clientMaySee: false, thumbHash: "t3" },
    ] as unknown as Schemas["PhotoView"][]);
  });

  it("edits words a line each and chooses among the photos the client may see", async () => {
    const sent = server();
    draw(<ClientTab />);
    expect(screen.queryByRole("checkbox", { name: "Hidden" })).toBeNull();
    type("Done, one per line", "Left side blocked\n\n  Sill etched ");
    fireEvent.click(screen.getByRole("checkbox", { name: "Sill" }));
    fireEvent.click(screen.getByRole("checkbox", { name: "Wing" }));
    press("Save and preview");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(bodyOf(sent)).toEqual({
      title: "Your Courser, week 26",
      lede: "Most is in primer.",
      done: ["Left side blocked", "Sill etched"],
      next: [],
      photos: ["p2"],
      version: 4,
    });
  });

  it("saves before it publishes, and publishes nothing that could not be saved", async () => {
    const sent = server(problem("title", "Give the report a title."));
    draw(<ClientTab />);
    type("Title", "");
    press("Publish and send");
    expect((await screen.findByRole("alert")).textContent).toBe("Give the report a title.");
    expect(sent.map((s) => s.url)).toEqual(["/api/reports/r1"]);
    press("Publish and send");
    await waitFor(() => expect(sent.map((s) => s.url)).toEqual(["/api/reports/r1", "/api/reports/r1", "/api/reports/r1/publish"]));
  });

  it("leaves publishing and links to the manager", () => {
    signIn("office", { now: "2026-10-13T09:42:00Z" });
    draw(<ClientTab />);
    expect(screen.queryByRole("button", { name: /^Publish/ })).toBeNull();
    expect(screen.queryByRole("button", { name: /Make a link/ })).toBeNull();
    expect(screen.getByRole("button", { name: "Save and preview" })).toBeTruthy();
  });

  it("shows a made link once and revokes one that lives", async () => {
    queries.setQueryData(linksQuery("b41").queryKey, [
      { id: "l1", madeAt: "2026-10-01T08:00:00Z", expiresAt: "2026-11-30T08:00:00Z", revokedAt: null, live: true },
      { id: "l2", madeAt: "2026-08-01T08:00:00Z", expiresAt: "2026-09-30T08:00:00Z", revokedAt: null, live: false },
    ]);
    const made = new Response(JSON.stringify({ id: "l3", path: "/r/secret", expiresAt: "2026-12-12T08:00:00Z" }), {
      headers: { "content-type": "application/json" },
    });
    const sent = server(made);
    draw(<ClientTab />);
    expect(screen.getByText(/made 1 Aug, expired/)).toBeTruthy();
    press(/Make a link/);
    expect((await screen.findByRole("link", { name: /secret/ })).getAttribute("href")).toBe(`${location.origin}/r/secret`);
    press("Revoke");
    await waitFor(() => expect(sent[1]?.url).toBe("/api/links/l1/revoke"));
  });
});
