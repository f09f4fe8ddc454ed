import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { seeded } from "../tokens";
import { beside } from "./RiverPicture";
import { broken, layOut, type River, waitingStrands } from "./riverLayout";
import { gateState } from "./riverMarks";
import { circleOf, inTime, meanwhile, type Operation, strandsOf } from "./strands";

const work = (id: string, change: Partial<Schemas["OperationView"]> = {}, ...after: string[]): Operation =>
  ({
    id,
    position: Number(id.replace(/\D/g, "")) || 0,
    stage: "metal",
    kind: "work",
    name: id,
    budgetMinutes: 600,
    spentMinutes: 0,
    clockMinutes: 0,
    after: after.map((operation) => ({ operation, lagMinutes: 0 })),
    panels: [],
    plannedPeople: [],
    signatures: [],
    terms: {},
    doneAt: null,
    starts: null,
    finishes: null,
    reason: null,
    slackDays: null,
    departs: [],
    departsWhy: "",
    ...change,
  }) as unknown as Operation;

const day = (n: number) => new Date(Date.UTC(2026, 0, 1 + n, 8)).toISOString();

/** A sequence such as no template makes: each operation after up to three earlier ones, some done, gates and cures between. */
function drawn(count: number, seed: number): Operation[] {
  const random = seeded(seed);
  const all: Operation[] = [];
  let [done, at] = [Math.floor(random() * count * 0.5), 0];
  for (let i = 0; i < count; i++) {
    const after = new Set<string>();
    for (let n = 0; n < 3; n++) if (i > 0 && random() < 0.6) after.add(`o${Math.max(0, i - 1 - Math.floor(random() * 9))}`);
    const kind = random() < 0.1 ? "gate" : random() < 0.08 ? "cure" : "work";
    at += random() * 2;
    all.push(
      work(
        `o${i}`,
        {
          kind,
          budgetMinutes: kind === "work" ? Math.ceil(random() * 70) * 60 : 0,
          clockMinutes: kind === "cure" ? 2880 : 0,
          ...(done-- > 0 ? { doneAt: day(at) } : random() < 0.9 ? { starts: day(at), finishes: day(at + 1) } : {}),
        },
        ...after,
      ),
    );
  }
  return all;
}

describe("strands", () => {
  it("are chains of linked operations that hold each operation once, the trunk the heaviest", () => {
    for (let seed = 1; seed <= 30; seed++) {
      const all = drawn(60, seed);
      const strands = strandsOf(all);
      expect(strands.flatMap((s) => s.works.map((o) => o.id)).toSorted()).toEqual(all.map((o) => o.id).toSorted());
      for (const s of strands)
        s.works.slice(1).forEach((o, i) => {
          expect(o.after.map((a) => a.operation)).toContain(s.works[i]?.id);
        });
      const heavy = strands.map((s) => s.works.reduce((sum, o) => sum + 1 + o.budgetMinutes / 60, 0));
      expect(Math.max(...heavy)).toBeCloseTo(heavy[0] as number);
    }
  });

  it("bear the name that all of their operations begin with", () => {
    const all = [
      work("a", { budgetMinutes: 6000 }),
      work("b", { name: "Left side: filler" }),
      work("c", { name: "Left side: block" }, "b"),
      work("d", { name: "Lone: one" }),
    ];
    expect(strandsOf(all).map((s) => s.name)).toEqual(["", "Left side", ""]);
  });

  it("name the circle that a link would close, and none where it closes none", () => {
    const all = [work("a"), work("b", {}, "a"), work("c", {}, "b"), work("d", {}, "a")];
    expect(circleOf(all, "a", "c")?.map((o) => o.id)).toEqual(["a", "b", "c", "a"]);
    expect(circleOf(all, "d", "c")).toBeNull();
    expect(circleOf(all, "a", "a")?.map((o) => o.id)).toEqual(["a", "a"]);
  });

  it("tell what is useful while something is away: open work that does not wait for it, in order", () => {
    const all = [
      work("away", { kind: "outside" }),
      work("needs", {}, "away"),
      work("later", {}, "needs"),
      work("second", { starts: day(4) }),
      work("first", { starts: day(2) }),
      work("past", { doneAt: day(1) }),
      work("check", { kind: "gate" }),
    ];
    expect(meanwhile(all, "away").map((o) => o.id)).toEqual(["first", "second"]);
    expect(meanwhile(all, "first").map((o) => o.id)).toEqual(["second", "needs", "later"]);
  });

  it("stand in time: done first, then by the plan, what has no date last; what comes before comes first", () => {
    const all = [
      work("1", { starts: day(3) }, "2"),
      work("2", { starts: day(3) }),
      work("3", {}),
      work("4", { doneAt: day(1) }),
      work("5", { starts: day(2) }),
    ];
    expect(inTime(all).map((o) => o.id)).toEqual(["4", "5", "2", "1", "3"]);
  });
});

describe("the river", () => {
  const each = (check: (river: River, all: Operation[], from: number, count: number) => void) => {
    for (const [count, seed] of [
      [12, 1],
      [60, 2],
      [60, 3],
      [200, 4],
      [200, 5],
    ] as const)
      for (const near of [4, 12, 30]) {
        const all = drawn(count, seed);
        const from = Math.min(
          count - near,
          inTime(all).findIndex((o) => o.doneAt === null),
        );
        check(layOut(all, { width: 1240, height: 600, from: Math.max(0, from), count: near }), all, from, near);
      }
  };

  it("lies within its picture, and nothing starts before what it follows has ended", () => {
    each((river) => {
      for (const r of river.reaches) {
        expect(r.x1).toBeGreaterThanOrEqual(18);
        expect(r.end).toBeLessThanOrEqual(1240 - 17);
        expect(r.y).toBeLessThan(river.height);
        for (const a of r.work.after) {
          const before = river.byId.get(a.operation);
          if (before && before.zone === r.zone) expect(r.x1).toBeGreaterThanOrEqual(before.end - 0.01);
        }
      }
    });
  });

  it("says with its order what starts later, whatever the strand", () => {
    each((river) => {
      const near = river.reaches.filter((r) => r.zone === "near" && r.work.kind !== "gate" && r.work.starts && !r.work.doneAt);
      near.slice(1).forEach((r, i) => {
        expect(r.x1).toBeGreaterThanOrEqual((near[i] as (typeof near)[0]).x1 - 0.01);
      });
    });
  });

  it("keeps reaches of one lane apart, and lanes from each other", () => {
    each((river) => {
      for (const [i, lane] of river.lanes.entries()) {
        const mine = river.reaches.filter((r) => r.lane === i).toSorted((a, b) => a.x1 - b.x1);
        mine.slice(1).forEach((r, n) => {
          expect(r.x1).toBeGreaterThanOrEqual((mine[n] as (typeof mine)[0]).end - 0.01);
        });
        for (const r of mine) {
          expect(r.y - r.width / 2).toBeGreaterThanOrEqual(lane.top - 0.01);
          expect(r.y + r.width / 2).toBeLessThanOrEqual(lane.bottom + 0.01);
        }
        const next = river.lanes[i + 1];
        if (next) expect(next.top).toBeGreaterThanOrEqual(lane.bottom);
      }
    });
  });

  it("is as wide as its hours, everywhere by one measure", () => {
    each((river) => {
      for (const r of river.reaches.filter((x) => x.width > 3)) expect(r.width / (r.work.budgetMinutes / 60)).toBeCloseTo(river.perHour);
    });
  });

  it("draws now between what is done and what is not", () => {
    const all = [work("a", { doneAt: day(1) }), work("b", { starts: day(2), finishes: day(3) }, "a")];
    const river = layOut(all, { width: 1000, height: 500, from: 1, count: 12 });
    const [a, b] = [river.byId.get("a"), river.byId.get("b")];
    expect(river.now).toBeGreaterThan(a?.end as number);
    expect(river.now).toBeLessThan(b?.x1 as number);
    expect(layOut([work("a")], { width: 1000, height: 500, from: 0, count: 12 }).now).toBeNull();
  });

  it("names by the stage that waits at its end each line that runs past now without work, and no other", () => {
    const done = (n: number) => ({ doneAt: day(n), budgetMinutes: 900 });
    const trunk = Array.from({ length: 10 }, (_, i) => work(`m${i}`, i < 7 ? done(3 + i) : { starts: day(20 + i) }, i ? `m${i - 1}` : "a"));
    const all = [
      work("a", done(1)),
      work("out", { ...done(2), budgetMinutes: 60 }, "a"),
      ...trunk,
      work("in", { stage: "trim", starts: day(40), budgetMinutes: 60 }, "out", "m9"),
    ];
    const river = layOut(all, { width: 1240, height: 600, from: 9, count: 12 });
    expect(waitingStrands(river, all)).toEqual([{ y: river.byId.get("out")?.y, stage: "trim" }]);
    // Once it is done nothing waits there, and before anything is done there is no now.
    const over = all.map((o) => (o.id === "in" ? { ...o, ...done(19) } : o));
    expect(waitingStrands(layOut(over, { width: 1240, height: 600, from: 9, count: 12 }), over)).toEqual([]);
    const fresh = all.map((o) => ({ ...o, doneAt: null }));
    expect(waitingStrands(layOut(fresh, { width: 1240, height: 600, from: 0, count: 12 }), fresh)).toEqual([]);
  });

  it("leads an arrow along the water and to the next strand", () => {
    const all = [work("a", { budgetMinutes: 6000 }), work("b", { budgetMinutes: 6000 }, "a"), work("c", {}, "a"), work("d", {}, "b", "c")];
    const river = layOut(all, { width: 1000, height: 500, from: 0, count: 12 });
    expect(beside(river, all, "a", "ArrowRight")).toBe("b");
    expect(beside(river, all, "d", "ArrowLeft")).toBe("b");
    const [b, c] = [river.byId.get("b")?.lane ?? 0, river.byId.get("c")?.lane ?? 0];
    expect(beside(river, all, "b", c > b ? "ArrowDown" : "ArrowUp")).toBe("c");
    expect(beside(river, all, "b", c > b ? "ArrowUp" : "ArrowDown")).toBeNull();
    expect(beside(river, all, "c", "End")).toBe("d");
    expect(beside(river, all, "c", "x")).toBeNull();
  });
});

describe("its words and marks", () => {
  it("breaks a name into three lines at most", () => {
    expect(broken("Left side: sill, post feet, quarter", 12)).toEqual(["Left side:", "sill, post", "feet,…"]);
    expect(broken("Blow out", 12)).toEqual(["Blow out"]);
  });

  it("tells a gate that waits for a name from one that is shut, signed or opened", () => {
    const done = work("a", { doneAt: day(1) });
    const gate = (change: Partial<Operation>) => work("g", { kind: "gate", ...change }, "a");
    const by = (a: Operation) => new Map([["a", a]]);
    expect(gateState(gate({}), by(done))).toBe("ready");
    expect(gateState(gate({}), by(work("a")))).toBe("locked");
    const name = { personId: "p", name: "P", at: day(2), byMaker: false, overrideReason: null, without: "" };
    expect(gateState(gate({ doneAt: day(2), signatures: [name] }), by(done))).toBe("signed");
    expect(gateState(gate({ doneAt: day(2), signatures: [{ ...name, overrideReason: "Trustee abroad" }] }), by(work("a")))).toBe("opened");
  });
});
