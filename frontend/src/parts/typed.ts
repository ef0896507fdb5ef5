import { useState } from "react";

/**
 * What is typed over something that is kept, how it is typed, and how what was typed so far is told to be kept as something.
 *
 * Until one types it follows what is kept; what others keep meanwhile takes nothing typed away.
 */
export function useTyped<T>(kept: T): [typed: T, type: (typed: T) => void, keptAs: (kept: T) => void] {
  const [typed, setTyped] = useState(kept);
  const [seen, setSeen] = useState(kept);
  if (!same(seen, kept)) {
    setSeen(kept);
    if (same(typed, seen)) setTyped(kept);
  }
  // what is typed while it is kept stays
  const keptAs = (now: T) => setTyped((newer) => (same(newer, typed) ? now : newer));
  return [typed, setTyped as (typed: T) => void, keptAs];
}

/** Whether two values of numbers, texts and lists of them are the same. */
export function same<T>(one: T, other: T): boolean {
  return JSON.stringify(one) === JSON.stringify(other);
}
