// The window's width, as far as a layout differs by it.
import { useSyncExternalStore } from "react";

const NARROW = "(max-width: 1150px)";

function watch(tell: () => void): () => void {
  const query = window.matchMedia(NARROW);
  query.addEventListener("change", tell);
  return () => query.removeEventListener("change", tell);
}

/** Whether the window is so narrow that what is seldom looked at gives way. */
export function useNarrow(): boolean {
  return useSyncExternalStore(watch, () => window.matchMedia(NARROW).matches);
}
