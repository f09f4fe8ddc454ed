import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./schema.gen";
import { isKept, keepUnsent, sendUnsentWith } from "./unsent";

export type Schemas = components["schemas"];

/** A refusal of the server: a sentence a person can act on, and the field it concerns. Of a form with more than one fault, each by its field. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    detail: string,
    readonly field?: string,
    readonly fields: Record<string, string> = field ? { [field]: detail } : {},
  ) {
    super(detail);
  }
}

/** The request did not reach the server, so nothing was kept. */
export class NotSent extends Error {
  constructor() {
    super("No connection: this was not sent and is not kept. Try again.");
  }
}

const cookie = (name: string) =>
  document.cookie
    .split("; ")
    .find((c) => c.startsWith(`${name}=`))
    ?.slice(name.length + 1);

export const antiForgery = (): Record<string, string> => {
  const token = cookie("XSRF-TOKEN");
  return token ? { "X-XSRF-TOKEN": decodeURIComponent(token) } : {};
};

/** Bodies of requests under way that are kept if they cannot be sent. */
const underWay = new Map<string, Promise<string>>();

const guard: Middleware = {
  onRequest({ request, id }) {
    for (const [k, v] of Object.entries(antiForgery())) request.headers.set(k, v);
    if (isKept(request.method, new URL(request.url).pathname)) underWay.set(id, request.clone().text());
    return request;
  },
  onResponse({ id }) {
    underWay.delete(id);
  },
  async onError({ request, id }) {
    const body = await underWay.get(id);
    underWay.delete(id);
    return body === undefined || typeof indexedDB === "undefined"
      ? new NotSent()
      : keepUnsent(request.method, new URL(request.url).pathname, body);
  },
};

// Past the client's own guard: what cannot be sent now is kept already.
sendUnsentWith(async (u) => {
  const headers: Record<string, string> = antiForgery();
  let body: BodyInit | null = u.body;
  if (u.form) {
    const form = new FormData();
    form.append("file", u.form.file, u.form.name);
    for (const [k, v] of Object.entries(u.form.fields)) form.append(k, v);
    body = form;
  } else headers["content-type"] = "application/json";
  const answer = await globalThis.fetch(new Request(new URL(u.url, location.origin), { method: u.method, headers, body }));
  const says = answer.ok ? "" : problemOf(answer.status, await answer.json().catch(() => null)).message;
  return { ok: answer.ok, status: answer.status, says };
});

export const api = createClient<paths>({
  baseUrl: typeof location === "undefined" ? "/" : location.origin,
  // Looked up at each call, so that what stands in for it is used.
  fetch: (request) => globalThis.fetch(request),
});
api.use(guard);

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** The data of an answer, or a `Problem`. */
export async function ask<T>(call: Promise<Answer<T>>): Promise<T> {
  const { data, error, response } = await call;
  if (!response.ok) throw problemOf(response.status, error);
  return data as T;
}

export function problemOf(status: number, body: unknown): Problem {
  const b = (typeof body === "object" && body !== null ? body : {}) as {
    detail?: string;
    title?: string;
    field?: string;
    errors?: Record<string, string[]>;
  };
  const all = Object.entries(b.errors ?? {}).map(([field, says]) => [field, says[0] ?? ""] as const);
  const says = all[0]?.[1] ?? b.detail ?? b.title ?? "The server did not answer as expected.";
  const field = all[0]?.[0] ?? b.field;
  return all.length > 0 ? new Problem(status, says, field, Object.fromEntries(all)) : new Problem(status, says, field);
}

/** A UUID v7: ordered by time, made here so that a repeated request is recognised. */
export function newId(now = Date.now()): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  for (let i = 0; i < 6; i++) bytes[i] = Math.floor(now / 2 ** (8 * (5 - i))) & 0xff;
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x70;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  const hex = [...bytes].map((b) => b.toString(16).padStart(2, "0")).join("");
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
}
