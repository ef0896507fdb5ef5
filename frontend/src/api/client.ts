// The API's client: typed by the OpenAPI document, with the session's CSRF token on writes and errors as Trouble.
import createClient, { type Middleware } from "openapi-fetch";
import { AWAKE, wasTouched } from "./awake";
import { isAway, reached } from "./reach";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];

let csrf = "";

/** Keep the CSRF token of the session that was just opened or found. */
export function setCsrf(token: string): void {
  csrf = token;
}

export function csrfToken(): string {
  return csrf;
}

/** What the server refused, in its own words. `code` is for programs; `field` names what it speaks of, `at` the character in it. */
export class Trouble extends Error {
  readonly status: number;
  readonly code: string;
  readonly field: string | null;
  readonly at: number | null;

  constructor(detail: string, status: number, code: string, field: string | null = null, at: number | null = null) {
    super(detail);
    this.status = status;
    this.code = code;
    this.field = field;
    this.at = at;
  }
}

/** The Trouble that a problem details body tells. */
export function troubleOf(status: number, body: unknown): Trouble {
  if (typeof body === "object" && body !== null && "detail" in body) {
    const told = body as { detail: string; code?: string; field?: string | null; at?: number };
    return new Trouble(told.detail, status, told.code ?? "", told.field ?? null, told.at ?? null);
  }
  return new Trouble(
    `The server answered with ${status} and no reason. Try again; if it stays so, tell the administrator.`,
    status,
    "",
  );
}

/** Whether what was asked for is not there, or not one's own to see: the server tells both alike. */
export function isGone(error: unknown): boolean {
  return error instanceof Trouble && error.status === 404;
}

export const UNREACHED = "Waka does not answer.";
// of a change only the answer may be missing
const UNSURE = `${UNREACHED} It may have been done all the same: look before you try again.`;

const begun = new WeakMap<Request, number>();

const middleware: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-Waka-CSRF", csrf);
    if (wasTouched()) request.headers.set(AWAKE, "1");
    begun.set(request, performance.now());
    return request;
  },
  async onResponse({ request, response }) {
    if (response.ok) {
      reached(true, begun.get(request));
      return undefined;
    }
    let body: unknown;
    try {
      body = await response.clone().json();
    } catch {
      body = undefined;
    }
    const trouble = troubleOf(response.status, body);
    reached(!isAway(response.status, trouble.code), begun.get(request));
    throw trouble;
  },
  onError({ request, error }) {
    // a question that was given up for the next one tells nothing about the server
    if (request.signal.aborted) return error instanceof Error ? error : undefined;
    reached(false);
    return new Trouble(request.method === "GET" ? UNREACHED : UNSURE, 0, "unreached");
  },
};

export const client = createClient<paths>({ baseUrl: "/" });
client.use(middleware);

/** The data of an answer; errors were thrown before. */
export async function data<T>(answer: Promise<{ data?: T }>): Promise<T> {
  const got = await answer;
  return got.data as T;
}
