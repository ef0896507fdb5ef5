// Putting entries somewhere: one call each, told and undone the same way from every screen.

import { useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { client, data, Trouble } from "../api/client";
import { askAgain } from "../api/keys";
import { useUndoAction } from "../ui/keys";
import { useNotices, words } from "../ui/notices";
import { SAY } from "../ui/wording";
import type { Policy } from "./TakenChoice";

export type Putting = "move" | "also" | "copy";
/** What is put somewhere: its entries, and what one calls it where it is a single thing; `folder` where that is one; `told`: what
 * several are called where they are not all documents. */
export type Things = { entries: number[]; name: string; folder?: number; told?: string };

/** What a way of putting is called on buttons, before the folder's name. */
export const VERBS: Record<Putting, string> = { move: "Move to", also: "Also file in", copy: "Copy to" };
const DONE: Record<Putting, [string, string]> = {
  move: ["Moved", "to"],
  also: ["Also filed", "in"],
  copy: ["Copied", "to"],
};

/** Whether a name is taken where something was to be put. */
export const isTaken = (error: unknown): boolean => error instanceof Trouble && error.code.startsWith("taken");

/** Put entries into a folder. */
async function put(how: Putting, entries: number[], folder: number, policy: Policy | null): Promise<void> {
  const taken = policy ?? "stop";
  if (how === "move") await data(client.POST("/api/entries/move", { body: { entries, folder, taken } }));
  else if (how === "also")
    await data(client.POST("/api/entries/also", { body: { entries, folder, name: null, taken } }));
  else await data(client.POST("/api/entries/copy", { body: { entries, folder, name: null, contents: true } }));
}

/** What may be done with a name that is taken there: what is copied gets a mark by itself, what stays becomes no version. */
export const POLICIES: Record<Putting, Policy[]> = {
  move: ["both", "version", "skip"],
  also: ["both", "skip"],
  copy: [],
};

/** How things are called in a sentence. */
export function called(things: Things): string {
  if (things.folder !== undefined || things.entries.length === 1) return things.name;
  return things.told ?? `${things.entries.length} documents`;
}

/** What was done, for the notice. */
export function done(how: Putting, things: Things, path: string): string {
  const [verb, to] = DONE[how];
  return `${verb} ${called(things)} ${to} ${path}`;
}

/** Put things into a folder and tell it, with Undo; what went wrong, if anything did. ``onTaken``: asks what to do with taken names. */
export function usePut(): (
  how: Putting,
  things: Things,
  folder: number,
  path: string,
  taken?: Policy | null,
  onTaken?: () => void,
) => Promise<string | null> {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  return useCallback(
    async (how, things, folder, path, taken = null, onTaken = undefined) => {
      try {
        await put(how, things.entries, folder, taken);
      } catch (error) {
        if (!onTaken || !isTaken(error)) return words(error);
        onTaken();
        return null;
      }
      tell({ text: done(how, things, path), action: { label: SAY.undo, run: undo } });
      // what is shown follows by itself: nobody waits for that
      void askAgain(queries, "drive", "manifests");
      return null;
    },
    [queries, tell, undo],
  );
}

/** Put tags on things (a folder: on it alone, or `contents`) and take tags off them, and tell it; what went wrong, if anything did. */
export function usePutTag(): (
  things: Things,
  add: string[],
  remove: string[],
  contents?: boolean,
) => Promise<string | null> {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  return useCallback(
    async (things, add, remove, contents = false) => {
      try {
        if (things.folder === undefined)
          await data(client.POST("/api/entries/tags", { body: { entries: things.entries, add, remove } }));
        else
          await data(
            client.PATCH("/api/folders/{folder}/tags", {
              params: { path: { folder: things.folder } },
              body: { add, remove, contents },
            }),
          );
      } catch (error) {
        return words(error);
      }
      const what = `${called(things)}${contents ? " with all in it" : ""}`;
      const did = [add.length && `Tagged ${add.join(", ")}`, remove.length && `Removed the tag ${remove.join(", ")}`];
      tell({ text: `${did.filter(Boolean).join("; ")}: ${what}`, action: { label: SAY.undo, run: undo } });
      // what is shown follows by itself: nobody waits for that
      void askAgain(queries, "drive", "manifests");
      return null;
    },
    [queries, tell, undo],
  );
}
