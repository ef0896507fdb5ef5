// Files of the desktop dropped on the drive: on a document they are its newest version, on a folder they come in for it.
import { type DragEvent, type ReactNode, useCallback, useRef, useState } from "react";
import { useNotices, words } from "../ui/notices";
import { useBringIn } from "./bringIn";
import { droppedFiles } from "./dropped";
import { type On, usePutVersion } from "./newVersion";

type Target = { row: HTMLElement; on: On } | { row: HTMLElement; folder: number };

/** Handlers for the screen, and the note that says what a drop here would do. `lineOf`: the document of a line's place. */
export function useFileDrops(
  folder: number | null,
  lineOf: (entry: number) => On | null,
): { handlers: Record<string, unknown>; note: ReactNode } {
  const { tell } = useNotices();
  const bring = useBringIn();
  const putVersion = usePutVersion();
  const over = useRef<HTMLElement | null>(null);
  const [note, setNote] = useState<string | null>(null);

  const targetOf = useCallback(
    (event: DragEvent): Target | null => {
      const at = event.target instanceof Element ? event.target : null;
      // a line of the grid, or its page in the pages view
      const line = at?.closest<HTMLElement>("[id^=line-], [id^=page-]");
      const on = line ? lineOf(Number(line.id.split("-")[1])) : null;
      if (line && on) return { row: line, on };
      const row = at?.closest<HTMLElement>("[data-folder]");
      if (row) return { row, folder: Number(row.dataset.folder) };
      return folder === null ? null : { row: event.currentTarget as HTMLElement, folder };
    },
    [folder, lineOf],
  );
  const mark = useCallback((row: HTMLElement | null) => {
    if (over.current === row) return;
    if (over.current) delete over.current.dataset.drop;
    over.current = row;
    if (row) row.dataset.drop = "here";
    else setNote(null);
  }, []);
  const handlers = {
    onDragOver: (event: DragEvent) => {
      if (!event.dataTransfer.types.includes("Files")) return;
      const target = targetOf(event);
      mark(target?.row ?? null);
      if (!target) return;
      event.preventDefault();
      event.dataTransfer.dropEffect = "copy";
      setNote("on" in target ? `Make it the newest version of ${target.on.name}` : "Bring it in for this folder");
    },
    onDragLeave: (event: DragEvent) => {
      if (!event.currentTarget.contains(event.relatedTarget as Node | null)) mark(null);
    },
    onDrop: (event: DragEvent) => {
      if (!event.dataTransfer.types.includes("Files")) return;
      event.preventDefault();
      const target = targetOf(event);
      mark(null);
      if (!target) return;
      if ("folder" in target) {
        void bring(droppedFiles(event.dataTransfer), target.folder).catch((error: unknown) =>
          tell({ text: words(error), bad: true }),
        );
        return;
      }
      droppedFiles(event.dataTransfer).then(
        ([one, ...others]) => {
          if (others.length || one?.folder)
            tell({ text: "A document takes one file as its new version; drop them one by one.", bad: true });
          else if (one) void putVersion(target.on, one.file);
        },
        (error: unknown) => tell({ text: words(error), bad: true }),
      );
    },
  };
  return {
    handlers,
    note: note && (
      <div className="drop-note" role="status">
        <b>{note}</b>
      </div>
    ),
  };
}
