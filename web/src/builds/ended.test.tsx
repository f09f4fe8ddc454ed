import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { buildsQuery, cardQuery, hoursQuery, operationsQuery, partsQuery, queries, shopQuery } from "../api/queries";
import { HoursTab } from "../labour/HoursTab";
import { PartsTab } from "../parts/PartsTab";
import { SequenceTab } from "../sequence/SequenceTab";
import { card, draw, press, server, signIn } from "../testing";
import { BuildActions } from "./BuildActions";
import { BuildFrame } from "./BuildFrame";

const Tab = vi.hoisted(() => ({ shown: () => null as React.ReactNode }));
vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useParams: () => ({ number: "39" }),
  useNavigate: () => vi.fn(),
  useLocation: () => ({ pathname: "/builds/39", search: {} }),
  Outlet: () => Tab.shown(),
}));

const part = { id: "p1", name: "Door seal", quantity: 2, unitCost: 18, unitPrice: 20, state: "ordered", version: 1 } as Schemas["PartView"];

beforeEach(() => {
  queries.clear();
  signIn("manager", { now: "2026-10-13T09:42:00Z" });
  queries.setQueryData(buildsQuery.queryKey, [card({ id: "b41" })]);
  queries.setQueryData(shopQuery.queryKey, { people: [], stations: [], suppliers: [] } as unknown as Schemas["ShopView"]);
  queries.setQueryData(operationsQuery("b39").queryKey, []);
  queries.setQueryData(partsQuery("b39").queryKey, { parts: [part], materials: [] });
  queries.setQueryData(hoursQuery("b39").queryKey, []);
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("a build that has ended", () => {
  const ended = (status: "closed" | "withdrawn" | "paused", tab: () => React.ReactNode) => {
    queries.setQueryData(cardQuery(39).queryKey, card({ id: "b39", number: 39, title: "Sedge Tourer", status }));
    Tab.shown = tab;
    draw(<BuildFrame />);
  };

  it("opens and says that it is kept to be read", () => {
    ended("closed", () => <BuildActions />);
    expect(screen.getByRole("status").textContent).toContain("Handed over. It is kept to be read");
    expect(within(screen.getByRole("navigation")).getByText("Sedge Tourer")).toBeTruthy();
    // Nothing but the way to its other pages, which a phone shows.
    expect(screen.getAllByRole("button").map((b) => b.textContent)).toEqual([expect.stringContaining("other pages of this build")]);
  });

  it("opens its pages on a phone with one button, and says which one is open", () => {
    ended("closed", () => null);
    const nav = screen.getByRole("navigation");
    expect(nav.className).not.toContain("subplaces-open");
    const pages = screen.getByRole("button", { name: /other pages/ });
    expect(pages.getAttribute("aria-expanded")).toBe("false");
    fireEvent.click(pages);
    expect(pages.getAttribute("aria-expanded")).toBe("true");
    expect(nav.className).toContain("subplaces-open");
  });

  it("shows what the desk does with a build that has not ended", () => {
    ended("paused", () => <BuildActions />);
    expect(screen.queryByRole("status")).toBeNull();
    expect(screen.getByRole("button", { name: "Resume" })).toBeTruthy();
  });

  it("lets an ordered part arrive, and changes nothing else about it", async () => {
    const sent = server();
    ended("withdrawn", () => <PartsTab />);
    press("Edit: Door seal");
    const sheet = within(screen.getByRole("dialog"));
    expect(sheet.getByText(/it can only be read/)).toBeTruthy();
    expect(sheet.getByRole("button", { name: "Save" })).toHaveProperty("disabled", true);
    press("Close");
    press("Say when: Door seal");
    press("Note it");
    await waitFor(() => expect(sent[0]?.url).toBe("/api/parts/p1/move"));
  });

  it("offers no work to be done", () => {
    queries.setQueryData(operationsQuery("b39").queryKey, [
      {
        id: "o1",
        kind: "work",
        name: "Block the left wing",
        doneAt: null,
        after: [],
        signatures: [],
        plannedPeople: [],
        panels: [],
        stage: "fill",
        hazard: null,
        terms: {},
      } as unknown as Schemas["OperationView"],
    ]);
    ended("closed", () => <SequenceTab />);
    expect(screen.getByText("Block the left wing")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /Done|Edit|Add/ })).toBeNull();
  });

  it("takes hours that were forgotten, from the manager", () => {
    ended("closed", () => <HoursTab />);
    press("Enter hours");
    expect(within(screen.getByRole("dialog")).queryByText(/kept to be read/)).toBeNull();
  });

  it("is not there when nobody knows its number", async () => {
    server();
    vi.stubGlobal(
      "fetch",
      async () =>
        new Response(JSON.stringify({ status: 404, detail: "There is no such build.", field: "id" }), {
          status: 404,
          headers: { "content-type": "application/problem+json" },
        }),
    );
    draw(<BuildFrame />);
    expect(await screen.findByText("There is no build with this number.")).toBeTruthy();
  });
});
