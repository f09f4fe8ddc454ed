import { execFileSync } from "node:child_process";
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import AxeBuilder from "@axe-core/playwright";
import { type Browser, type BrowserContext, expect, type Page } from "@playwright/test";

/** What the journeys share. */

export const PASSWORD = "a long test password";

export async function pageOf(browser: Browser, size: { width: number; height: number }): Promise<[BrowserContext, Page]> {
  const context = await browser.newContext({ viewport: size, baseURL: process.env.E2E_URL, reducedMotion: "reduce" });
  return [context, await context.newPage()];
}

export async function signIn(page: Page, user: string) {
  await page.goto("/sign-in");
  await page.getByLabel("Name").fill(user);
  await page.getByLabel("Password").fill(PASSWORD);
  await page.getByRole("button", { name: "Sign in" }).click();
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
  const found = await new AxeBuilder({ page }).withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]).analyze();
  expect(
    found.violations.map((v) => `${where}: ${v.id} (${v.nodes.length}) ${v.nodes[0]?.target} ${v.nodes[0]?.failureSummary?.split("\n")[1] ?? ""}`),
    where,
  ).toEqual([]);
}

/** The letters that went to an address, oldest first, with their soft line ends mended. */
export function letters(to: string): string[] {
  const folder = process.env.E2E_MAIL ?? "";
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
  expect(status, `${method} ${path}`).toMatch(/^200/);
}
