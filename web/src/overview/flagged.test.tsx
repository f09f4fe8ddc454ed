import { cleanup, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { NotDone } from "../labour/NotDone";
import { draw, press, problem, server, signIn, type } from "../testing";
import { Flagged } from "./Flagged";

const row = (change: Partial<Schemas["FlagRow"]> = {}): Schemas["FlagRow"] => ({
  id: "f1",
  hours: true,
  buildId: "b41",
  buildNumber: 41,
  colourHex: "#1B6670",
  what: "Weld out",
  by: "Wil Aske",
  at: "2026-10-13T08:00:00Z",
  against: "Not signed yet: Fit-up signed.",
  ...change,
});
const job = { operationId: "o1", name: "Weld out" } as Schemas["ClockJob"];

afterEach(cleanup);
beforeEach(() => signIn("manager"));

describe("what was done against a rule", () => {
  it("stands on the floor with what stood against it, and is settled with a reason", async () => {
    const sent = server(problem("reason", "Please give the reason."));
    draw(<Flagged rows={[row()]} />);
    expect(screen.getByText("Not signed yet: Fit-up signed.")).toBeTruthy();
    press("Settle Weld out, Wil Aske");
    press("Settle");
    expect((await screen.findByRole("alert")).textContent).toBe("Please give the reason.");
    type(/^What holds/, "signed on paper");
    press("Settle");
    await waitFor(() =>
      expect(sent[1]).toMatchObject({ method: "POST", url: "/api/hours/f1/settle", body: { reason: "signed on paper" } }),
    );
  });

  it("on a panel is settled where panels are", async () => {
    const sent = server();
    draw(<Flagged rows={[row({ hours: false, what: "doorL: filler" })]} />);
    press("Settle doorL: filler, Wil Aske");
    type("What holds, and why", "it is on");
    press("Settle");
    await waitFor(() => expect(sent[0]?.url).toBe("/api/panel-events/f1/settle"));
  });

  it("says nothing where there is nothing", () => {
    const { container } = draw(<Flagged rows={[]} />);
    expect(container.textContent).toBe("");
  });
});

describe("a clock stopped as done that is not marked done", () => {
  it("says why and asks for nothing where it is shut", () => {
    draw(<NotDone of={{ job, words: "Not signed yet: Fit-up signed.", asks: false }} onClose={() => undefined} />);
    expect(screen.getByRole("alert").textContent).toContain("Not signed yet: Fit-up signed.");
    expect(screen.queryByRole("button", { name: "Mark it done anyway" })).toBeNull();
  });

  it("is marked done with a reason where only the order is another", async () => {
    const sent = server();
    let closed = false;
    draw(
      <NotDone
        of={{ job, words: "Before this comes Grind.", asks: true }}
        onClose={() => {
          closed = true;
        }}
      />,
    );
    expect(screen.getByRole("button", { name: "Mark it done anyway" })).toHaveProperty("disabled", true);
    type("Why it was done out of order", "the part came first");
    press("Mark it done anyway");
    await waitFor(() => expect(closed).toBe(true));
    expect(sent[0]).toMatchObject({ method: "POST", url: "/api/operations/o1/done" });
  });
});
