// Edits of slips go one after another, and filing waits for the last one.
import type { Schemas } from "../api/client";

/** An edit of a slip; whether it was kept. */
export type Edit = (form: Partial<Schemas["SlipForm"]>) => Promise<boolean>;

let last: Promise<unknown> = Promise.resolve();

/** Run an edit after all that were begun before it. */
export function afterEdits<T>(edit: () => Promise<T>): Promise<T> {
  const next = last.then(edit);
  last = next.catch(() => undefined);
  return next;
}

/** Wait for every edit begun so far, those of a field that loses the focus in this turn among them. */
export function editsDone(): Promise<unknown> {
  return new Promise((resolve) => setTimeout(resolve, 0)).then(() => last);
}
