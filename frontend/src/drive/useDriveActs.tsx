// What is done with what is chosen in the drive, documents and folders, and the dialogs that ask for more.
import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useCallback, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { client, data } from "../api/client";
import { askAgain } from "../api/keys";
import { NextOneDialog } from "../document/NextOneDialog";
import { useHandActs } from "../hand/useHand";
import { planningOf } from "../manifest/chosen";
import { type Marks, NONE } from "../parts/lines/selection";
import { FolderChooser } from "../places/FolderChooser";
import { called, type Putting, usePut, VERBS } from "../places/moving";
import { stays } from "../places/sight";
import { useUndoAction } from "../ui/keys";
import { useNotices, words } from "../ui/notices";
import { SAY } from "../ui/wording";
import type { DriveActs } from "./driveKeys";
import type { Folder, FolderDoing } from "./folderDoing";
import { foldersAmong, type Item, isFolder, thingsOf } from "./items";
import { TagDialog } from "./TagDialog";
import { useAccessActs } from "./useAccessActs";

// what is put somewhere in one request
const MOST = 500;
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
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const put = usePut();
  const { pickUp } = useHandActs();
  const [putting, setPutting] = useState<Putting | null>(null);
  const [tagging, setTagging] = useState(false);
  const [makingNext, setMakingNext] = useState(false);
  const [renaming, setRenaming] = useState<number | null>(null);
  const folders = useMemo(() => foldersAmong(entries, items), [entries, items]);
  const one = entries.length === 1 ? (items.find((item) => item.entry === entries[0]) ?? null) : null;
  const line = one && !isFolder(one) ? one : null;
  const alone = one && isFolder(one) ? one.held : null;
  const things = useMemo(() => thingsOf(entries, items), [entries, items]);
  const told = called(things);

  const discard = useCallback(async () => {
    try {
      await data(client.POST("/api/entries/discard", { body: { entries } }));
      tell({ text: `Discarded ${told}. Ctrl+Z brings it back.`, action: { label: SAY.undo, run: undo } });
      onMarks(NONE);
      await askAgain(queries, "drive", "manifests");
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
  }, [entries, told, tell, queries, undo, onMarks]);

  const { acts: reading, node: access } = useAccessActs({
    line,
    things: useMemo(() => {
      const ids = new Map(folders.map((held) => [held.entry, held.sub.id]));
      return entries.map((entry) => (ids.has(entry) ? { folder: ids.get(entry) } : { entry }));
    }, [entries, folders]),
    single: entries.length > folders.length,
    keeps: folders.length > 0 && folders.every((held) => held.held.keeps),
    entries: alone ? [] : entries,
    called: told,
    folder: alone ?? self,
    doing,
  });
  const acts = useMemo<DriveActs>(() => {
    // in folders below one may have more rights: a key is let through there, and the server says what it refuses
    const changes = alone ? alone.mayFile : may || below;
    const few = (then: () => void, onlyReads = false) => {
      if (!onlyReads && !changes) tell({ text: READS_ONLY, bad: true });
      else if (entries.length > MOST)
        tell({ text: `More than ${MOST} at once are moved by a manifest: “Rename or move many”.`, bad: true });
      else if (entries.length) then();
    };
    // what is asked of one folder has a dialog of its own
    const ask = (what: "move" | "copy") => (alone ? doing.begin(what, alone) : setPutting(what));
    /** For what is done to a folder in its place: an area has none beside others, and nothing is put beside areas. */
    const inAreas = (then: () => void) => () => (folder === null ? tell({ text: OF_AREAS, bad: true }) : then());
    const here = (then: () => void) => inAreas(() => (may ? then() : tell({ text: READS_ONLY, bad: true })));
    const documentsOnly = (then: () => void, why: string) => () =>
      folders.length ? tell({ text: why, bad: true }) : few(then);
    return {
      ...reading,
      up: screen.up,
      below: screen.below,
      view: screen.view,
      bring: here(screen.bring),
      rename: inAreas(() => {
        if (alone) few(() => doing.begin("rename", alone));
        else if (line) few(() => setRenaming(line.entry));
        else if (!entries.length && self && !asked.area && may) doing.begin("rename", self);
      }),
      discard: inAreas(() => {
        if (alone) few(() => doing.discard(alone));
        else if (folders.length) tell({ text: ONE_AT_A_TIME, bad: true });
        else few(() => void discard());
      }),
      move: inAreas(() => {
        if (!entries.length && self && !asked.area && may) doing.begin("move", self);
        else few(() => ask("move"));
      }),
      also: documentsOnly(() => setPutting("also"), "A folder lies in one folder only. Choose documents, or copy it."),
      copy: () => few(() => ask("copy"), true),
      tag: () => {
        if (alone) few(() => doing.begin("tags", alone));
        else if (folders.length) tell({ text: ONE_AT_A_TIME, bad: true });
        else few(() => setTagging(true));
      },
      next: () => line !== null && few(() => setMakingNext(true)),
      pickUp: inAreas(() => few(() => void pickUp(entries).then(() => onMarks(NONE)))),
      newFolder: here(screen.name),
      many: () => {
        const documents = new Set([...marks].filter((entry) => !folders.some((held) => held.entry === entry)));
        if (alone) void navigate(planningOf(alone.id, true, NONE));
        else if (folder !== null) void navigate(planningOf(folder, all, documents));
      },
    };
  }, [
    reading,
    screen,
    alone,
    line,
    self,
    asked.area,
    may,
    below,
    all,
    folder,
    folders,
    entries,
    marks,
    onMarks,
    doing,
    discard,
    pickUp,
    navigate,
    tell,
  ]);

  const node = (
    <>
      {putting && entries.length > 0 && (
        <FolderChooser
          title={`${VERBS[putting].replace(/ (to|in)$/, "")} ${told}`}
          verb={VERBS[putting]}
          entries={entries}
          without={folders.map((held) => held.sub.id)}
          stays={stays(putting)}
          near={folder}
          onChoose={async (to, where) => {
            const wrong = await put(putting, things, to, where);
            if (wrong) return wrong;
            setPutting(null);
            onMarks(NONE);
            return null;
          }}
          onClose={() => setPutting(null)}
        />
      )}
      {tagging && <TagDialog things={things} had={[]} onClose={() => setTagging(false)} />}
      {makingNext && line && (
        <NextOneDialog document={line.document} name={line.name} onClose={() => setMakingNext(false)} />
      )}
      {access}
    </>
  );
  const endRenaming = useCallback(() => setRenaming(null), []);
  return { acts, renaming: renaming === line?.entry ? renaming : null, endRenaming, node };
}
