import type { Schemas } from "../api/client";

export type Operation = Schemas["OperationView"];

/** What says in which order work stands. */
export type Ordered = Pick<Operation, "id" | "name" | "after" | "doneAt" | "starts" | "position" | "budgetMinutes">;

/** A chain of operations, each after the one before it. */
export type Strand<T extends Ordered = Operation> = { name: string; works: T[] };

/** Operations in the order in which they were done and are planned; what has no date stands where the sequence has it. */
export function inTime<T extends Ordered>(all: readonly T[]): T[] {
  const byId = new Map(all.map((o) => [o.id, o]));
  const rank = (o: T) => (o.doneAt ? 0 : o.starts ? 1 : 2);
  const at = (o: T) => Date.parse(o.doneAt ?? o.starts ?? "") || 0;
  const wanted = all.toSorted((a, b) => rank(a) - rank(b) || at(a) - at(b) || a.position - b.position);
  // What comes before comes first, also where both have the same minute.
  const placed = new Set<string>();
  const order: T[] = [];
  const place = (o: T) => {
    if (placed.has(o.id)) return;
    placed.add(o.id);
    for (const a of o.after) {
      const before = byId.get(a.operation);
      if (before && (before.doneAt === null) === (o.doneAt === null)) place(before);
    }
    order.push(o);
  };
  wanted.forEach(place);
  return order;
}

/** What waits for each operation, by its id. */
export function followersOf<T extends Pick<Operation, "id" | "after">>(all: readonly T[]): Map<string, T[]> {
  const next = new Map<string, T[]>();
  for (const o of all) for (const a of o.after) next.set(a.operation, [...(next.get(a.operation) ?? []), o]);
  return next;
}

/** The chain of operations that would wait for each other if one came after another, from its first to its first again; null: none. */
export function circleOf(all: readonly Operation[], work: string, after: string): Operation[] | null {
  const byId = new Map(all.map((o) => [o.id, o]));
  const seen = new Set<string>();
  const back = (id: string): Operation[] | null => {
    const o = byId.get(id);
    if (!o || seen.has(id)) return null;
    seen.add(id);
    if (id === work) return [o];
    for (const a of o.after) {
      const way = back(a.operation);
      if (way) return [...way, o];
    }
    return null;
  };
  const way = back(after);
  const first = byId.get(work);
  return way && first ? [...way, first] : null;
}

/** Work that does not need what another operation brings, in the order in which it is planned: what is useful while that is away. */
export function meanwhile(all: readonly Operation[], away: string): Operation[] {
  const next = followersOf(all);
  const waits = new Set<string>([away]);
  const open = [away];
  for (let id = open.pop(); id !== undefined; id = open.pop())
    for (const o of next.get(id) ?? [])
      if (!waits.has(o.id)) {
        waits.add(o.id);
        open.push(o.id);
      }
  return inTime(all).filter((o) => o.kind === "work" && o.doneAt === null && !waits.has(o.id));
}

/**
 * The sequence as strands: the trunk is the chain with the most hours, then the next of what is left, until every operation is in one.
 * @returns The trunk first.
 */
export function strandsOf<T extends Ordered>(all: readonly T[]): Strand<T>[] {
  const order = inTime(all);
  const left = new Set(order.map((o) => o.id));
  const byId = new Map(order.map((o) => [o.id, o]));
  const weight = (o: T) => 1 + o.budgetMinutes / 60;
  const strands: Strand<T>[] = [];
  while (left.size > 0) {
    const best = new Map<string, { sum: number; from: string | null }>();
    let end: string | null = null;
    for (const o of order) {
      if (!left.has(o.id)) continue;
      let [sum, from]: [number, string | null] = [0, null];
      for (const a of o.after) {
        const before = left.has(a.operation) ? best.get(a.operation) : undefined;
        if (before && before.sum > sum) [sum, from] = [before.sum, a.operation];
      }
      best.set(o.id, { sum: sum + weight(o), from });
      if (end === null || sum + weight(o) > (best.get(end)?.sum ?? 0)) end = o.id;
    }
    const works: T[] = [];
    for (let at = end; at !== null; at = best.get(at)?.from ?? null) {
      works.unshift(byId.get(at) as T);
      left.delete(at);
    }
    strands.push({ name: strands.length === 0 ? "" : nameOf(works), works });
  }
  return strands;
}

/** What all names of a chain begin with, up to a colon; none: they have nothing in common. */
function nameOf(works: readonly Ordered[]): string {
  const heads = new Set(works.map((o) => /^([^:]+):/.exec(o.name)?.[1] ?? ""));
  return works.length > 1 && heads.size === 1 ? ([...heads][0] as string) : "";
}
