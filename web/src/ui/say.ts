import { useSyncExternalStore } from "react";

/** What has just happened, in a few words. It stands where nothing else does, so that it covers no tool. */
export type Said = { text: string; kind: "done" | "wrong" | "note"; n: number };

/** Milliseconds that words stay. */
const STAYS = 6000;

let said: Said | null = null;
let count = 0;
let timer: ReturnType<typeof setTimeout> | undefined;
const listeners = new Set<() => void>();

function tell(text: string, kind: Said["kind"]) {
  said = { text, kind, n: ++count };
  clearTimeout(timer);
  timer = setTimeout(hush, kind === "wrong" ? STAYS * 2 : STAYS);
  for (const l of listeners) l();
}

/** Takes the words away. */
export function hush() {
  said = null;
  for (const l of listeners) l();
}

export const say = {
  done: (text: string) => tell(text, "done"),
  wrong: (text: string) => tell(text, "wrong"),
  note: (text: string) => tell(text, "note"),
};

export const useSaid = () =>
  useSyncExternalStore(
    (l) => {
      listeners.add(l);
      return () => listeners.delete(l);
    },
    () => said,
  );
