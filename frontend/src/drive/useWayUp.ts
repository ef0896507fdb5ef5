// A folder that is undone, removed or taken from one's sight while one is in it leads to the one above it.
import type { UseQueryResult } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { isGone, type Schemas } from "../api/client";
import { useNotices } from "../ui/notices";

/** `go` opens a folder; it must be memoised. */
export function useWayUp(
  folder: number | null,
  view: UseQueryResult<Schemas["FolderViewOut"]>,
  go: (folder: number) => void,
): void {
  const { tell } = useNotices();
  const way = useRef<Schemas["FolderViewOut"]["path"]>([]);
  useEffect(() => {
    // what was there before stays as data when it is gone
    if (isGone(view.error)) {
      const was = way.current.at(-1);
      if (was?.id !== folder) return;
      way.current = way.current.slice(0, -1);
      const above = way.current.at(-1);
      if (!above) return;
      const text = `${was.name} is not there any more, or not yours to see. You are in ${above.name} now.`;
      tell({ text, yields: true });
      go(above.id);
    } else if (view.data && view.data.path.at(-1)?.id === folder) way.current = view.data.path;
  }, [view.data, view.error, folder, go, tell]);
}
