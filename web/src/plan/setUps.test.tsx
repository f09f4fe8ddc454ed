import { cleanup, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { buildsQuery, queries, setUpsQuery } from "../api/queries";
import { card, draw, press, signIn } from "../testing";
import { SetUpsSheet } from "./SetUpsSheet";

const blasting: Schemas["SetUpView"] = {
  kind: "blasting",
  what: "",
  on: "2026-10-19",
  batch: "",
  works: [
    {
      operationId: "a",
      version: 3,
      buildNumber: 41,
      name: "Blast the wings",
      before: "2026-10-14T07:00:00Z",
      after: "2026-10-19T07:00:00Z",
      on: "2026-10-19",
    },
    {
      operationId: "b",
      version: 5,
      buildNumber: 45,
      name: "Blast the doors",
      before: "2026-10-19T07:00:00Z",
      after: null,
      on: "2026-10-20",
    },
  ],
  setUpsBefore: 3,
  setUpsAfter: 1,
  readyMinutes: 480,
  moveMinutes: 30,
  daysLater: 0,
  moves: [{ buildId: "b41", buildNumber: 41, days: 3 }],
  withoutDate: [],
};
const crossing: Schemas["SetUpView"] = {
  ...blasting,
  kind: "crossing",
  what: "Marrow Plating",
  on: null,
  batch: "Marrow Plating, 19 Oct 2026",
  readyMinutes: 0,
  moveMinutes: -15,
  daysLater: 1.5,
  setUpsBefore: 2,
  withoutDate: ["Hang the doors"],
};

let sent: { url: string; body: unknown }[] = [];
const shows = (found: Schemas["SetUpView"][]) => queries.setQueryData(setUpsQuery.queryKey, found);
const item = (name: string) => within(screen.getByRole("listitem", { name }));

beforeEach(() => {
  sent = [];
  queries.clear();
  signIn("manager", { now: "2026-10-13T09:42:00Z" });
  queries.setQueryData(buildsQuery.queryKey, [card({ id: "b41" })]);
  vi.stubGlobal("fetch", async (request: Request) => {
    const url = new URL(request.url).pathname;
    if (request.method === "GET") return Response.json(url.endsWith("/set-ups") ? [crossing] : []);
    sent.push({ url, body: await request.json().catch(() => null) });
    return url.endsWith("/part") ? new Response(null, { status: 204 }) : Response.json({ changes: ["c1", "c2"] });
  });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("work that could be made ready for once", () => {
  it("says how often, from when on, what it saves, who gains and loses, and what would have no date", () => {
    shows([blasting, crossing]);
    draw(<SetUpsSheet onClose={() => {}} />);
    expect(item("Blasting").getByRole("heading").textContent).toBe("Blasting: made ready 1 time instead of 3");
    expect(screen.getByRole("listitem", { name: "Blasting" }).textContent).toContain(
      "All from Mon 19 Oct on, one after the other. Saves 8 h to make ready and 0.5 h of moving vehicles. Planned finishes: 41: 3 days later. Days late, all together, stay as they are.",
    );
    const rows = item("Blasting")
      .getAllByRole("row")
      .map((r) => r.textContent);
    expect(rows.slice(1)).toEqual(["41Blast the wingsWed 14 Oct → Mon 19 Oct", "45Blast the doorsMon 19 Oct → no date"]);
    const pieces = screen.getByRole("listitem", { name: "Pieces for Marrow Plating" }).textContent;
    expect(pieces).toContain("Pieces for Marrow Plating: 1 crossing instead of 2");
    expect(pieces).toContain("All of it leaves together. Takes 0.3 h more of moving vehicles.");
    expect(pieces).toContain("1.5 days more late, each counted with its weight.");
    expect(pieces).toContain("Without a date then: Hang the doors.");
  });

  it("puts together at the versions that were seen, and takes it back by the changes it made", async () => {
    shows([blasting]);
    draw(<SetUpsSheet onClose={() => {}} />);
    press("Do it together: Blasting");
    await waitFor(() =>
      expect(sent[0]).toEqual({
        url: "/api/plan/set-ups",
        body: {
          works: [
            { operationId: "a", on: "2026-10-19", version: 3 },
            { operationId: "b", on: "2026-10-20", version: 5 },
          ],
          batch: "",
        },
      }),
    );
    // What is taken goes from the list and stands above it.
    expect(await screen.findByText(/Done together: blasting, 41 and 45, from Mon 19 Oct/)).toBeTruthy();
    expect(await screen.findByRole("listitem", { name: "Pieces for Marrow Plating" })).toBeTruthy();
    press("Take it back");
    await waitFor(() => expect(sent[1]).toEqual({ url: "/api/plan/set-ups/part", body: { changes: ["c1", "c2"] } }));
    await waitFor(() => expect(screen.queryByText(/Done together: /)).toBeNull());
  });

  it("says that nothing could be shared", () => {
    shows([]);
    draw(<SetUpsSheet onClose={() => {}} />);
    expect(screen.getByText(/Nothing of the plan would be made ready for less often/)).toBeTruthy();
  });
});
