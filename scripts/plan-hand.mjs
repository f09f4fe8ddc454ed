// Moves over the plan as a hand does, on a processor a quarter as fast, and says what an input costs the main thread: the
// 95th percentile of each kind, in milliseconds. Usage: node scripts/plan-hand.mjs URL USER PASSWORD [INPUTS]
import { signedIn } from "./in-chromium.mjs";

const [base, user, password, inputs = "60"] = process.argv.slice(2);
const { browser, opened } = await signedIn(base, user, password);
const { page, tools } = await opened();
await page.goto(`${base}/plan`);
const field = page.getByRole("listbox", { name: "Work of the plan" });
await field.waitFor({ state: "visible" });
await page.waitForTimeout(3000);
await tools.send("Performance.enable");

const busy = async () => (await tools.send("Performance.getMetrics")).metrics.find((m) => m.name === "TaskDuration").value * 1000;
const box = await field.boundingBox();
const [x, y] = [box.x + box.width / 3, Math.min(box.y + 120, 700)];

/** What each of many inputs costs, with time in between for all that it sets off; what the page does by itself is taken off. */
async function cost(act) {
  const costs = [];
  let before = await busy();
  await page.waitForTimeout(150);
  const idle = (await busy()) - before;
  for (let i = 0; i < Number(inputs); i++) {
    before = await busy();
    await act(i);
    await page.waitForTimeout(150);
    costs.push(Math.max(0, (await busy()) - before - idle));
  }
  costs.sort((a, b) => a - b);
  return Math.round(costs[Math.floor(costs.length * 0.95)] * 10) / 10;
}

await page.mouse.move(x, y);
const hover = await cost((i) => page.mouse.move(x + ((i * 37) % 300), y + ((i * 13) % 80)));
await page.mouse.move(x, y);
await page.mouse.down();
await page.mouse.move(x - 12, y);
const pan = await cost((i) => page.mouse.move(x - 12 - 9 * i, y));
await page.mouse.up();
await page.mouse.move(x, y);
await page.keyboard.down("Control");
const zoom = await cost((i) => page.mouse.wheel(0, i % 8 < 4 ? -100 : 100));
await page.keyboard.up("Control");
await browser.close();
console.log(JSON.stringify({ "plan-pan": pan, "plan-zoom": zoom, "plan-hover": hover }));
