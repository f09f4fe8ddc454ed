import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import { useSyncExternalStore } from "react";
import { serverNow } from "../format";

/**
 * Work that could not be sent yet, kept in this browser. One store for every page: in the order in which it was done, each once, with
 * the id that the browser gave it. It goes when there is a connection; what the server refuses then stays to be looked at.
 */

/** A file goes with fields instead of a body. */
type Form = { file: Blob; name: string; fields: Record<string, string> };

export type Unsent = {
  /** Its place in the order. */
  seq: number;
  method: "POST" | "PUT" | "DELETE";
  url: string;
  body: string | null;
  form: Form | null;
  /** What it is, in words. */
  what: string;
  /** When it was done. */
  at: string;
  /** Whose work it is: it never goes under another name. */
  account: string;
  /** Why the server refused it; null: it has not been there. */
  refused: string | null;
};

interface Kept extends DBSchema {
  unsent: { key: number; value: Unsent };
}

/** It was not sent and is kept: it goes by itself. */
export class KeptUnsent extends Error {
  constructor(readonly what: string) {
    super("Not sent yet. It is kept in this browser and goes when there is a connection.");
  }
}

/** Work that is kept, by where it goes; anything else stays in its form until it can be sent. */
const KEPT: [RegExp, string][] = [
  [/^POST \/api\/clock\/start$/, "the clock, started"],
  [/^POST \/api\/clock\/start-shop$/, "the clock, started for the shop"],
  [/^POST \/api\/clock\/stop$/, "the clock, stopped"],
  [/^POST \/api\/clock\/acknowledge$/, "a caution, read"],
  [/^POST \/api\/hours$/, "hours"],
  [/^POST \/api\/shop-time$/, "hours for the shop"],
  [/^PUT \/api\/builds\/[\w-]+\/findings\/[\w-]+$/, "a finding"],
  [/^PUT \/api\/builds\/[\w-]+\/parts\/[\w-]+$/, "a part"],
  [/^PUT \/api\/builds\/[\w-]+\/bags\/[\w-]+$/, "a bag"],
  [/^POST \/api\/bags\/[\w-]+\/move$/, "where a bag went"],
  [/^POST \/api\/builds\/[\w-]+\/panel-events$/, "a panel’s card"],
  [/^POST \/api\/builds\/[\w-]+\/fit\/readings$/, "a gap’s reading"],
  [/^POST \/api\/builds\/[\w-]+\/datum\/readings$/, "a point’s reading"],
  [/^POST \/api\/builds\/[\w-]+\/openings$/, "an opening"],
  [/^POST \/api\/figures\/[\w-]+\/readings$/, "a figure’s reading"],
  [/^POST \/api\/builds\/[\w-]+\/centres$/, "both readings from a mark"],
  [/^POST \/api\/mirrors\/[\w-]+\/readings$/, "a side’s reading"],
  [/^POST \/api\/bolts\/[\w-]+\/tight$/, "a bolt"],
  [/^POST \/api\/builds\/[\w-]+\/materials$/, "material"],
  [/^POST \/api\/outside\/[\w-]+\/count$/, "a count"],
  [/^POST \/api\/builds\/[\w-]+\/photos\/[\w-]+$/, "a photo"],
];

export const isKept = (method: string, url: string): string | null => KEPT.find(([way]) => way.test(`${method} ${url}`))?.[1] ?? null;

/** Work on the clock happened when it was touched, not when it was sent. */
const TIMED = /^\/api\/clock\//;

let list: readonly Unsent[] = [];
let account = "";
const listeners = new Set<() => void>();
const say = () => {
  for (const l of listeners) l();
};

let opened: Promise<IDBPDatabase<Kept>> | null = null;
const open = () =>
  (opened ??= openDB<Kept>("first-coat", 1, {
    upgrade: (db) => {
      db.createObjectStore("unsent", { keyPath: "seq", autoIncrement: true });
    },
  }));

async function load() {
  list = (await (await open()).getAll("unsent")).filter((u) => u.account === account);
  say();
}

/** Whose browser it is now; what others have not sent waits for them. */
export async function unsentOf(user: string | null) {
  account = user ?? "";
  if (typeof indexedDB === "undefined") return;
  await load();
  if (account) void sendUnsent();
}

/** Keeps a request; whoever sent it is told that it is not there yet. */
export async function keepUnsent(method: string, url: string, body: string | null, form: Form | null = null): Promise<KeptUnsent> {
  const what = isKept(method, url) ?? "a change";
  const at = serverNow().toISOString();
  const timed = TIMED.test(url) && body ? JSON.stringify({ ...JSON.parse(body), at: JSON.parse(body).at ?? at }) : body;
  const db = await open();
  await db.add("unsent", { method, url, body: timed, form, what, at, account, refused: null } as Unsent);
  await load();
  return new KeptUnsent(what);
}

/** Takes one out that the server refused and nobody wants any more. */
export async function dropUnsent(seq: number) {
  await (await open()).delete("unsent", seq);
  await load();
}

type Send = (u: Unsent) => Promise<{ ok: boolean; status: number; says: string }>;
let sendOne: Send | null = null;
/** How one is sent; the client says. */
export const sendUnsentWith = (send: Send) => {
  sendOne = send;
};

/** One window at a time sends, so that nothing goes twice. */
async function alone<T>(work: () => Promise<T>): Promise<T | undefined> {
  if (!navigator.locks) return work();
  return await navigator.locks.request("first-coat-unsent", { ifAvailable: true }, async (lock) => (lock ? await work() : undefined));
}

/**
 * Sends what waits, oldest first; stops where there is still no connection. What is refused stays with its reason, and what comes
 * after it goes all the same: it may be somebody else's bag.
 * @returns How many arrived.
 */
export async function sendUnsent(again = false): Promise<number> {
  const send = sendOne;
  if (!send || typeof indexedDB === "undefined") return 0;
  const arrived = await alone(async () => {
    const db = await open();
    let count = 0;
    for (const u of (await db.getAll("unsent")).filter((x) => x.account === account && (again || x.refused === null))) {
      const answer = await send(u).catch(() => null);
      // Nobody there, or a server that stumbles: it stays, and so does the order.
      if (!answer || answer.status >= 500 || answer.status === 401) break;
      if (answer.ok) {
        await db.delete("unsent", u.seq);
        count++;
      } else await db.put("unsent", { ...u, refused: answer.says });
    }
    return count;
  });
  await load();
  return arrived ?? 0;
}

/** What has not been sent, oldest first. */
export const useUnsent = () =>
  useSyncExternalStore(
    (l) => {
      listeners.add(l);
      return () => listeners.delete(l);
    },
    () => list,
  );
