// Opens a shop's first page as somebody does in the morning, on a processor a quarter as fast, and says how long it takes
// until it can be used, and how much script is sent. Usage: node scripts/first-page.mjs URL USER PASSWORD [ROUNDS]
import { createRequire } from "node:module";

const require = createRequire(new URL("../web/package.json", import.meta.url));
const { chromium } = require("@playwright/test");
const [base, user, password, rounds = "5"] = process.argv.slice(2);

const browser = await chromium.launch({
  executablePath: "/usr/bin/chromium",
  args: ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--disable-component-update", "--disable-sync", "--no-first-run"],
});
const signing = await browser.newContext();
const page = await signing.newPage();
await page.goto(`${base}/sign-in`);
await page.getByLabel("Name").fill(user);
await page.getByLabel("Password").fill(password);
await page.getByRole("button", { name: "Sign in" }).click();
await page.waitForURL(`${base}/`);
const state = await signing.storageState();
await signing.close();

const times = [];
let script = 0;
for (let round = 0; round < Number(rounds) + 1; round++) {
  // A context of its own has nothing kept from before.
  const context = await browser.newContext({ storageState: state, viewport: { width: 1280, height: 800 } });
  const first = await context.newPage();
  const tools = await context.newCDPSession(first);
  await tools.send("Emulation.setCPUThrottlingRate", { rate: 4 });
  await tools.send("Network.enable");
  const scripts = new Set();
  let bytes = 0;
  tools.on("Network.responseReceived", (e) => e.type === "Script" && scripts.add(e.requestId));
  tools.on("Network.loadingFinished", (e) => scripts.has(e.requestId) && (bytes += e.encodedDataLength));
  const from = performance.now();
  await first.goto(base, { waitUntil: "commit" });
  // The floor is drawn, and a tap on it is answered.
  await first.locator("svg[aria-label], svg[role=img], svg[role=group]").first().waitFor({ state: "visible" });
  await first.evaluate(() => new Promise((done) => requestIdleCallback(done)));
  if (round > 0) times.push(performance.now() - from);
  script = Math.max(script, bytes);
  await context.close();
}
await browser.close();
times.sort((a, b) => a - b);
console.log(JSON.stringify({ milliseconds: Math.round(times[times.length >> 1]), kilobytes: Math.round(script / 100) / 10 }));
