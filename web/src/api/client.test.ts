import { afterEach, describe, expect, it, vi } from "vitest";
import { problem, server } from "../testing";
import { api, ask, NotSent, newId, Problem, problemOf } from "./client";

afterEach(() => vi.unstubAllGlobals());
const pay = () =>
  ask(
    api.POST("/api/builds/{id}/payments", {
      params: { path: { id: "b" } },
      body: { id: newId(), on: "2026-10-13", amount: 5, note: "" },
    }),
  );

describe("what the server says", () => {
  it("becomes a problem with its field", async () => {
    server(problem("amount", "The amount is missing."));
    await expect(pay()).rejects.toMatchObject({ status: 400, message: "The amount is missing.", field: "amount" });
  });

  it("tells an unreachable server from a refusal", async () => {
    server(new TypeError("network"));
    const error = await pay().catch((e) => e);
    expect(error).toBeInstanceOf(NotSent);
    expect(error.message).toContain("not kept");
  });

  it("sends the token against forged requests", async () => {
    // biome-ignore lint/suspicious/noDocumentCookie: jsdom has no cookie store.
    document.cookie = "XSRF-TOKEN=a%2Fb";
    let header: string | null = null;
    vi.stubGlobal("fetch", async (request: Request) => {
      header = request.headers.get("X-XSRF-TOKEN");
      return new Response("{}", { status: 200, headers: { "content-type": "application/json" } });
    });
    await pay();
    expect(header).toBe("a/b");
  });

  it.each([
    [{ errors: { Name: ["Too long."] }, detail: "no" }, "Too long.", "Name"],
    [{ detail: "Not found." }, "Not found.", undefined],
    [{ title: "Bad Request" }, "Bad Request", undefined],
    ["<html>", "The server did not answer as expected.", undefined],
    [null, "The server did not answer as expected.", undefined],
  ])("reads %j", (body, message, field) => {
    const p = problemOf(400, body);
    expect(p).toBeInstanceOf(Problem);
    expect([p.message, p.field]).toEqual([message, field]);
  });
});

describe("ids", () => {
  it("are UUIDs of version 7 in order of time", () => {
    const [first, second] = [newId(Date.UTC(2026, 9, 13)), newId(Date.UTC(2026, 9, 13) + 1)];
    expect(first).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
    expect(Number.parseInt(first.replaceAll("-", "").slice(0, 12), 16)).toBe(Date.UTC(2026, 9, 13));
    expect(first < second).toBe(true);
  });

  it("are never the same", () => expect(new Set(Array.from({ length: 500 }, () => newId(0))).size).toBe(500));
});
