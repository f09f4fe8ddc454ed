import { createBrowserHistory } from "@tanstack/react-router";
import { act, cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { draw, press } from "../testing";
import { Sheet } from "./Sheet";

afterEach(cleanup);

const drawSheet = (history?: Parameters<typeof draw>[1]) => {
  const closed = vi.fn();
  draw(
    <Sheet title="A part" onClose={closed}>
      <input aria-label="Search" />
      <form>
        <input aria-label="Name" />
      </form>
    </Sheet>,
    history,
  );
  return closed;
};
const type = (label: string) => fireEvent.change(screen.getByLabelText(label), { target: { value: "rim" } });

function Opened({ stays }: { stays: boolean }) {
  const [open, setOpen] = useState(false);
  return (
    <main id="page" tabIndex={-1}>
      {(stays || !open) && (
        <button type="button" onClick={() => setOpen(true)}>
          Edit
        </button>
      )}
      {open && (
        <Sheet title="A part" onClose={() => setOpen(false)}>
          {/* A field that takes the hand by itself must not be taken for what opened the sheet. */}
          <input aria-label="Name" autoFocus />
        </Sheet>
      )}
    </main>
  );
}

describe("a sheet", () => {
  it.each(["Close", "Escape"])("is gone at once where nothing was entered in its form: %s", (way) => {
    const closed = drawSheet();
    type("Search");
    if (way === "Close") press("Close");
    else fireEvent.keyDown(screen.getByRole("dialog"), { key: "Escape" });
    expect(closed).toHaveBeenCalledTimes(1);
  });

  it.each(["Close", "Escape"])("asks before what was entered is lost: %s", (way) => {
    const closed = drawSheet();
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
    drawSheet();
    expect(document.activeElement).toBe(screen.getByLabelText("Name"));
  });

  it("holds the window while something is entered, and no longer", () => {
    const history = createBrowserHistory();
    drawSheet(history);
    const leaving = () => !window.dispatchEvent(new Event("beforeunload", { cancelable: true }));
    expect(leaving()).toBe(false);
    type("Name");
    expect(leaving()).toBe(true);
    cleanup();
    expect(leaving()).toBe(false);
    history.destroy();
  });

  it("is what Back closes, after the same question; the page below it stays", async () => {
    const history = createBrowserHistory();
    for (const path of ["/one", "/two"]) {
      history.push(path);
      await waitFor(() => expect(window.location.pathname).toBe(path));
    }
    const closed = drawSheet(history);
    type("Name");
    act(() => window.history.back());
    expect((await screen.findByRole("alert")).textContent).toContain("Leave without saving?");
    expect(closed).not.toHaveBeenCalled();
    press("Leave");
    expect(closed).toHaveBeenCalledTimes(1);
    await waitFor(() => expect(window.location.pathname).toBe("/two"));
    act(() => window.history.back());
    await waitFor(() => expect(closed).toHaveBeenCalledTimes(2));
    await waitFor(() => expect(window.location.pathname).toBe("/two"));
    history.destroy();
  });

  it("leaves the hand where it was opened, and on the page where that is gone", async () => {
    for (const stays of [true, false]) {
      draw(<Opened stays={stays} />);
      screen.getByText("Edit").focus();
      press("Edit");
      press("Close");
      await waitFor(() => expect(document.activeElement).toBe(stays ? screen.getByText("Edit") : screen.getByRole("main")));
      cleanup();
    }
  });
});
