import { useState } from "react";
import type { Schemas } from "../api/client";
import { say } from "./say";
import { useSend } from "./useSend";

/** One thing as it was and as it became. */
type Step<T> = { id: string; name: string; before: T; after: T; version: number };

/**
 * Changes that can be taken back and done again in turn; a step that somebody else has overtaken is refused, and leaves the row.
 * @param put Keeps a thing as it is to be, at the version that was seen.
 * @param words What is said of it then: made, taken back, or made again.
 */
export function useSteps<T>(
  put: (change: { id: string; to: T; version: number | null }) => Promise<Schemas["Saved"]>,
  words: (name: string, to: T, how: "made" | "back" | "again") => string,
) {
  const [done, setDone] = useState<Step<T>[]>([]);
  const [undone, setUndone] = useState<Step<T>[]>([]);
  const send = useSend(put);
  /** @returns Whether it was kept. */
  const make = async (thing: { id: string; name: string; before: T; after: T; version: number | null }) => {
    const saved = await send.mutateAsync({ id: thing.id, to: thing.after, version: thing.version }).catch(() => null);
    if (!saved) return false;
    setDone((d) => [...d, { ...thing, version: saved.version }]);
    setUndone([]);
    say.done(words(thing.name, thing.after, "made"));
    return true;
  };
  /** @param back Whether it is taken back or done again. */
  const step = async (back: boolean) => {
    const [from, setFrom, setTo] = back ? [done, setDone, setUndone] : [undone, setUndone, setDone];
    const c = from.at(-1);
    if (!c) return;
    const to = back ? c.before : c.after;
    const saved = await send.mutateAsync({ id: c.id, to, version: c.version }).catch(() => null);
    setFrom((all) => all.slice(0, -1));
    if (!saved) return;
    // Earlier steps of the same thing go on from the version that this one made.
    const renewed = (all: Step<T>[]) => all.map((x) => (x.id === c.id ? { ...x, version: saved.version } : x));
    setFrom(renewed);
    setTo((all) => [...renewed(all), { ...c, version: saved.version }]);
    say.done(words(c.name, to, back ? "back" : "again"));
  };
  return {
    make,
    undo: done.length > 0 ? () => step(true) : null,
    redo: undone.length > 0 ? () => step(false) : null,
    busy: send.isPending,
  };
}
