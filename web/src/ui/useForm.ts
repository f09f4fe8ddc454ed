import { useState } from "react";

/** A field that somebody else changed while it was being changed here. */
export type Clash = { field: string; theirs: string; take: () => void };

const same = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b);

const shown = (value: unknown): string => {
  if (value === null || value === undefined || value === "") return "empty";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (Array.isArray(value)) return value.length === 0 ? "empty" : value.map(shown).join("; ");
  if (typeof value === "object") return Object.values(value).map(shown).join(" ");
  return String(value);
};

/**
 * State of a form with one setter for each field. What is kept may change while the form is open, in another window or
 * by somebody else: a field not touched here follows it; a field changed in both places stays as it is here and is
 * listed as a clash, with what it is now.
 */
export function useForm<T extends object>(kept: T) {
  const [form, setForm] = useState(kept);
  const [seen, setSeen] = useState(kept);
  const [clashing, setClashing] = useState<(keyof T)[]>([]);
  if (!same(seen, kept)) {
    const changed = (Object.keys(kept) as (keyof T)[]).filter((k) => !same(seen[k], kept[k]));
    const mine = changed.filter((k) => !same(form[k], seen[k]) && !same(form[k], kept[k]));
    const follow = changed.filter((k) => !mine.includes(k));
    setSeen(kept);
    setClashing((now) => [...now.filter((k) => !changed.includes(k)), ...mine]);
    setForm((f) => ({ ...f, ...Object.fromEntries(follow.map((k) => [k, kept[k]])) }));
  }
  const set =
    <K extends keyof T>(key: K) =>
    (value: T[K]) =>
      setForm((f) => ({ ...f, [key]: value }));
  const clashes: Clash[] = clashing
    .filter((k) => !same(form[k], kept[k]))
    .map((k) => ({ field: String(k), theirs: shown(kept[k]), take: () => set(k)(kept[k]) }));
  return [form, set, setForm, clashes] as const;
}

/** The newest state of what is being edited, as the lists of the screen have it. */
export const newest = <E extends { id: string }>(edited: E | null, list: readonly E[] | undefined): E | null =>
  edited === null ? null : (list?.find((e) => e.id === edited.id) ?? edited);
