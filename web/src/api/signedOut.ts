import { useSyncExternalStore } from "react";

/** Whether the server no longer knows who works here, although this page does: it asks for the password and everything stays as it is. */
let out = false;
const listeners = new Set<() => void>();

export const isSignedOut = () => out;

export function setSignedOut(to: boolean) {
  if (to === out) return;
  out = to;
  for (const l of listeners) l();
}

export const useSignedOut = () =>
  useSyncExternalStore((l) => {
    listeners.add(l);
    return () => listeners.delete(l);
  }, isSignedOut);
