import { defineConfig } from "vitest/config";

// The script as a shop's own machine would run it: each test has a data folder of its own.
export default defineConfig({
  test: { root: import.meta.dirname, include: ["*.test.ts"], environment: "node", testTimeout: 600_000, hookTimeout: 600_000, fileParallelism: false },
});
