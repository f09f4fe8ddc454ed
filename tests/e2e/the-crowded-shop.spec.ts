import { randomUUID } from "node:crypto";
import { expect, type Page, test } from "@playwright/test";
import ICAL from "ical.js";
import { accessible, fitsEveryPage, openShop, pageOf, send, shopOf, signIn } from "./shop";

// A shop with fourteen builds, long names and a full yard: every page still fits.

test.describe.configure({ mode: "serial" });

let desk: Page;

test.beforeAll(async ({ browser }) => {
  [, desk] = await pageOf(browser, { width: 1280, height: 800 }, shopOf("CROWD").url);
  await openShop(desk);
});

const LONG = ["Bartholomew Featherstonehaugh-Winterbourne", "The Trustees of the Lower Marsh Carriage Collection", "Ingeborg Ylva Kristoffersdottir Lindqvist"];
/** Promised for two that stand so far behind in the queue that they are late. */
const SOON = "2026-10-20";
const STYLES = [
  ["threeBox", 4200, 1620, 2540],
  ["hatch", 3450, 1560, 2200],
  ["wagon", 4600, 1790, 2650],
  ["van", 5600, 1950, 3300],
  ["estate", 4700, 1690, 2700],
  ["coupe", 3900, 1580, 2350],
] as const;

test("fourteen builds come, six of them into one yard", async () => {
  const yard = randomUUID();
  await send(desk, "PUT", `/api/shop/stations/${yard}`, { name: "The long yard behind the hall", kind: "yard", count: 9, xMm: 0, yMm: 12000, widthMm: 25000, depthMm: 4000, doorHeightMm: null, walled: false, version: null });
  for (let i = 0; i < 14; i++) {
    const [style, lengthMm, widthMm, wheelbaseMm] = STYLES[i % STYLES.length] ?? STYLES[0];
    await send(desk, "POST", "/api/builds", {
      id: randomUUID(),
      number: 1000 + i,
      clientName: LONG[i % LONG.length],
      clientEmail: "",
      clientPhone: "",
      vehicle: { make: "Constantinople-Halloway", model: "Grand Continental Touring", year: 1957, style, construction: "separateChassis", identification: `C${i}`, colourName: "Deep Evening Aubergine Metallic", colourHex: "#4A2F4F", dimensions: { lengthMm, widthMm, wheelbaseMm } },
      brief: { grade: "show", originality: "original", promised: i < 12 ? "2027-06-01" : SOON, budget: null, milestones: [] },
      contract: { kind: "timeAndMaterials", price: null, stages: null, donePercent: 100, retentionPercent: 0, retentionReleased: false },
      estimate: { labour: 41000, parts: 9500, outside: 12000, materials: 3100 },
      template: "small-work",
      scale: 1,
      priority: i < 12 ? i + 3 : i + 60,
      fillIn: false,
      stationId: i < 6 ? yard : null,
      clientId: null,
    });
  }
  await desk.goto("/");
  await expect(desk.getByRole("group", { name: /Plan of the shop/ }).getByRole("link")).not.toHaveCount(0);
  await expect(desk.getByRole("link", { name: /^Build 10\d\d/ })).toHaveCount(6);
  await accessible(desk, "crowded floor");
});

for (const width of [390, 1280]) {
  test(`fourteen builds with long names fit a screen of ${width}`, async () => fitsEveryPage(desk, width, 1000, width === 1280));
}

test("a week is committed and counted, by keyboard and by pointer, and two look at it at once", async ({ browser }) => {
  await desk.setViewportSize({ width: 1280, height: 800 });
  await desk.goto("/plan/week");
  await expect(desk.getByText(/12 Oct to 16 Oct, not committed yet/)).toBeVisible();
  await accessible(desk, "the week");
  const [, other] = await pageOf(browser, { width: 1280, height: 800 }, shopOf("CROWD").url);
  await signIn(other, "mara");
  await other.waitForURL((u) => !u.pathname.startsWith("/sign-in"));
  await other.goto("/plan/week");

  // By keyboard: the button, then the first promise is left out, then the sheet is sent.
  await desk.getByRole("button", { name: "Commit the week" }).focus();
  await desk.keyboard.press("Enter");
  const sheet = desk.getByRole("dialog");
  const promises = sheet.getByRole("checkbox");
  await expect(promises.first()).toBeVisible();
  const offered = await promises.count();
  await accessible(desk, "committing the week");
  await promises.first().focus();
  await desk.keyboard.press("Space");
  await sheet.getByRole("button", { name: /^Commit \d+ promise/ }).focus();
  await desk.keyboard.press("Enter");
  await expect(desk.getByText(new RegExp(`committed Fri 16 Oct .* ${offered - 1} promises?: 0 kept`))).toBeVisible();
  // The other window is in step.
  await expect(other.getByText(/committed Fri 16 Oct/)).toBeVisible();
  await other.context().close();

  // By pointer: counted, with a reason for each that was not kept.
  await desk.getByRole("button", { name: "Count the week" }).click();
  await expect(sheet.getByRole("button", { name: "Count it" })).toBeVisible();
  await sheet.getByRole("button", { name: "Count it" }).click();
  await expect(sheet.getByRole("alert").first()).toContainText("Say why");
  for (const why of await sheet.getByPlaceholder("why not").all()) await why.fill("part not here");
  await accessible(desk, "counting the week");
  await sheet.getByRole("button", { name: "Count it" }).click();
  await expect(desk.getByText(/counted Fri 16 Oct\./)).toBeVisible();
  await expect(desk.getByRole("region", { name: /^Why not/ })).toContainText(`part not here${offered - 1}`);
  await accessible(desk, "the week when it is counted");

  // Sheets for the wall.
  await desk.getByRole("link", { name: "Sheets to print" }).click();
  await expect(desk.getByRole("article").first()).toContainText("Promised");
  await accessible(desk, "sheets of the week");
  for (const format of ["A4", "Letter"] as const) expect((await desk.pdf({ format })).length).toBeGreaterThan(5000);
});

test("a calendar program of another maker reads the plan by its address, until that is closed", async ({ playwright }) => {
  await desk.goto("/plan/week");
  await desk.getByRole("button", { name: "Calendars" }).click();
  const sheet = desk.getByRole("dialog");
  await sheet.getByRole("button", { name: /^Make an address: / }).first().click();
  const address = await sheet.getByLabel(/^The address for/).inputValue();
  await accessible(desk, "calendars");
  const stranger = await playwright.request.newContext();
  const answer = await stranger.get(address);
  expect(answer.ok()).toBe(true);
  expect(answer.headers()["content-type"]).toContain("text/calendar");
  const calendar = new ICAL.Component(ICAL.parse(await answer.text()));
  const events = calendar.getAllSubcomponents("vevent").map((v) => new ICAL.Event(v));
  expect(events.length).toBeGreaterThan(0);
  for (const e of events) {
    expect(e.summary).toMatch(/^10\d\d /);
    expect(e.endDate.compare(e.startDate)).toBe(1);
    expect(e.uid).toContain("@first-coat");
  }
  await sheet.getByRole("button", { name: /^Close the address of/ }).first().click();
  await expect(sheet.getByRole("button", { name: /^Close the address of/ })).toHaveCount(0);
  expect((await stranger.get(address)).status()).toBe(404);
  await stranger.dispose();
});

test("how a build will run is chosen by keyboard before it is opened, and by pointer when it is there", async () => {
  const trades = ["strip", "metal", "body", "paint", "mechanic", "electric", "trim", "hand"];
  for (const name of ["Ottilie Varnham", "Rurik Saltmarsh"])
    await send(desk, "PUT", `/api/shop/people/${randomUUID()}`, { name, trades, active: true, version: null });
  for (const [i, kind] of ["lift", "jig", "blast", "prep", "booth", "bench"].entries())
    await send(desk, "PUT", `/api/shop/stations/${randomUUID()}`, { name: `The ${kind}`, kind, count: 1, xMm: 4000 * i, yMm: 5000, widthMm: 3900, depthMm: 6500, doorHeightMm: null, walled: false, version: null });
  await desk.goto("/builds/new");
  await desk.getByLabel("Name").fill("Tove Aldersyde");
  await desk.getByLabel("Make").fill("Heron");
  await desk.getByLabel("Model").fill("Seven");
  await desk.getByRole("button", { name: "See what each choice changes" }).click();
  const list = desk.getByRole("listbox", { name: "How it could run" });
  await expect(list.getByRole("option", { name: /^Paint, then assemble, chosen/ })).toBeVisible();
  await expect(desk.getByRole("img", { name: /^As chosen: \d+ operations to come/ })).toBeVisible();
  await list.focus();
  await desk.keyboard.press("ArrowDown");
  await desk.keyboard.press("ArrowDown");
  await expect(desk.getByRole("img", { name: /Trying: drive first, then paint/ })).toBeVisible();
  await accessible(desk, "how it will run");
  await desk.keyboard.press("Enter");
  await expect(list.getByRole("option", { name: /^Drive first, then paint, chosen/ })).toBeVisible();
  await desk.getByRole("button", { name: "Back to the form" }).click();
  await expect(desk.getByLabel("Template")).toHaveValue("drive-first");
  await expect(desk.getByLabel("Make")).toHaveValue("Heron");
  await desk.getByRole("button", { name: "Open the build" }).click();
  await desk.waitForURL(/\/builds\/\d+$/);

  const number = Number(desk.url().split("/").at(-1));
  const builds = async () => (await desk.request.get("/api/builds")).json();
  const id = (await builds()).find((b: { number: number }) => b.number === number).id;
  const names = async () => (await (await desk.request.get(`/api/builds/${id}/operations`)).json()).map((o: { name: string }) => o.name);
  const before: string[] = await names();
  await desk.goto(`/builds/${number}/sequence`);
  await desk.getByRole("button", { name: "How it runs" }).click();
  await list.getByRole("option", { name: /^Paint, then assemble/ }).click();
  await desk.getByRole("button", { name: "Take it" }).click();
  const changes = desk.getByRole("region", { name: "What it changes in the sequence" });
  await expect(changes.getByText(/^Removed, \d/)).toBeVisible();
  await accessible(desk, "what another way changes");
  expect(await names()).toEqual(before);
  await changes.getByRole("button", { name: "Run it so" }).click();
  await expect(desk.getByRole("button", { name: "How it runs" })).toBeVisible();
  const after: string[] = await names();
  expect(after.length).toBeLessThan(before.length);
  await desk.getByRole("button", { name: "How it runs" }).click();
  await expect(list.getByRole("option", { name: /^Paint, then assemble, chosen/ })).toBeVisible();
  // Back is the sequence again.
  await desk.goBack();
  await expect(list).toBeHidden();
});

type Card = { id: string; number: number; planned: string | null };
const planned = async (number: number) =>
  ((await (await desk.request.get("/api/builds")).json()) as Card[]).find((b) => b.number === number)?.planned ?? null;

test("a better order is looked at for two builds before it counts, taken, and undone", async () => {
  const before = await planned(1013);
  await desk.goto("/plan");
  await desk.getByRole("button", { name: "A better order" }).focus();
  await desk.keyboard.press("Enter");
  const sheet = desk.getByRole("dialog");
  await sheet.getByRole("button", { name: /^Look for \d+ seconds/ }).click();
  await expect(sheet.getByRole("progressbar")).toBeVisible();
  const rows = sheet.getByRole("checkbox", { name: /^Take it for build \d+/ });
  await expect(rows.first()).toBeVisible({ timeout: 120_000 });
  await accessible(desk, "a better order on offer");
  for (const row of await rows.all())
    if (!/ 101[23]$/.test((await row.getAttribute("aria-label")) ?? "")) {
      await row.focus();
      await desk.keyboard.press("Space");
    }
  await sheet.getByRole("button", { name: "Show what comes of it for 1012, 1013" }).click();
  await expect(sheet.getByText("Taken for 1012, 1013 only")).toBeVisible({ timeout: 60_000 });
  expect(await planned(1013)).toBe(before); // nothing counts by looking
  await sheet.getByRole("button", { name: "Take this order for 1012, 1013" }).focus();
  await desk.keyboard.press("Enter");
  await expect(sheet.getByText(/The order in force was taken by Mara Vane/)).toBeVisible();
  await expect.poll(async () => ((await planned(1013)) ?? "9") < (before ?? "")).toBe(true);
  await sheet.getByRole("button", { name: "Undo it" }).click();
  await expect.poll(async () => await planned(1013)).toBe(before);
});

test("two days of blasting become one, and go back to two", async () => {
  const builds: Card[] = await (await desk.request.get("/api/builds")).json();
  const add = async (number: number, name: string, change: object) => {
    const [id, build] = [randomUUID(), builds.find((b) => b.number === number)?.id];
    await send(desk, "PUT", `/api/builds/${build}/operations/${id}`, { name, stage: "strip", kind: "work", trade: "strip", budgetMinutes: 240, station: "blast", personId: null, panels: [], coat: null, held: null, withoutStop: false, gate: null, hazard: null, clockMinutes: 0, after: [], position: null, version: null, ...change });
    return id;
  };
  await add(1000, "Blast the wings", {});
  const weld = await add(1001, "Weld the floor", { trade: "metal", station: null, budgetMinutes: 1800 });
  await add(1001, "Blast the doors", { after: [{ operation: weld, lagMinutes: 0 }] });
  await desk.goto("/plan");
  await desk.getByRole("button", { name: "Done together" }).click();
  const sheet = desk.getByRole("dialog");
  const blasting = sheet.getByRole("listitem", { name: "Blasting" }).first();
  await expect(blasting.getByRole("heading")).toHaveText(/^Blasting: made ready \d+ times? instead of \d+$/);
  await expect(blasting).toContainText(/Planned finishes: |No build’s planned finish moves/);
  await accessible(desk, "work that could be done together");
  const said = await blasting.getByRole("heading").textContent();
  await blasting.getByRole("button", { name: "Do it together: Blasting" }).focus();
  await desk.keyboard.press("Enter");
  await expect(sheet.getByText(/^Done together: blasting, /)).toBeVisible();
  await sheet.getByRole("button", { name: "Take it back" }).click();
  await expect(sheet.getByText(/^Done together: /)).toBeHidden();
  await expect(sheet.getByRole("listitem", { name: "Blasting" }).getByText(said ?? "")).toBeVisible();
});

test("a gate is opened without its signature, by pointer and by keyboard, and the reason stays", async () => {
  const [last] = ((await (await desk.request.get("/api/builds")).json()) as Card[]).filter((b) => b.number < 1000 || b.number > 1013);
  await desk.goto(`/builds/${last?.number}/sequence`);
  const open = desk.getByRole("button", { name: /^Open without signature: / });
  const sheet = desk.getByRole("dialog");
  await expect(open.first()).toBeVisible();
  const gates = await open.count();
  await open.first().click();
  await sheet.getByRole("button", { name: "Open the gate" }).click();
  await expect(sheet.getByRole("alert").first()).toBeVisible(); // no reason, no way through
  await sheet.getByLabel("Reason").fill("The client saw it and drives it as it is");
  await sheet.getByRole("button", { name: "Open the gate" }).click();
  // It is done now, and stands with the done work.
  await desk.getByRole("button", { name: /^Show the .* done$/ }).click();
  await expect(desk.getByText(/opened by Mara Vane, .*: The client saw it and drives it as it is/)).toBeVisible();
  await open.first().focus();
  await desk.keyboard.press("Enter");
  await sheet.getByLabel("Reason").focus();
  await desk.keyboard.type("Read off the drawing of the first side");
  await desk.keyboard.press("Tab");
  await desk.keyboard.press("Enter");
  await expect(desk.getByText(/opened by Mara Vane, .*: Read off the drawing of the first side/)).toBeVisible();
  await desk.reload();
  await desk.getByRole("button", { name: /^Show the .* done$/ }).click();
  await expect(desk.getByText(/The client saw it and drives it as it is/).first()).toBeVisible();
  await expect(open).toHaveCount(gates - 2);
});
