import { act, cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { queries, shopQuery } from "../api/queries";
import { bodyOf, draw, press, problem, server, signIn, station, type, written } from "../testing";
import { DrawPlan } from "./DrawPlan";
import { ShopPage } from "./ShopPage";

const settings: Schemas["SettingsBody"] = {
  name: "Kettle Quay Coachworks",
  place: "Port Hallow",
  phone: "0555 200 100",
  currency: "GBP",
  timeZone: "Europe/London",
  units: "metric",
  taxRates: { labour: 20, parts: 20, outside: 20, materials: 5 },
  partTiers: [
    { upTo: 100, percent: 30 },
    { upTo: null, percent: 15 },
  ],
  outsideMarkup: 10,
  materialsMarkup: 20,
  consumablesPercent: 6,
  consumablesCap: 400,
  rounding: "none",
  overtimeAfterHours: 8,
  overtimeMultiplier: 1.5,
  delayPerDay: 36,
  sheets: [{ gaugeMm: 1.2, widthMm: 1250, heightMm: 2500, price: 96.4 }],
  planWidthMm: 25000,
  planDepthMm: 20000,
  week: [{ day: "monday", from: "07:30:00", to: "16:00:00", breaks: [{ from: "12:00:00", to: "12:30:00" }] }],
  version: 3,
} as Schemas["SettingsBody"];
const wil = {
  id: "wil",
  name: "Wil Aske",
  trades: ["paint"],
  active: true,
  rates: [
    { from: "2025-01-01", cost: 24, billing: 58 },
    { from: "2026-12-01", cost: 26, billing: 64 },
  ],
  absences: [],
  terms: {},
  version: 2,
} as unknown as Schemas["PersonView"];
const shop = {
  settings,
  people: [wil],
  stations: [{ ...station("s1", "Lift", "lift", 0), doorHeightMm: 3200 }],
  suppliers: [{ id: "mar", name: "Marram Finishers", what: "colour", freightDays: ["tuesday", "thursday"], workDays: [], version: 1 }],
  closedDays: [{ date: "2026-12-25", reason: "Christmas" }],
  layout: { walls: [], doors: [] },
  racks: [{ name: "Loft", shelves: 3, trays: 8 }],
  jobs: ["Cleaning"],
  vehiclePlaces: ["lift"],
  always: [{ one: "hotWork", other: "heavy", why: "lifted", onOneVehicle: true }],
  plan: { things: [{ name: "carrier", count: 2 }], air: [], supports: [{ state: "cart", rolls: true, liftMm: 450 }], doorMarginMm: 40 },
} as unknown as Schemas["ShopView"];

beforeEach(() => {
  queries.clear();
  signIn("manager", { now: "2026-10-13T09:42:00Z" });
  queries.setQueryData(shopQuery.queryKey, shop);
  queries.setQueryData(["accounts"], []);
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("the shop", () => {
  it("tells how it works in words: tax, tiers, the week, who costs what today", () => {
    draw(<ShopPage />);
    expect(screen.getByText("labour 20 %, parts 20 %, outside 20 %, materials 5 %")).toBeTruthy();
    expect(screen.getByText("to £100.00 30 %, above 15 %")).toBeTruthy();
    expect(screen.getByText("07:30 to 16:00, break 12:00 to 12:30")).toBeTruthy();
    expect(screen.getByText("£58.00")).toBeTruthy();
    expect(screen.getByText(/6.7 x 4.45 m/).textContent).toBe("6.7 x 4.45 m, door 3.2 m high");
    expect(screen.getByText("Tue, Thu")).toBeTruthy();
  });

  it("shows places in feet in a US shop", () => {
    signIn("manager", { now: "2026-10-13T09:42:00Z", units: "us" });
    draw(<ShopPage />);
    expect(screen.getByText(/22 x 14.6 ft/).textContent).toBe("22 x 14.6 ft, door 10.5 ft high");
  });

  it("saves the settings with the version that was seen and shows a refusal at its field", async () => {
    const sent = server(problem("timeZone", "There is no such time zone."));
    draw(<ShopPage />);
    fireEvent.click(within(screen.getByRole("region", { name: "Settings" })).getByRole("button", { name: "Change" }));
    type("Time zone", "Vessay/Hallow");
    press("Save");
    expect((await screen.findByRole("alert")).textContent).toBe("There is no such time zone.");
    expect(sent[0]).toMatchObject({ method: "PUT", url: "/api/shop/settings", body: { timeZone: "Vessay/Hallow", version: 3 } });
  });

  it("adds a shift and a break to the week, and takes one away", async () => {
    const sent = server();
    draw(<ShopPage />);
    press("Change the week");
    fireEvent.click(screen.getAllByRole("button", { name: "Remove" })[0] as HTMLElement);
    press("Add a shift");
    fireEvent.click(screen.getAllByRole("button", { name: "Add a break" })[1] as HTMLElement);
    press("Save");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(bodyOf<Schemas["SettingsBody"]>(sent).week).toEqual([
      { day: "monday", from: "07:30:00", to: "16:00:00", breaks: [] },
      { day: "saturday", from: "08:00:00", to: "12:00:00", breaks: [{ from: "12:00:00", to: "12:30:00" }] },
    ]);
  });

  it("gives a rate from a day on, starting from the last one", async () => {
    const sent = server();
    draw(<ShopPage />);
    press("Rate of Wil Aske");
    expect(written("Billed, per hour, net")).toBe("64");
    expect(screen.getByText("from 1 Dec: £64.00, costs £26.00")).toBeTruthy();
    type("From", "2027-01-01");
    type("Billed, per hour, net", "66.5");
    press("Save");
    await waitFor(() => expect(bodyOf(sent)).toEqual({ from: "2027-01-01", cost: 26, billing: 66.5 }));
  });

  it("gives a person a trade and takes one away", async () => {
    const sent = server();
    draw(<ShopPage />);
    press("Edit Wil Aske");
    fireEvent.click(screen.getByLabelText("paint"));
    fireEvent.click(screen.getByLabelText("body"));
    press("Save");
    await waitFor(() => expect(bodyOf(sent)).toEqual({ name: "Wil Aske", trades: ["body"], active: true, version: 2 }));
  });

  it("notes when somebody is away", async () => {
    const sent = server();
    draw(<ShopPage />);
    press("Absences of Wil Aske");
    fireEvent.click(within(screen.getByRole("dialog")).getByRole("button", { name: "Add" }));
    type("From", "2026-10-20T07:30");
    type("Why", "fair");
    press("Save");
    await waitFor(() =>
      expect(bodyOf(sent)).toEqual({ absences: [{ from: "2026-10-20T07:30:00", to: "2026-10-13T23:59:00", reason: "fair" }] }),
    );
  });

  it("draws a place also when the machine is too busy to draw between the moves of the hand", async () => {
    const sent = server();
    draw(<DrawPlan shop={shop} />);
    const ground = document.querySelector("svg > rect") as Element;
    const hand = (kind: string, x: number, y: number) => fireEvent(ground, new MouseEvent(kind, { bubbles: true, clientX: x, clientY: y }));
    act(() => {
      hand("pointerdown", 1000, 1000);
      hand("pointermove", 4000, 3000);
      hand("pointerup", 7500, 5500);
    });
    await waitFor(() => expect(bodyOf(sent)).toMatchObject({ xMm: 1000, yMm: 1000, widthMm: 6500, depthMm: 4500 }));
  });

  it("moves a station and says which size the plan refuses", async () => {
    const sent = server(problem("xMm", "The station reaches beyond the shop's plan."));
    draw(<ShopPage />);
    press("Edit Lift");
    type("From the left of the plan, mm", "24000");
    press("Save");
    expect((await screen.findByRole("alert")).textContent).toBe("The station reaches beyond the shop's plan.");
    expect(bodyOf(sent)).toMatchObject({ name: "Lift", kind: "lift", xMm: 24000, widthMm: 6700, doorHeightMm: 3200, version: 1 });
  });

  it("keeps a supplier's freight days", async () => {
    const sent = server();
    draw(<ShopPage />);
    press("Edit Marram Finishers");
    fireEvent.click(screen.getAllByLabelText("Tuesday")[0] as HTMLElement);
    fireEvent.click(screen.getAllByLabelText("Monday")[1] as HTMLElement);
    press("Save");
    await waitFor(() =>
      expect(bodyOf(sent)).toEqual({
        name: "Marram Finishers",
        what: "colour",
        freightDays: ["thursday"],
        workDays: ["monday"],
        terms: { closed: [], visitsFrom: null, visitsTo: null, opensForThem: false },
        version: 1,
      }),
    );
  });

  it("keeps a person's pace, own hours and what they are not given", async () => {
    const sent = server();
    draw(<ShopPage />);
    press("Hours and pace of Wil Aske");
    type(/A likely hour takes/, "1.25");
    press("Own hours");
    fireEvent.click(screen.getByLabelText("hot work"));
    press("Save");
    await waitFor(() => expect(sent[0]?.url).toBe("/api/shop/people/wil/terms"));
    expect(sent[0]?.body).toEqual({
      terms: { pace: 1.25, hours: [{ from: "2026-10-13", week: settings.week }], notGiven: ["hotWork"], slots: [] },
      version: 2,
    });
  });

  it("closes a station past its inspection", async () => {
    const sent = server();
    draw(<ShopPage />);
    press("Use of Lift");
    type("Inspected until", "2026-11-30");
    type("What is inspected", "lift");
    press("Save");
    await waitFor(() => expect(sent[0]?.url).toBe("/api/shop/stations/s1/terms"));
    expect(sent[0]?.body).toMatchObject({ terms: { inspectedUntil: "2026-11-30", inspected: "lift", closed: [] } });
  });

  it("keeps shared things and the rules of the air", async () => {
    const sent = server(problem("things", "Each shared thing stands once."));
    draw(<ShopPage />);
    expect(screen.getByText("2 carrier")).toBeTruthy();
    expect(screen.getByText("hot work and heavy")).toBeTruthy();
    fireEvent.click(within(screen.getByRole("region", { name: "Plan rules" })).getByRole("button", { name: "Change" }));
    press("A shared thing");
    press("Another rule");
    press("Work that needs room");
    press("Save");
    expect((await screen.findAllByRole("alert"))[0]?.textContent).toBe("Each shared thing stands once.");
    expect(sent[0]?.body).toMatchObject({
      plan: {
        things: [
          { name: "carrier", count: 2 },
          { name: "", count: 1 },
        ],
        air: [{ one: "grinding", other: "wetCoat", why: "", onOneVehicle: false }],
        crowds: [{ work: "blasting", closes: "prep", count: 1 }],
      },
      version: 3,
    });
  });

  it("closes a day and opens one again", async () => {
    const sent = server();
    draw(<ShopPage />);
    press("Open on 2026-12-25");
    await waitFor(() => expect(sent[0]).toMatchObject({ method: "DELETE", url: "/api/shop/closed-days/2026-12-25" }));
    fireEvent.click(within(screen.getByRole("region", { name: "Calendar" })).getByRole("button", { name: "Add" }));
    type("Day", "2026-12-28");
    type("Why", "stock take");
    press("Save");
    await waitFor(() =>
      expect(sent[1]).toMatchObject({ method: "PUT", url: "/api/shop/closed-days/2026-12-28", body: { reason: "stock take" } }),
    );
  });

  it("makes an account for a person, and says what is wrong with a password", async () => {
    const sent = server(problem("password", "At least twelve characters."));
    draw(<ShopPage />);
    press("Add an account");
    type("Name to sign in with", "wil");
    type("Person of the shop", "wil");
    type("Password, twelve characters or more", "short");
    press("Save");
    expect((await screen.findByRole("alert")).textContent).toBe("At least twelve characters.");
    expect(bodyOf(sent)).toMatchObject({ user: "wil", role: "technician", personId: "wil" });
  });
});
