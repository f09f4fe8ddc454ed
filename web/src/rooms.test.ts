import { readdirSync, readFileSync } from "node:fs";
import { dirname, join, normalize, relative } from "node:path";
import { fileURLToPath } from "node:url";
import { describe, expect, it } from "vitest";

/** A room may know the ones before it; the order stands in docs/architecture.md. */
const ORDER = [
  "api",
  "ui",
  "pictures",
  "access",
  "shop",
  "builds",
  "photos",
  "labour",
  "parts",
  "outside",
  "plan",
  "sequence",
  "fitup",
  "bench",
  "money",
  "reports",
  "survey",
  "teardown",
  "overview",
];

const ROOT = dirname(fileURLToPath(import.meta.url));
const sources = readdirSync(ROOT, { recursive: true, encoding: "utf8" }).filter(
  (f) => /\.tsx?$/.test(f) && !/\.test\.tsx?$/.test(f) && f.includes("/"),
);
const roomOf = (file: string) => file.split("/")[0] ?? "";
const importsOf = (file: string) =>
  [...readFileSync(join(ROOT, file), "utf8").matchAll(/(?:from|import) ?\(?"(\.[^"]+)"/g)]
    .map((m) => relative(ROOT, normalize(join(ROOT, dirname(file), m[1] ?? ""))))
    .filter((f) => f.includes("/"));

describe("the rooms of the front end", () => {
  it("all have their place in the order", () => {
    expect([...new Set(sources.map(roomOf))].sort()).toEqual([...ORDER].sort());
  });

  it.each(ORDER)("%s knows only the rooms before it", (room) => {
    const known = ORDER.slice(0, ORDER.indexOf(room) + 1);
    const beyond = sources
      .filter((f) => roomOf(f) === room)
      .flatMap((f) =>
        importsOf(f)
          .filter((to) => !known.includes(roomOf(to)))
          .map((to) => `${f} knows ${to}`),
      );
    expect(beyond).toEqual([]);
  });
});
