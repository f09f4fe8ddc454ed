import "fake-indexeddb/auto";
import { renderHook, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { api, ask, NotSent, newId } from "./client";
import { dropUnsent, isKept, KeptUnsent, sendUnsent, unsentOf, useUnsent } from "./unsent";

type Sent = { url: string; body: Record<string, unknown> };

/** A server that is there or not. */
function network() {
  const state = { there: false, sent: [] as Sent[], answers: [] as Response[] };
  vi.stubGlobal("fetch", async (request: Request) => {
    if (!state.there) throw new TypeError("Failed to fetch");
    state.sent.push({ url: new URL(request.url).pathname, body: JSON.parse((await request.text()) || "{}") });
    return state.answers.shift() ?? new Response("{}", { status: 200, headers: { "content-type": "application/json" } });
  });
  return state;
}

const need = (name: string) =>
  ask(
    api.PUT("/api/builds/{id}/parts/{partId}", {
      params: { path: { id: "b1", partId: newId() } },
      body: { name, quantity: 1, unitCost: 0, unitPrice: null, supplierId: null, clientSupplied: false, operationId: null, version: null },
    }),
  );
const refusal = (status: number, detail: string) =>
  new Response(JSON.stringify({ status, detail }), { status, headers: { "content-type": "application/problem+json" } });
const waits = () => renderHook(() => useUnsent()).result.current;

beforeEach(async () => {
  await unsentOf("wil");
  for (const u of waits()) await dropUnsent(u.seq);
});
afterEach(() => vi.unstubAllGlobals());

describe("work that could not be sent", () => {
  it("is kept in its order and goes once when there is a connection", async () => {
    const net = network();
    await expect(need("Cap")).rejects.toBeInstanceOf(KeptUnsent);
    await expect(need("Seal")).rejects.toBeInstanceOf(KeptUnsent);
    expect(waits().map((u) => u.what)).toEqual(["a part", "a part"]);
    expect(await sendUnsent()).toBe(0);
    net.there = true;
    expect(await sendUnsent()).toBe(2);
    expect(net.sent.map((s) => s.body.name)).toEqual(["Cap", "Seal"]);
    expect(waits()).toHaveLength(0);
    expect(await sendUnsent()).toBe(0);
    expect(net.sent).toHaveLength(2);
  });

  it("stays with its reason where the server refuses it, and lets what comes after it go", async () => {
    const net = network();
    await need("Cap").catch(() => undefined);
    await need("Seal").catch(() => undefined);
    net.there = true;
    net.answers.push(refusal(409, "This was recorded before with other words or figures."));
    expect(await sendUnsent()).toBe(1);
    expect(waits().map((u) => u.refused)).toEqual(["This was recorded before with other words or figures."]);
    // It is not tried again by itself.
    expect(await sendUnsent()).toBe(0);
    expect(net.sent).toHaveLength(2);
    await dropUnsent(waits()[0]?.seq ?? 0);
    expect(waits()).toHaveLength(0);
  });

  it("waits while the server stumbles or nobody is signed in", async () => {
    const net = network();
    await need("Cap").catch(() => undefined);
    net.there = true;
    for (const status of [500, 503, 401]) {
      net.answers.push(refusal(status, "not now"));
      expect(await sendUnsent()).toBe(0);
      expect(waits().map((u) => u.refused)).toEqual([null]);
    }
  });

  it("carries the time at which the clock was touched", async () => {
    const net = network();
    const before = new Date().toISOString();
    await ask(
      api.POST("/api/clock/stop", { body: { personId: null, share: 0.5, done: false, breakWorked: null, at: null, why: "" } }),
    ).catch(() => undefined);
    net.there = true;
    await sendUnsent();
    expect(String(net.sent[0]?.body.at) >= before).toBe(true);
  });

  it("goes under the name of whoever did it only", async () => {
    const net = network();
    await need("Cap").catch(() => undefined);
    net.there = true;
    await unsentOf("tove");
    expect(waits()).toHaveLength(0);
    expect(await sendUnsent()).toBe(0);
    await unsentOf("wil");
    await waitFor(() => expect(net.sent).toHaveLength(1));
  });

  it("is work only: what an account or a letter does is not done behind anybody's back", async () => {
    network();
    expect(isKept("POST", "/api/papers/x/send")).toBeNull();
    expect(isKept("DELETE", "/api/shop/stations/x")).toBeNull();
    await expect(
      ask(api.POST("/api/papers/{id}/send", { params: { path: { id: "x" } }, body: { seen: "a", way: "letter" } })),
    ).rejects.toBeInstanceOf(NotSent);
    expect(waits()).toHaveLength(0);
  });
});
