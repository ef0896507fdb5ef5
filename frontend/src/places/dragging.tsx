// Dragging entries to folders: rows, tree, steps of the path. What a drop will do is said before it is done.
import { useQuery } from "@tanstack/react-query";
import { type DragEvent, type ReactNode, useCallback, useSyncExternalStore } from "react";
import { client, data } from "../api/client";
import { useNotices } from "../app/notices";
import { called, type Putting, type Things, usePut, VERBS } from "./moving";

type Over = { folder: number; path: string; how: Putting };
type State = { things: Things | null; over: Over | null };

let state: State = { things: null, over: null };
const listeners = new Set<() => void>();

function change(next: State): void {
  state = next;
  for (const listener of listeners) listener();
}

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** What a row or a folder needs to be dragged. */
export function dragging(things: () => Things | null) {
  return {
    draggable: true,
    onDragStart: (event: DragEvent) => {
      event.stopPropagation();
      const held = things();
      if (!held?.entries.length) {
        event.preventDefault();
        return;
      }
      event.dataTransfer.effectAllowed = "all";
      event.dataTransfer.setData("text/plain", called(held));
      change({ things: held, over: null });
    },
    onDragEnd: () => change({ things: null, over: null }),
  };
}

function howOf(event: DragEvent): Putting {
  if (event.ctrlKey || event.metaKey) return "copy";
  return event.shiftKey || event.altKey ? "also" : "move";
}

const EFFECT = { move: "move", copy: "copy", also: "link" } as const;

/** What a folder needs to be dropped on: handlers by folder, and whether it is the one under the pointer. */
export function useDropping(): {
  onto: (folder: number, path: string) => Record<string, unknown>;
} {
  const put = usePut();
  const { tell } = useNotices();
  const over = useSyncExternalStore(subscribe, () => state.over?.folder ?? null);
  const onto = useCallback(
    (folder: number, path: string) => ({
      "data-drop": over === folder ? "here" : undefined,
      onDragOver: (event: DragEvent) => {
        if (!state.things) return;
        event.preventDefault();
        event.stopPropagation();
        const how = howOf(event);
        event.dataTransfer.dropEffect = EFFECT[how];
        if (state.over?.folder !== folder || state.over.how !== how) change({ ...state, over: { folder, path, how } });
      },
      onDragLeave: (event: DragEvent) => {
        if (event.currentTarget.contains(event.relatedTarget as Node | null)) return;
        if (state.over?.folder === folder) change({ ...state, over: null });
      },
      onDrop: (event: DragEvent) => {
        const { things } = state;
        if (!things) return;
        event.preventDefault();
        event.stopPropagation();
        change({ things: null, over: null });
        void put(howOf(event), things, folder, path).then((wrong) => wrong && tell({ text: wrong, bad: true }));
      },
    }),
    [over, put, tell],
  );
  return { onto };
}

/** At the foot while one drags: what a drop here would do, and who would see it then. */
export function DropNote(): ReactNode {
  const { things, over } = useSyncExternalStore(subscribe, () => state);
  const sight = useQuery({
    queryKey: ["sight", things?.entries, over?.folder, over?.how === "also"],
    enabled: things !== null && over !== null && over.how !== "copy",
    queryFn: () =>
      data(
        client.POST("/api/entries/sight", {
          body: { entries: things?.entries ?? [], folder: over?.folder ?? 0, stays: over?.how === "also" },
        }),
      ),
  });
  if (!things) return null;
  return (
    <div className="drop-note" role="status">
      {over ? (
        <>
          <b>
            {VERBS[over.how].replace(/ (to|in)$/, "")} {called(things)} {over.how === "also" ? "in" : "to"} {over.path}
          </b>
          {over.how !== "copy" && (sight.data?.gain.length ?? 0) > 0 && (
            <span> · {sight.data?.gain.join(", ")} will see it</span>
          )}
          {over.how !== "copy" && (sight.data?.lose.length ?? 0) > 0 && (
            <span> · {sight.data?.lose.join(", ")} will no longer see it</span>
          )}
        </>
      ) : (
        <span>Drop {called(things)} on a folder</span>
      )}
      <span className="quiet"> Ctrl: copy · Shift: also file</span>
    </div>
  );
}
