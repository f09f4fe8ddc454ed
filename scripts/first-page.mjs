// Opens a shop's first page as somebody does in the morning, on a processor a quarter as fast, and says how long it takes
// until it can be used, and how much script is sent. Usage: node scripts/first-page.mjs URL USER PASSWORD [ROUNDS]
import { signedIn } from "./in-chromium.mjs";

const [base, user, password, rounds = "5"] = process.argv.slice(2);
const { browser, opened } = await signedIn(base, user, password);

const times = [];
let script = 0;
for (let round = 0; round < Number(rounds) + 1; round++) {
  const { context, page: first, tools } = await opened();
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
console.log(JSON.stringify({ "first-page": Math.round(times[times.length >> 1]), "first-page-script": Math.round(script / 100) / 10 }));
