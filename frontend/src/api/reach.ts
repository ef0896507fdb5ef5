// Whether the server answers: what the last request found.
import { useSyncExternalStore } from "react";

let away = false;
const watching = new Set<() => void>();

/** Keep what a request found. */
export function reached(answered: boolean): void {
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

const lost = () => reached(false);

/** Whether the server is away just now. */
export function useAway(): boolean {
  return useSyncExternalStore(watch, () => away);
}
