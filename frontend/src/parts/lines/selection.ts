// Several lines chosen at once: one more or less, or all between two.
export type Marks = ReadonlySet<number>;
export const NONE: Marks = new Set();

/** The marks with `id` put in, or taken out where it was in. */
export function toggled(marks: Marks, id: number): Marks {
  const next = new Set(marks);
  if (!next.delete(id)) next.add(id);
  return next;
}

/** Everything from one place of a list to another, both included; in either direction. */
export function between(ids: number[], from: number, to: number): Marks {
  return new Set(ids.slice(Math.max(Math.min(from, to), 0), Math.max(from, to) + 1));
}
