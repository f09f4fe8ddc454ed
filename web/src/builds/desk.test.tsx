import { act, cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import {
  buildQuery,
  buildsQuery,
  hoursQuery,
  moneyQuery,
  operationsQuery,
  outsideQuery,
  partsQuery,
  queries,
  shopQuery,
} from "../api/queries";
import { HoursTab } from "../labour/HoursTab";
import { MoneyTab } from "../money/MoneyTab";
import { OutsideTab } from "../outside/OutsideTab";
import { PartsTab } from "../parts/PartsTab";
import { bodyOf, card, choicesOf, draw, press, problem, server, signIn, station, type, written } from "../testing";
import { BuildActions } from "./BuildActions";

vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useParams: () => ({ number: "41" }),
  useNavigate: () => vi.fn(),
}));

const build = card({ id: "b41" });
const block = { id: "o1", kind: "work", name: "Block the left wing", doneAt: null } as Schemas["OperationView"];
const plating = { id: "o2", kind: "outside", name: "Bumpers to plating", doneAt: null } as Schemas["OperationView"];
const finished = { id: "o3", kind: "work", name: "Strip", doneAt: "2026-10-01T10:00:00Z" } as Schemas["OperationView"];
const shop = {
  settings: { outsideMarkup: 10 },
  layout: { walls: [], doors: [] },
  racks: [{ name: "C", shelves: 3, trays: 12 }],
  jobs: [],
  people: [{ id: "wil", name: "Wil Aske" }],
  stations: [station("s1", "Prep 1", "prep", 0), station("s2", "Booth", "booth", 7000)],
  suppliers: [{ id: "mar", name: "Marram Finishers" }],
  vehiclePlaces: ["bay", "prep", "booth", "lift"],
} as unknown as Schemas["ShopView"];

beforeEach(() => {
  queries.clear();
  signIn("manager", { now: "2026-10-13T09:42:00Z" });
  queries.setQueryData(buildsQuery.queryKey, [build]);
  queries.setQueryData(shopQuery.queryKey, shop);
  queries.setQueryData(operationsQuery("b41").queryKey, [block, plating, finished]);
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const as = (role: "office" | "technician", screen: ReactNode) => {
  signIn(role, { personId: "wil", now: "2026-10-13T09:42:00Z" });
  return draw(screen);
};

const part = (change: Partial<Schemas["PartView"]> = {}): Schemas["PartView"] => ({
  id: "p1",
  name: "Door seal",
  quantity: 2,
  unitCost: 18.4,
  unitPrice: null,
  supplierId: "mar",
  clientSupplied: false,
  operationId: "o1",
  measuredBy: null,
  state: "ordered",
  orderedOn: "2026-10-02",
  expectedOn: null,
  receivedOn: null,
  fittedOn: null,
  late: false,
  version: 7,
  ...change,
});

describe("parts", () => {
  const listed = (parts: Schemas["PartView"][], materials: Schemas["MaterialView"][] = []) =>
    queries.setQueryData(partsQuery("b41").queryKey, { parts, materials });

  it("lists each with its operation, supplier, cost and state", () => {
    listed([part(), part({ id: "p2", name: "Badge", clientSupplied: true, state: "received", receivedOn: "2026-10-09" })]);
    draw(<PartsTab />);
    const [, seal, badge] = screen.getAllByRole("row");
    expect(seal?.textContent).toContain("Door sealBlock the left wingMarram Finishers2£18.40ordered 2 Oct");
    expect(badge?.textContent).toContain("the client");
    expect(badge?.textContent).not.toContain("£");
    expect(badge?.textContent).toContain("received 9 Oct");
  });

  it("marks what should have been here by now, and nothing else", () => {
    listed([
      part({ id: "a", state: "expected", expectedOn: "2026-10-12", late: true }),
      part({ id: "b", state: "expected", expectedOn: "2026-10-13" }),
    ]);
    draw(<PartsTab />);
    expect(screen.getByText("expected 12 Oct").className).toContain("text-oxide");
    expect(screen.getByText("expected 13 Oct").className).not.toContain("text-oxide");
  });

  it("hides costs from a technician, who may only receive and fit", () => {
    listed([part({ unitCost: null })]);
    as("technician", <PartsTab />);
    expect(screen.queryByText("Unit cost")).toBeNull();
    expect(screen.queryByRole("button", { name: /Edit/ })).toBeNull();
    press("Receive: Door seal");
    expect(choicesOf("It is")).toEqual(["received", "fitted"]);
  });

  it("offers the next step and sends it with the version that was seen", async () => {
    const sent = server();
    listed([part()]);
    draw(<PartsTab />);
    press("Say when: Door seal");
    expect((screen.getByLabelText("It is") as HTMLSelectElement).value).toBe("expected");
    type("Here on", "2026-10-20");
    press("Note it");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toEqual({ method: "POST", url: "/api/parts/p1/move", body: { to: "expected", on: "2026-10-20", version: 7 } });
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });

  it("follows what was saved while its sheet was opening, so that the newest version is sent", async () => {
    const sent = server();
    listed([part({ state: "needed", version: 7 })]);
    draw(<PartsTab />);
    press("Order: Door seal");
    listed([part({ state: "needed", version: 8, name: "Door seal, left" })]);
    await screen.findByRole("dialog", { name: "Door seal, left" });
    press("Note it");
    await waitFor(() => expect(bodyOf<{ version: number }>(sent)?.version).toBe(8));
    cleanup();
    listed([part({ state: "needed" })]);
    draw(<PartsTab />);
    press("Order: Door seal");
    listed([part({ state: "ordered", version: 9 })]);
    await waitFor(() => expect((screen.getByLabelText("It is") as HTMLSelectElement).value).toBe("expected"));
  });

  it("says every fault of a form at its field, and the others below", async () => {
    const errors = { name: ["Say what it is."], unitCost: ["Too much."], operationId: ["It is done already."] };
    const body = { status: 400, detail: "Say what it is.", field: "name", errors };
    server(new Response(JSON.stringify(body), { status: 400, headers: { "content-type": "application/problem+json" } }));
    listed([]);
    draw(<PartsTab />);
    press("Part needed");
    press("Save");
    expect((await screen.findAllByRole("alert")).map((a) => a.textContent)).toEqual([
      "Say what it is.",
      "Too much.",
      "It is done already.",
    ]);
    expect(screen.getByLabelText(/^What/).getAttribute("aria-invalid")).toBe("true");
    expect(screen.getByLabelText(/^Unit cost/).getAttribute("aria-invalid")).toBe("true");
  });

  it("keeps the sheet and its entries when the server refuses, and says so at the field", async () => {
    server(problem("supplierId", "Say who supplies it."));
    listed([]);
    draw(<PartsTab />);
    expect(screen.getByText("No part is on the list.")).toBeTruthy();
    press("Part needed");
    type("What", "Wiper arm");
    press("Save");
    expect((await screen.findByRole("alert")).textContent).toBe("Say who supplies it.");
    expect(screen.getByLabelText(/^From/).getAttribute("aria-invalid")).toBe("true");
    expect((screen.getByLabelText("What") as HTMLInputElement).value).toBe("Wiper arm");
  });

  it("sends nothing chosen as nothing, and offers no finished operation", async () => {
    const sent = server();
    listed([]);
    draw(<PartsTab />);
    press("Part needed");
    expect(choicesOf("For which operation")).toEqual(["none yet", "Block the left wing", "Bumpers to plating"]);
    type("What", "Wiper arm");
    press("Save");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.method).toBe("PUT");
    expect(sent[0]?.body).toEqual({
      name: "Wiper arm",
      quantity: 1,
      unitCost: 0,
      unitPrice: null,
      supplierId: null,
      clientSupplied: false,
      operationId: null,
      measuredBy: null,
      version: null,
    });
  });

  it("books material to the day", async () => {
    const sent = server();
    listed([], [{ id: "m", name: "Epoxy", quantity: 2.5, unit: "l", unitCost: 31.2, on: "2026-10-08" }]);
    draw(<PartsTab />);
    expect(screen.getByText("2.5 l")).toBeTruthy();
    press("Book material");
    type("What", "Filler");
    type("Quantity", "1.75");
    press("Book");
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ name: "Filler", quantity: 1.75, unit: "l", on: "2026-10-13" }));
  });
});

const job = (change: Partial<Schemas["JobView"]> = {}): Schemas["JobView"] => ({
  id: "j1",
  buildId: "b41",
  supplierId: "mar",
  operationId: "o2",
  title: "Bright parts",
  pieces: [
    { name: "bumper", count: 2, countedIn: 0 },
    { name: "handle", count: 4, countedIn: 0 },
  ],
  quotedDays: 21,
  quoted: 640,
  billed: null,
  toClient: 704,
  sentOn: null,
  promisedOn: null,
  backOn: null,
  sent: 6,
  countedIn: 0,
  missing: 0,
  late: false,
  version: 3,
  ...change,
});

describe("outside work", () => {
  const listed = (...jobs: Schemas["JobView"][]) => queries.setQueryData(outsideQuery("b41").queryKey, jobs);

  it("says what is missing and what is late", () => {
    listed(
      job({ sentOn: "2026-09-01", promisedOn: "2026-10-12", late: true }),
      job({ id: "j2", title: "Seats", sentOn: "2026-09-01", promisedOn: "2026-10-01", backOn: "2026-10-05", countedIn: 5, missing: 1 }),
    );
    draw(<OutsideTab />);
    expect(screen.getByText("12 Oct").className).toContain("text-oxide");
    expect(screen.getByText("1 Oct").className).not.toContain("text-oxide");
    expect(screen.getByText("1 missing")).toBeTruthy();
    expect(screen.getByText("5 Oct, 5 of 6")).toBeTruthy();
  });

  it("sends a batch that is here, and asks one that is away for a new promise", async () => {
    const sent = server();
    listed(job(), job({ id: "j2", title: "Seats", sentOn: "2026-09-01", promisedOn: "2026-10-12" }));
    draw(<OutsideTab />);
    press("Send: Bright parts");
    type("Promised for", "2026-11-03");
    press("Note it");
    await waitFor(() => expect(sent).toHaveLength(1));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    press("New promise: Seats");
    expect(screen.queryByLabelText("Leaves on")).toBeNull();
    type("Promised for", "2026-10-19");
    press("Note it");
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent.map((s) => [s.url, s.body])).toEqual([
      ["/api/outside/j1/send", { on: "2026-10-13", promised: "2026-11-03", why: "" }],
      ["/api/outside/j2/promise", { promised: "2026-10-19" }],
    ]);
  });

  it("counts in piece by piece, from what was sent", async () => {
    const sent = server(problem("counts", "More came back than went out."));
    listed(job({ sentOn: "2026-09-01", promisedOn: "2026-10-12" }));
    draw(<OutsideTab />);
    press("Count in: Bright parts");
    expect((screen.getByLabelText("bumper, of 2") as HTMLInputElement).value).toBe("2");
    type("handle, of 4", "5");
    press("Counted");
    expect((await screen.findByRole("alert")).textContent).toBe("More came back than went out.");
    type("handle, of 4", "3");
    press("Counted");
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent[1]).toMatchObject({ url: "/api/outside/j1/count", body: { on: null, counts: [2, 3] } });
  });

  it("lists pieces by kind; only outside operations can be what it is", async () => {
    const sent = server();
    listed();
    draw(<OutsideTab />);
    press("New batch");
    expect(choicesOf("Which operation it is")).toEqual(["none", "Bumpers to plating"]);
    type("What", "Brightwork");
    type("kind", "trim strip");
    press("Another kind");
    fireEvent.change(screen.getAllByLabelText("kind")[1] as HTMLElement, { target: { value: "badge" } });
    fireEvent.change(screen.getAllByLabelText("count")[1] as HTMLElement, { target: { value: "3" } });
    press("Save");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toMatchObject({
      title: "Brightwork",
      operationId: null,
      pieces: [
        { name: "trim strip", count: 1 },
        { name: "badge", count: 3 },
      ],
    });
  });

  it("shows their price and what the shop reckons for the client, and reckons nothing itself", () => {
    listed(job({ toClient: 703.99 }));
    draw(<OutsideTab />);
    expect(screen.getByRole("row", { name: /Bright parts/ }).textContent).toContain("£640.00 quoted / £703.99");
  });

  it("leaves figures and changes to the desk", () => {
    listed(job({ quoted: null, sentOn: "2026-09-01", promisedOn: "2026-10-20" }));
    as("technician", <OutsideTab />);
    expect(screen.queryByText("Their price / to the client")).toBeNull();
    expect(screen.getAllByRole("button").map((b) => b.textContent)).toEqual(["Count in"]);
  });
});

const entry = (change: Partial<Schemas["EntryView"]> = {}): Schemas["EntryView"] => ({
  id: "e1",
  personId: "wil",
  person: "Wil Aske",
  operationId: "o1",
  operation: "Block the left wing",
  start: "2026-10-12T07:00:00Z",
  stop: "2026-10-12T11:15:00Z",
  minutes: 255,
  kind: "billable",
  note: "",
  replaces: null,
  replacedBy: null,
  void: false,
  flag: null,
  ...change,
});

describe("hours", () => {
  const listed = (...entries: Schemas["EntryView"][]) => queries.setQueryData(hoursQuery("b41").queryKey, entries);

  it("shows wall times of the shop and strikes out what was corrected", () => {
    listed(entry({ id: "e2", replaces: "e1", note: "started later", minutes: 195 }), entry({ replacedBy: "e2" }));
    draw(<HoursTab />);
    const [, now, before] = screen.getAllByRole("row");
    expect(now?.textContent).toContain("08:00 to 12:15");
    expect(now?.textContent).toContain("correction: started later");
    expect(before?.className).toContain("line-through");
    expect(within(before as HTMLElement).queryByRole("button")).toBeNull();
  });

  it("corrects with a reason, in instants", async () => {
    const sent = server();
    listed(entry());
    draw(<HoursTab />);
    press("Correct Wil Aske, Block the left wing");
    type("From", "09:00");
    type("Reason for the correction", "forgot to start");
    press("Save the correction");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      url: "/api/hours/e1/correct",
      body: { start: "2026-10-12T08:00:00.000Z", stop: "2026-10-12T11:15:00.000Z", void: false, reason: "forgot to start" },
    });
  });

  it("says that something was not worked, without times", async () => {
    const sent = server();
    listed(entry());
    draw(<HoursTab />);
    press("Correct Wil Aske, Block the left wing");
    press("This was not worked");
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ start: null, stop: null, void: true }));
  });

  it("enters hours only for work", () => {
    listed();
    draw(<HoursTab />);
    press("Enter hours");
    expect(choicesOf("On what")).toEqual(["choose", "Block the left wing", "Strip"]);
    expect(screen.queryByRole("button", { name: "This was not worked" })).toBeNull();
  });

  it("lets a technician correct only his own, of the same day", () => {
    listed(
      entry({ start: "2026-10-13T06:00:00Z", stop: "2026-10-13T07:00:00Z" }),
      entry({ id: "e2", personId: "odile", person: "Odile" }),
      entry({ id: "e3", start: "2026-10-12T06:00:00Z", stop: "2026-10-12T07:00:00Z" }),
    );
    as("technician", <HoursTab />);
    expect(screen.queryByRole("button", { name: "Enter hours" })).toBeNull();
    expect(screen.getAllByRole("button")).toHaveLength(1);
  });
});

const sums = (change: Partial<Schemas["BuildMoneyView"]> = {}): Schemas["BuildMoneyView"] => ({
  kinds: [
    { kind: "labour", estimate: 1000.1, net: 1180.2 },
    { kind: "parts", estimate: 500.2, net: 20 },
  ],
  lines: [
    {
      id: "l1",
      kind: "labour",
      text: "Block the left wing",
      formula: "4:15 h x 62.00",
      net: 263.5,
      tax: 52.7,
      entries: [{ id: "e1", text: "Wil Aske, 2026-10-12", minutes: 255, amount: null }],
    },
  ],
  notBilled: [{ id: "r", text: "Strip: rework, Wil Aske", minutes: 65, amount: null }],
  totals: {
    contract: "timeAndMaterials",
    accepted: true,
    estimate: 1500.3,
    atEnd: 1700,
    atEndGross: 2040,
    workAtEnd: 1700,
    notBillable: 0,
    aboveEstimate: 199.7,
    notBilledMinutes: 65,
    net: 1200.2,
    tax: 240.04,
    gross: 1440.24,
    retention: 0,
    paid: 2000,
    balance: -559.76,
    limit: null,
    changesApproved: 0,
    changesPending: 0,
    taxByCategory: {},
  },
  payments: [{ id: "pay", on: "2026-09-01", amount: 2000, note: "Deposit" }],
  cover: { now: 559.76, runsOut: "2026-10-29", topUpNeeded: 3100 },
  margin: { labour: 400, parts: 10, outside: 0, materials: 5, bill: 1200.2, margin: 785.2 },
  ...change,
});

describe("money", () => {
  const shown = (m: Schemas["BuildMoneyView"]) => queries.setQueryData(moneyQuery("b41").queryKey, m);

  it("shows the totals that were computed, to the cent", () => {
    shown(sums());
    draw(<MoneyTab />);
    expect(screen.getByText("Total, net").closest("tr")?.textContent).toBe("Total, net£1,500.30£1,200.20");
    expect(screen.getByText("Credit of the client").closest("tr")?.textContent).toContain("£559.76");
    expect(screen.getByText("Worked and not billed: 1:05 h")).toBeTruthy();
    expect(screen.getByText("29 Oct")).toBeTruthy();
  });

  it("marks only what has passed its estimate", () => {
    shown(sums());
    draw(<MoneyTab />);
    expect(screen.getByText("£1,180.20").className).toContain("text-oxide");
    expect(screen.getByText("£20.00").className).not.toContain("text-oxide");
  });

  it("opens a figure into its lines and a line into its records", () => {
    shown(sums());
    draw(<MoneyTab />);
    expect(screen.getByText("4:15 h x 62.00")).toBeTruthy();
    press("Block the left wing");
    expect(screen.getByText("Wil Aske, 2026-10-12, 4:15")).toBeTruthy();
    press("Parts");
    expect(screen.queryByText("4:15 h x 62.00")).toBeNull();
    expect(screen.getByText(/^At the end the bill/).textContent).toContain(
      "£1,700.00 net, £2,040.00 with tax: £199.70 above what was agreed",
    );
  });

  it("says when the deposit is used up, and leaves out a margin that was not sent", () => {
    shown(sums({ cover: { now: -0.01, runsOut: null, topUpNeeded: 120.5 }, margin: null }));
    draw(<MoneyTab />);
    expect(screen.getByText("What was paid is used up; £120.50 with tax is needed to the end.")).toBeTruthy();
    expect(screen.queryByText("Margin, not shown to the client")).toBeNull();
  });

  it("books a refund as a negative amount", async () => {
    const sent = server();
    shown(sums());
    draw(<MoneyTab />);
    press("Book a payment");
    type("Amount", "-120.5");
    type("Note", "overpaid");
    press("Book");
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ amount: -120.5, on: "2026-10-13", note: "overpaid" }));
  });
});

describe("what the desk does with a build", () => {
  it("is the desk's: the office moves and asks, the technician sees none of it", () => {
    as("office", <BuildActions />);
    expect(screen.getAllByRole("button").map((b) => b.textContent)).toEqual(["Move", "Ask", "Client’s contact", "Work complete"]);
    cleanup();
    as("technician", <BuildActions />);
    expect(screen.queryAllByRole("button")).toEqual([]);
  });

  it("moves it to a station, or away with a place in words", async () => {
    const sent = server();
    draw(<BuildActions />);
    press("Move");
    expect(screen.queryByLabelText("Where else")).toBeNull();
    type("Station", "s2");
    press("Move");
    await waitFor(() => expect(sent).toHaveLength(1));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    press("Move");
    type("Station", "");
    type("Where else", "Marram Finishers");
    press("Move");
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent.map((s) => s.body)).toEqual([
      { stationId: "s2", awayAt: "" },
      { stationId: null, awayAt: "Marram Finishers" },
    ]);
  });

  it("asks where a paused build is left, but not of one that is handed over", async () => {
    const sent = server(problem("firstMove", "Say what is done first."));
    draw(<BuildActions />);
    press("Pause or close");
    type("Where exactly the work stopped", "Door off, on the rack");
    press("Do it");
    expect((await screen.findByRole("alert")).textContent).toBe("Say what is done first.");
    type("It is now", "closed");
    expect(screen.queryByLabelText("Where exactly the work stopped")).toBeNull();
    press("Do it");
    await waitFor(() => expect(sent[1]?.body).toMatchObject({ status: "closed" }));
  });

  it("lets a paused build only go on, once somebody has looked whether it is as it was left", async () => {
    const sent = server(problem("firstMove", "Please give the first move."));
    queries.setQueryData(buildsQuery.queryKey, [
      card({ id: "b41", status: "paused", leftAt: "on the blue stands", firstMove: "wheels on" }),
    ]);
    draw(<BuildActions />);
    press("Resume");
    const sheet = within(screen.getByRole("dialog"));
    expect(sheet.getByText("on the blue stands")).toBeTruthy();
    expect(sheet.getByText("wheels on")).toBeTruthy();
    expect(sheet.getByRole("button", { name: "Resume" })).toHaveProperty("disabled", true);
    type("Do both still hold? Look at it first", "no");
    fireEvent.click(sheet.getByRole("button", { name: "Resume" }));
    expect((await screen.findByRole("alert")).textContent).toBe("Please give the first move.");
    expect(sent[0]).toMatchObject({ url: "/api/builds/b41/status", body: { status: "open", stillHolds: false } });
  });

  it("says with what and when a paused build would go on, and who would wait for that", () => {
    server();
    queries.setQueryData(buildsQuery.queryKey, [card({ id: "b41", status: "paused", leftAt: "on stands", firstMove: "wheels on" })]);
    queries.setQueryData(["trial", "status", "b41", true], {
      moves: [{ buildId: "b38", buildNumber: 38, days: 4 }],
      first: "Weld out the sill",
      start: "2026-10-15T07:00:00Z",
      finish: "2026-11-20T15:00:00Z",
      withoutDate: [],
    });
    draw(<BuildActions />);
    press("Resume");
    expect(screen.getByText(/If it goes on now/).textContent).toBe(
      "If it goes on now: it begins with Weld out the sill, Thu 15 Oct 08:00, and is planned to be finished 20 Nov. Planned finishes: 38: 4 days later.",
    );
  });

  it("asks twice before a build is withdrawn, and says what that does", async () => {
    const sent = server();
    draw(<BuildActions />);
    press("Pause or close");
    type("It is now", "withdrawn");
    expect(screen.getByText(/The client takes the vehicle away/)).toBeTruthy();
    press("Withdraw");
    expect(sent).toEqual([]);
    press("Yes, withdraw it");
    await waitFor(() => expect(sent[0]).toMatchObject({ body: { status: "withdrawn" } }));
  });

  it("asks a question with its answers parted and the work it holds", async () => {
    const sent = server();
    draw(<BuildActions />);
    press("Ask");
    fireEvent.change(screen.getByRole("textbox", { name: "Question" }), { target: { value: "Black or brown leather?" } });
    type("Answers, with commas", " black, brown,, ");
    type("Who decides", "client");
    const held = within(screen.getByRole("group", { name: "Work that waits for the answer" }));
    expect(held.getAllByRole("checkbox")).toHaveLength(2);
    fireEvent.click(held.getByRole("checkbox", { name: "Block the left wing" }));
    fireEvent.click(held.getByRole("checkbox", { name: "Bumpers to plating" }));
    fireEvent.click(held.getByRole("checkbox", { name: "Bumpers to plating" }));
    fireEvent.click(
      within(screen.getByRole("group", { name: /Answers that take this work out/ })).getByRole("checkbox", { name: "brown" }),
    );
    press("Ask");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toMatchObject({
      question: "Black or brown leather?",
      for: "client",
      options: ["black", "brown"],
      holds: ["o1"],
      dueOn: "2026-10-13",
      takesOut: ["brown"],
    });
  });

  const kept = {
    id: "b41",
    number: 41,
    vehicle: {
      make: "Whimbrel",
      model: "Courser",
      year: 1966,
      style: "coupe",
      construction: "unitary",
      identification: "W41",
      colourName: "Tidewater",
      colourHex: "#1B6670",
      dimensions: { lengthMm: 5160, widthMm: 1700, wheelbaseMm: 2850 },
    },
    contract: {
      kind: "timeAndMaterials",
      price: null,
      stages: null,
      donePercent: 100,
      retentionPercent: 0,
      retentionReleased: false,
    },
    estimate: { labour: 1000, parts: 500, outside: 250, materials: 100 },
    grade: "driver",
    originality: "original",
    promised: "2026-12-15",
    milestones: [{ name: "rolling", on: "2026-11-02" }],
    budget: null,
    priority: 2,
    fillIn: false,
    version: 12,
  } as unknown as Schemas["BuildView"];
  const keep = (change: Partial<Schemas["BuildView"]> = {}) => queries.setQueryData(buildQuery("b41").queryKey, { ...kept, ...change });

  it("corrects the client's contact, and says at its field what is wrong with an address", async () => {
    const sent = server(problem("email", "This is no e-mail address."));
    keep({ clientName: "O. Brandvold", clientEmail: "ottilie@nowhere", clientPhone: "0555", clientVersion: 7 });
    as("office", <BuildActions />);
    press("Client’s contact");
    type("E-mail", "ottilie@clients.example");
    press("Save");
    expect((await screen.findByRole("alert")).textContent).toBe("This is no e-mail address.");
    expect(sent[0]).toMatchObject({
      method: "PUT",
      url: "/api/builds/b41/client",
      body: { name: "O. Brandvold", email: "ottilie@clients.example", phone: "0555", version: 7 },
    });
  });

  it("changes only what was changed in the brief, with the version that was seen", async () => {
    const sent = server(problem("version", "Somebody changed this since you opened it.", 409));
    keep();
    draw(<BuildActions />);
    press("Brief");
    type("Promised for", "2026-12-22");
    press("Save");
    expect((await screen.findByRole("alert")).textContent).toBe("Somebody changed this since you opened it.");
    expect(written("Promised for")).toBe("2026-12-22");
    expect(sent[0]?.body).toEqual({
      vehicle: kept.vehicle,
      contract: kept.contract,
      brief: {
        grade: "driver",
        originality: "original",
        promised: "2026-12-22",
        budget: null,
        milestones: [{ name: "rolling", on: "2026-11-02" }],
      },
      estimate: { labour: 1000, parts: 500, outside: 250, materials: 100 },
      priority: 2,
      fillIn: false,
      version: 12,
    });
  });

  it("follows what somebody else saved meanwhile, and shows both words where both changed the same", async () => {
    const sent = server();
    keep();
    draw(<BuildActions />);
    press("Brief");
    type("Promised for", "2026-12-22");
    act(() => void keep({ promised: "2026-12-18", priority: 1, version: 13 }));
    await waitFor(() => expect(written("Place in the queue")).toBe("1"));
    expect(written("Promised for")).toBe("2026-12-22");
    expect(screen.getByRole("alert").textContent).toContain("promised is now: 2026-12-18");
    press("Use theirs");
    expect(written("Promised for")).toBe("2026-12-18");
    expect(screen.queryByRole("alert")).toBeNull();
    press("Save");
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ version: 13, priority: 1, brief: { promised: "2026-12-18" } }));
  });

  it("sets up an agreement by progress with its stages, which must make a hundred", async () => {
    const sent = server();
    keep();
    draw(<BuildActions />);
    press("Agreement");
    type("Contract", "progress");
    type("Price, net", "9000");
    type("share, %", "40");
    type("Stage", "Metal");
    expect(screen.getByRole("status").textContent).toBe("The shares add up to 40 percent; they must make 100.");
    press("Add a stage");
    fireEvent.change(screen.getAllByLabelText("Stage")[1] as HTMLElement, { target: { value: "Paint" } });
    expect(screen.getByRole("status").textContent).toBe("The shares add up to 100 percent.");
    press("Save");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(bodyOf<{ contract: unknown }>(sent).contract).toEqual({
      kind: "progress",
      price: 9000,
      stages: [
        { name: "Metal", sharePercent: 40, donePercent: 0 },
        { name: "Paint", sharePercent: 60, donePercent: 0 },
      ],
      donePercent: 100,
      retentionPercent: 0,
      retentionReleased: false,
    });
  });

  it("adds a milestone to the brief and takes one away", async () => {
    const sent = server();
    keep();
    draw(<BuildActions />);
    press("Brief");
    press("Add a milestone");
    fireEvent.change(screen.getAllByLabelText("Milestone")[1] as HTMLElement, { target: { value: "the spring show" } });
    fireEvent.click(screen.getAllByRole("button", { name: "Remove" })[0] as HTMLElement);
    press("Save");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(bodyOf<{ brief: { milestones: unknown } }>(sent).brief.milestones).toEqual([{ name: "the spring show", on: "2026-12-15" }]);
  });

  it("writes a vehicle's lengths in inches in a US shop and keeps whole millimetres", async () => {
    const sent = server();
    signIn("manager", { now: "2026-10-13T09:42:00Z", units: "us" });
    keep();
    draw(<BuildActions />);
    press("Vehicle");
    expect(written("Length, in")).toBe("203.15");
    type("Wheelbase, in", "112.25");
    expect(written("Wheelbase, in")).toBe("112.25");
    press("Save");
    await waitFor(() => expect(sent).toHaveLength(1));
    // 112.25 in x 25.4 = 2851.15 mm; the length was not touched.
    expect(bodyOf<{ vehicle: Schemas["Vehicle"] }>(sent).vehicle.dimensions).toEqual({
      lengthMm: 5160,
      widthMm: 1700,
      wheelbaseMm: 2851,
    });
  });

  it("warns of a paint that would be taken for an alarm", () => {
    keep({ vehicle: { ...kept.vehicle, colourHex: "#9A3A1E" } });
    queries.setQueryData(["paint", "#9A3A1E"], { readsAsAlarm: true });
    draw(<BuildActions />);
    press("Vehicle");
    expect(screen.getByText(/reads as an alarm/)).toBeTruthy();
  });
});
