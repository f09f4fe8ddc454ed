import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { queries } from "../api/queries";
import { draw } from "../testing";
import { FindField, Marked, placeOf } from "./FindField";

const navigate = vi.fn();
vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useNavigate: () => navigate,
  useLocation: () => ({ pathname: "/builds/41/parts" }),
}));

const found = (change: Partial<Schemas["Found"]>): Schemas["Found"] => ({
  kind: "bag",
  id: "b",
  buildNumber: 41,
  colourHex: "#1B6670",
  label: "131 R Rear window screws",
  detail: "C3-2",
  do: null,
  ...change,
});
const rows = [
  found({}),
  found({ id: "c", label: "178 L Rear window screws" }),
  found({ kind: "operation", id: "o", label: "Glass and seals", detail: "trim" }),
];
const asked: string[] = [];

beforeEach(() => {
  queries.clear();
  navigate.mockClear();
  asked.length = 0;
  vi.stubGlobal("fetch", async (request: Request) => {
    asked.push(new URL(request.url).search);
    const none = request.url.includes("q=nothing");
    return new Response(JSON.stringify(none ? [] : rows), { status: 200, headers: { "content-type": "application/json" } });
  });
});
afterEach(cleanup);

const field = () => screen.getByRole("combobox", { name: "Find" });
const type = (text: string) => {
  field().focus();
  fireEvent.change(field(), { target: { value: text } });
};

describe("the field that finds anything", () => {
  it("opens with its key from anywhere but a field", () => {
    draw(
      <>
        <FindField />
        <input aria-label="Note" />
      </>,
    );
    fireEvent.keyDown(screen.getByLabelText("Note"), { key: "/" });
    expect(document.activeElement).not.toBe(field());
    fireEvent.keyDown(document.body, { key: "/" });
    expect(document.activeElement).toBe(field());
  });

  it("asks with the build that is open, shows kinds once, moves by arrows and opens with Enter", async () => {
    draw(<FindField />);
    type("rear window");
    const list = await screen.findByRole("listbox", { name: "Found" });
    await waitFor(() => expect(within(list).getAllByRole("option")).toHaveLength(3));
    expect(asked).toEqual(["?q=rear%20window&here=41"]);
    expect(
      within(list)
        .getAllByText(/^(Bag|Operation)$/)
        .map((k) => k.textContent),
    ).toEqual(["Bag", "Operation"]);
    const selected = () => within(list).getByRole("option", { selected: true }).textContent;
    expect(selected()).toContain("131 R");
    fireEvent.keyDown(field(), { key: "ArrowUp" });
    expect(selected()).toContain("Glass and seals");
    fireEvent.keyDown(field(), { key: "ArrowDown" });
    fireEvent.keyDown(field(), { key: "ArrowDown" });
    expect(selected()).toContain("178 L");
    expect(field().getAttribute("aria-activedescendant")).toBe(within(list).getByRole("option", { selected: true }).id);
    fireEvent.keyDown(field(), { key: "Enter" });
    expect(navigate).toHaveBeenCalledWith({ to: "/builds/41/bags?bag=c" });
    expect(screen.queryByRole("listbox")).toBeNull();
    expect((field() as HTMLInputElement).value).toBe("");
  });

  it("opens by a tap, closes by Escape, and says when nothing has all of the words", async () => {
    draw(<FindField />);
    type("rear");
    fireEvent.click(await screen.findByRole("option", { name: "Operation, 41, Glass and seals, trim" }));
    expect(navigate).toHaveBeenCalledWith({ to: "/builds/41/sequence" });
    type("nothing");
    expect(await screen.findByText("Nothing has all of these words.")).toBeTruthy();
    fireEvent.keyDown(field(), { key: "Enter" });
    expect(navigate).toHaveBeenCalledTimes(1);
    fireEvent.keyDown(field(), { key: "Escape" });
    expect(screen.queryByRole("listbox")).toBeNull();
  });

  it.each([
    [found({ kind: "build" }), "/builds/41"],
    [found({ kind: "paper" }), "/builds/41/estimate"],
    [found({ kind: "finding", id: "f4" }), "/builds/41/survey?finding=f4"],
    [found({ kind: "person", buildNumber: null }), "/shop"],
    [found({ kind: "do", do: "noteFinding" }), "/find/41"],
    [found({ kind: "do", do: "enterHours" }), "/builds/41/hours"],
    [found({ kind: "do", do: "openBuild", buildNumber: null }), "/builds/new"],
  ])("knows where things stand", (what, to) => expect(placeOf(what)).toBe(to));

  it("sets in bold what was typed of each word, in any order", () => {
    const bold = (text: string, typed: string) => {
      cleanup();
      const { container } = draw(<Marked text={text} typed={typed} />);
      expect(container.textContent).toBe(text);
      return [...container.querySelectorAll("b")].map((b) => b.textContent);
    };
    expect(bold("178 L Rear window screws", "win 178 re")).toEqual(["178", "Re", "win"]);
    expect(bold("Zoë’s bracket", "zoe")).toEqual(["Zoë"]);
    expect(bold("Rear window", "indow")).toEqual([]);
    expect(bold("Rear window", " ")).toEqual([]);
  });
});
