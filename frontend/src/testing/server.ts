// A server for tests of screens: what it answers is said by each test, what it was asked is kept.

/** An answer, or what makes one of the request's body and address, at once or later. */
export type Answer = unknown | ((body: never, address: URL) => unknown);

/** What the server refuses, as problem details. */
export class Refusal {
  readonly status: number;
  readonly body: Record<string, unknown>;

  constructor(status: number, body: Record<string, unknown>) {
    this.status = status;
    this.body = body;
  }
}

let answers: Record<string, Answer> = {};
let asked: { what: string; query: string; body: unknown }[] = [];
let unanswered: string[] = [];
/** Which test it is: what the last one still asked is not this one's. */
let round = 0;

/** From now on these are answered, by method and path: `GET /api/plans/3`; and what was answered before. */
export function serve(more: Record<string, Answer>): void {
  answers = { ...answers, ...more };
}

/** What was asked of `what`, in order: the bodies. */
export function bodies(what: string): unknown[] {
  return asked.filter((one) => one.what === what).map((one) => one.body);
}

/** The addresses' queries of what was asked of `what`, in order. */
export function queries(what: string): string[] {
  return asked.filter((one) => one.what === what).map((one) => one.query);
}

/** Forget everything; what was asked and nobody had answered for. */
export function close(): string[] {
  const missed = unanswered;
  answers = {};
  asked = [];
  unanswered = [];
  round += 1;
  return missed;
}

/** Stands for `fetch`. */
export async function respond(request: Request): Promise<Response> {
  const address = new URL(request.url);
  const what = `${request.method} ${address.pathname}`;
  const begun = round;
  const text = await request.text();
  if (begun !== round) return json(500, { detail: "The test is over." });
  const body: unknown = text ? JSON.parse(text) : undefined;
  asked.push({ what, query: address.search, body });
  if (!(what in answers)) {
    unanswered.push(what);
    return json(500, { detail: `The test answers nothing to ${what}.` });
  }
  const answer = answers[what];
  const told =
    typeof answer === "function" ? await (answer as (body: unknown, address: URL) => unknown)(body, address) : answer;
  return told instanceof Refusal ? json(told.status, told.body) : json(200, told);
}

function json(status: number, body: unknown): Response {
  return new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });
}
