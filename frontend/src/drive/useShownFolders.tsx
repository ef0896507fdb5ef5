// Of the folders inside a folder the first ones, until one wants all of them.
import { type ReactNode, useEffect, useMemo, useState } from "react";
import type { Schemas } from "../api/client";
import { AllFolders } from "./FolderRow";
import { type FolderLine, folderLines } from "./items";

// of more folders in one, these are shown at first
const FIRST = 6;
const FEW = 8;
// more than anybody looks through, and than are drawn at once; the tree has all
const MOST_FOLDERS = 300;

type Shown = {
  /** All of them. */
  subs: FolderLine[];
  /** Those that stand above the documents. */
  above: FolderLine[];
  /** What asks for the others, where there are more. */
  foot: ReactNode;
};

/** ``whose``: of other ones only the first are shown again. Areas (``folder`` null) are shown all; a group of documents has none. */
export function useShownFolders(
  inside: Schemas["FolderOut"][] | undefined,
  whose: { folder: number | null; group: string | null },
): Shown {
  const { folder, group } = whose;
  const [all, setAll] = useState(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: other folders begin with the first ones
  useEffect(() => setAll(false), [whose]);
  const subs = useMemo(() => (group === null ? folderLines(inside ?? []) : []), [inside, group]);
  const above = useMemo(
    () => (all || folder === null || subs.length <= FEW ? subs.slice(0, MOST_FOLDERS) : subs.slice(0, FIRST)),
    [all, folder, subs],
  );
  const foot = above.length < subs.length && (
    <AllFolders folders={subs.length} shown={above.length} most={MOST_FOLDERS} onAll={() => setAll(true)} />
  );
  return { subs, above, foot };
}
