// A browser with somebody signed in, for what is measured in it.
import { createRequire } from "node:module";

const require = createRequire(new URL("../web/package.json", import.meta.url));
const { chromium } = require("@playwright/test");

/** @returns {Promise<{ browser: import("@playwright/test").Browser, opened: () => Promise<{ context, page, tools }> }>} Each page in a context of its own, with nothing kept from before, on a processor a quarter as fast. */
export async function signedIn(base, user, password) {
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
  const storageState = await signing.storageState();
  await signing.close();
  const opened = async () => {
    const context = await browser.newContext({ storageState, viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    const tools = await context.newCDPSession(page);
    await tools.send("Emulation.setCPUThrottlingRate", { rate: 4 });
    return { context, page, tools };
  };
  return { browser, opened };
}
