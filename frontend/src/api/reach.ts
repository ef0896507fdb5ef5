// Whether the server answers: what the last request found.
import { useSyncExternalStore } from "react";

let away = false;
let cutAt = Number.NEGATIVE_INFINITY;
const watching = new Set<() => void>();

/** Keep what a request found; an answer that was under way (since `begun`, by the page's clock) when the network went proves nothing. */
export function reached(answered: boolean, begun = performance.now()): void {
  if (answered && begun < cutAt) return;
  if (away === !answered) return;
  away = !answered;
  for (const tell of watching) tell();
}

/** Whether an answer is a gateway's word that the server behind it does not answer (RFC 9110, 15.6.3 and 15.6.5), or not yet. */
export function isAway(status: number, code: string): boolean {
  return status === 502 || status === 504 || (status === 503 && code === "starting");
}

function watch(tell: () => void): () => void {
  watching.add(tell);
  // without a network nothing is asked that could fail: the browser says so itself; back again, the next answer does
  window.addEventListener("offline", lost);
  return () => {
    watching.delete(tell);
    window.removeEventListener("offline", lost);
  };
}

function lost(): void {
  cutAt = performance.now();
  reached(false);
}

/** Whether the server is away just now. */
export function useAway(): boolean {
  return useSyncExternalStore(watch, () => away);
}
