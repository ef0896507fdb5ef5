// Arrivals that are no records: off the list, brought back by Ctrl+Z or from the list of what was put away.
import { useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { client, data, type Schemas } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { several } from "../ui/format";
import { useUndoAction } from "../ui/keys";
import { useNotices, words } from "../ui/notices";
import { SAY } from "../ui/wording";

/** Put arrivals away and tell it; whether that was done. */
export function usePutAway(): (those: Schemas["SlipSummary"][]) => Promise<boolean> {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  return useCallback(
    async (those) => {
      const [first] = those;
      if (!first) return false;
      try {
        await data(client.POST("/api/arrivals/put-away", { body: { arrivals: those.map((one) => one.id) } }));
      } catch (error) {
        tell({ text: words(error), bad: true });
        return false;
      }
      tell({
        text:
          those.length === 1
            ? `${first.original_name} is not a record: put away. Ctrl+Z brings it back.`
            : `Put away ${several(those.length, "arrival")}: not records. Ctrl+Z brings them back.`,
        action: { label: SAY.undo, run: undo },
      });
      await Promise.all([
        askAgain(queries, "drive", "manifests"),
        queries.invalidateQueries({ queryKey: keys.waiting }),
      ]);
      return true;
    },
    [queries, tell, undo],
  );
}
