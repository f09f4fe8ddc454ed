import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { clockQuery, queries, stylesQuery } from "../api/queries";
import { draw, problem, server, signIn } from "../testing";
import { ClockPage } from "./ClockPage";
import { HoursCoat } from "./HoursCoat";

vi.mock("@tanstack/react-router", async (original) => ({ ...(await original<object>()), useNavigate: () => vi.fn() }));
vi.mock("../api/live", () => ({ listen: async () => () => undefined }));

const job: Schemas["ClockJob"] = {
  operationId: "00000000-0000-7000-8000-000000000001",
  buildId: "00000000-0000-7000-8000-000000000002",
  buildNumber: 41,
  buildTitle: "Whimbrel Courser",
  colourHex: "#1B6670",
  style: "coupe",
  name: "Block the left wing",
  stage: "fill",
  panels: ["wingL"],
  budgetMinutes: 360,
  spentMinutes: 252,
  statedShare: 0.6,
  waitsKind: "nothing",
  waits: "",
  starts: null,
  caution: "Dust: mask.",
  cautionRead: true,
};
const next: Schemas["ClockJob"] = {
  ...job,
  operationId: "00000000-0000-7000-8000-000000000003",
  name: "Right door",
  waitsKind: "decision",
  waits: "waits for an answer: chrome?",
};

function show(running: boolean, own: Partial<Schemas["ClockJob"]> = {}, then: Partial<Schemas["ClockJob"]> = {}) {
  const now = new Date().toISOString();
  signIn("technician", { name: "Wil Aske", now });
  queries.setQueryData(stylesQuery.queryKey, []);
  queries.setQueryData(clockQuery.queryKey, {
    personId: "p",
    name: "Wil Aske",
    shopRunning: null,
    jobs: ["Cleaning"],
    now,
    todayMinutes: 186,
    running: running
      ? { entryId: "e", start: new Date(Date.now() - 107 * 60_000).toISOString(), kind: "billable", job: { ...job, ...own } }
      : null,
    next: [{ ...next, ...then }],
  });
  return draw(<ClockPage />);
}

beforeEach(() => queries.clear());
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("the clock", () => {
  it("shows one job with its time, what is allowed and the caution", () => {
    show(true);
    expect(screen.getByRole("timer").textContent).toContain("1:47");
    expect(screen.getByText("4:12")).toBeTruthy();
    expect(screen.getByText("6:00")).toBeTruthy();
    expect(screen.getByText("60 %")).toBeTruthy();
    expect(screen.getByText("Dust: mask.")).toBeTruthy();
    expect(screen.getByText("waits for an answer: chrome?")).toBeTruthy();
  });

  it("starts a job with an id of its own", async () => {
    const sent = server();
    show(false);
    fireEvent.click(screen.getByRole("button", { name: /Start Right door/ }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.url).toBe("/api/clock/start");
    expect(sent[0]?.body).toMatchObject({ operationId: next.operationId, personId: null, share: null });
    expect(JSON.stringify(sent[0]?.body)).toMatch(/"id":"[0-9a-f]{8}-[0-9a-f]{4}-7/);
  });

  const welding = { caution: "Fumes, fire watch. Local codes come first.", cautionRead: false };

  it("shows the caution of a kind of work that was not read on this build, and starts once it was", async () => {
    const sent = server();
    show(false, {}, welding);
    fireEvent.click(screen.getByRole("button", { name: /Start Right door/ }));
    expect(screen.getByRole("heading", { name: "Before you start “Right door”" })).toBe(document.activeElement);
    expect(screen.getByText("Fumes, fire watch.")).toBeTruthy();
    expect(screen.getByText("Local codes come first.")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Not now" }));
    expect(sent).toHaveLength(0);
    fireEvent.click(screen.getByRole("button", { name: /Start Right door/ }));
    fireEvent.click(screen.getByRole("button", { name: "I have read this: start" }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({ url: "/api/clock/start", body: { operationId: next.operationId, acknowledged: true } });
    expect(screen.queryByText("Fumes, fire watch.")).toBeNull();
  });

  it("keeps its answer to how far while the caution is read", async () => {
    const sent = server();
    show(true, {}, welding);
    fireEvent.click(screen.getByRole("button", { name: /Switch to Right door/ }));
    fireEvent.click(screen.getByRole("button", { name: "75 %" }));
    expect(sent).toHaveLength(0);
    fireEvent.click(screen.getByRole("button", { name: "I have read this: start" }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({ url: "/api/clock/start", body: { share: 0.75, acknowledged: true } });
  });

  it("asks for what was begun without being read, and lets it be stopped all the same", async () => {
    const sent = server();
    show(true, welding);
    fireEvent.click(screen.getByRole("button", { name: "I have read this" }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({ url: "/api/clock/acknowledge", body: { operationId: job.operationId } });
    fireEvent.click(screen.getByRole("button", { name: "Stop" }));
    fireEvent.click(screen.getByRole("button", { name: "Not sure" }));
    await waitFor(() => expect(sent[1]?.url).toBe("/api/clock/stop"));
  });

  it("asks how far before it stops or switches", async () => {
    const sent = server();
    show(true);
    fireEvent.click(screen.getByRole("button", { name: /Switch to Right door/ }));
    expect(sent).toHaveLength(0);
    fireEvent.click(screen.getByRole("button", { name: "75 %" }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({ url: "/api/clock/start", body: { share: 0.75, operationId: next.operationId } });
  });

  it("asks once whether the break was worked and sends the same again", async () => {
    const sent = server(problem("breakWorked", "Was the break worked?"));
    show(true);
    fireEvent.click(screen.getByRole("button", { name: "Stop" }));
    fireEvent.click(screen.getByRole("button", { name: "50 %" }));
    fireEvent.click(await screen.findByRole("button", { name: "No, take it off" }));
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent[0]?.body).toMatchObject({ share: 0.5, done: false, breakWorked: null });
    expect(sent[1]?.body).toMatchObject({ share: 0.5, done: false, breakWorked: false });
  });

  it("says plainly what was not sent and keeps nothing", async () => {
    server(new TypeError("network"));
    show(true);
    fireEvent.click(screen.getByRole("button", { name: "Stop" }));
    fireEvent.click(screen.getByRole("button", { name: "Not sure" }));
    expect(await screen.findByText("The stop was not sent and is not kept.")).toBeTruthy();
  });

  it("ends a job only when Done is held for a second", async () => {
    vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
    const sent = server();
    show(true);
    const done = screen.getByRole("button", { name: /Done/ });
    fireEvent.pointerDown(done);
    vi.advanceTimersByTime(700);
    fireEvent.pointerUp(done);
    vi.advanceTimersByTime(2000);
    expect(sent).toHaveLength(0);
    fireEvent.pointerDown(done);
    vi.advanceTimersByTime(1000);
    vi.useRealTimers();
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({ url: "/api/clock/stop", body: { done: true } });
  });

  it("draws what is spent against what is allowed", () => {
    render(<HoursCoat job={job} />);
    expect(screen.getByRole("img", { name: "70 percent of the allowed time is spent" })).toBeTruthy();
  });
});
