import { QueryClientProvider } from "@tanstack/react-query";
import { createMemoryHistory, createRootRoute, createRouter, RouterContextProvider } from "@tanstack/react-router";
import { fireEvent, render, screen, within } from "@testing-library/react";
import type { ReactNode } from "react";
import { vi } from "vitest";
import type { Schemas } from "./api/client";
import { queries, sessionQuery } from "./api/queries";
import { takeShopWays } from "./format";

/** What tests of screens share: somebody signed in, and a server that keeps what it was sent. */

type Role = "manager" | "office" | "technician";

/** Signs somebody in; without a time it is now. */
export function signIn(
  role: Role,
  { name = "Sunniva Roake", personId = "p", now = new Date().toISOString(), units = "metric" as Schemas["UnitSystem"] } = {},
) {
  const shop = { name: "Shop", place: "", currency: "GBP", timeZone: "Europe/London", units };
  takeShopWays(shop, now);
  queries.setQueryData(sessionQuery.queryKey, {
    needsSetUp: false,
    user: { accountId: "a", personId, name, role },
    now,
    shop,
    diskFull: false,
  });
}

/** Draws a screen over what the queries hold, at an address of its own. */
export function draw(screen: ReactNode, history = createMemoryHistory()) {
  const router = createRouter({ routeTree: createRootRoute(), history });
  return render(
    <QueryClientProvider client={queries}>
      <RouterContextProvider router={router}>{screen}</RouterContextProvider>
    </QueryClientProvider>,
  );
}

export type Sent = { method: string; url: string; body: unknown };

/** Answers of the server to changes, in order, then "saved"; every change is kept. What is read is not answered. */
export function server(...answers: (Response | Error)[]) {
  const sent: Sent[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    if (request.method === "GET") return new Response("{}", { status: 500 });
    const text = await request.clone().text();
    sent.push({ method: request.method, url: new URL(request.url).pathname, body: text ? JSON.parse(text) : null });
    const answer = answers.shift() ?? saved();
    if (answer instanceof Error) throw answer;
    return answer;
  });
  return sent;
}

/** The body of the first change that was sent. */
export const bodyOf = <T,>(sent: Sent[]) => sent[0]?.body as T;

const saved = () => new Response(JSON.stringify({ id: "x", version: 1 }), { status: 200, headers: { "content-type": "application/json" } });

/** A refusal that names its field. */
export const problem = (field: string, detail: string, status = 400) =>
  new Response(JSON.stringify({ status, detail, field }), { status, headers: { "content-type": "application/problem+json" } });

export const dimensions: Schemas["BodyDimensions"] = { lengthMm: 5160, widthMm: 1700, wheelbaseMm: 2850 };

/** A build that stands in the shop, as the floor and its own pages get it. */
export const card = (change: Partial<Schemas["BuildCard"]>): Schemas["BuildCard"] => ({
  id: "b1",
  number: 41,
  title: "Whimbrel Courser",
  year: 1966,
  client: "O. Brandvold",
  status: "open",
  style: "coupe",
  dimensions,
  colourName: "Tidewater",
  colourHex: "#1B6670",
  stationId: "s1",
  awayAt: "",
  fillIn: false,
  priority: 1,
  promised: null,
  likely: null,
  holdsKind: "nothing",
  holds: "",
  nextName: null,
  nextOn: null,
  move: null,
  untouchedDays: 0,
  share: 0.48,
  budgetMinutes: 600,
  spentMinutes: 320,
  layers: [{ stage: "metal", budget: 600, earned: 300, spent: 320, rework: 0 }],
  onIt: [],
  coats: { bonnet: "epoxy" },
  leftAt: "",
  firstMove: "",
  partly: false,
  withoutDate: "",
  planned: null,
  waits: [],
  ...change,
});

export const station = (id: string, name: string, kind: Schemas["StationKind"], x: number): Schemas["StationView"] => ({
  id,
  name,
  kind,
  count: 1,
  xMm: x,
  yMm: 0,
  widthMm: 6700,
  depthMm: 4450,
  doorHeightMm: null,
  walled: false,
  terms: {},
  pastInspection: false,
  version: 1,
});

/** What people do on a form. */
export const type = (label: string | RegExp, value: string) => fireEvent.change(screen.getByLabelText(label), { target: { value } });
export const press = (name: string | RegExp) => fireEvent.click(screen.getByRole("button", { name }));
export const written = (label: string) => (screen.getByLabelText(label) as HTMLInputElement).value;
export const choicesOf = (label: string) =>
  within(screen.getByLabelText(label))
    .getAllByRole("option")
    .map((o) => o.textContent);

/** An operation of a build, as the sequence has it. */
export const operation = (change: Partial<Schemas["OperationView"]>): Schemas["OperationView"] => ({
  id: "o1",
  position: 1,
  stage: "fill",
  kind: "work",
  name: "Block the left side",
  trade: "body",
  budgetMinutes: 480,
  earnedMinutes: 0,
  spentMinutes: 95,
  station: "prep",
  personId: null,
  panels: ["wingL"],
  coat: "blocked",
  held: null,
  withoutStop: false,
  gate: null,
  canOverride: true,
  hazard: null,
  caution: null,
  clockMinutes: 0,
  after: [],
  statedShare: 0.4,
  doneAt: null,
  doneBy: null,
  signatures: [],
  starts: "2026-10-13T07:00:00Z",
  finishes: "2026-10-14T10:00:00Z",
  plannedPersonId: "wil",
  plannedPeople: ["wil"],
  missesDeadline: false,
  startBy: null,
  reason: null,
  terms: {},
  place: null,
  assumes: null,
  warning: null,
  slackDays: 2,
  departs: [],
  departsWhy: "",
  version: 7,
  ...change,
});
