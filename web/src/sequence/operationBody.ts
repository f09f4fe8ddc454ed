import { Problem, type Schemas } from "../api/client";
import { NO_TERMS, type Terms } from "./OperationTermsFields";
import type { Operation } from "./strands";

/** What of an operation can be changed; dates and hours booked move by themselves. */
export type OperationForm = Omit<Schemas["OperationBody"], "version" | "terms"> & { terms: Terms };

export const NEW_OPERATION: OperationForm = {
  name: "",
  stage: "metal",
  kind: "work",
  trade: "metal",
  budgetMinutes: 60,
  station: null,
  personId: null,
  panels: [],
  coat: null,
  held: null,
  withoutStop: false,
  gate: null,
  hazard: null,
  clockMinutes: 0,
  after: [],
  position: null,
  terms: NO_TERMS,
  departsWhy: "",
};

export const formOf = (o: Operation): OperationForm => ({
  ...(Object.fromEntries(Object.keys(NEW_OPERATION).map((k) => [k, o[k as keyof Operation]])) as typeof NEW_OPERATION),
  terms: { ...NO_TERMS, ...o.terms },
});

/** What a form says, as it is sent: what its kind has no use for is left out. */
export const bodyOf = (form: OperationForm, version: number | null): Schemas["OperationBody"] => ({
  ...form,
  trade: form.kind === "work" ? form.trade : null,
  budgetMinutes: form.kind === "work" ? form.budgetMinutes : 0,
  gate: form.kind === "gate" ? form.gate : null,
  terms: form.kind === "outside" ? form.terms : { ...form.terms, supplierId: null, batch: "" },
  clockMinutes: form.kind === "cure" || form.kind === "outside" ? form.clockMinutes : 0,
  version,
});

/** Whether a change was refused because it departs from the template's order without a reason. */
export const asksWhy = (error: unknown) => error instanceof Problem && error.field === "departsWhy";
