import { render } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { newId } from "../api/client";
import { hm, hours, instantOf, takeShopWays } from "../format";
import { mapPath } from "../geometry";
import { contrast, inkOn, mix, onGuide } from "../tokens";
import { panelWords } from "./PanelMap";
import { Strata, spread, strataRows, strataText } from "./Strata";

const layers: Schemas["Layer"][] = [
  { stage: "teardown", budget: 600, earned: 600, spent: 660, rework: 0 },
  { stage: "metal", budget: 1800, earned: 900, spent: 900, rework: 60 },
];

describe("strata", () => {
  it("gives each layer a thickness that is its share of the budget, bottom up", () => {
    const [first, second] = strataRows(layers, 0, 240);
    expect((first?.y1 ?? 0) - (first?.y0 ?? 0)).toBeCloseTo(60);
    expect((second?.y1 ?? 0) - (second?.y0 ?? 0)).toBeCloseTo(180);
    expect(first?.y1).toBe(240);
    expect(second?.y0).toBeCloseTo(0);
  });
  it("says the same in words and shows what is over", () => {
    expect(strataText(layers)).toBe("25 of 40 hours earned, 26 spent");
    const { container } = render(<Strata layers={layers} paint="#1B6670" />);
    expect(container.textContent).toContain("+1");
    expect(container.textContent).toContain("25 h earned, 63 %");
  });
  it("keeps labels at least 13 px apart", () => {
    const ys = spread([200, 198, 150]);
    expect((ys[0] ?? 0) - (ys[1] ?? 0)).toBeGreaterThanOrEqual(13);
    expect(ys[2]).toBe(150);
  });
});

describe("panel map", () => {
  it("names a panel with all that is known of it", () => {
    const words = panelWords("L wing", {
      panel: "wingL",
      coat: "highBuild",
      held: "tacked",
      coats: ["epoxy", "highBuild"],
      zones: [{ zone: "arch lip", coat: "filler", replace: false, newMetal: true }],
      replace: false,
      newMetal: false,
      temporaryMetal: ["brace"],
    });
    expect(words).toBe("L wing, high-build, tacked, arch lip: filler, new metal let in, temporary metal: brace");
  });
  it("moves every point of a path and nothing else", () => {
    expect(mapPath("M1,2C3,4 5,6 7,8Z", (x, y) => [-x, y + 1])).toBe("M-1,3C-3,5 -5,7 -7,9Z");
  });
});

describe("colour as data", () => {
  it("chooses the ink that reads better and lightens what drowns on charcoal", () => {
    expect(inkOn("#27375E")).toBe("#F5F2E6");
    expect(inkOn("#D3A53A")).toBe("#22272A");
    for (const paint of ["#1B6670", "#D3A53A", "#27375E", "#5C2B4B", "#86A5B8", "#606E36"])
      expect(contrast(paint, inkOn(paint))).toBeGreaterThan(4.5);
    expect(onGuide("#27375E")).toBe(mix("#27375E", "#FFFFFF", 0.28));
  });
});

describe("what people read", () => {
  it("shows logged time as h:mm and planned work as hours", () => {
    expect(hm(107)).toBe("1:47");
    expect(hm(-90)).toBe("−1:30");
    expect(hours(150)).toBe("2.5");
    expect(hours(6000)).toBe("100");
  });
  it("reads wall times in the shop's zone, in summer and in winter", () => {
    takeShopWays({ timeZone: "Europe/London", currency: "GBP" }, undefined);
    expect(instantOf("2026-07-01", "08:00")).toBe("2026-07-01T07:00:00.000Z");
    expect(instantOf("2026-12-01", "08:00")).toBe("2026-12-01T08:00:00.000Z");
  });
  it("makes ids that sort by time", () => {
    const [a, b] = [newId(1_700_000_000_000), newId(1_700_000_000_001)];
    expect(a < b).toBe(true);
    expect(a).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab]/);
  });
});
