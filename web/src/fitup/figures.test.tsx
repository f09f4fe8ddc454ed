import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { bodyQuery, buildsQuery, figuresQuery, photosQuery, provisionsQuery, queries } from "../api/queries";
import { isKept, KeptUnsent } from "../api/unsent";
import { card, draw, problem, server, signIn, type } from "../testing";
import { type AllFigures, FiguresTab, marksOf } from "./FiguresTab";
import { whenKept } from "./SpecSections";

vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useParams: () => ({ number: "41" }),
}));
vi.mock("../pictures/PanelMap", () => ({ PanelMap: () => null }));

const body = {
  panels: [
    { key: "doorR", name: "R door", path: "M0,0L10,0L10,20L0,20Z" },
    { key: "bonnet", name: "Bonnet", path: "M20,0L40,0L40,20L20,20Z" },
  ],
} as unknown as Schemas["BodyView"];

const spec = (change: Partial<Schemas["SpecView"]> = {}): Schemas["SpecView"] => ({
  id: "s1",
  version: 1,
  name: "ride height",
  panel: "doorR",
  specified: 378,
  tolerance: 5,
  unit: "mm",
  source: "Manual",
  page: "12",
  photoId: null,
  readings: [{ id: "r", side: "centre", value: 371.5, instrument: "", by: "Wil", at: "2026-10-13T08:00:00Z" }],
  deviation: -6.5,
  isOut: true,
  words: "371.5 mm, specified 378 mm: 6.5 mm too little",
  ...change,
});

const mirror = (change: Partial<Schemas["BothSidesView"]> = {}): Schemas["BothSidesView"] => ({
  id: "m1",
  name: "sill to arch",
  panel: "doorR",
  sound: "left",
  asymmetry: -2,
  tolerance: 1,
  unit: "mm",
  soundRead: 412,
  otherRead: null,
  targetMm: 410,
  offMm: null,
  isOut: false,
  ...change,
});

const bolt = (number: number, at: string | null = null) => ({ number, name: `bolt ${number}`, torque: "35 Nm", by: at ? "Wil" : "", at });

const nothing: AllFigures = { specs: [], centres: [], mirrors: [], mounts: [], bolts: [] };

describe("the page of figures", () => {
  const show = (all: Partial<AllFigures>) => {
    queries.setQueryData(buildsQuery.queryKey, [card({ id: "b41", number: 41 })]);
    queries.setQueryData(figuresQuery("b41").queryKey, { ...nothing, ...all });
    queries.setQueryData(bodyQuery("b41").queryKey, { body, panels: [] } as never);
    queries.setQueryData(photosQuery("b41").queryKey, []);
    queries.setQueryData(provisionsQuery("b41").queryKey, []);
    draw(<FiguresTab />);
  };
  beforeEach(() => {
    queries.clear();
    signIn("technician");
  });
  afterEach(cleanup);

  it("says how a figure stands, with its paper, and keeps a number and Enter as its next reading", async () => {
    const sent = server();
    show({ specs: [spec()] });
    expect(screen.getByText("371.5 mm, specified 378 mm: 6.5 mm too little").className).toContain("oxide");
    expect(screen.getByText(/Manual, page 12/)).toBeTruthy();
    const box = screen.getByLabelText("ride height, mm");
    fireEvent.change(box, { target: { value: "378,5" } });
    fireEvent.submit(box);
    await waitFor(() => expect(sent[0]?.url).toBe("/api/figures/s1/readings"));
    expect(sent[0]?.body).toMatchObject({ value: 378.5 });
    await waitFor(() => expect((box as HTMLInputElement).value).toBe(""));
  });

  it("empties a box whose figure is kept in this browser, and leaves one that was refused", () => {
    const done = vi.fn();
    whenKept(done).onError(new Error("No figure of a vehicle is that large."));
    expect(done).not.toHaveBeenCalled();
    whenKept(done).onError(new KeptUnsent("a figure’s reading"));
    expect(done).toHaveBeenCalledOnce();
    expect(isKept("POST", "/api/figures/s1/readings")).toBe("a figure’s reading");
    expect(isKept("POST", "/api/figures/s1/remove")).toBeNull();
  });

  it("takes off the sheet only what holds no reading, no shim and no tight bolt", () => {
    const steps = [bolt(1, "2026-10-13T08:00:00Z")];
    show({
      specs: [spec(), spec({ id: "s2", name: "camber", readings: [] })],
      mounts: [{ id: "k1", version: 7, name: "4 R", panels: [], shimMm: 2 }],
      bolts: [{ id: "o1", name: "Head", source: "Manual", steps, next: null }],
    });
    expect(screen.getAllByRole("button", { name: /off the sheet$/ }).map((b) => b.getAttribute("aria-label"))).toEqual([
      "Take camber off the sheet",
    ]);
  });

  it("shows at its field what a figure lacks", async () => {
    server(problem("source", "Say which paper specifies it: a figure without a source is none."));
    show({});
    fireEvent.click(screen.getByRole("button", { name: "Add a figure" }));
    type("What is measured", "camber");
    fireEvent.click(screen.getByRole("button", { name: "Save" }));
    expect(await screen.findByText("Say which paper specifies it: a figure without a source is none.")).toBeTruthy();
  });

  it("gives the other side its target, then says by how much it is off", () => {
    show({ mirrors: [mirror()] });
    expect(screen.getByText(": the right side should read 410.0 mm")).toBeTruthy();
    cleanup();
    show({ mirrors: [mirror({ otherRead: 414, offMm: 4, isOut: true })] });
    expect(screen.getByText(": the right side is 4.0 mm too long")).toBeTruthy();
    cleanup();
    show({ mirrors: [mirror({ otherRead: 410.5, offMm: 0.5 })] });
    expect(screen.getByText(": the right side is as the sound one")).toBeTruthy();
  });

  it("sends the side that was read", async () => {
    const sent = server();
    show({ mirrors: [mirror()] });
    const box = screen.getByLabelText("sill to arch, right");
    fireEvent.change(box, { target: { value: "411" } });
    fireEvent.submit(box);
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ side: "right", value: 411 }));
  });

  it("offers the next bolt alone, and what is tight may be loosened", async () => {
    const sent = server();
    const steps = [bolt(1, "2026-10-13T08:00:00Z"), bolt(2), bolt(3)];
    show({ bolts: [{ id: "o1", name: "Head", source: "Manual", steps, next: 2 }] });
    const order = screen.getByRole("list", { name: "Head" });
    expect(
      within(order)
        .getAllByRole("button")
        .map((b) => b.getAttribute("aria-label")),
    ).toEqual(["bolt 1 and what follows is loose again", "bolt 2 is tight"]);
    fireEvent.click(within(order).getByRole("button", { name: "bolt 2 is tight" }));
    await waitFor(() => expect(sent[0]?.body).toEqual({ number: 2, tight: true }));
  });

  it("takes shims in the shop’s unit and names the version that was seen", async () => {
    signIn("technician", { units: "us" });
    const sent = server();
    show({ mounts: [{ id: "k1", version: 7, name: "4 R", panels: ["doorR"], shimMm: 2.54 }] });
    expect(screen.getByText(/0.100 in of shims/)).toBeTruthy();
    const box = screen.getByLabelText("shims in 4 R, in");
    fireEvent.change(box, { target: { value: "0.2" } });
    fireEvent.submit(box);
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ shimMm: 5.08, version: 7 }));
  });

  it("lets the office read but change nothing", () => {
    signIn("office");
    show({ specs: [spec()], bolts: [{ id: "o1", name: "Head", source: "Manual", steps: [bolt(1)], next: 1 }], mirrors: [mirror()] });
    expect(screen.queryAllByRole("button")).toEqual([]);
  });
});

describe("marks on the body", () => {
  it("are one a panel, what is out first", () => {
    const all: AllFigures = {
      ...nothing,
      specs: [spec({ isOut: false, readings: spec().readings })],
      mirrors: [mirror({ offMm: 4, isOut: true })],
    };
    expect(marksOf(all, body)).toEqual([{ key: "doorR", x: 5, y: 10, words: "off by 4.0, 1 more", wrong: true }]);
  });

  it("are none where nothing was read", () => {
    expect(marksOf({ ...nothing, specs: [spec({ readings: [] })], mirrors: [mirror({ targetMm: null })] }, body)).toEqual([]);
  });
});
