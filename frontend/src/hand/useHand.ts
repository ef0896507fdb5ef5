// What one has in hand: kept by the server, so that it survives a reload and a new log-in.

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { client, data, type Schemas } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { done, isTaken, type Putting } from "../places/moving";
import type { Policy } from "../places/TakenChoice";
import { useUndoAction } from "../ui/keys";
import { useNotices, words } from "../ui/notices";
import { SAY } from "../ui/wording";

export type Held = Schemas["HeldOut"];

export function useHand(): Held[] {
  const hand = useQuery({ queryKey: keys.hand, queryFn: () => data(client.GET("/api/hand")) });
  return hand.data?.held ?? [];
}

export type HandActs = {
  pickUp: (entries: number[]) => Promise<void>;
  letGo: (entries: number[] | null) => Promise<void>;
  putDown: (
    held: Held[],
    how: Putting,
    folder: number,
    path: string,
    taken?: Policy | null,
    onTaken?: () => void,
  ) => Promise<string | null>;
};

/** Pick up, put down, let go; told and undone as elsewhere. */
export function useHandActs(): HandActs {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const pickUp = useCallback(
    async (entries: number[]) => {
      try {
        queries.setQueryData(keys.hand, await data(client.POST("/api/hand", { body: { entries } })));
      } catch (error) {
        tell({ text: words(error), bad: true });
      }
    },
    [queries, tell],
  );
  const letGo = useCallback(
    async (entries: number[] | null) => {
      try {
        queries.setQueryData(keys.hand, await data(client.POST("/api/hand/let-go", { body: { entries } })));
      } catch (error) {
        tell({ text: words(error), bad: true });
      }
    },
    [queries, tell],
  );
  const putDown = useCallback(
    async (
      held: Held[],
      how: Putting,
      folder: number,
      path: string,
      taken: Policy | null = null,
      onTaken?: () => void,
    ) => {
      const entries = held.map((one) => one.entry);
      try {
        await data(client.POST("/api/hand/put-down", { body: { entries, how, folder, taken: taken ?? "stop" } }));
      } catch (error) {
        if (!onTaken || !isTaken(error)) return words(error);
        onTaken();
        return null;
      }
      const text = done(how, { entries, name: held[0]?.name ?? "" }, path);
      tell({ text, action: { label: SAY.undo, run: undo } });
      void askAgain(queries, "drive", "manifests");
      return null;
    },
    [queries, tell, undo],
  );
  return { pickUp, letGo, putDown };
}
