import type { Schemas } from "../api/client";

/** Why an operation does not start sooner, in words. */
export const reasonText = (reason: Schemas["OperationView"]["reason"]): string => (!reason || reason.kind === "nothing" ? "" : reason.text);
