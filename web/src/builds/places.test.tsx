import { cleanup, screen, within } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { waitingFirst } from "../AppFrame";
import type { Schemas } from "../api/client";
import { card, draw } from "../testing";
import { BuildPlaces, GROUPS, isForDesk, waitsFor } from "./BuildPlaces";

afterEach(cleanup);

const waits: Schemas["Waiting"][] = [
  { group: "goods", count: 2, says: "1 part late; 1 batch late" },
  { group: "client", count: 1, says: "1 question for the client" },
];
const strip = (path: string, desk = true) => draw(<BuildPlaces base="/builds/41" path={path} desk={desk} waits={waitsFor(waits, desk)} />);
const names = () => screen.getAllByRole("link").map((l) => l.textContent);

describe("the strip of a build", () => {
  it("has ten groups in the order of work; those that come later are pale and lead nowhere", () => {
    strip("");
    expect(GROUPS.map((g) => g.name)).toEqual([
      "Body",
      "Take in",
      "Work",
      "Apart",
      "Measure",
      "Coats",
      "Together",
      "Goods",
      "Record",
      "Client",
    ]);
    for (const name of ["Coats", "Together"]) {
      const link = screen.getByRole("link", { name });
      expect([link.getAttribute("aria-disabled"), link.getAttribute("href")]).toEqual(["true", null]);
    }
    expect(screen.getByRole("link", { name: "Body" }).getAttribute("aria-current")).toBe("page");
  });

  it("opens the group one is in, with the page marked", () => {
    strip("/parts");
    const open = document.querySelector(".group-open") as HTMLElement;
    expect(
      within(open)
        .getByRole("link", { name: /^Goods/ })
        .getAttribute("href"),
    ).toBe("/builds/41/parts");
    expect(within(open).getByRole("link", { name: "Parts" }).getAttribute("aria-current")).toBe("page");
    expect(document.querySelectorAll(".group-open")).toHaveLength(1);
  });

  it("says how much waits and what it is", () => {
    strip("");
    expect(screen.getByRole("link", { name: "Goods: 1 part late; 1 batch late" }).textContent).toBe("Goods2");
    expect(screen.getByRole("link", { name: "Apart" }).textContent).toBe("Apart");
  });

  it("leaves out what a technician may not see, figures too", () => {
    strip("", false);
    expect(names()).not.toContain("Money");
    expect(names()).not.toContain("Estimate");
    expect(names().some((n) => n?.startsWith("Client"))).toBe(false);
    expect(waitsFor(waits, false).map((w) => w.group)).toEqual(["goods"]);
    expect(["/money", "/estimate", "/client", "/two-bodies"].every(isForDesk)).toBe(true);
    expect(isForDesk("/parts")).toBe(false);
  });
});

describe("the builds in the masthead", () => {
  it("stand with those first on which something waits for whoever looks, else as they are queued", () => {
    const builds = [
      card({ number: 1 }),
      card({ number: 2, waits: [waits[1] as Schemas["Waiting"]] }),
      card({ number: 3 }),
      card({ number: 4, waits: [waits[0] as Schemas["Waiting"]] }),
    ];
    expect(waitingFirst(builds, true).map((b) => b.number)).toEqual([2, 4, 1, 3]);
    expect(waitingFirst(builds, false).map((b) => b.number)).toEqual([4, 1, 2, 3]);
  });
});
