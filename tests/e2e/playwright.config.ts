import { defineConfig } from "@playwright/test";

export default defineConfig({
  testDir: ".",
  outputDir: "../../.data/reports/browser",
  // Each journey has its own shop and database: two run side by side.
  workers: 2,
  retries: 0,
  // So long that a busy machine fails nothing: what is there is seen at once.
  timeout: 300_000,
  expect: { timeout: 30_000 },
  reporter: [["list"], ["json"]],
  use: {
    screenshot: "only-on-failure",
    actionTimeout: 30_000,
    launchOptions: {
      executablePath: "/usr/bin/chromium",
      args: ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--disable-component-update", "--disable-sync", "--no-first-run"],
    },
  },
});
