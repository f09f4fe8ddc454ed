import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Sheet } from "./Sheet";

afterEach(cleanup);

const draw = () => {
  const closed = vi.fn();
  render(
    <Sheet open title="A part" onClose={closed}>
      <input aria-label="Search" />
      <form>
        <input aria-label="Name" />
      </form>
    </Sheet>,
  );
  return closed;
};
const press = (name: string) => fireEvent.click(screen.getByRole("button", { name }));
const type = (label: string) => fireEvent.change(screen.getByLabelText(label), { target: { value: "rim" } });

describe("a sheet", () => {
  it.each(["Close", "Escape"])("is gone at once where nothing was entered in its form: %s", (way) => {
    const closed = draw();
    type("Search");
    if (way === "Close") press("Close");
    else fireEvent.keyDown(screen.getByRole("dialog"), { key: "Escape" });
    expect(closed).toHaveBeenCalledTimes(1);
  });

  it.each(["Close", "Escape"])("asks before what was entered is lost: %s", (way) => {
    const closed = draw();
    const close = () => (way === "Close" ? press("Close") : fireEvent.keyDown(screen.getByRole("dialog"), { key: "Escape" }));
    type("Name");
    close();
    expect(closed).not.toHaveBeenCalled();
    expect(screen.getByRole("alert").textContent).toContain("Leave without saving?");
    press("Keep editing");
    expect(screen.queryByRole("alert")).toBeNull();
    close();
    press("Leave");
    expect(closed).toHaveBeenCalledTimes(1);
  });

  it("has the first field of its form in hand", () => {
    draw();
    expect(document.activeElement).toBe(screen.getByLabelText("Name"));
  });

  it("holds the window while something is entered, and no longer", () => {
    draw();
    const leaving = () => !window.dispatchEvent(new Event("beforeunload", { cancelable: true }));
    expect(leaving()).toBe(false);
    type("Name");
    expect(leaving()).toBe(true);
    cleanup();
    expect(leaving()).toBe(false);
  });
});
