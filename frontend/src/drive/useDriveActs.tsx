// What is done with what is chosen in the drive: documents as everywhere, folders, and the folder that one looks at.
import { type ReactNode, useCallback, useMemo } from "react";
import { useNavigate } from "react-router";
import { useDocumentActs } from "../acts/useDocumentActs";
import { useHandActs } from "../hand/useHand";
import { planningOf } from "../manifest/chosen";
import { type Marks, NONE } from "../parts/lines/selection";
import { useNotices } from "../ui/notices";
import type { DriveActs } from "./driveKeys";
import type { Folder, FolderDoing } from "./folderDoing";
import { foldersAmong, type Item, isFolder, thingsOf } from "./items";
import { useFolderReading } from "./useFolderReading";

const READS_ONLY = "You may read this folder, but not change what is in it. Ask a keeper of the area.";
const OF_AREAS = "Areas are made, renamed, put in order and removed under Office. Open one to work in it.";
const ONE_AT_A_TIME = "Do that to folders one at a time, so that you see what goes with each.";

type Asked = {
  folder: number | null;
  /** The folder that one looks at; null for the drive itself. */
  self: Folder | null;
  area: boolean;
  may: boolean;
  below: boolean;
  /** Whether many means all below, too. */
  all: boolean;
  items: Item[];
  entries: number[];
  marks: Marks;
  onMarks: (marks: Marks) => void;
  doing: FolderDoing;
  /** What the screen itself does. */
  screen: Pick<DriveActs, "up" | "below" | "view" | "bring"> & { name: () => void };
};

export function useDriveActs(asked: Asked): {
  acts: DriveActs;
  renaming: number | null;
  endRenaming: () => void;
  node: ReactNode;
} {
  const { folder, self, may, below, all, items, entries, marks, onMarks, doing, screen } = asked;
  const navigate = useNavigate();
  const { tell } = useNotices();
  const { pickUp } = useHandActs();
  const folders = useMemo(() => foldersAmong(entries, items), [entries, items]);
  const chosen = entries.length === 1 ? (items.find((item) => item.entry === entries[0]) ?? null) : null;
  const line = chosen && !isFolder(chosen) ? chosen : null;
  const alone = chosen && isFolder(chosen) ? chosen.held : null;
  const things = useMemo(() => thingsOf(entries, items), [entries, items]);
  // in folders below one may have more rights: a key is let through there, and the server says what it refuses
  const changes = alone ? alone.mayFile : may || below;
  const onDone = useCallback(() => onMarks(NONE), [onMarks]);
  const documents = useDocumentActs({
    one: line,
    things,
    without: useMemo(() => folders.map((held) => held.sub.id), [folders]),
    shared: useMemo(() => {
      const ids = new Map(folders.map((held) => [held.entry, held.sub.id]));
      return entries.map((entry) => (ids.has(entry) ? { folder: ids.get(entry) } : { entry }));
    }, [entries, folders]),
    locked: changes ? null : READS_ONLY,
    // of documents the folder that one looks at says it
    keeps: (self?.keeps ?? false) || (folders.length > 0 && folders.every((held) => held.held.keeps)),
    near: folder,
    onDone,
  });
  const each = documents.acts;
  // what is asked of one folder has a dialog of its own; where nothing is chosen, some is asked of the folder that one looks at
  const place = alone ?? (entries.length ? null : self);
  const reading = useFolderReading(place, each, doing);
  const acts = useMemo<DriveActs>(() => {
    /** For what is done to a folder in its place: an area has none beside others, and nothing is put beside areas. */
    const inAreas = (then: () => void) => () => (folder === null ? tell({ text: OF_AREAS, bad: true }) : then());
    const here = (then: () => void) => inAreas(() => (may ? then() : tell({ text: READS_ONLY, bad: true })));
    const ofFolder = (then: () => void) => (changes ? then() : tell({ text: READS_ONLY, bad: true }));
    const documentsOnly = (then: () => void, why: string) => () =>
      folders.length ? tell({ text: why, bad: true }) : then();
    /** The folder that is changed where nothing is chosen. */
    const own = !entries.length && !asked.area && may ? self : null;
    return {
      ...each,
      ...reading,
      up: screen.up,
      below: screen.below,
      view: screen.view,
      bring: here(screen.bring),
      rename: inAreas(() => {
        if (alone) ofFolder(() => doing.begin("rename", alone));
        else if (own) doing.begin("rename", own);
        else each.rename();
      }),
      discard: inAreas(() => {
        if (alone) ofFolder(() => doing.discard(alone));
        else if (folders.length) tell({ text: ONE_AT_A_TIME, bad: true });
        else each.discard();
      }),
      move: inAreas(() => {
        if (alone) ofFolder(() => doing.begin("move", alone));
        else if (own) doing.begin("move", own);
        else each.move();
      }),
      also: documentsOnly(each.also, "A folder lies in one folder only. Choose documents, or copy it."),
      copy: () => (alone ? doing.begin("copy", alone) : each.copy()),
      tag: () => {
        if (alone) ofFolder(() => doing.begin("tags", alone));
        else if (folders.length) tell({ text: ONE_AT_A_TIME, bad: true });
        else each.tag();
      },
      pickUp: inAreas(() => (alone ? ofFolder(() => void pickUp(entries).then(onDone)) : each.pickUp())),
      newFolder: here(screen.name),
      many: () => {
        const marked = new Set([...marks].filter((entry) => !folders.some((held) => held.entry === entry)));
        if (alone) void navigate(planningOf(alone.id, true, NONE));
        else if (folder !== null) void navigate(planningOf(folder, all, marked));
      },
    };
  }, [
    each,
    reading,
    screen,
    alone,
    self,
    asked.area,
    may,
    changes,
    all,
    folder,
    folders,
    entries,
    marks,
    onDone,
    doing,
    pickUp,
    navigate,
    tell,
  ]);
  return { acts, renaming: documents.renaming, endRenaming: documents.endRenaming, node: documents.node };
}
