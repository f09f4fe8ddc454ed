import { cleanup, render, screen, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { takeShopWays } from "../format";
import { casesOf } from "./Ready";
import { ReportView } from "./ReportView";

const body: Schemas["BodyView"] = {
  style: "coupe",
  name: "Coupe",
  dimensions: { lengthMm: 5160, widthMm: 1700, wheelbaseMm: 2850 },
  minX: -160,
  minY: 0,
  maxX: 160,
  maxY: 510,
  panels: [],
  openings: [],
  shutLines: [],
  decor: { dark: [], light: [], lamps: [], bolts: [], handles: [], grille: "" },
};

const page = (change: Partial<Schemas["ReportPage"]> = {}): Schemas["ReportPage"] => ({
  shop: "Kettle Quay Coachworks",
  place: "Port Hallow",
  phone: "0555 200 100",
  currency: "GBP",
  from: "Sunniva Roake",
  for: "Ottilie Brandvold",
  number: 2,
  on: "2026-10-13",
  title: "Your Whimbrel Courser, week 26",
  lede: "Most of it is in primer.",
  buildNumber: 41,
  vehicle: "Whimbrel Courser",
  colourHex: "#1B6670",
  promised: "2026-12-15",
  likely: "2026-12-19",
  milestones: [{ name: "rolling", on: "2026-11-20" }],
  stages: [{ stage: "metal", budgetMinutes: 600, earnedMinutes: 300, spentMinutes: 320, sinceMinutes: 95 }],
  sinceMinutes: 95,
  costs: [
    { kind: "labour", estimate: 1000, net: 640.5 },
    { kind: "parts", estimate: 200, net: 240 },
  ],
  totals: { estimate: 1200, net: 880.5, tax: 176.1, gross: 1056.6, retention: 0, paid: 1200, balance: -143.4 },
  adjusted: [],
  done: ["New right sill in, etched"],
  next: [],
  waiting: [{ what: "Engine", where: "Wexcombe Machining", until: "2026-10-20" }],
  decisions: [],
  photos: [],
  body: { style: "coupe", dimensions: { lengthMm: 5160, widthMm: 1700, wheelbaseMm: 2850 }, panels: [] },
  lines: {},
  ...change,
});

const show = (p: Schemas["ReportPage"]) => render(<ReportView page={p} body={body} photo={(h) => `/photo/${h}`} />);

beforeEach(() => takeShopWays({ timeZone: "UTC", currency: "GBP" }, "2026-10-13T09:00:00Z"));
afterEach(cleanup);

describe("the client's page", () => {
  it("says the money to the cent and what is in hand", () => {
    show(page());
    expect(screen.getByRole("row", { name: /Labour £1,000.00 £640.50/ })).toBeTruthy();
    expect(screen.getByRole("row", { name: /Total £1,200.00 £880.50/ })).toBeTruthy();
    expect(screen.getByRole("row", { name: "Your credit £143.40" })).toBeTruthy();
  });
  it("gives the likely and the promised day in words for those who do not see the picture", () => {
    show(page());
    expect(screen.getByRole("img", { name: "likely ready 19 Dec, promised 15 Dec" })).toBeTruthy();
    expect(screen.getByText(/Engine, from Wexcombe Machining, here 20 Oct/)).toBeTruthy();
    expect(screen.getByText("Nothing is planned.")).toBeTruthy();
  });
  it("says that there is no day yet, and names no mark that is not drawn", () => {
    show(page({ likely: null, inTenBy: null, promised: null, milestones: [], decisions: [] }));
    expect(screen.getByText(/No day can be said yet/)).toBeTruthy();
    expect(screen.queryByText(/Upright mark/)).toBeNull();
    cleanup();
    show(page({ likely: null, inTenBy: null, promised: "2026-12-15", milestones: [], decisions: [] }));
    expect(screen.getByText(/A likely day cannot be said yet.*Flag: the day that was promised/)).toBeTruthy();
    expect(screen.getByRole("img", { name: "no date yet, promised 15 Dec" })).toBeTruthy();
  });
  it("shows a decision with the dates both ways and whom to call", () => {
    show(
      page({
        decisions: [
          {
            question: "Cut out the floor?",
            detail: "Too thin to weld.",
            dueOn: "2026-10-22",
            adds: 1184,
            likelyNow: "2026-12-19",
            likelyOpen: "2027-01-02",
            call: "Sunniva Roake",
            phone: "0555 200 100",
          },
        ],
      }),
    );
    expect(screen.getByText(/by Thu,? 22 Oct/)).toBeTruthy();
    expect(screen.getByRole("row", { name: /Adds to the estimate, without tax £1,184.00/ })).toBeTruthy();
    expect(screen.getByRole("row", { name: /with no answer until then 2 Jan 2027/ })).toBeTruthy();
    expect(screen.getByRole("link", { name: "0555 200 100" }).getAttribute("href")).toBe("tel:0555200100");
  });
  it("tells what was adjusted since the report before", () => {
    show(
      page({
        adjusted: [
          { report: 1, what: "hours", minutes: -90, amount: null },
          { report: 1, what: "labour", minutes: null, amount: -81 },
        ],
      }),
    );
    const list = within(screen.getByText("Adjusted since report 1").parentElement as HTMLElement);
    expect(list.getByText("hours: −1:30 h")).toBeTruthy();
    expect(list.getByText("labour: −£81.00")).toBeTruthy();
  });
  it("promises nothing about safety or lasting", () => {
    show(page());
    expect(screen.getByText(/Dates are likely ones and no promise/)).toBeTruthy();
  });
  it("keeps a caption as text", () => {
    show(
      page({
        photos: [
          { id: "p", hash: "h", thumbHash: "t", width: 4, height: 3, caption: "<b>bold</b>", by: "Wil", takenAt: "2026-10-12T09:00:00Z" },
        ],
      }),
    );
    expect(screen.getByRole("img", { name: "<b>bold</b>" }).getAttribute("src")).toBe("/photo/h");
  });
  const asked = (change: Partial<Schemas["PageDecision"]> = {}): Schemas["PageDecision"] => ({
    question: "Cut out the floor?",
    detail: "Too thin to weld.",
    dueOn: "2026-10-19",
    adds: 1184,
    likelyNow: "2026-12-19",
    likelyOpen: "2027-01-02",
    call: "Sunniva Roake",
    phone: "0555 200 100",
    photo: null,
    ...change,
  });
  it("draws the day it is ready twice where an answer moves it", () => {
    const p = page({ decisions: [asked()] });
    expect(casesOf(p).map((c) => [c.words, c.on])).toEqual([
      ["You answer today", "2026-12-19"],
      ["No answer until Mon 19 Oct", "2027-01-02"],
    ]);
    show(p);
    expect(
      screen.getByRole("img", { name: /you answer today: likely ready 19 Dec, no answer until mon 19 oct: likely ready 2 Jan 2027/ }),
    ).toBeTruthy();
    expect(casesOf(page({ decisions: [asked({ likelyOpen: "2026-12-19" })] })).map((c) => c.on)).toEqual(["2026-12-19"]);
    expect(casesOf(page({ likely: null }))).toEqual([]);
  });
  it("shows the photo of a question beside its words", () => {
    const photo = {
      id: "p",
      hash: "abc",
      thumbHash: "abd",
      width: 1200,
      height: 800,
      caption: "Underseal off",
      by: "Wil",
      takenAt: "2026-10-11T15:20:00Z",
    };
    show(page({ decisions: [asked({ photo })] }));
    expect(screen.getByRole("img", { name: "Underseal off" }).getAttribute("src")).toBe("/photo/abc");
  });
  it("tells what the panels wear in words too", () => {
    const wears = (panel: string, coat: Schemas["Coat"], held: Schemas["Held"] = "dressed") => ({
      panel,
      coat,
      held,
      coats: [coat],
      zones: [],
      replace: false,
      newMetal: false,
      temporaryMetal: [],
    });
    const panels = [wears("bonnet", "blocked"), wears("roof", "blocked"), wears("nose", "filler"), wears("doorL", "epoxy", "away")];
    show(page({ body: { ...page().body, panels } }));
    expect(screen.getByText(/Panels: 1 filler, 2 blocked, 1 away\./)).toBeTruthy();
  });
});
