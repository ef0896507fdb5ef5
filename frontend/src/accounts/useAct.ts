import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { askAllAgain } from "../api/keys";
import { useNotices, words } from "../ui/notices";
import { LetBe, useProven } from "./proof";

/** Does something: asks for the password where that is needed, tells what was done or why not, asks for all anew. */
export function useAct(): {
  busy: boolean;
  act: <T>(what: () => Promise<T>, done?: string) => Promise<T | undefined>;
} {
  const proven = useProven();
  const queries = useQueryClient();
  const { tell } = useNotices();
  const [busy, setBusy] = useState(false);
  const act = useCallback(
    async <T>(what: () => Promise<T>, done?: string): Promise<T | undefined> => {
      setBusy(true);
      try {
        const got = await proven(what);
        if (done) tell({ text: done });
        return got;
      } catch (error) {
        if (!(error instanceof LetBe)) tell({ text: words(error), bad: true });
        return undefined;
      } finally {
        setBusy(false);
        void askAllAgain(queries);
      }
    },
    [proven, queries, tell],
  );
  return { busy, act };
}
