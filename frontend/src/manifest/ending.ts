import { useCallback, useEffect, useRef } from "react";
import type { Schemas } from "../api/client";
import { type Notice, useNotices } from "../app/notices";
import { several } from "../parts/format";

type Manifest = Schemas["ManifestOut"];
export const BUSY = ["planned", "queued", "running", "undoing"];

/** Says what became of a run or an undo that ends while one looks at it; to be told of those that one began. */
export function useEnding(manifest: Manifest | undefined): () => void {
  const { tell } = useNotices();
  const last = useRef<{ id: number; busy: boolean } | null>(null);
  useEffect(() => {
    if (!manifest) return;
    const busy = BUSY.includes(manifest.state);
    const ended = last.current?.id === manifest.id && last.current.busy && !busy ? ending(manifest) : null;
    last.current = { id: manifest.id, busy };
    if (ended) tell(ended);
  }, [manifest, tell]);
  const id = manifest?.id;
  return useCallback(() => {
    // it may be over before it is seen to run
    if (id !== undefined) last.current = { id, busy: true };
  }, [id]);
}

function ending(manifest: Manifest): Notice | null {
  const { state, problem } = manifest;
  if (problem && problem !== "tried") return { text: problem, bad: state === "failed" || state === "checked" };
  if (state === "done")
    return {
      text: `Done: ${several(manifest.counts.done ?? 0, "line")}.${manifest.mine ? " Ctrl+Z undoes it." : ""}`,
    };
  if (state === "partly done") return { text: "Done in part; see what failed." };
  if (state === "undone") return { text: "Undone." };
  if (state === "partly undone") return { text: "Undone in part; see which lines are not." };
  return null;
}
