import { createMemoryHistory } from "@tanstack/react-router";
import { cleanup, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { bagsQuery, buildsQuery, operationsQuery, photosQuery, queries, shopQuery } from "../api/queries";
import { bodyOf, card, draw, press, problem, server, signIn, type } from "../testing";
import { BagsTab } from "./BagsTab";
import { Label, outline } from "./Label";
import { paired } from "./LabelsPage";
import { traysOf } from "./Racks";

const navigate = vi.hoisted(() => vi.fn());
vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useParams: () => ({ number: "41" }),
  useNavigate: () => navigate,
}));

const bag = (code: number, side: Schemas["PanelSide"], change: Partial<Schemas["BagView"]> = {}): Schemas["BagView"] => ({
  id: `b${code}`,
  buildId: "b41",
  code,
  side,
  label: side === "left" ? `${code} L` : side === "right" ? `${code} R` : `${code}`,
  what: "Quarter window screws",
  from: "rear window, frame to body",
  pieces: [{ name: "cup", count: 2 }],
  fasteners: [{ kind: "screw", head: "oval", thread: "M4 x 16", finish: "chrome", count: 8, shows: true, destroyed: 1 }],
  fastenerWords: ["8 screws, oval M4 x 16, chrome"],
  state: "onShelf",
  place: "C3-7",
  patternFor: null,
  pattern: null,
  patternOpen: false,
  photoId: null,
  noPhoto: true,
  offBy: "Nessa Kilbride",
  offAt: "2026-03-12T09:00:00Z",
  version: 3,
  ...change,
});
const view = (change: Partial<Schemas["BagsView"]> = {}): Schemas["BagsView"] => ({
  bags: [
    bag(214, "left"),
    bag(244, "right", { place: "C2-3" }),
    bag(318, "left", { what: "Sill end", place: "D3-4", patternFor: "o1", pattern: "Let in a new end", patternOpen: true }),
    bag(263, "right", { what: "Tail lamp gasket", state: "notFound", place: "" }),
  ],
  moves: [{ bagId: "b214", state: "onShelf", place: "C3-7", note: "", by: "Nessa Kilbride", at: "2026-03-12T09:00:00Z" }],
  counts: {
    cameOff: 8,
    fasteners: 32,
    bags: 3,
    asPattern: 2,
    pieces: { onShelf: 6, atSupplier: 0, onCar: 0, withClient: 0, sold: 0, scrapped: 0, notFound: 2 },
  } as unknown as Schemas["TeardownCounts"],
  ...change,
});

beforeEach(() => {
  queries.clear();
  queries.setQueryData(shopQuery.queryKey, {
    racks: [
      { name: "C", shelves: 5, trays: 12 },
      { name: "D", shelves: 5, trays: 12 },
    ],
  } as unknown as Schemas["ShopView"]);
  signIn("technician", { personId: "nessa", now: "2026-10-13T09:42:00Z" });
  queries.setQueryData(buildsQuery.queryKey, [card({ id: "b41" })]);
  queries.setQueryData(bagsQuery("b41").queryKey, view());
  queries.setQueryData(photosQuery("b41").queryKey, []);
  queries.setQueryData(operationsQuery("b41").queryKey, []);
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("bags", () => {
  it("shows the trays with their bags, what is kept as a pattern, and what is not found", () => {
    draw(<BagsTab />);
    expect(screen.getByRole("group", { name: "Rack C, 2 bags" })).toBeTruthy();
    expect(screen.getByRole("button", { name: "Tray D3-4, 1 bag" })).toBeTruthy();
    const kept = screen.getByRole("heading", { name: /Kept as pattern/ }).parentElement as HTMLElement;
    expect(within(kept).getByRole("button", { name: /Sill end.*for Let in a new end/ })).toBeTruthy();
    const lost = screen.getByRole("heading", { name: /Not found/ }).parentElement as HTMLElement;
    expect(within(lost).getByRole("button", { name: /Tail lamp gasket/ })).toBeTruthy();
    expect(screen.getByText("6 on shelf + 2 not found")).toBeTruthy();
  });

  it("opens a tray, and a bag with all it holds and where it has been", () => {
    draw(<BagsTab />);
    fireEvent.click(screen.getByRole("button", { name: "Tray C3-7, 1 bag" }));
    const tray = screen.getByRole("heading", { name: /Tray C3-7/ }).parentElement as HTMLElement;
    fireEvent.click(within(tray).getByRole("button"));
    const opened = screen.getByRole("article", { name: "Bag 214 L" });
    expect(opened.textContent).toContain("8 screws, oval M4 x 16, chrome, is seen, 1 destroyed: on the buying list");
    expect(opened.textContent).toContain("12 Mar: on shelf, C3-7, Nessa Kilbride");
    expect(within(opened).getByRole("link", { name: "Label" }).getAttribute("href")).toBe("/api/builds/b41/labels?codes=214&paper=roll");
  });

  it("opens the bag that the address asks for", async () => {
    const [bag] = view().bags.filter((b) => b.label === "214 L");
    draw(<BagsTab />, createMemoryHistory({ initialEntries: [`/builds/41/bags?bag=${bag?.id}`] }));
    expect(await screen.findByRole("article", { name: "Bag 214 L" })).toBeTruthy();
  });

  it("bags something with its side and fasteners; the number is the server's", async () => {
    const sent = server(problem("photoId", "Take a photo before it is closed, or say that there is none."));
    draw(<BagsTab />);
    press("Bag something");
    type("What", "Window catch");
    type("Side", "right");
    type("piece", "catch");
    press("Add fasteners");
    type("thread", "M3 x 10");
    type("destroyed", "1");
    type("Tray, such as C3-7", "c2-3");
    press("In the bag");
    expect((await screen.findByRole("alert")).textContent).toContain("Take a photo");
    fireEvent.click(screen.getByLabelText("There is no photo"));
    press("In the bag");
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent[1]?.body).toMatchObject({
      side: "right",
      what: "Window catch",
      pieces: [{ name: "catch", count: 1 }],
      fasteners: [{ kind: "screw", thread: "M3 x 10", count: 4, destroyed: 1 }],
      place: "c2-3",
      noPhoto: true,
      version: null,
    });
    expect(sent[0]?.url).toBe(sent[1]?.url);
  });

  it("moves a bag and shows why a pattern is not scrapped", async () => {
    const sent = server(problem("state", "It is kept as the pattern for “Let in a new end” until that is signed off."));
    draw(<BagsTab />);
    fireEvent.click(screen.getAllByRole("button", { name: /Sill end/ })[0] as HTMLElement);
    press("Move");
    type("It is", "scrapped");
    expect(screen.queryByLabelText("Tray, such as C3-7")).toBeNull();
    press("Move");
    expect((await screen.findByRole("alert")).textContent).toContain("kept as the pattern");
    expect(bodyOf(sent)).toMatchObject({ state: "scrapped", note: "" });
  });

  it("finds by words, reads the question back and names the twin", async () => {
    const found: Schemas["FindView"] = {
      reading: { code: null, side: "left", words: ["quarter", "screw"], fasteners: true },
      exact: true,
      found: [{ bag: bag(214, "left"), buildNumber: 41, colourHex: "#1B6670", twin: "244 R, C2-3" }],
    };
    queries.setQueryData(["bags", "find", "left quarter screws"], found);
    draw(<BagsTab />);
    fireEvent.change(screen.getByRole("searchbox"), { target: { value: "left quarter screws" } });
    const list = await screen.findByRole("region", { name: "Found" });
    await waitFor(() => expect(list.textContent).toContain("left is L; quarter, screw"));
    expect(list.textContent).toContain("Not 244 R, C2-3");
    fireEvent.click(within(list).getByRole("button"));
    expect(screen.getByRole("article", { name: "Bag 214 L" })).toBeTruthy();
  });

  it("goes to the other build when the bag found is not of this one", async () => {
    queries.setQueryData(["bags", "find", "330"], {
      reading: { code: 330, side: null, words: [], fasteners: false },
      exact: true,
      found: [{ bag: bag(330, "right", { buildId: "b43" }), buildNumber: 43, colourHex: "#5C2B4B", twin: null }],
    } satisfies Schemas["FindView"]);
    draw(<BagsTab />);
    fireEvent.change(screen.getByRole("searchbox"), { target: { value: "330" } });
    fireEvent.click(within(await screen.findByRole("region", { name: "Found" })).getByRole("button"));
    expect(navigate).toHaveBeenCalledWith({ to: "/builds/43/bags" });
  });
});

describe("labels", () => {
  const label = (code: number, side: Schemas["PanelSide"], what = "Catch"): Schemas["LabelView"] => ({
    code,
    side,
    buildNumber: 41,
    colourHex: "#1B6670",
    what,
    from: "rear edge",
    holds: "3 pieces",
    place: "C3-7",
    pattern: null,
    off: "12 Mar NK",
    scan: `FC ${code}`,
    modules: ["101", "010", "111"],
  });

  it("put twins on one row, left beside right, and leave a gap where there is none", () => {
    const rows = paired([label(215, "left"), label(219, "centre", "Clips"), label(230, "left", "Seal"), label(245, "right")]);
    expect(rows.map((r) => r?.code ?? null)).toEqual([215, 245, 230, null, 219]);
  });

  it("show the side by place, fill and letter, and mark 6 and 9", () => {
    const { container } = render(<Label of={label(269, "left")} />);
    expect(container.querySelector("text")?.textContent).toBe("L");
    expect(container.querySelectorAll("path[stroke-width='.8']")).toHaveLength(2);
    expect(outline("left", 95, 35, 8)).toBe("M8,0H95V35H0V8Z");
    expect(outline("right", 95, 35, 8)).toBe("M0,0H87L95,8V35H0Z");
    // The square code is drawn module by module.
    expect(container.querySelector("path[shape-rendering]")?.getAttribute("d")).toBe(
      "M0,0h1v1h-1ZM2,0h1v1h-1ZM1,1h1v1h-1ZM0,2h1v1h-1ZM1,2h1v1h-1ZM2,2h1v1h-1Z",
    );
  });

  it("count only what lies in a tray as being on the racks", () => {
    const racks = [
      { name: "C", shelves: 3, trays: 12 },
      { name: "Loft", shelves: 2, trays: 4 },
    ];
    const trays = traysOf(
      [
        bag(1, "left"),
        bag(2, "left", { place: "c3-7 " }),
        bag(3, "left", { place: "yard container" }),
        bag(4, "left", { state: "onCar" }),
        bag(5, "left", { place: "Loft 2-4" }),
        bag(6, "left", { place: "Loft 2-5" }),
        bag(7, "left", { place: "B3-7" }),
      ],
      racks,
    );
    expect([...trays].map(([t, b]) => [t, b.length])).toEqual([
      ["C3-7", 2],
      ["Loft 2-4", 1],
    ]);
  });
});
