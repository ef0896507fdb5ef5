// What is typed and not saved yet, by where it was typed. This browser remembers it for who is logged in: through other
// pages, reload, a session that ends, until it is kept or taken back.
import { useCallback, useSyncExternalStore } from "react";

const TYPED = "waka-typed ";
const WHOSE = "waka-typed-by";

/** What was typed, and what was kept there when it was. */
export type Draft<T> = { typed: T; over: T };

const told = new Set<() => void>();
const tell = () => {
  for (const one of told) one();
};

/** What was typed at a place and is not kept; null for nothing. */
export function recalled<T>(place: string): Draft<T> | null {
  const text = localStorage.getItem(TYPED + place);
  return text ? (JSON.parse(text) as Draft<T>) : null;
}

/** Remember it until `forget`. */
export function remember<T>(place: string, draft: Draft<T>): void {
  try {
    localStorage.setItem(TYPED + place, JSON.stringify(draft));
  } catch (error) {
    if (!(error instanceof DOMException)) throw error;
    // more than the browser has room for: it stays where it is typed, and nothing older takes its place later
    localStorage.removeItem(TYPED + place);
  }
  tell();
}

/** Forget what was typed at `place` and at all places below it. */
export function forget(place: string): void {
  const gone = places().filter((one) => isAt(place, one));
  for (const one of gone) localStorage.removeItem(TYPED + one);
  if (gone.length) tell();
}

/** Who types from now on, null for nobody: what somebody else typed is not theirs to find, nor what the tab keeps of it. */
export function belongTo(person: number | null): void {
  const whose = String(person);
  if (localStorage.getItem(WHOSE) !== whose) for (const one of places()) localStorage.removeItem(TYPED + one);
  if (sessionStorage.getItem(WHOSE) !== whose) sessionStorage.clear();
  localStorage.setItem(WHOSE, whose);
  sessionStorage.setItem(WHOSE, whose);
  tell();
}

/** Whether something that was typed at a place, or below it, is not saved yet. */
export function isUnkept(place: string): boolean {
  return places().some((one) => isAt(place, one));
}

/** The same for what is drawn: drawn anew when that changes. */
export function useUnkept(): (place: string) => boolean {
  const all = useSyncExternalStore(subscribe, () => places().sort().join("\n"));
  return useCallback((place) => all.split("\n").some((one) => isAt(place, one)), [all]);
}

/** Drawn anew whenever anything that is typed at a place that begins so changes. */
export function useTypedUnder(beginning: string): void {
  useSyncExternalStore(subscribe, () =>
    places()
      .filter((one) => one.startsWith(beginning))
      .sort()
      .map((one) => `${one} ${localStorage.getItem(TYPED + one)}`)
      .join("\n"),
  );
}

/** Whether `one` is `place` or below it: `party 7/name` is below `party 7`. */
function isAt(place: string, one: string): boolean {
  return one === place || one.startsWith(`${place}/`);
}

function places(): string[] {
  return Object.keys(localStorage)
    .filter((key) => key.startsWith(TYPED))
    .map((key) => key.slice(TYPED.length));
}

function subscribe(changed: () => void): () => void {
  told.add(changed);
  window.addEventListener("storage", changed);
  return () => {
    told.delete(changed);
    window.removeEventListener("storage", changed);
  };
}
