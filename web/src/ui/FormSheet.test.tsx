import { cleanup, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { Problem } from "../api/client";
import { draw } from "../testing";
import { NumberField, TextField } from "./Field";
import { FormSheet } from "./FormSheet";

afterEach(cleanup);

const refused = (fields: Record<string, string>) => new Problem(400, Object.values(fields)[0] ?? "", Object.keys(fields)[0], fields);
const form = (problem: unknown, withSize = true) => (
  <FormSheet title="A part" onClose={() => undefined} onSubmit={() => undefined} problem={problem} busy={false}>
    <TextField label="What" name="what" value="" onChange={() => undefined} />
    {withSize && <NumberField label="Size" name="sizeMm" value={1} onChange={() => undefined} />}
  </FormSheet>
);
const says = () => screen.queryAllByRole("alert").map((a) => a.textContent);

describe("a form", () => {
  it("says at each field what was refused of it, without being told which fields it has", () => {
    draw(form(refused({ what: "Say what it is.", "body.sizeMm": "Too large." })));
    expect(says()).toEqual(["Say what it is.", "Too large."]);
    expect(screen.getByLabelText(/^What/).getAttribute("aria-invalid")).toBe("true");
    expect(screen.getByLabelText(/^Size/).getAttribute("aria-invalid")).toBe("true");
  });

  it("swallows nothing: what no field of it has stands below, also of a field that is not shown now", () => {
    draw(form(refused({ panels: "No such panel.", sizeMm: "Too large." }), false));
    expect(says()).toEqual(["No such panel.Too large."]);
    cleanup();
    draw(form(new Error("The server does not answer.")));
    expect(says()).toEqual(["The server does not answer."]);
    cleanup();
    draw(form(null));
    expect(says()).toEqual([]);
  });
});
