import type { Schemas } from "../api/client";

/** Why an operation does not start earlier, in words; names are those of the build's operations. */
export function reasonText(reason: Schemas["OperationView"]["reason"], names: Map<string, string>): string {
  if (!reason || reason.kind === "nothing") return "";
  const at = reason.ref ? names.get(reason.ref) : undefined;
  if (reason.kind === "operation" && at) return `after ${at}`;
  if (reason.kind === "cure" && at) return `${at} ${reason.text}`;
  if (reason.kind === "person" && at) return `${reason.text}: ${at}`;
  return reason.text;
}
