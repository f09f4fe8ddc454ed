import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { buildQuery, buildsQuery, operationsQuery, paperPageQuery, papersQuery, photosQuery, queries } from "../api/queries";
import { takeShopWays } from "../format";
import { bodyOf, card, draw, press, problem, server, signIn, type } from "../testing";
import { AnswerBox } from "./AnswerBox";
import { PapersTab, standing } from "./PapersTab";
import { PaperView } from "./PaperView";

vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useParams: () => ({ number: "41" }),
  useNavigate: () => vi.fn(),
}));

const words: Schemas["PaperWords"] = {
  title: "Your Courser",
  reason: "",
  notIncluded: ["Storage"],
  terms: ["You pay for what is done"],
  choices: [{ letter: "A", text: "Bare first", adds: -120.5, days: 5 }],
  goods: [{ kind: "parts", text: "Parts", low: 90, likely: 100, high: 130, restsOn: "1 of 2 priced" }],
  photos: [],
  answerBy: "2026-11-12",
  deposit: 1200,
};

const page = (change: Partial<Schemas["PaperPage"]> = {}): Schemas["PaperPage"] => ({
  id: "e1",
  kind: "estimate",
  number: 1,
  shop: "Kettle Quay Coachworks",
  place: "Port Hallow",
  phone: "0555 200 100",
  currency: "GBP",
  from: "Sunniva Roake",
  for: "Ottilie Brandvold",
  on: "2026-10-13",
  answerBy: "2026-11-12",
  buildNumber: 41,
  vehicle: "Whimbrel Courser",
  colourHex: "#1B6670",
  title: words.title,
  reason: "",
  figures: {
    work: 2503.4,
    above: 0,
    rows: [
      {
        stage: "metal",
        says: "Left sill, Right sill",
        firstGuess: 36,
        cells: [{ trade: "metal", hours: 38.25, rate: 60, amount: 2295 }],
        low: 1790,
        likely: 2295,
        high: 2980,
        jobs: [
          { ratio: 0.96, amount: 2074 },
          { ratio: 1.18, amount: 2549 },
        ],
        middle: 1.18,
        hours: 38.25,
      },
    ],
    goods: words.goods,
    low: 1900,
    high: 3100,
    hours: 38.25,
  },
  lines: [],
  totals: {
    net: 2395,
    tax: [
      { kind: "labour", net: 2295, percent: 20, tax: 459 },
      { kind: "parts", net: 100, percent: 20, tax: 20 },
    ],
    gross: 2874,
  },
  agreedBefore: null,
  likely: "2026-12-19",
  days: null,
  deposit: 1200,
  notIncluded: words.notIncluded,
  choices: words.choices,
  terms: words.terms,
  photos: [],
  seen: "abc",
  ...change,
});

const change = (more: Partial<Schemas["PaperPage"]> = {}) =>
  page({
    id: "c1",
    kind: "changeOrder",
    title: "Right front floor",
    reason: "Too thin to weld to.",
    figures: null,
    lines: [{ text: "R front floor: replace", finding: 4, minutes: 840, labour: 840, goods: 212.4, net: 1052.4 }],
    totals: { net: 1052.4, tax: [{ kind: "labour", net: 840, percent: 20, tax: 168 }], gross: 1220.4 },
    agreedBefore: 71904,
    days: 2.5,
    choices: [],
    ...more,
  });

const row = (more: Partial<Schemas["PaperRow"]> = {}): Schemas["PaperRow"] => ({
  id: "c1",
  kind: "changeOrder",
  number: 1,
  name: "Change order 1",
  state: "draft",
  words: { ...words, choices: [], goods: [], title: "Heated seats", reason: "You asked." },
  lines: [
    {
      id: "l1",
      findingId: null,
      text: "Looms",
      minutes: 300,
      labour: 300,
      parts: 180.5,
      outside: 0,
      materials: 0,
      net: 480.5,
      operations: ["o1"],
      work: null,
    },
  ],
  net: 480.5,
  sentAt: null,
  sentBy: null,
  sentAs: null,
  answer: null,
  withdrawnWhy: null,
  days: 3,
  perWeek: 126,
  version: 4,
  ...more,
});

const answer: Schemas["PaperAnswer"] = {
  yes: true,
  name: "Ottilie Brandvold",
  at: "2026-10-13T10:00:00Z",
  way: "code",
  choices: ["A"],
  note: "",
};

const show = (view: Partial<Schemas["PapersView"]>) => {
  queries.setQueryData(papersQuery("b41").queryKey, { acceptedAt: null, agreed: 0, papers: [], ...view });
  for (const p of view.papers ?? [])
    queries.setQueryData(paperPageQuery(p.id, p.version).queryKey, p.kind === "estimate" ? page() : change());
  return draw(<PapersTab />);
};

beforeEach(() => {
  queries.clear();
  signIn("manager", { now: "2026-10-13T09:42:00Z" });
  queries.setQueryData(buildsQuery.queryKey, [card({ id: "b41", client: "Ottilie Brandvold" })]);
  queries.setQueryData(photosQuery("b41").queryKey, []);
  queries.setQueryData(operationsQuery("b41").queryKey, [
    { id: "o1", kind: "work", name: "Looms under the seats", doneAt: null },
    { id: "o2", kind: "work", name: "Carpet", doneAt: null },
  ] as Schemas["OperationView"][]);
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("an estimate on its page", () => {
  beforeEach(() => takeShopWays({ timeZone: "UTC", currency: "GBP" }, "2026-10-13T09:00:00Z"));
  const rows = () => screen.getAllByRole("row").map((r) => (r.textContent ?? "").replace(/\s+/g, " "));
  it("shows rows that add up to the likely total, and tax to the gross", () => {
    draw(<PaperView page={page()} photo={(h) => h} />);
    expect(rows().some((r) => r.startsWith("Metalwork") && r.includes("£1,790.00£2,295.00£2,980.00") && r.endsWith("2 jobs, 1.18"))).toBe(
      true,
    );
    expect(rows()).toContain("All work and materials£1,900.00£2,395.00£3,100.0038.25 h");
    expect(rows()).toContain("Tax on labour, 20 % of £2,295.00£459.00");
    expect(rows()).toContain("Likely, with tax£2,874.00");
  });
  it("says how each likely figure is made and that it is no price", () => {
    draw(<PaperView page={page()} photo={(h) => h} />);
    expect(screen.getByText("38.25 h metal at £60.00")).toBeTruthy();
    expect(screen.getByText(/It is an estimate, not a price/)).toBeTruthy();
    expect(screen.getByText(/Dates are likely ones and no promise/)).toBeTruthy();
    expect(screen.getByText("Deposit £1,200.00, tax included, before work begins")).toBeTruthy();
    expect(screen.getByText("−£120.50, +5 days")).toBeTruthy();
  });
  it("says what kind of price it is, and shows no sums that nobody pays by", () => {
    draw(
      <PaperView
        page={page({
          price: { kind: "capped", amount: 2000, stages: [], retentionPercent: 10, capAfter: null },
          figures: { ...page().figures, work: 2395, above: 395 } as Schemas["PaperFigures"],
          totals: { net: 2000, tax: [], gross: 2000 },
        })}
        photo={(h) => h}
      />,
    );
    const lede = () => document.querySelector(".lede")?.textContent;
    expect(lede()).toContain(
      "You pay at most £2,000.00 before tax. The work is likely to come to £2,395.00; what lies above the most, you do not pay.",
    );
    expect(lede()).toContain("only a change that you approve raises the most that you pay. Of each sum 10 % are held back");
    expect(lede()).not.toContain("Eight times in ten");
    expect(rows()).toContain("Above the most that you pay−£395.00you do not pay it");
    cleanup();
    draw(
      <PaperView
        page={page({ price: { kind: "capped", amount: 9000, stages: [], retentionPercent: 0, capAfter: null } })}
        photo={(h) => h}
      />,
    );
    expect(lede()).toMatch(/at most £9,000.00 before tax. Most likely it is £[\d,.]+\. You pay/);
    expect(rows().join()).not.toContain("Above the most");
    cleanup();
    draw(
      <PaperView
        page={page({
          price: { kind: "fixed", amount: 2600, stages: [], retentionPercent: 0, capAfter: null },
          totals: { net: 2600, tax: [{ kind: "labour", net: 2600, percent: 20, tax: 520 }], gross: 3120 },
        })}
        photo={(h) => h}
      />,
    );
    expect(screen.getByText(/This is a fixed price/)).toBeTruthy();
    expect(screen.queryByText(/Eight times in ten such work/)).toBeNull();
    expect(rows()).toContain("MetalworkLeft sill, Right sill38.25 h");
    expect(rows()).toContain("The price, before tax£2,600.00");
  });
  it("tells what a change adds, moves and makes of what was agreed", () => {
    draw(<PaperView page={change()} photo={(h) => h} />);
    expect(screen.getByText(/makes it 2.5 days later/)).toBeTruthy();
    expect(rows()).toContain("R front floor: replacefinding 4 of the survey14£840.00£212.40£1,052.40");
    expect(rows()).toContain("Agreed with this, before tax£72,956.40");
  });
  it("says what a change makes of the cap as the shop reckoned it, and nothing where there is none", () => {
    const price = { kind: "capped" as const, amount: 300, stages: [], retentionPercent: 0, capAfter: 0 };
    draw(<PaperView page={change({ price })} photo={(h) => h} />);
    expect(screen.getByText(/The most that you pay goes from £300.00 to £0.00 before tax/)).toBeTruthy();
    cleanup();
    draw(<PaperView page={change({ price: { ...price, capAfter: null } })} photo={(h) => h} />);
    expect(screen.queryByText(/The most that you pay goes/)).toBeNull();
  });
  it.each([
    [0, /the likely day stays/],
    [-1, /makes it 1 day sooner/],
  ])("says %s days in words", (days, says) => {
    draw(<PaperView page={change({ days })} photo={(h) => h} />);
    expect(screen.getByText(says)).toBeTruthy();
  });
});

describe("the client's answer", () => {
  const paper = (more: Partial<Schemas["PrivatePaper"]> = {}): Schemas["PrivatePaper"] => ({
    page: page(),
    state: "sent",
    answer: null,
    ...more,
  });
  it("asks for a code first, then takes yes with name and choices", async () => {
    const sent = server(
      new Response(JSON.stringify({ to: "o…@example.org" }), { status: 200, headers: { "content-type": "application/json" } }),
    );
    draw(<AnswerBox token="t" paper={paper()} />);
    fireEvent.click(screen.getByRole("checkbox", { name: /^A: Bare first/ }));
    expect(screen.getByText(/The choices together: −£120.50/)).toBeTruthy();
    press("Send me the code");
    expect((await screen.findByRole("status")).textContent).toContain("on its way to o…@example.org");
    type("Code", "012345");
    press("Yes, begin on this");
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent[1]).toMatchObject({
      url: "/api/private/t/papers/e1/answer",
      body: { code: "012345", yes: true, name: "Ottilie Brandvold", choices: ["A"] },
    });
  });
  it("says that a code does not fit, and keeps what was typed", async () => {
    server(
      new Response(JSON.stringify({ to: "o…@example.org" }), { status: 200, headers: { "content-type": "application/json" } }),
      problem("code", "This code does not fit."),
    );
    draw(<AnswerBox token="t" paper={paper()} />);
    press("Send me the code");
    await screen.findByLabelText("Code");
    type("Code", "999999");
    press("No, not like this");
    expect((await screen.findByRole("alert")).textContent).toBe("This code does not fit.");
    expect((screen.getByLabelText(/^Code/) as HTMLInputElement).value).toBe("999999");
  });
  it("shows an answer that was given and asks no more", () => {
    draw(<AnswerBox token="t" paper={paper({ answer, state: "accepted" })} />);
    expect(screen.getByRole("status").textContent).toContain("Ottilie Brandvold, Tuesday, 13 October 2026, with a code, with A");
    expect(screen.queryByRole("button")).toBeNull();
  });
});

describe("papers at the desk", () => {
  it("drafts an estimate while nothing is agreed", async () => {
    const sent = server();
    show({});
    press("Draft an estimate");
    await waitFor(() => expect(sent[0]?.url).toBe("/api/builds/b41/estimates"));
  });
  const estimate = row({ id: "e1", kind: "estimate", name: "Estimate 1", words, lines: [] });
  it("saves words line by line, and does not send what was not looked at", async () => {
    const sent = server(problem("title", "Please give the title."));
    show({ papers: [estimate] });
    const send = () => screen.getByRole("button", { name: "Send to the client" });
    expect(send()).toHaveProperty("disabled", false);
    type("Not included, one per line", "Storage\n\n  Licensing ");
    expect(send()).toHaveProperty("disabled", true);
    press("Save and preview");
    expect((await screen.findByRole("alert")).textContent).toBe("Please give the title.");
    expect(sent[0]).toMatchObject({
      method: "PUT",
      url: "/api/papers/e1",
      body: { notIncluded: ["Storage", "Licensing"], deposit: 1200, version: 4 },
    });
  });
  it("sends the page that was looked at, by a letter or handed over", async () => {
    const sent = server();
    queries.setQueryData(buildQuery("b41").queryKey, {
      id: "b41",
      clientName: "Ottilie Brandvold",
      clientEmail: "",
      clientPhone: "",
      clientVersion: 3,
    } as unknown as Schemas["BuildView"]);
    show({ papers: [estimate] });
    await waitFor(() => expect(screen.getByRole("button", { name: "Send to the client" })).toHaveProperty("disabled", false));
    press("Send to the client");
    await screen.findByRole("dialog");
    type("To the address", "o@brandvold.example");
    press("Send the letter");
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent[0]).toMatchObject({ url: "/api/builds/b41/client", body: { email: "o@brandvold.example", version: 3 } });
    expect(sent[1]).toMatchObject({ url: "/api/papers/e1/send", body: { seen: "abc", way: "letter" } });
  });
  it("says what the wait of a change order costs and which work waits for it", async () => {
    const sent = server();
    show({ acceptedAt: "2026-04-20T09:00:00Z", agreed: 71904, papers: [row()] });
    expect(screen.getByText(/not sent yet; the wait moves the finish 3 days, £126.00 a week/)).toBeTruthy();
    press("Change: Looms");
    const sheet = within(screen.getByRole("dialog"));
    const waits = within(sheet.getByRole("group", { name: /wait for the answer/ }));
    expect(waits.getByRole("checkbox", { name: "Looms under the seats" })).toHaveProperty("checked", true);
    fireEvent.click(waits.getByRole("checkbox", { name: "Carpet" }));
    fireEvent.change(sheet.getByLabelText("Parts, net"), { target: { value: "190" } });
    fireEvent.click(sheet.getByRole("button", { name: "Save" }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(bodyOf<object>(sent)).toMatchObject({ work: { minutes: 0, parts: 190 }, operations: ["o1", "o2"] });
  });
  it("takes a line out by sending nothing in it", async () => {
    const sent = server();
    show({ acceptedAt: "2026-04-20T09:00:00Z", agreed: 71904, papers: [row()] });
    press("Change: Looms");
    fireEvent.click(within(screen.getByRole("dialog")).getByRole("button", { name: "Remove the line" }));
    await waitFor(() => expect(bodyOf<object>(sent)).toMatchObject({ work: null, operations: [] }));
  });
  it("notes an answer that came on paper, and where the paper lies", async () => {
    const sent = server();
    show({
      acceptedAt: null,
      papers: [row({ id: "e1", kind: "estimate", name: "Estimate 1", state: "sent", sentAt: "2026-10-12T08:00:00Z", words })],
    });
    press("Answered on paper");
    type("Where the paper lies", "blue folder");
    fireEvent.click(screen.getByRole("checkbox", { name: /^with A/ }));
    press("Note it");
    await waitFor(() =>
      expect(bodyOf<object>(sent)).toEqual({ yes: true, name: "Ottilie Brandvold", note: "blue folder", choices: ["A"] }),
    );
  });
  it("leaves sending and taking back to the manager", () => {
    signIn("office", { now: "2026-10-13T09:42:00Z" });
    show({ acceptedAt: "2026-04-20T09:00:00Z", papers: [row()] });
    expect(screen.queryByRole("button", { name: "Send to the client" })).toBeNull();
    expect(screen.queryByRole("button", { name: "Take it back" })).toBeNull();
    expect(screen.getByRole("button", { name: "Save and preview" })).toBeTruthy();
  });
  it("says how each paper stands", () => {
    expect(standing(row({ state: "accepted", answer }))).toBe("agreed by Ottilie Brandvold, 13 Oct, with a code");
    expect(standing(row({ state: "declined", answer: { ...answer, yes: false, way: "paper" } }))).toBe(
      "declined by Ottilie Brandvold, 13 Oct, on paper",
    );
    expect(standing(row({ state: "withdrawn", withdrawnWhy: "priced anew" }))).toBe("taken back: priced anew");
  });
});
