// Takes one picture of each main view of a running demo shop. Usage: node scripts/shots.mjs URL FOLDER [NAME...]
import { createRequire } from "node:module";
import { mkdirSync } from "node:fs";

const require = createRequire(new URL("../web/package.json", import.meta.url));
const { chromium } = require("@playwright/test");
const [base, folder, ...only] = process.argv.slice(2);
mkdirSync(folder, { recursive: true });
const desk = { width: 1280, height: 800 };
const phone = { width: 390, height: 844 };
const password = "kettle-quay-demo";

const views = [
  { name: "floor", who: "sunniva", size: desk, go: "/" },
  { name: "plan", who: "sunniva", size: desk, go: "/plan" },
  { name: "week", who: "sunniva", size: desk, go: "/plan/week" },
  { name: "build", who: "sunniva", size: desk, go: "/builds/41" },
  { name: "arrival", who: "sunniva", size: desk, go: "/builds/46/arrival" },
  { name: "estimate", who: "sunniva", size: desk, go: "/builds/45/estimate" },
  { name: "teardown", who: "sunniva", size: desk, go: "/builds/43/teardown", tap: [/^Right front door/] },
  { name: "survey", who: "sunniva", size: desk, go: "/builds/45/survey" },
  { name: "find", who: "wil", size: phone, go: "/find/41", tap: ["R quarter", "Rust", "goes through"] },
  { name: "bags", who: "sunniva", size: desk, go: "/builds/41/bags", tap: [/^Tray C3/] },
  { name: "sequence", who: "sunniva", size: desk, go: "/builds/43/sequence" },
  { name: "fit-up", who: "sunniva", size: desk, go: "/builds/41/gaps" },
  { name: "datum", who: "sunniva", size: desk, go: "/builds/43/datum" },
  { name: "bench", who: "sunniva", size: desk, go: "/bench/wheel?build=41" },
  { name: "parts", who: "iben", size: desk, go: "/builds/41/parts" },
  { name: "outside", who: "iben", size: desk, go: "/builds/41/outside" },
  { name: "money", who: "sunniva", size: desk, go: "/builds/41/money" },
  { name: "clock", who: "wil", size: phone, go: "/clock" },
  { name: "report", who: "sunniva", size: desk, private: 41 },
];

const browser = await chromium.launch({
  executablePath: "/usr/bin/chromium",
  args: ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--disable-component-update", "--disable-sync", "--no-first-run"],
});
const contexts = new Map();
async function as(user, size) {
  const key = `${user} ${size.width}`;
  if (!contexts.has(key)) {
    const context = await browser.newContext({ viewport: size, reducedMotion: "reduce", locale: "en-GB" });
    const page = await context.newPage();
    await page.goto(`${base}/sign-in`);
    await page.getByLabel("Name").fill(user);
    await page.getByLabel("Password").fill(password);
    await page.getByRole("button", { name: "Sign in" }).click();
    await page.waitForURL((u) => !u.pathname.startsWith("/sign-in"));
    contexts.set(key, page);
  }
  return contexts.get(key);
}

for (const view of views) {
  if (only.length > 0 && !only.includes(view.name)) continue;
  const page = await as(view.who, view.size);
  const errors = [];
  page.on("pageerror", (e) => errors.push(String(e)));
  page.on("console", (m) => m.type() === "error" && errors.push(m.text()));
  if (view.private) {
    await page.goto(`${base}/builds/${view.private}/client`);
    await page.getByRole("button", { name: /Make a link/ }).click({ timeout: 8000 });
    const link = await page.getByText("Shown this once").getByRole("link").getAttribute("href");
    await page.goto(link);
    await page.getByRole("heading", { level: 1 }).waitFor();
  } else {
    await page.goto(base + view.go);
  }
  for (const name of view.tap ?? []) await page.getByRole("button", { name, exact: typeof name === "string" }).first().click();
  if (view.choose) await page.getByRole("listbox").getByRole("option", { name: view.choose }).click();
  await page.waitForLoadState("networkidle").catch(() => undefined);
  await page.evaluate(() => document.fonts.ready);
  await page.waitForTimeout(900);
  await page.screenshot({ path: `${folder}/${view.name}.png` });
  console.log(view.name, errors.length > 0 ? errors.slice(0, 3) : "ok");
  page.removeAllListeners("pageerror");
  page.removeAllListeners("console");
}
await browser.close();
