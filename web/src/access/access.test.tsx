import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Problem, type Schemas } from "../api/client";
import { queries, sessionQuery } from "../api/queries";
import { isSignedOut, setSignedOut } from "../api/signedOut";
import { bodyOf, draw, press, problem, server, signIn, type } from "../testing";
import { Accounts } from "./Accounts";
import { deviceName, OwnAccount } from "./OwnAccount";
import { SignInAgain } from "./SignInAgain";

const people = [
  { id: "wil", name: "Wil Tarrant", trades: [], active: true, rates: null, absences: [], terms: null, version: 1 },
] as Schemas["PersonView"][];
const account = (change: Partial<Schemas["AccountView"]>): Schemas["AccountView"] => ({
  id: "b",
  user: "wil",
  name: "Wil Tarrant",
  role: "technician",
  personId: "wil",
  closedAt: null,
  wordUntil: null,
  sessions: 2,
  ...change,
});
const json = (body: unknown) => new Response(JSON.stringify(body), { status: 200, headers: { "content-type": "application/json" } });

afterEach(cleanup);
beforeEach(() => {
  queries.clear();
  signIn("manager");
  queries.setQueryData(["accounts"], [account({}), account({ id: "c", user: "old", closedAt: "2026-10-01T08:00:00Z", sessions: 0 })]);
});

describe("accounts", () => {
  it("say how they stand", () => {
    server();
    draw(<Accounts people={people} />);
    const rows = screen.getAllByRole("row").map((r) => r.textContent);
    expect(rows[0]).toContain("signed in on 2 devices");
    expect(rows[1]).toContain("closed 1 Oct");
  });

  it("are closed only after it was said what that does", async () => {
    const sent = server();
    draw(<Accounts people={people} />);
    press("Change the account wil");
    press("Close the account");
    expect(screen.getByText(/signed out everywhere at once/)).toBeTruthy();
    expect(sent).toEqual([]);
    press("Close the account");
    await waitFor(() => expect(sent[0]).toMatchObject({ method: "POST", url: "/api/accounts/b/close" }));
  });

  it("are reset with a word that is shown once", async () => {
    const sent = server(json({ id: "b", word: "kbtm-7wqx-rp4n-acde", until: "2026-10-16T08:00:00Z" }));
    draw(<Accounts people={people} />);
    press("Change the account wil");
    press("Reset with a word");
    press("Give out a word");
    expect((await screen.findByTestId("word")).textContent).toBe("kbtm-7wqx-rp4n-acde");
    expect(sent[0]).toMatchObject({ method: "POST", url: "/api/accounts/b/word" });
    fireEvent.click(within(screen.getByRole("dialog")).getByRole("button", { name: "Close" }));
    expect(screen.queryByTestId("word")).toBeNull();
  });

  it("are given to a person and a role", async () => {
    const sent = server();
    draw(<Accounts people={people} />);
    press("Change the account wil");
    type("Role", "office");
    type("Person of the shop", "");
    press("Save");
    await waitFor(() => expect(bodyOf(sent)).toEqual({ name: "Wil Tarrant", role: "office", personId: null }));
  });
});

describe("one's own account", () => {
  beforeEach(() =>
    queries.setQueryData(
      ["sessions"],
      [
        { id: "1", device: "Mozilla/5.0 (X11; Linux x86_64)", startedAt: "2026-10-13T07:00:00Z", here: true },
        { id: "2", device: "Mozilla/5.0 (Linux; Android 15)", startedAt: "2026-10-12T07:00:00Z", here: false },
      ],
    ),
  );

  it("changes its password, and says at the field what is wrong with it", async () => {
    const sent = server(problem("old", "This is not your present password."));
    draw(<OwnAccount onClose={() => undefined} />);
    type("Present password", "guess");
    type("New password, twelve characters or more", "copper tea lantern");
    press("Change password");
    expect((await screen.findByRole("alert")).textContent).toBe("This is not your present password.");
    expect(sent[0]).toMatchObject({ method: "PUT", url: "/api/session/password", body: { old: "guess", chosen: "copper tea lantern" } });
  });

  it("signs out everywhere else", async () => {
    const sent = server();
    draw(<OwnAccount onClose={() => undefined} />);
    expect(screen.getByText("Android phone or tablet")).toBeTruthy();
    press("Sign out everywhere else");
    await waitFor(() => expect(sent[0]).toMatchObject({ method: "DELETE", url: "/api/session/others" }));
  });

  it("knows a device by what its browser calls itself", () => {
    expect(deviceName("Mozilla/5.0 (iPhone; CPU iPhone OS 19_0)")).toBe("Apple phone or tablet");
    expect(deviceName("")).toBe("unknown device");
  });
});

describe("a full disk", () => {
  it("is said on the page as soon as any answer tells of it", async () => {
    await queries
      .fetchQuery({ queryKey: ["full"], queryFn: () => Promise.reject(new Problem(507, "full", "disk")) })
      .catch(() => undefined);
    expect(queries.getQueryData(sessionQuery.queryKey)).toMatchObject({ diskFull: true, user: { role: "manager" } });
  });
});

describe("a session that ended elsewhere", () => {
  const fail = (field?: string) =>
    queries
      .fetchQuery({ queryKey: ["any", field, Math.random()], queryFn: () => Promise.reject(new Problem(401, "no", field)) })
      .catch(() => undefined);
  const session = (user: object | null) => json({ ...(queries.getQueryData(sessionQuery.queryKey) as object), user });
  const manager = { accountId: "a", personId: "p", name: "Sunniva Roake", role: "manager" };
  afterEach(() => setSignedOut(false));

  it("asks for the password over the page, which stays; a wrong password elsewhere does not", async () => {
    draw(<SignInAgain />);
    await fail("password");
    expect(screen.queryByRole("dialog")).toBeNull();
    await Promise.all([fail(), fail(), fail()]);
    expect(await screen.findByRole("dialog", { name: "Sign in again" })).toBeTruthy();
    expect(queries.getQueryData(sessionQuery.queryKey)?.user?.name).toBe("Sunniva Roake");
  });

  it("is noticed by the next look at the session, and mended by one from another window", async () => {
    vi.stubGlobal("fetch", async () => session(null));
    await queries.fetchQuery({ ...sessionQuery, staleTime: 0 });
    expect(isSignedOut()).toBe(true);
    expect(queries.getQueryData(sessionQuery.queryKey)?.user?.name).toBe("Sunniva Roake");
    vi.stubGlobal("fetch", async () => session({ ...manager, accountId: "b", name: "Somebody Else" }));
    await queries.fetchQuery({ ...sessionQuery, staleTime: 0 });
    expect(isSignedOut()).toBe(true);
    expect(queries.getQueryData(sessionQuery.queryKey)?.user?.name).toBe("Sunniva Roake");
    vi.stubGlobal("fetch", async () => session(manager));
    await queries.fetchQuery({ ...sessionQuery, staleTime: 0 });
    expect(isSignedOut()).toBe(false);
  });

  it.each([
    ["the same account goes on", "a", []],
    ["another account begins anew: what was entered is not sent under its name", "b", ["/"]],
  ])("%s", async (_, accountId, went) => {
    const assign = vi.fn();
    vi.stubGlobal("location", { ...location, origin: location.origin, assign });
    let signedIn = false;
    vi.stubGlobal("fetch", async (request: Request) => {
      if (request.method === "POST") signedIn = true;
      return session(signedIn ? { ...manager, accountId } : null);
    });
    setSignedOut(true);
    draw(<SignInAgain />);
    type("Name to sign in with", "sunniva");
    type("Password", "kettle quay demo");
    press("Sign in");
    if (went.length === 0) await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    else await waitFor(() => expect(assign.mock.calls.flat()).toEqual(went));
  });
});
