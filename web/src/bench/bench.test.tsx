import { cleanup, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { buildsQuery, offcutsQuery, queries, triesQuery, wiresQuery, workQuery } from "../api/queries";
import { card, draw, signIn, type } from "../testing";
import { BenchPage } from "./BenchPage";
import { SUMS } from "./catalogue";
import { DRAWINGS } from "./drawings";
import { inUnit, type SumSpec, startOf } from "./figures";
import { namesOf } from "./Stock";
import { pagesOf } from "./TaperPrint";

const asked = { sum: "door" as string | undefined, search: {} as object };
vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useParams: () => ({ sum: asked.sum }),
  useLocation: () => ({ search: asked.search }),
}));

const answer = (change: Partial<Schemas["BenchAnswer"]> = {}): Schemas["BenchAnswer"] =>
  ({
    says: "150.0 mm too high",
    isWrong: true,
    notes: ["A dolly of 470.0 mm or less is enough."],
    rows: [{ label: "Left", value: "−150.0", was: "", isWrong: true }],
    worked: ["2100 − (1250 + 620 + 380) = −150.0"],
    source: { text: "Counting.", isRuleOfThumb: false },
    out: { bodyMm: 1250, dollyMm: 620, marginMm: 380, doorMm: 2100, fits: false },
    ...change,
  }) as Schemas["BenchAnswer"];

type Sent = { url: string; method: string; body: Record<string, unknown> };

/** The core answers every sum the same, or refuses a figure that holds an "x". */
function core(sent: Sent[] = [], given = answer()) {
  vi.stubGlobal("fetch", async (request: Request) => {
    if (request.method === "GET") return new Response("{}", { status: 500 });
    const body = JSON.parse((await request.clone().text()) || "null");
    const url = new URL(request.url).pathname;
    sent.push({ url, method: request.method, body });
    const bad = Object.entries(body ?? {}).find(([, v]) => v === "x");
    const reply = !url.includes("/bench/sums/")
      ? { id: "x", version: 1 }
      : bad
        ? { answer: null, field: bad[0], why: `Write the ${bad[0]} as a number.` }
        : { answer: given, field: "", why: "" };
    return new Response(JSON.stringify(reply), { headers: { "content-type": "application/json" } });
  });
  return sent;
}

const sums = (sent: Sent[]) => sent.filter((s) => s.url.includes("/bench/sums/"));

describe("the bench", () => {
  const show = (sum: string | undefined, search: object = {}) => {
    [asked.sum, asked.search] = [sum, search];
    queries.setQueryData(buildsQuery.queryKey, [card({ id: "b41", number: 41 })]);
    queries.setQueryData(triesQuery("b41").queryKey, []);
    queries.setQueryData(workQuery("b41").queryKey, []);
    queries.setQueryData(offcutsQuery(1.2).queryKey, []);
    return draw(<BenchPage />);
  };
  beforeEach(() => {
    queries.clear();
    signIn("technician");
  });
  afterEach(cleanup);

  it("says what a sum comes to, with its formula and where it comes from", async () => {
    core();
    show("door");
    expect(await screen.findAllByText("150.0 mm too high")).not.toHaveLength(0);
    expect(screen.getByText("2100 − (1250 + 620 + 380) = −150.0")).toBeTruthy();
    expect(screen.getByText("Counting.")).toBeTruthy();
    expect(screen.getByText("A dolly of 470.0 mm or less is enough.")).toBeTruthy();
  });

  it("sends what is typed as it is typed, and shows a refusal at its figure", async () => {
    const sent = core();
    show("door", { build: 41 });
    await screen.findAllByText("150.0 mm too high");
    type("body", "x");
    expect((await screen.findByRole("alert")).textContent).toBe("Write the body as a number.");
    expect(screen.getByLabelText("body").getAttribute("aria-invalid")).toBe("true");
    expect(screen.getByText(/Before that figure/)).toBeTruthy();
    expect(sums(sent).at(-1)?.body.body).toBe("x");
    type("body", "1300");
    await waitFor(() => expect(screen.queryByRole("alert")).toBeNull());
  });

  it("says that its first figures are an example, until one is typed", async () => {
    core();
    show("tank", { build: 41 });
    expect(await screen.findByText("An example: none of these figures is 41’s yet.")).toBeTruthy();
    type("long", "640");
    expect(screen.queryByText(/An example/)).toBeNull();
  });

  it("changes a figure by the arrow keys", async () => {
    core();
    show("opening");
    const width = await screen.findByLabelText("width");
    fireEvent.keyDown(width, { key: "ArrowUp" });
    expect((width as HTMLInputElement).value).toBe("1201");
  });

  it("keeps the size of things when the unit changes", async () => {
    const sent = core();
    show("chassis");
    await screen.findAllByText("150.0 mm too high");
    fireEvent.click(screen.getByRole("button", { name: "Lengths in mm" }));
    expect((screen.getByLabelText("track") as HTMLInputElement).value).toBe(String(Number((1400 / 25.4).toFixed(4))));
    await waitFor(() => expect(sums(sent).at(-1)?.body.unit).toBe("inch"));
  });

  it("begins with what was measured when it is opened from there", async () => {
    const sent = core();
    const work = [{ sum: "opening", key: "cabin", name: "Cabin floor", figures: { unit: "mm", d1: "1777", d2: "1770" } }];
    [asked.sum, asked.search] = ["opening", { build: 41, from: "cabin" }];
    queries.setQueryData(buildsQuery.queryKey, [card({ id: "b41", number: 41 })]);
    queries.setQueryData(triesQuery("b41").queryKey, []);
    queries.setQueryData(workQuery("b41").queryKey, work as unknown as Schemas["WorkView"][]);
    draw(<BenchPage />);
    await waitFor(() => expect((screen.getByLabelText("bottom left to top right") as HTMLInputElement).value).toBe("1777"));
    await waitFor(() => expect(sums(sent).at(-1)?.body).toMatchObject({ d1: "1777", tolerance: "2" }));
  });

  it("keeps a try with its build under a name, and tells who kept what", async () => {
    const sent = core();
    [asked.sum, asked.search] = ["door", { build: 41 }];
    queries.setQueryData(triesQuery("b41").queryKey, [
      { id: "t1", sum: "door", name: "booth", figures: { door: "2300" }, by: "Wil", at: "2026-10-12T08:00:00Z", answer: answer() },
      { id: "t2", sum: "wheel", name: "rear", figures: {}, by: "Wil", at: "2026-10-12T08:00:00Z", answer: answer() },
    ] as unknown as Schemas["TryView"][]);
    queries.setQueryData(buildsQuery.queryKey, [card({ id: "b41", number: 41 })]);
    queries.setQueryData(workQuery("b41").queryKey, []);
    draw(<BenchPage />);
    const kept = await screen.findByRole("region", { name: "Kept with 41" });
    expect(within(kept).getAllByRole("listitem")).toHaveLength(1);
    await screen.findAllByText("150.0 mm too high");
    type("What it is for", "paint shop door");
    fireEvent.click(within(kept).getByRole("button", { name: "Keep this try" }));
    await waitFor(() => expect(sent.some((s) => s.url === "/api/builds/b41/bench/tries" && s.body.name === "paint shop door")).toBe(true));
    fireEvent.click(within(kept).getByRole("button", { name: "Take its figures" }));
    expect((screen.getByLabelText("door") as HTMLInputElement).value).toBe("2300");
  });

  it("lets the office look but keep nothing", async () => {
    signIn("office");
    core();
    show("door", { build: 41 });
    await screen.findAllByText("150.0 mm too high");
    expect(screen.queryByRole("button", { name: "Keep this try" })).toBeNull();
  });

  it("cuts the rests that are ticked first, and puts what is left over into stock", async () => {
    const cut = { offcut: "400 × 300, S2", widthMm: 400, heightMm: 300, pieces: [], rests: [] };
    const fresh = {
      offcut: "",
      widthMm: 2000,
      heightMm: 1000,
      pieces: [{ name: "sill", xMm: 0, yMm: 0, widthMm: 1500, heightMm: 300 }],
      rests: [{ name: "", xMm: 0, yMm: 302, widthMm: 2000, heightMm: 698 }],
    };
    const sent = core([], answer({ says: "1 sheet and 1 from stock", out: { sheets: [cut, fresh], gaugeMm: 1.2 } as never }));
    [asked.sum, asked.search] = ["take-off", {}];
    queries.setQueryData(buildsQuery.queryKey, []);
    const offcut = {
      id: "o1",
      version: 4,
      widthMm: 400,
      heightMm: 300,
      gaugeMm: 1.2,
      material: "mild steel",
      place: "S2",
      usedAt: null,
      usedBy: "",
    };
    queries.setQueryData(offcutsQuery(1.2).queryKey, [
      offcut,
      { ...offcut, id: "o2", usedAt: "2026-10-12T08:00:00Z" },
    ] as unknown as Schemas["OffcutView"][]);
    draw(<BenchPage />);
    fireEvent.click(await screen.findByRole("checkbox", { name: /400 × 300, S2/ }));
    await waitFor(() => expect(sums(sent).at(-1)?.body.offcuts).toEqual([{ name: "400 × 300, S2", width: "400", height: "300" }]));
    fireEvent.click(await screen.findByRole("button", { name: "Cut: take 1 rest out of stock" }));
    await waitFor(() => expect(sent.some((s) => s.url === "/api/offcuts/o1/use" && s.body.version === 4)).toBe(true));
    fireEvent.click(screen.getByRole("button", { name: "Keep it" }));
    await waitFor(() =>
      expect(sent.find((s) => s.url === "/api/offcuts")?.body).toMatchObject({ widthMm: 2000, heightMm: 698, gaugeMm: 1.2 }),
    );
    expect(await screen.findByRole("button", { name: "kept" })).toBeTruthy();
  });

  it("starts with the shop’s wires and lets only a manager change them", async () => {
    const sent = core();
    queries.setQueryData(wiresQuery.queryKey, { version: 3, wires: [{ mm2: 6, mostAmps: 35 }], fuses: [15], isOwn: true });
    show("wire");
    await waitFor(() => expect(sums(sent).at(-1)?.body.wires).toEqual([{ mm2: "6", amps: "35" }]));
    fireEvent.change(screen.getByLabelText("wire 1, carries, A"), { target: { value: "30" } });
    expect(screen.queryByRole("button", { name: "Keep as the shop’s table" })).toBeNull();
    cleanup();
    signIn("manager");
    show("wire");
    fireEvent.click(await screen.findByRole("button", { name: "Keep as the shop’s table" }));
    await waitFor(() =>
      expect(sent.find((s) => s.method === "PUT")?.body).toEqual({ wires: [{ mm2: 6, mostAmps: 30 }], fuses: [15], version: 3 }),
    );
  });

  it("has one more row than is filled, and takes one out", async () => {
    const sent = core();
    show("cuts");
    const pieces = await screen.findByRole("table", { name: "Pieces" });
    expect(within(pieces).getAllByRole("row")).toHaveLength(5);
    fireEvent.change(screen.getByLabelText("piece 4, long"), { target: { value: "700" } });
    expect(within(pieces).getAllByRole("row")).toHaveLength(6);
    fireEvent.click(screen.getByRole("button", { name: "Take out piece 1" }));
    await waitFor(() => expect(sums(sent).at(-1)?.body).toMatchObject({ pieces: [{ size: "1994" }, { size: "1250" }, { size: "700" }] }));
  });
});

describe("rests that are alike", () => {
  it("have names of their own, so that one that is cut is not taken for the other", () => {
    const rest = (id: string, place = "") => ({ id, widthMm: 400, heightMm: 300, place }) as Schemas["OffcutView"];
    expect([...namesOf([rest("a"), rest("b"), rest("c", "S2")]).values()]).toEqual(["400 × 300", "400 × 300, no. 2", "400 × 300, S2"]);
  });
});

describe("the sums of the rack", () => {
  afterEach(cleanup);

  it.each(SUMS.map((s) => [s.key, s] as const))("%s stands in inches as large as in millimetres", (_, spec: SumSpec) => {
    const start = { unit: "mm", ...spec.start };
    const round = inUnit(spec, inUnit(spec, start, "inch"), "mm");
    for (const s of spec.figures.filter((x) => x.unit === "length" && start[x.key as keyof typeof start] !== "")) {
      expect(Number(round[s.key])).toBeCloseTo(Number(start[s.key as keyof typeof start]), 1);
    }
  });

  it.each(SUMS.map((s) => [s.key, s] as const))("%s is drawn also while nothing is known", (key, spec) => {
    const Drawing = DRAWINGS[key];
    expect(Drawing).toBeTruthy();
    if (!Drawing) return;
    const { container } = render(
      <svg role="img" aria-label="x">
        <Drawing out={{}} figures={startOf(spec)} show={(v) => v.toFixed(1)} put={() => undefined} />
      </svg>,
    );
    expect(container.innerHTML).not.toMatch(/NaN|Infinity/);
  });
});

describe("a template at full size", () => {
  it("goes on as many pages as it takes, each lapping over the one before", () => {
    expect(pagesOf(200, 265)).toEqual([{ from: 0, to: 200 }]);
    expect(pagesOf(600, 265)).toEqual([
      { from: 0, to: 265 },
      { from: 255, to: 520 },
      { from: 510, to: 600 },
    ]);
  });
});
