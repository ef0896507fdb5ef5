import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef } from "react";
import type { Schemas } from "../api/client";
import { askAllAgain } from "../api/keys";
import { several } from "../ui/format";
import { type Notice, useNotices } from "../ui/notices";

type Manifest = Schemas["ManifestOut"];
export const BUSY = ["planned", "queued", "running", "undoing"];

/**
 * Says what became of a run or an undo that ends while one looks at it, and has all that is shown asked anew: its lines, sums and
 * reasons too, where it ends as a plan again. To be told of those that one began.
 */
export function useEnding(manifest: Manifest | undefined): () => void {
  const { tell } = useNotices();
  const queries = useQueryClient();
  const last = useRef<{ id: number; busy: boolean } | null>(null);
  useEffect(() => {
    if (!manifest) return;
    const busy = BUSY.includes(manifest.state);
    const over = last.current?.id === manifest.id && last.current.busy && !busy;
    last.current = { id: manifest.id, busy };
    if (!over) return;
    void askAllAgain(queries);
    const ended = ending(manifest);
    if (ended) tell(ended);
  }, [manifest, queries, tell]);
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
