import { randomUUID } from "node:crypto";
import { expect, type Page, test } from "@playwright/test";
import { accessible, fitsEveryPage, openShop, pageOf, send, shopOf } from "./shop";

// A shop with fourteen builds, long names and a full yard: every page still fits.

test.describe.configure({ mode: "serial" });

let desk: Page;

test.beforeAll(async ({ browser }) => {
  [, desk] = await pageOf(browser, { width: 1280, height: 800 }, shopOf("CROWD").url);
  await openShop(desk);
});

const LONG = ["Bartholomew Featherstonehaugh-Winterbourne", "The Trustees of the Lower Marsh Carriage Collection", "Ingeborg Ylva Kristoffersdottir Lindqvist"];
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
      brief: { grade: "show", originality: "original", promised: "2027-06-01", budget: null, milestones: [] },
      contract: { kind: "timeAndMaterials", price: null, stages: null, donePercent: 100, retentionPercent: 0, retentionReleased: false },
      estimate: { labour: 41000, parts: 9500, outside: 12000, materials: 3100 },
      template: "small-work",
      scale: 1,
      priority: i + 3,
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
