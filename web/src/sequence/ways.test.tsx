import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { buildQuery, buildsQuery, queries, templatesQuery, wayChancesQuery, wayQuery, waysQuery } from "../api/queries";
import { USUAL_SCHOOLS } from "../builds/SchoolFields";
import { card, draw, press, problem, server, signIn, type } from "../testing";
import { seeded } from "../tokens";
import { scaleOf } from "./Answers";
import { SCHOOLS } from "./answerWords";
import { HowItRuns } from "./HowItRuns";
import { axisOf, dated, layOrder, type WayWork, xOf } from "./orderLayout";
import { strandsOf } from "./strands";
import type { Asked } from "./Ways";

vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useParams: () => ({ number: "41" }),
}));

const at = (n: number) => new Date(Date.UTC(2026, 9, 12 + n, 8)).toISOString();
const work = (id: string, from: number, to: number, after: string[] = [], more: Partial<WayWork> = {}): WayWork => ({
  id,
  name: id,
  position: from,
  stage: "metal",
  kind: "work",
  after: after.map((operation) => ({ operation, lagMinutes: 0 })) as WayWork["after"],
  budgetMinutes: (to - from) * 480,
  clockMinutes: 0,
  starts: at(from),
  finishes: at(to),
  doneAt: null,
  people: 1,
  ...more,
});

describe("an order of work by days", () => {
  const axis = { from: Date.parse(at(0)), to: Date.parse(at(100)), width: 500 };

  it("has its longest chain in the middle, and what runs beside it on lanes of its own", () => {
    const order = layOrder([work("a", 0, 10), work("b", 10, 60, ["a"]), work("c", 10, 20, ["a"]), work("d", 60, 70, ["b", "c"])], axis);
    const lane = (id: string) => order.stretches.find((s) => s.work.id === id)?.lane;
    expect([lane("a"), lane("b"), lane("d")]).toEqual([0, 0, 0]);
    expect(lane("c")).not.toBe(0);
    // Where the side chain leaves and where it comes back are drawn.
    const threads = order.threads.map((t) => `${t.from.work.id}${t.to.work.id}`);
    expect(threads).toEqual(expect.arrayContaining(["ac", "cd", "ab", "bd"]));
  });

  it("draws nothing over each other on a lane, whatever the sequence, and all within its axis", () => {
    for (let seed = 1; seed <= 60; seed++) {
      const random = seeded(seed);
      const works = Array.from({ length: 3 + Math.floor(random() * 40) }, (_, i) => {
        const from = Math.floor(random() * 80);
        const after = i > 0 && random() < 0.7 ? [`w${Math.floor(random() * i)}`] : [];
        return work(`w${i}`, from, from + 1 + Math.floor(random() * 12), after, { doneAt: random() < 0.1 ? at(0) : null });
      });
      const own = axisOf([works], 500);
      if (!own) continue;
      const { stretches } = layOrder(works, own);
      expect(stretches.map((s) => s.work.id).sort()).toEqual(
        dated(works)
          .map((o) => o.id)
          .sort(),
      );
      const ends = strandsOf(dated(works)).map((strand) => {
        const own = stretches.filter((s) => strand.works.includes(s.work));
        return { lane: own[0]?.lane, from: Math.min(...own.map((s) => s.x1)), to: Math.max(...own.map((s) => s.x2)) };
      });
      for (const one of ends)
        expect(ends.filter((e) => e !== one && e.lane === one.lane && e.from < one.to && e.to > one.from)).toEqual([]);
      for (const s of stretches) {
        expect(s.x1).toBeGreaterThanOrEqual(-0.01);
        expect(s.x2).toBeLessThanOrEqual(501.6);
      }
    }
  });

  it("leaves out what is done and what has no date, and has one axis for several orders", () => {
    const works = [work("a", 0, 10, [], { doneAt: at(1) }), work("b", 10, 20, [], { starts: null, finishes: null }), work("c", 20, 30)];
    expect(dated(works).map((o) => o.id)).toEqual(["c"]);
    const both = axisOf([works, [work("x", 5, 90)]], 340);
    expect(both && [xOf(both, at(5)), xOf(both, at(90))]).toEqual([0, 340]);
    expect(axisOf([[]], 340)).toBeNull();
  });

  it("names a stage where it begins, never over another name, and inside the picture", () => {
    const { names } = layOrder(
      [
        work("a", 0, 1),
        work("b", 1, 2, ["a"], { stage: "epoxy" }),
        work("c", 60, 80, ["b"], { stage: "colour" }),
        work("d", 99, 100, ["c"], { stage: "assembly" }),
      ],
      axis,
    );
    expect(names.map((n) => n.text)).toEqual(["Metalwork", "Colour", "Assembly"]);
    expect(Math.max(...names.map((n) => n.x))).toBeLessThan(470);
  });

  it("has bars from one nought", () => {
    const scale = scaleOf([-10, 30]);
    expect([scale.nought, scale.to(-10), scale.to(30)]).toEqual([25, 0, 100]);
    expect(Math.abs(scaleOf([0, 0]).nought)).toBe(0);
  });
});

const RUNS: Asked = { buildId: "b41", new: null, template: "paint-then-assemble", scale: 1, choices: USUAL_SCHOOLS, anew: false };
const BOTH: Asked = { ...RUNS, choices: { ...USUAL_SCHOOLS, sides: "both" } };
const answer = (key: string, more: Partial<Schemas["AnswerView"]> = {}): Schemas["AnswerView"] => ({
  key,
  template: RUNS.template,
  choices: USUAL_SCHOOLS,
  chosen: false,
  minutes: 0,
  days: 0,
  oneIn: 20,
  hoursAgain: 30,
  expectedHours: 1.5,
  what: "the mirrored part is off",
  builds: 0,
  refused: null,
  ...more,
});
const WAYS: Schemas["WaysView"] = {
  minutes: 60_000,
  finish: at(90),
  planned: true,
  schools: [
    {
      school: "sides",
      answers: [
        answer("oneAtATime", { chosen: true }),
        answer("both", { choices: BOTH.choices, minutes: 1620, days: -35, oneIn: 6, builds: 3 }),
      ],
    },
    { school: "hold", answers: [answer("jig", { chosen: true }), answer("cart", { refused: "It goes round in a circle.", days: null })] },
  ],
};
const look = (more: Partial<Schemas["WayLook"]> = {}): Schemas["WayLook"] => ({
  works: [work("a", 0, 10), work("b", 10, 60, ["a"])],
  minutes: 60_000,
  finish: at(60),
  moves: [],
  withoutDate: [],
  changes: { kept: ["Floor"], changed: [], added: [], takenOut: [] },
  warning: null,
  ...more,
});

const CHANCES: Schemas["WayChances"] = { p20: at(50), p50: at(61), p80: at(75), p95: at(90), partly: false };
const json = (of: unknown) => new Response(JSON.stringify(of), { status: 200, headers: { "content-type": "application/json" } });

/** A server that answers what is asked about ways, and keeps what is changed. */
function shop(...answers: Response[]) {
  const sent = server(...answers);
  const changes = globalThis.fetch;
  vi.stubGlobal("fetch", async (request: Request) => {
    const path = new URL(request.url).pathname;
    if (!path.startsWith("/api/ways")) return changes(request);
    const asked = (await request.clone().json()) as Asked;
    if (path.endsWith("/look")) return json(look());
    if (path.endsWith("/chances")) return json(CHANCES);
    return json(asked.template.startsWith("own") ? { ...WAYS, schools: [] } : WAYS);
  });
  return sent;
}

describe("how a build runs", () => {
  beforeEach(() => {
    queries.clear();
    signIn("manager", { now: "2026-10-13T09:42:00Z" });
    queries.setQueryData(buildsQuery.queryKey, [card({ id: "b41" })]);
    queries.setQueryData(buildQuery("b41").queryKey, {
      id: "b41",
      number: 41,
      template: RUNS.template,
      terms: { scale: 1, choices: USUAL_SCHOOLS },
    } as never);
    queries.setQueryData(templatesQuery.queryKey, [{ key: "paint-then-assemble", name: "Paint, then assemble", says: "", ownId: null }]);
    queries.setQueryData(waysQuery(RUNS).queryKey, WAYS);
    queries.setQueryData(wayQuery(RUNS).queryKey, look());
    queries.setQueryData(
      wayQuery(BOTH).queryKey,
      look({
        minutes: 61_620,
        finish: at(25),
        moves: [{ buildId: "b38", buildNumber: 38, days: 2 }],
        changes: { kept: ["Floor"], changed: ["Right side"], added: [], takenOut: ["Left side signed off"] },
      }),
    );
    queries.setQueryData(wayChancesQuery(RUNS).queryKey, CHANCES);
    queries.setQueryData(wayChancesQuery(BOTH).queryKey, CHANCES);
  });
  afterEach(() => {
    cleanup();
    vi.unstubAllGlobals();
  });
  const list = () => screen.getByRole("listbox", { name: "How it could run" });
  const option = (name: RegExp) => within(list()).getByRole("option", { name });

  it("says of every answer what it changes, and of the chosen one that it is", () => {
    shop();
    draw(<HowItRuns onClose={() => undefined} />);
    expect(option(/^One side at a time, chosen/).getAttribute("aria-selected")).toBe("true");
    expect(option(/^Both opened together, 27 h more, 35 days sooner, done again 1 in 6, 30 h/).textContent).toContain("3 builds of yours");
    expect(option(/^On the level cart, cannot be: It goes round/).textContent).toContain("no date");
    expect(screen.queryByRole("button", { name: "Run it so" })).toBeNull();
  });

  it("tries with the arrows, takes with Enter, and keeps it by one button, with what it changes first", async () => {
    const sent = shop();
    const close = vi.fn();
    draw(<HowItRuns onClose={close} />);
    fireEvent.keyDown(list(), { key: "ArrowDown" });
    fireEvent.keyDown(list(), { key: "ArrowDown" });
    expect(list().getAttribute("aria-activedescendant")).toBe(option(/^Both opened/).id);
    expect(screen.getByRole("img").getAttribute("aria-label")).toContain("Trying: both opened together: 2 operations to come");
    expect(screen.getByText("35 days sooner")).toBeTruthy();
    expect(screen.getByText(/38: 2 days later/)).toBeTruthy();
    fireEvent.keyDown(list(), { key: "Escape" });
    expect(screen.getByRole("img").getAttribute("aria-label")).not.toContain("Trying");

    queries.setQueryData(waysQuery(BOTH).queryKey, WAYS);
    fireEvent.click(option(/^Both opened/));
    fireEvent.keyDown(list(), { key: "Enter" });
    const changes = within(await screen.findByRole("region", { name: "What it changes in the sequence" }));
    expect(changes.getByText(/Removed, 1/).parentElement?.textContent).toContain("Left side signed off");
    expect(sent.filter((s) => s.url.includes("from-template"))).toEqual([]);
    press("Run it so");
    await waitFor(() => expect(close).toHaveBeenCalled());
    expect(sent.find((s) => s.url.includes("from-template"))).toMatchObject({
      url: "/api/builds/b41/from-template",
      body: { template: "paint-then-assemble", scale: 1, choices: { sides: "both" }, anew: false },
    });
  });

  it("does not take what cannot be, nor what is chosen, and says why it was not kept", async () => {
    shop(problem("after", "It goes round."));
    draw(<HowItRuns onClose={() => undefined} />);
    fireEvent.click(option(/^On the level cart/));
    expect(screen.queryByRole("button", { name: "Take it" })).toBeNull();
    fireEvent.keyDown(list(), { key: "Enter" });
    fireEvent.click(option(/^One side at a time/));
    expect(screen.queryByRole("button", { name: "Take it" })).toBeNull();
    expect(screen.queryByRole("button", { name: "Run it so" })).toBeNull();
    queries.setQueryData(waysQuery(BOTH).queryKey, WAYS);
    fireEvent.click(option(/^Both opened/));
    press("Take it");
    await screen.findByRole("button", { name: "Run it so" });
    press("As it was");
    await waitFor(() => expect(screen.queryByRole("button", { name: "Run it so" })).toBeNull());
    fireEvent.click(option(/^Both opened/));
    press("Take it");
    press("Run it so");
    expect((await screen.findByRole("alert")).textContent).toContain("It goes round.");
  });

  it("keeps a sequence as a template of the shop's own, and drops one that the build does not run by", async () => {
    const own = { key: "own-7", name: "Ours", says: "", ownId: "7" };
    queries.setQueryData(templatesQuery.queryKey, [{ key: RUNS.template, name: "Paint, then assemble", says: "", ownId: null }, own]);
    queries.setQueryData(waysQuery({ ...RUNS, template: own.key }).queryKey, { ...WAYS, schools: [] });
    queries.setQueryData(wayQuery({ ...RUNS, template: own.key }).queryKey, look());
    const sent = shop();
    draw(<HowItRuns onClose={() => undefined} />);
    press("Save it as a template");
    type("Name of the template", "Ours too");
    press("Save");
    await waitFor(() =>
      expect(sent.find((s) => s.url.endsWith("/template"))).toMatchObject({ url: "/api/builds/b41/template", body: { name: "Ours too" } }),
    );
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(screen.queryByRole("button", { name: "Drop this template" })).toBeNull();
    fireEvent.change(screen.getByLabelText("Template"), { target: { value: own.key } });
    expect(await screen.findByText(/This template has no choices/)).toBeTruthy();
    press("Drop this template");
    await waitFor(() => expect(sent.at(-1)).toMatchObject({ method: "DELETE", url: "/api/templates/7" }));
  });

  it("has words for every answer that a template can be asked for", () => {
    const keys: Record<string, readonly string[]> = {
      hold: ["ownChassis", "jig", "cart", "rotisserie", "wheels"],
      sides: ["oneAtATime", "both"],
      blast: ["bareFirst", "afterFabrication", "whereNeeded"],
      filler: ["epoxyFirst", "fillerFirst"],
      gaps: ["both", "beforeFinish", "afterUniformCoat"],
      wiring: ["afterPaint", "onBareMetal"],
      trim: ["inHouse", "visiting"],
    };
    for (const [school, answers] of Object.entries(keys))
      expect(Object.keys(SCHOOLS[school as Schemas["School"]].answers).sort()).toEqual([...answers].sort());
  });
});
