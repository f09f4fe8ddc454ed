import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import {
  acknowledgementsQuery,
  bodyQuery,
  buildsQuery,
  gateQuery,
  operationsQuery,
  provisionsQuery,
  queries,
  sequenceChangesQuery,
  shopQuery,
} from "../api/queries";
import { card, choicesOf, draw, operation, press, problem, server, signIn, type, written } from "../testing";
import { SequenceTab } from "./SequenceTab";
import type { Operation } from "./strands";

const place = vi.hoisted(() => ({ at: "b" as string | undefined }));
vi.mock("@tanstack/react-router", async (original) => ({
  ...(await original<object>()),
  useParams: () => ({ number: "41" }),
  useNavigate: () => (to: { search: { at?: string } }) => {
    place.at = to.search.at;
  },
  useLocation: () => ({ pathname: "/builds/41/sequence", search: place }),
}));

const metal = (id: string, name: string, change: Partial<Operation> = {}, ...after: string[]): Operation =>
  operation({
    id,
    name,
    stage: "metal",
    trade: "metal",
    budgetMinutes: 600,
    spentMinutes: 0,
    station: "bay",
    panels: [],
    coat: null,
    statedShare: null,
    after: after.map((o) => ({ operation: o, lagMinutes: 0 })),
    ...change,
  });

const all = [
  metal("a", "Floor"),
  metal("b", "Sills", { hazard: "welding", caution: "Fire watch." }, "a"),
  metal("c", "Posts", {}, "b"),
  metal("g", "Fit-up", { kind: "gate", gate: "fitUp", trade: null, budgetMinutes: 0, canOverride: false }, "c"),
];

/** Answers trials with days and everything else with what was saved. */
const answers = (trial: () => Response) =>
  vi.fn(async (request: Request) => {
    const url = new URL(request.url).pathname;
    // What else the page asks for is not of these tests.
    if (request.method === "GET") return url.endsWith("/operations") ? Response.json(all) : problem("id", "Not in these tests.", 404);
    sent.push({ method: request.method, url, body: await request.json().catch(() => null) });
    return url.includes("/try") ? trial() : Response.json({ id: "b", version: 8, changeId: "change-1" });
  });
let sent: { method: string; url: string; body: unknown }[] = [];
const moves = (days: number) => () =>
  Response.json({
    moves: [{ buildId: "b41", buildNumber: 41, days }],
    start: "2026-10-15T07:00:00Z",
    finish: "2026-10-16T07:00:00Z",
    withoutDate: [],
  });

beforeEach(() => {
  sent = [];
  place.at = "b";
  queries.clear();
  signIn("manager", { now: "2026-10-13T09:42:00Z" });
  queries.setQueryData(buildsQuery.queryKey, [card({ id: "b41" })]);
  queries.setQueryData(shopQuery.queryKey, {
    plan: {},
    people: [{ id: "wil", name: "Wil Aske" }],
    stations: [],
    suppliers: [],
    vehiclePlaces: [],
  } as never);
  queries.setQueryData(operationsQuery("b41").queryKey, all);
  queries.setQueryData(bodyQuery("b41").queryKey, { body: { panels: [] }, panels: [] } as never);
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});
const column = () => within(screen.getByRole("region", { name: "Chosen operation" }));

describe("the chosen operation", () => {
  it("says when, by whom, what it waits for, what is dangerous and what follows", () => {
    draw(<SequenceTab />);
    const text = screen.getByRole("region", { name: "Chosen operation" }).textContent;
    expect(text).toContain("Tue 13 Oct 08:00 to Wed 14 Oct 11:00");
    expect(text).toContain("2 days later before the build’s end moves");
    expect(text).toContain("Wil Aske, by the plan");
    expect(text).toContain("Fire watch.");
    expect(column().getByRole("button", { name: "Posts" })).toBeTruthy();
  });

  it("says who has read the caution as it stands now, and that nobody has", () => {
    queries.setQueryData(acknowledgementsQuery("b41").queryKey, []);
    const { unmount } = draw(<SequenceTab />);
    expect(column().getByText("Nobody has read it on this build yet.")).toBeTruthy();
    unmount();
    const read = { hazard: "welding" as const, person: "Wil Aske", at: "2026-10-12T07:05:00Z", work: "Posts" };
    queries.setQueryData(acknowledgementsQuery("b41").queryKey, [
      { ...read, caution: "Fire watch." },
      { ...read, person: "Ida Moe", caution: "An older wording." },
      { ...read, person: "Tor Hval", hazard: "lead" as const, caution: "Fire watch." },
    ]);
    draw(<SequenceTab />);
    expect(column().getByText("Read by Wil Aske (12 Oct, 08:05, at “Posts”).")).toBeTruthy();
  });

  it("shows the plan's answer to other hours before they are saved, and takes them back", async () => {
    vi.stubGlobal("fetch", answers(moves(1.5)));
    draw(<SequenceTab />);
    type("likely", "20");
    expect(await screen.findByText(/41: 1.5 days later/)).toBeTruthy();
    expect(sent.map((s) => s.url)).toEqual(["/api/builds/b41/operations/b/try"]);
    expect(sent[0]?.body).toMatchObject({ budgetMinutes: 1200, version: 7 });
    fireEvent.click(column().getByRole("button", { name: "Save" }));
    await waitFor(() => expect(sent.find((s) => s.method === "PUT")).toBeTruthy());
    expect(sent.find((s) => s.method === "PUT")?.body).toMatchObject({ budgetMinutes: 1200, version: 7 });
    fireEvent.click(await screen.findByRole("button", { name: "Undo" }));
    const turned = () => sent.map((s) => s.url).filter((u) => u.includes("sequence-changes"));
    await waitFor(() => expect(turned()).toEqual(["/api/sequence-changes/change-1/undo"]));
    fireEvent.click(await screen.findByRole("button", { name: "Redo" }));
    await waitFor(() => expect(turned()[1]).toBe("/api/sequence-changes/change-1/redo"));
    await waitFor(() => expect(screen.getByRole<HTMLButtonElement>("button", { name: "Redo" }).disabled).toBe(true));
  });

  it("links and unlinks, offers no link that would go round in a circle, and can be left as it was", async () => {
    vi.stubGlobal("fetch", answers(moves(0)));
    draw(<SequenceTab />);
    expect(choicesOf("Link after…")).toEqual(["choose an operation"]);
    fireEvent.click(column().getByRole("button", { name: "Unlink Floor" }));
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ after: [] }));
    fireEvent.click(column().getByRole("button", { name: "Leave it as it was" }));
    expect(column().queryByRole("button", { name: "Save" })).toBeNull();
    expect(sent.some((s) => s.method === "PUT")).toBe(false);
  });

  it("does not save what the plan's trial refuses", async () => {
    vi.stubGlobal(
      "fetch",
      answers(() => problem("lowMinutes", "Give both, the low and the high figure, or neither.")),
    );
    draw(<SequenceTab />);
    type("low", "5");
    expect(await screen.findByText(/Give both/)).toBeTruthy();
    expect((column().getByRole("button", { name: "Save" }) as HTMLButtonElement).disabled).toBe(true);
  });

  it("asks why work departs from its template before it is unlinked, and says it where it does", async () => {
    const why = "the floor is sound";
    vi.stubGlobal(
      "fetch",
      answers(() =>
        (sent.at(-1)?.body as { departsWhy: string } | undefined)?.departsWhy
          ? moves(-2)()
          : problem("departsWhy", "By its template “Sills” comes after “Floor”. Say why here it does not."),
      ),
    );
    draw(<SequenceTab />);
    expect(column().queryByLabelText("Why it departs from its template")).toBeNull();
    fireEvent.click(column().getByRole("button", { name: "Unlink Floor" }));
    expect(await screen.findByText(/Say why here it does not/)).toBeTruthy();
    type("Why it departs from its template", why);
    expect(await screen.findByText(/41: 2 days sooner/)).toBeTruthy();
    fireEvent.click(column().getByRole("button", { name: "Save" }));
    await waitFor(() => expect(sent.find((s) => s.method === "PUT")?.body).toMatchObject({ after: [], departsWhy: why }));
    cleanup();
    queries.setQueryData(operationsQuery("b41").queryKey, [all[0], metal("b", "Sills", { departs: ["Floor"], departsWhy: why })] as never);
    draw(<SequenceTab />);
    expect(column().getByText(`Departs from its template: it does not wait for Floor. Why: ${why}.`)).toBeTruthy();
  });

  it("splits and puts together with the plan's answer before", async () => {
    vi.stubGlobal("fetch", answers(moves(-1)));
    draw(<SequenceTab />);
    press("S split");
    expect(written("Its hours")).toBe("5");
    expect(await screen.findByText(/41: 1 day sooner/)).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Split" }));
    const posted = (url: string) => sent.find((s) => s.url === url);
    await waitFor(() => expect(posted("/api/operations/b/split")).toBeTruthy());
    expect(posted("/api/operations/b/split")?.body).toMatchObject({ minutes: 300, sideBySide: false, version: 7 });
    fireEvent.click(await screen.findByRole("button", { name: "Undo" }));
    await waitFor(() => expect(posted("/api/sequence-changes/change-1/undo")).toBeTruthy());
    cleanup();
    place.at = "b";
    draw(<SequenceTab />);
    press("G put together");
    expect(choicesOf("Which")).toEqual(["Floor, 10 h", "Posts, 10 h"]);
    press("Make one of both");
    await waitFor(() => expect(posted("/api/operations/b/merge")?.body).toMatchObject({ with: "a", version: 7 }));
  });

  it("tells who changed the order of work, and takes any of it back, for a manager alone", async () => {
    vi.stubGlobal("fetch", answers(moves(0)));
    const change = (id: string, what: string, isBack: boolean) => ({ id, what, by: "Sunniva Roake", at: "2026-10-13T07:05:00Z", isBack });
    queries.setQueryData(sequenceChangesQuery("b41").queryKey, [
      change("c2", "“Posts” split", false),
      change("c1", "“Floor” removed", true),
    ]);
    const { unmount } = draw(<SequenceTab />);
    expect(screen.getByText("“Posts” split").parentElement?.textContent).toContain("Tue 13 Oct, 08:05“Posts” splitSunniva Roake");
    expect(screen.getByText("Sunniva Roake, taken back")).toBeTruthy();
    press("Take back: “Posts” split");
    await waitFor(() => expect(sent.at(-1)?.url).toBe("/api/sequence-changes/c2/undo"));
    press("Make again: “Floor” removed");
    await waitFor(() => expect(sent.at(-1)?.url).toBe("/api/sequence-changes/c1/redo"));
    unmount();
    signIn("technician", { personId: "wil", now: "2026-10-13T09:42:00Z" });
    draw(<SequenceTab />);
    expect(screen.getByText("“Posts” split")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /^Take back/ })).toBeNull();
  });

  it("says of a gate what it asks for and what stands behind it, and that it has no override", () => {
    place.at = "g";
    queries.setQueryData(gateQuery("g").queryKey, {
      asks: [{ words: "Posts", missing: "Posts is not done", must: true, of: "c" }],
      sides: false,
      others: ["Ida Moe"],
    });
    draw(<SequenceTab />);
    expect(column().getByRole("heading", { name: "Shut" })).toBeTruthy();
    expect(column().getByRole("list", { name: "It asks for" }).textContent).toBe("openPosts");
    expect(column().getByText("Signed by somebody who did not do the work: Ida Moe.")).toBeTruthy();
    expect(column().getByText(/It has no override/)).toBeTruthy();
    expect(column().queryByRole("button", { name: /^Open without/ })).toBeNull();
  });

  it("changes nothing for a technician", () => {
    signIn("technician", { personId: "wil", now: "2026-10-13T09:42:00Z" });
    server();
    draw(<SequenceTab />);
    for (const gone of ["Edit: Sills", "S split", "A add after", "Unlink Floor"])
      expect(screen.queryByRole("button", { name: gone })).toBeNull();
    expect(screen.queryByLabelText("likely")).toBeNull();
  });

  it("says what it needs before paint, ticks it off with the version that was seen, and takes words for more", async () => {
    vi.stubGlobal("fetch", answers(moves(0)));
    const hole = {
      id: "p1",
      kind: "hole" as const,
      words: "hole for the handbrake cable, left sill",
      madeAt: null as string | null,
      madeBy: "",
      version: 3,
    };
    queries.setQueryData(provisionsQuery("b41").queryKey, [{ operationId: "b", name: "Sills", gate: "Fit-up", said: [hole] }]);
    signIn("technician", { now: "2026-10-13T09:42:00Z" });
    draw(<SequenceTab />);
    fireEvent.click(column().getByRole("checkbox", { name: "Hole for the handbrake cable, left sill" }));
    await waitFor(() => expect(sent[0]).toMatchObject({ url: "/api/provisions/p1/made", body: { made: true, version: 3 } }));
    // With something said it cannot be said that it needs nothing.
    expect(column().queryByRole("button", { name: "It needs nothing" })).toBeNull();
    fireEvent.change(column().getByLabelText("for"), { target: { value: "the pipe clips" } });
    fireEvent.change(column().getByLabelText("It needs"), { target: { value: "nut" } });
    fireEvent.click(column().getByRole("button", { name: "Write it down" }));
    await waitFor(() =>
      expect(sent[1]).toMatchObject({
        url: "/api/provisions",
        body: { operationId: "b", kind: "nut", what: "the pipe clips", where: "" },
      }),
    );
    fireEvent.click(column().getByRole("button", { name: "Take off hole for the handbrake cable, left sill" }));
    await waitFor(() => expect(sent[2]).toMatchObject({ url: "/api/provisions/p1/remove", body: { version: 3 } }));
  });

  it("says that nobody has said what it needs, and which gate asks; work that nobody asks says nothing of it", async () => {
    vi.stubGlobal("fetch", answers(moves(0)));
    queries.setQueryData(provisionsQuery("b41").queryKey, [{ operationId: "b", name: "Sills", gate: "Fit-up", said: [] }]);
    const { unmount } = draw(<SequenceTab />);
    expect(column().getByText(/Nobody has said which holes.*“Fit-up” asks for it/)).toBeTruthy();
    fireEvent.click(column().getByRole("button", { name: "It needs nothing" }));
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ operationId: "b", kind: "nothing" }));
    unmount();
    place.at = "c";
    draw(<SequenceTab />);
    expect(column().queryByText(/Before paint it needs/)).toBeNull();
  });

  it("goes to where a link leads", () => {
    draw(<SequenceTab />);
    fireEvent.click(column().getByRole("button", { name: "Posts" }));
    expect(place.at).toBe("c");
  });
});

describe("finding", () => {
  it("counts what has all the words, and goes to the first", () => {
    draw(<SequenceTab />);
    type("Find an operation", "fi");
    expect(screen.getByText("1 found")).toBeTruthy();
    fireEvent.keyDown(screen.getByLabelText("Find an operation"), { key: "Enter" });
    expect(place.at).toBe("g");
    type("Find an operation", "nothing such");
    expect(screen.getByText("none")).toBeTruthy();
  });
});
