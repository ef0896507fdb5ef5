// New content put on a document that is in the drive.

import { useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { client, data } from "../api/client";
import { askAgain } from "../api/keys";
import { sendFile } from "../api/upload";
import { useUndoAction } from "../ui/keys";
import { useNotices, words } from "../ui/notices";
import { SAY } from "../ui/wording";

export type On = { document: number; name: string };

/** Brings a file in and makes it the document's newest version at once; tells what came of it. */
export function usePutVersion(): (on: On, file: File, progress?: (sent: number) => void) => Promise<void> {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  return useCallback(
    async (on, file, progress = () => {}) => {
      try {
        const received = await sendFile(file, crypto.randomUUID(), progress, null, null).done;
        try {
          await data(
            client.POST("/api/documents/{document}/versions", {
              params: { path: { document: on.document } },
              body: { arrival: received.id },
            }),
          );
        } catch (error) {
          // what could not be put on the document does not stay behind in arrivals
          await data(client.POST("/api/arrivals/put-away", { body: { arrivals: [received.id] } }));
          throw error;
        }
        tell({ text: `${file.name} is the newest version of ${on.name}`, action: { label: SAY.undo, run: undo } });
      } catch (error) {
        tell({ text: words(error), bad: true });
      } finally {
        void askAgain(queries, "drive", "manifests");
      }
    },
    [queries, tell, undo],
  );
}
