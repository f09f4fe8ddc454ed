import { createBrowserHistory } from "@tanstack/react-router";
import { act, cleanup, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { draw, press } from "../testing";
import { useLeavingGuard } from "./useLeavingGuard";

const shown = vi.fn();
function Page({ unsaved }: { unsaved: boolean }) {
  const guard = useLeavingGuard(() => unsaved);
  return (
    <>
      {guard.question}
      <button type="button" onClick={() => guard.before(shown)}>
        Show another
      </button>
    </>
  );
}

afterEach(() => {
  cleanup();
  shown.mockClear();
});

const at = () => window.location.pathname;
/** A page that was reached from another one. */
async function reached(unsaved: boolean) {
  const history = createBrowserHistory();
  for (const path of ["/before", "/form"]) {
    history.push(path);
    await waitFor(() => expect(at()).toBe(path));
  }
  draw(<Page unsaved={unsaved} />, history);
  return history;
}
const asked = () => screen.queryByRole("alertdialog", { name: "Leave without saving? What you entered is lost." });

describe("a page on which something was entered", () => {
  it.each([
    ["a link", (h: ReturnType<typeof createBrowserHistory>) => h.push("/before")],
    ["Back", () => window.history.back()],
  ])("is left by %s only after a question", async (_, go) => {
    const history = await reached(true);
    act(() => go(history));
    await waitFor(() => expect(asked()).toBeTruthy());
    press("Keep editing");
    await waitFor(() => expect(at()).toBe("/form"));
    expect(asked()).toBeNull();
    act(() => go(history));
    await waitFor(() => expect(asked()).toBeTruthy());
    press("Leave");
    await waitFor(() => expect(at()).toBe("/before"));
    history.destroy();
  });

  it("asks the same before another thing takes its place", async () => {
    const history = await reached(true);
    press("Show another");
    expect(shown).not.toHaveBeenCalled();
    press("Leave");
    expect(shown).toHaveBeenCalledTimes(1);
    history.destroy();
  });

  it("holds nobody where nothing was entered", async () => {
    const history = await reached(false);
    press("Show another");
    expect(shown).toHaveBeenCalledTimes(1);
    act(() => history.push("/before"));
    await waitFor(() => expect(at()).toBe("/before"));
    expect(asked()).toBeNull();
    history.destroy();
  });
});
