import { type Dispatch, type SetStateAction, useEffect, useState } from "react";
import { forget, recalled, remember } from "./drafts";

type Typed<T> = [typed: T, type: Dispatch<SetStateAction<T>>, keptAs: (kept: T) => void];

/**
 * What is typed over something that is kept, how it is typed, and how what was typed so far is told to be kept as something.
 *
 * Until one types it follows what is kept; what others keep meanwhile takes nothing typed away. Under the name of a
 * `place` it is there again when one comes back (drafts.ts); another sort of value needs another place.
 */
export function useTyped<T>(kept: T, place?: string): Typed<T> {
  const [before] = useState(() => (place ? recalled<T>(place) : null));
  const [typed, setTyped] = useState(before ? before.typed : kept);
  const [seen, setSeen] = useState(before ? before.over : kept);
  if (!same(seen, kept)) {
    setSeen(kept);
    if (same(typed, seen)) setTyped(kept);
  }
  // biome-ignore lint/correctness/useExhaustiveDependencies: values, not what bears them
  useEffect(() => {
    if (!place) return;
    if (same(typed, kept)) forget(place);
    else remember(place, { typed, over: kept });
  }, [place, JSON.stringify([typed, kept])]);
  // what is typed while it is kept stays
  const keptAs = (now: T) => setTyped((newer) => (same(newer, typed) ? now : newer));
  return [typed, setTyped, keptAs];
}

/** Whether two values of numbers, texts and lists of them are the same. */
export function same<T>(one: T, other: T): boolean {
  return JSON.stringify(one) === JSON.stringify(other);
}
