import { execFileSync } from "node:child_process";
import { randomUUID } from "node:crypto";
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import AxeBuilder from "@axe-core/playwright";
import { type Browser, type BrowserContext, expect, type Page } from "@playwright/test";

/** What the journeys share. */

export const PASSWORD = "a long test password";

/** Each journey has a shop of its own, so that none waits for another: its address, and the folder of its letters. */
export const shopOf = (journey: string) => ({ url: process.env[`E2E_URL_${journey}`] ?? "", mail: process.env[`E2E_MAIL_${journey}`] ?? "" });

/** Opens an empty shop as the journeys know it: Mara Vane who manages, Tove Lind who does everything at 60.00 an hour, one bay, one plater. */
export async function openShop(desk: Page) {
  await desk.goto("/");
  await desk.getByLabel("Name of the shop").fill("Gull Lane Works");
  await desk.getByLabel("Your name").fill("Mara Vane");
  await desk.getByLabel("Name to sign in with").fill("mara");
  await desk.getByLabel(/Password/).fill(PASSWORD);
  await desk.getByRole("button", { name: "Open the shop" }).click();
  await expect(desk.getByRole("heading", { name: "First things" })).toBeVisible();
  const { settings } = await (await desk.request.get("/api/shop")).json();
  await send(desk, "PUT", "/api/shop/settings", { ...settings, phone: "0555 100 200", taxRates: { ...settings.taxRates, labour: 20 } });
  const tove = randomUUID();
  await send(desk, "PUT", `/api/shop/people/${tove}`, { name: "Tove Lind", trades: ["mechanic", "trim", "paint", "hand"], active: true, version: null });
  await send(desk, "PUT", `/api/shop/people/${tove}/rates`, { from: "2026-01-01", cost: 25, billing: 60 });
  await send(desk, "PUT", `/api/shop/stations/${randomUUID()}`, { name: "Bay one", kind: "bay", count: 1, xMm: 0, yMm: 0, widthMm: 6500, depthMm: 4500, doorHeightMm: null, walled: false, version: null });
  await send(desk, "PUT", `/api/shop/suppliers/${randomUUID()}`, { name: "Far Shore Plating", what: "", freightDays: ["tuesday"], version: null });
  await send(desk, "POST", "/api/accounts", { id: randomUUID(), user: "tove", password: PASSWORD, name: "Tove Lind", role: "technician", personId: tove });
}

export async function pageOf(browser: Browser, size: { width: number; height: number }, baseURL: string): Promise<[BrowserContext, Page]> {
  const context = await browser.newContext({ viewport: size, baseURL, reducedMotion: "reduce", locale: "en-GB" });
  return [context, await context.newPage()];
}

/** Counts what a person does on a page: clicks, and fields that are filled in. */
export async function counting(page: Page) {
  await page.addInitScript(() => {
    const add = (what: string) => sessionStorage.setItem(what, String(Number(sessionStorage.getItem(what) ?? 0) + 1));
    addEventListener("click", (e) => e.isTrusted && e.detail > 0 && add("clicks"), true);
    addEventListener("change", (e) => e.target instanceof HTMLInputElement && e.target.type === "checkbox" ? undefined : add("fields"), true);
  });
}
export const counted = (page: Page, what: "clicks" | "fields") => page.evaluate((w) => Number(sessionStorage.getItem(w) ?? 0), what);

export async function signIn(page: Page, user: string) {
  await page.goto("/sign-in");
  await page.getByLabel("Name").fill(user);
  await page.getByLabel("Password").fill(PASSWORD);
  await page.getByRole("button", { name: "Sign in" }).click();
}

const GROUP_OF: Record<string, string> = {
  Arrival: "Take in",
  Estimate: "Take in",
  Sequence: "Work",
  Bags: "Apart",
  Datum: "Measure",
  Gaps: "Measure",
  Figures: "Measure",
  Openings: "Measure",
  Parts: "Goods",
  Outside: "Goods",
  Money: "Client",
  Reports: "Client",
};

/** Opens a page of the build that is shown, through its group. */
export async function goTo(page: Page, name: string) {
  const strip = page.getByRole("navigation", { name: /^Build \d+$/ });
  const link = strip.getByRole("link", { name, exact: true });
  if (!(await link.isVisible())) await strip.getByRole("link", { name: new RegExp(`^${GROUP_OF[name]}(:|$)`) }).click();
  await link.click();
}

/** Every code on a picture, as a reader that is not ours sees it. */
export const scanned = (picture: string) =>
  execFileSync("zbarimg", ["-q", "--raw", picture], { stdio: ["ignore", "pipe", "ignore"] })
    .toString()
    .trim()
    .split("\n");

/** The words of a PDF, line by line as they stand on the page. */
export const textOf = (pdf: string) => execFileSync("pdftotext", ["-layout", pdf, "-"]).toString();

/** No violation of WCAG 2 A and AA as far as axe can tell. */
export async function accessible(page: Page, where: string) {
  // From the top: what has slid half under the masthead would count as too small.
  await page.evaluate(() => scrollTo(0, 0));
  const found = await new AxeBuilder({ page }).withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]).analyze();
  expect(
    found.violations.map((v) => `${where}: ${v.id} (${v.nodes.length}) ${v.nodes[0]?.target} ${v.nodes[0]?.failureSummary?.split("\n")[1] ?? ""}`),
    where,
  ).toEqual([]);
}

/** The letters that went to an address, oldest first, with their soft line ends mended. */
export function letters(to: string, folder: string): string[] {
  return readdirSync(folder)
    .filter((f) => f.endsWith(".eml"))
    .map((f) => ({ f, text: readFileSync(join(folder, f), "utf8").replace(/=\r?\n/g, "") }))
    .filter((l) => l.text.includes(to))
    .sort((a, b) => a.f.localeCompare(b.f))
    .map((l) => l.text);
}

/** Sends a change as the signed-in page would. */
export async function send(page: Page, method: "POST" | "PUT", path: string, body?: unknown) {
  const status = await page.evaluate(
    async ([m, p, b]) => {
      const token = document.cookie
        .split("; ")
        .find((c) => c.startsWith("XSRF-TOKEN="))
        ?.slice(11);
      const answer = await fetch(p as string, {
        method: m as string,
        headers: { "content-type": "application/json", "X-XSRF-TOKEN": decodeURIComponent(token ?? "") },
        body: b === undefined ? undefined : JSON.stringify(b),
      });
      return `${answer.status} ${answer.ok ? "" : await answer.text()}`;
    },
    [method, path, body] as const,
  );
  expect(status, `${method} ${path}`).toMatch(/^20/);
}

const OF_A_BUILD = ["", "/arrival", "/survey", "/sequence", "/forecast", "/teardown", "/bags", "/datum", "/gaps", "/openings", "/figures", "/hours", "/parts", "/outside", "/photos", "/estimate", "/money", "/client"];
const PAGES = ["/", "/builds", "/plan", "/plan/week", "/plan/what-if", "/shop", "/clock", "/builds/new", "/bench", "/bench/wheel", "/bench/chassis", "/bench/wire"];

/** Walks every page, the build's own among them: no rule of accessibility is broken, none is wider than the screen, no words of a picture lie over others, and on a phone every control is large enough for a thumb. */
export async function fitsEveryPage(page: Page, width: number, build: number, axe = false) {
  await page.setViewportSize({ width, height: width < 600 ? 844 : 800 });
  for (const path of [...PAGES, `/find/${build}`, ...OF_A_BUILD.map((p) => `/builds/${build}${p}`)]) {
    await page.goto(path);
    await page.waitForLoadState("networkidle");
    const [wide, low, over, out] = await page.evaluate(() => {
      const inside = (e: Element) => {
        const r = e.getBoundingClientRect();
        return { e, left: r.left + 1.5, right: r.right - 1.5, top: r.top + r.height * 0.22, bottom: r.bottom - r.height * 0.22 };
      };
      const over = [...document.querySelectorAll("svg")].flatMap((svg) => {
        const words = [...svg.querySelectorAll("text")].filter((t) => t.textContent?.trim() && t.getBoundingClientRect().width > 0).map(inside);
        return words.flatMap((a, i) =>
          words
            .slice(i + 1)
            .filter((b) => a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom)
            .map((b) => `“${a.e.textContent}” over “${b.e.textContent}”`),
        );
      });
      const low = [...document.querySelectorAll("main .btn, main select, main textarea, .subplaces .btn")]
        .filter((e) => e.getBoundingClientRect().width > 0 && e.getBoundingClientRect().height < 44)
        .map((e) => e.textContent);
      // What a client reads stays inside its page, also where the page is a preview beside a list.
      const out = [...document.querySelectorAll(".rep")].flatMap((page) => {
        const edge = page.getBoundingClientRect().right + 1;
        return [...page.querySelectorAll("*")].filter((e) => e.getBoundingClientRect().right > edge && !e.closest(".sr-only, svg")).map((e) => e.textContent?.slice(0, 40));
      });
      return [document.documentElement.scrollWidth, low, over, out] as const;
    });
    expect(wide, path).toBeLessThanOrEqual(width);
    if (axe) await accessible(page, `${path} at ${width}`);
    expect(over, `${path}: words over one another`).toEqual([]);
    expect(out, `${path}: outside the client's page`).toEqual([]);
    if (width < 600) expect(low, `${path}: controls for a thumb`).toEqual([]);
  }
  await page.setViewportSize({ width: 1280, height: 800 });
}
