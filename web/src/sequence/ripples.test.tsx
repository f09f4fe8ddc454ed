import { cleanup, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { bodyQuery, buildsQuery, operationsQuery, queries, restingQuery, ripplesQuery, shopQuery } from "../api/queries";
import { card, draw, operation, press, server, signIn, type } from "../testing";
import { SequenceTab } from "./SequenceTab";

vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useParams: () => ({ number: "41" }),
  useNavigate: () => () => undefined,
  useLocation: () => ({ pathname: "/builds/41/sequence", search: { at: "a" } }),
}));

const rest = (id: string, name: string, more: Partial<Schemas["RestingView"]> = {}): Schemas["RestingView"] => ({
  as: "work",
  id,
  name,
  how: "done",
  verdict: null,
  by: "",
  at: null,
  open: ["stillGood", "check", "redo"],
  ...more,
});
const RIPPLE: Schemas["RippleView"] = {
  id: "r1",
  operationId: "a",
  what: "raised by 40",
  at: "2026-10-12T09:00:00Z",
  rests: [rest("b", "Shaft"), rest("p", "Seat runners", { as: "part", how: "ordered", verdict: "stillGood", by: "Ada", open: ["redo"] })],
  lookMinutes: 30,
  version: 4,
};

beforeEach(() => {
  queries.clear();
  signIn("manager", { now: "2026-10-13T09:42:00Z" });
  queries.setQueryData(buildsQuery.queryKey, [card({ id: "b41" })]);
  queries.setQueryData(shopQuery.queryKey, { plan: {}, people: [], stations: [], suppliers: [], vehiclePlaces: [] } as never);
  queries.setQueryData(operationsQuery("b41").queryKey, [
    operation({ id: "a", name: "Tunnel", doneAt: "2026-10-01T09:00:00Z", doneBy: "Ada" }),
    operation({ id: "b", name: "Shaft", doneAt: "2026-10-02T09:00:00Z", doneBy: "Ada", after: [{ operation: "a", lagMinutes: 0 }] }),
  ]);
  queries.setQueryData(bodyQuery("b41").queryKey, { body: { panels: [] }, panels: [] } as never);
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("finished work that is another now", () => {
  it("shows what rests on it before it is listed", async () => {
    queries.setQueryData(restingQuery("a").queryKey, [rest("b", "Shaft")]);
    const sent = server();
    draw(<SequenceTab />);
    press("It has changed: Tunnel");
    expect(screen.getByRole("list", { name: "What rests on it" }).textContent).toContain("Shaft done");
    type("What is another now", "raised by 40");
    press("List it for a verdict");
    await waitFor(() => expect(sent[0]).toMatchObject({ url: "/api/ripples", body: { operationId: "a", what: "raised by 40" } }));
  });

  it("says what is not judged, and sends a verdict with the version that was seen", async () => {
    queries.setQueryData(ripplesQuery("b41").queryKey, [RIPPLE]);
    const sent = server();
    draw(<SequenceTab />);
    expect(screen.getByText(/“Tunnel” has changed, raised by 40: 1 thing that rested on it is not judged/)).toBeTruthy();
    press("Judge");
    expect(screen.getByText(/still good, Ada/)).toBeTruthy();
    // What was found good can be thought over; it is not offered again.
    expect(screen.queryByRole("button", { name: "Seat runners: still good" })).toBeNull();
    expect(screen.getByRole("button", { name: "Seat runners: redo" })).toBeTruthy();
    // A part is no work: nobody is given a look at it.
    expect(screen.queryByRole("button", { name: "Seat runners: check it" })).toBeNull();
    press("Shaft: check it");
    await waitFor(() =>
      expect(sent[0]).toMatchObject({
        url: "/api/ripples/r1/judge",
        body: { thing: "b", verdict: "check", minutes: 30, version: 4 },
      }),
    );
  });

  it("is read by a technician, and judged by none; what is judged to its end is said no more", () => {
    signIn("technician", { now: "2026-10-13T09:42:00Z" });
    queries.setQueryData(ripplesQuery("b41").queryKey, [RIPPLE]);
    const { unmount } = draw(<SequenceTab />);
    expect(screen.queryByRole("button", { name: "It has changed: Tunnel" })).toBeNull();
    press("Look");
    expect(screen.queryByRole("button", { name: "Shaft: redo" })).toBeNull();
    unmount();
    queries.setQueryData(ripplesQuery("b41").queryKey, [
      { ...RIPPLE, rests: RIPPLE.rests.map((r) => ({ ...r, verdict: "redo" as const })) },
    ]);
    draw(<SequenceTab />);
    expect(screen.queryByText(/has changed/)).toBeNull();
  });
});
