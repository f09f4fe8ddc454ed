import { readdirSync, readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { concerns, ONLY } from "./queries";

describe("what a notice of a change concerns", () => {
  it("is nothing that lasts, and everything else after a change of which nothing is known", () => {
    expect(concerns(["session"])).toBe(false);
    expect(concerns(["styles"], new Set(["Operation"]))).toBe(false);
    for (const page of ["floor", "builds", "operations", "money", "papers", "clock"]) {
      expect(concerns([page])).toBe(true);
      expect(concerns([page], new Set(["everything"]))).toBe(true);
      expect(concerns([page], new Set(["TimeEntry"]))).toBe(true);
    }
  });

  it("is only the pages that show it where that is known", () => {
    expect(concerns(["photos", "1"], new Set(["Photo"]))).toBe(true);
    expect(concerns(["money", "1"], new Set(["Photo"]))).toBe(false);
    expect(concerns(["outlook", "1"], new Set(["Futures"]))).toBe(true);
    expect(concerns(["operations", "1"], new Set(["Futures"]))).toBe(false);
    expect(concerns(["operations", "1"], new Set(["Futures", "Operation"]))).toBe(true);
  });

  it("names no page that is never asked for", () => {
    const asked = new Set(
      (readdirSync("src", { recursive: true }) as string[])
        .filter((f) => /\.tsx?$/.test(f) && !f.includes(".test."))
        .flatMap((f) => [...readFileSync(`src/${f}`, "utf8").matchAll(/queryKey: \["([^"]+)"/g)].map((m) => m[1])),
    );
    for (const key of Object.values(ONLY).flat()) expect(asked).toContain(key);
  });
});
