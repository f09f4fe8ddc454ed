import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { assembliesQuery, buildsQuery, operationsQuery, photosQuery, queries, reassemblyQuery } from "../api/queries";
import { bodyOf, card, draw, press, problem, server, signIn, type } from "../testing";
import { lackWords } from "./BackTogether";
import { clockOf, TeardownTab } from "./TeardownTab";

vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useParams: () => ({ number: "41" }),
  useNavigate: () => vi.fn(),
}));

const step = (change: Partial<Schemas["StepView"]>): Schemas["StepView"] => ({
  key: "rail",
  name: "Garnish rail",
  says: "raised screws",
  piece: "rail",
  pieces: 1,
  fastener: { kind: "screw", head: "raised", thread: "M4 x 20", finish: "chrome", count: 8, shows: true, destroyed: 0, words: "" },
  tool: "screwdriver, cross 2",
  blind: false,
  hazard: null,
  caution: null,
  how: ["Screws in their order"],
  photos: ["whole rail"],
  after: [],
  minutes: 8,
  expected: 6.4,
  expectedHigh: null,
  restsOn: "the other side",
  first: [],
  chain: ["rail"],
  doingSeconds: 0,
  findingSeconds: 0,
  clock: "stopped",
  clockSince: null,
  off: false,
  offAt: null,
  offBy: "",
  noPhoto: false,
  outOfOrderWhy: "",
  note: "",
  photoId: null,
  bagId: null,
  bag: null,
  twinBag: "282 L",
  twinFasteners: 8,
  twinDoingSeconds: 480,
  twinFindingSeconds: 240,
  back: false,
  ...change,
});

const rail = step({});
const doorCard = step({
  key: "card",
  name: "Door card",
  piece: "card",
  after: [{ step: "rail", why: "the rail holds the card's upper edge" }],
  first: ["Garnish rail"],
  chain: ["rail", "card"],
  twinBag: null,
  twinFasteners: null,
});
const door = (steps = [rail, doorCard]): Schemas["AssemblyRow"] => ({
  id: "a1",
  kind: "door",
  side: "right",
  name: "Right door",
  backWith: null,
  off: steps.filter((s) => s.off).length,
  expectedMinutes: 121,
  spentMinutes: 47,
  twinMinutes: 177,
  steps,
  version: 3,
});

const show = (all: Schemas["AssemblyRow"][]) => {
  queries.setQueryData(assembliesQuery("b41").queryKey, all);
  return draw(<TeardownTab />);
};

beforeEach(() => {
  queries.clear();
  signIn("technician", { now: "2026-10-13T09:42:00Z" });
  queries.setQueryData(buildsQuery.queryKey, [card({ id: "b41" })]);
  queries.setQueryData(photosQuery("b41").queryKey, []);
  queries.setQueryData(operationsQuery("b41").queryKey, [
    { id: "o1", kind: "work", name: "Glass in", doneAt: null },
  ] as Schemas["OperationView"][]);
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("taking apart", () => {
  it("opens with what can come off next, its times and what it waits for", () => {
    show([door()]);
    expect(screen.getByRole("heading", { name: "1 Garnish rail" })).toBeTruthy();
    expect(screen.getByText("2:57")).toBeTruthy();
    expect(screen.getByText("after garnish rail")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: /^2 Door card/ }));
    expect(screen.getByText(/Not yet: the rail holds the card's upper edge/)).toBeTruthy();
    expect(screen.getByText("0 of 1 off")).toBeTruthy();
  });
  it("runs one clock for doing and one for finding out", async () => {
    const sent = server();
    show([door([step({ clock: "doing" }), doorCard])]);
    expect(screen.getByRole("button", { name: "Doing" }).getAttribute("aria-pressed")).toBe("true");
    press("Finding out how");
    await waitFor(() => expect(sent[0]).toMatchObject({ url: "/api/assemblies/a1/steps/rail/clock", body: { clock: "findingOut" } }));
    press("Doing");
    await waitFor(() => expect(sent[1]?.body).toMatchObject({ clock: "stopped" }));
  });
  it("shows a step's caution to whoever has not read it on this build, and runs its clock once it was", async () => {
    const sent = server(problem("acknowledged", "Read this before you start. Two people."));
    show([door([step({ hazard: "lifting", caution: "Two people. Local codes come first." }), doorCard])]);
    press("Doing");
    await screen.findByRole("heading", { name: "Before you start “Garnish rail”" });
    press("I have read this: start");
    await waitFor(() =>
      expect(sent.map((s) => s.body)).toEqual([
        { clock: "doing", acknowledged: false },
        { clock: "doing", acknowledged: true },
      ]),
    );
    expect(screen.queryByRole("heading", { name: /Before you start/ })).toBeNull();
  });
  it("closes a step into a bag with the other side's count, and asks when it differs", async () => {
    const sent = server(problem("fasteners", "282 L on the other side holds 8, this 7. Look once more, or say that it is so."));
    show([door()]);
    press("Removed");
    const sheet = within(screen.getByRole("dialog"));
    expect(sheet.getByText("The other side is 282 L, with 8 fasteners.")).toBeTruthy();
    type("Tray, such as C3-7", "D3-6");
    type("count", "7");
    type("destroyed", "1");
    fireEvent.click(sheet.getByRole("checkbox", { name: "There is no photo" }));
    press("In the bag");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(bodyOf<object>(sent)).toMatchObject({
      inBag: true,
      place: "D3-6",
      noPhoto: true,
      countsDiffer: false,
      fasteners: [{ count: 7, destroyed: 1 }],
      doingSeconds: 360,
      findingSeconds: 0,
    });
    fireEvent.click(await sheet.findByRole("checkbox", { name: "The count is right: the sides differ" }));
    press("In the bag");
    await waitFor(() => expect(sent[1]?.body).toMatchObject({ countsDiffer: true }));
  });
  it("asks for a reason before its turn, and leaves the time to the clock that ran", async () => {
    const sent = server();
    show([door([rail, { ...doorCard, doingSeconds: 300 }])]);
    fireEvent.click(screen.getByRole("button", { name: /^2 Door card/ }));
    press("Removed");
    expect(screen.queryByLabelText("Minutes doing")).toBeNull();
    type("Before garnish rail, because", "no rail was fitted");
    press("In the bag");
    await waitFor(() => expect(bodyOf<object>(sent)).toMatchObject({ outOfOrderWhy: "no rail was fitted", doingSeconds: null }));
  });
  it("begins another one", async () => {
    const sent = server();
    show([]);
    expect(screen.getByText(/Nothing is taken apart yet/)).toBeTruthy();
    press("Take something apart");
    type("What", "frontEnd");
    type("Name", "Front end");
    type("Back together with", "o1");
    press("Begin");
    await waitFor(() => expect(bodyOf<object>(sent)).toMatchObject({ kind: "frontEnd", name: "Front end", backWith: "o1" }));
  });
  it("writes a list of its own, each step after another", async () => {
    const sent = server();
    show([{ ...door([]), kind: "list", side: "centre", name: "Dash" }]);
    press("Write the list");
    press("Another step");
    type("Step 1", "Cover");
    press("Another step");
    type("Step 2", "Gauges");
    const [, second] = screen.getAllByLabelText("After") as HTMLSelectElement[];
    fireEvent.change(second as HTMLSelectElement, { target: { value: (second as HTMLSelectElement).options[1]?.value } });
    press("Save");
    await waitFor(() => expect(sent).toHaveLength(1));
    const steps = bodyOf<{ steps: { key: string; name: string; after: { step: string; why: string }[] }[] }>(sent).steps;
    expect(steps.map((s) => s.name)).toEqual(["Cover", "Gauges"]);
    expect(steps[1]?.after).toEqual([{ step: steps[0]?.key, why: "it is in the way" }]);
  });
});

const lack = (change: Partial<Schemas["LackView"]>): Schemas["LackView"] => ({
  what: "Clips, 6",
  how: "toBuy",
  from: "Strand Trimmers",
  here: "2026-10-28",
  hereLate: "2026-11-04",
  orderBy: "2026-11-03",
  cost: 7.8,
  daysInHand: 20,
  partId: "p",
  late: false,
  order: 2,
  ...change,
});

describe("back together", () => {
  it.each([
    [lack({}), "Clips, 6: order by 3 Nov"],
    [lack({ orderBy: "2026-10-01" }), "Clips, 6: order today, it may still come late"],
    [
      lack({ what: "Handle", how: "atSupplier", from: "Corran Plating", daysInHand: -3 }),
      "Handle: at Corran Plating, back about 28 Oct, too late",
    ],
    [
      lack({ what: "Seal", how: "ordered", from: "Pell Glass", daysInHand: 6 }),
      "Seal: ordered from Pell Glass, here about 28 Oct, 6 days in hand",
    ],
    [lack({ what: "Lens", how: "notFound" }), "Lens: not found"],
  ])("says what is missing", (l, says) => expect(lackWords(l)).toBe(says));
  it("is the reverse, with what lacks, and marks a step as on", async () => {
    const sent = server();
    signIn("manager", { now: "2026-10-13T09:42:00Z" });
    const back = (change: Partial<Schemas["BackStepView"]>): Schemas["BackStepView"] => ({
      order: 1,
      key: "card",
      name: "Door card",
      says: "",
      note: "front clips are longer",
      photoId: null,
      bag: "283 R",
      side: "right",
      bagState: "onShelf",
      bagPlace: "D3-5",
      needed: "2026-11-24",
      late: false,
      back: false,
      lacks: [lack({})],
      ...change,
    });
    queries.setQueryData(reassemblyQuery("a1").queryKey, {
      id: "a1",
      name: "Right door",
      done: 1,
      toBuy: 7.8,
      steps: [
        back({}),
        back({ order: 2, key: "rail", name: "Garnish rail", bag: "282 R", bagPlace: "D2-1", back: true, lacks: [], note: "" }),
      ],
      lacks: [lack({})],
    });
    show([door([step({ off: true, bag: "282 R" }), { ...doorCard, off: true, bag: "283 R" }])]);
    press("Back together");
    expect(screen.getByText("1 of 2 are back.", { exact: false })).toBeTruthy();
    expect(screen.getByText("front clips are longer")).toBeTruthy();
    expect(within(screen.getByRole("region", { name: "To buy" })).getAllByText("£7.80")).toHaveLength(2);
    expect(screen.getByText("D3-5: 283 R")).toBeTruthy();
    press("Fitted: Door card");
    await waitFor(() => expect(sent[0]).toMatchObject({ url: "/api/assemblies/a1/steps/card/back", body: { back: true } }));
  });
  it("writes minutes as hours", () => expect([clockOf(177), clockOf(59.6), clockOf(0)]).toEqual(["2:57", "1:00", "0:00"]));
});
