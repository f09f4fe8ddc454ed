import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./schema.gen";

export type Schemas = components["schemas"];

/** A refusal of the server: a sentence a person can act on, and the field it concerns. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    detail: string,
    readonly field?: string,
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

const guard: Middleware = {
  onRequest({ request }) {
    for (const [k, v] of Object.entries(antiForgery())) request.headers.set(k, v);
    return request;
  },
  onError() {
    return new NotSent();
  },
};

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
  const first = b.errors ? Object.entries(b.errors)[0] : undefined;
  return new Problem(status, first?.[1][0] ?? b.detail ?? b.title ?? "The server did not answer as expected.", first?.[0] ?? b.field);
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
