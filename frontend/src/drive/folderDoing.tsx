// What is done to a folder, from the head of its page, the tree or the list of folders: one menu, one set of dialogs.

import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { lazy, type ReactNode, useCallback, useState } from "react";
import { useNavigate } from "react-router";
import { RenameForm } from "../acts/RenameForm";
import { TagDialog } from "../acts/TagDialog";
import { client, data, type Schemas } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { useHandActs } from "../hand/useHand";
import { useAskRules } from "../parts/plan/askRules";
import { FolderChooser } from "../places/FolderChooser";
import { POLICIES, usePut, VERBS } from "../places/moving";
import type { Policy } from "../places/TakenChoice";
import { Dialog } from "../ui/Dialog";
import { several } from "../ui/format";
import { useUndoAction } from "../ui/keys";
import { Later } from "../ui/Later";
import { useCopyLink } from "../ui/link";
import { Menu } from "../ui/Menu";
import { useNotices, words } from "../ui/notices";
import { SAY } from "../ui/wording";

const GiveDialog = lazy(async () => ({ default: (await import("../access/GiveDialog")).GiveDialog }));
const TreesDialog = lazy(async () => ({ default: (await import("../templates/TreesDialog")).TreesDialog }));

export type Folder = {
  id: number;
  entry: number;
  name: string;
  below: number;
  empty: boolean;
  mayFile: boolean;
  keeps: boolean;
  tags: string[];
};
/** A folder of a list as one that something can be done to; null for what has no place of its own. */
export function folderOf(one: Schemas["FolderOut"]): Folder | null {
  if (one.entry === null) return null;
  const empty = one.below === 0 && !one.has_folders;
  return {
    id: one.id,
    entry: one.entry,
    name: one.name,
    below: one.below,
    empty,
    mayFile: one.may_file,
    keeps: one.keeps,
    tags: one.tags,
  };
}

/** The folder that one looks at; null for the drive itself. */
export function selfOf(view: Schemas["FolderViewOut"]): Folder | null {
  if (view.entry === null) return null;
  const { id, entry, name, below, tags, keeps } = view;
  return { id, entry, name, below, tags, keeps, empty: below === 0 && !view.folders.length, mayFile: view.may_file };
}

type Chooser = "move" | "copy" | "frame" | "merge";
type Ask = Chooser | "give" | "rename" | "tags" | "trees" | "keep";
type Doing = { folder: Folder } & ({ what: "menu"; left: number; top: number } | { what: Ask });

export type FolderDoing = {
  menu: (folder: Folder, left: number, top: number) => void;
  /** The same for a folder of which only the number is known. */
  menuOf: (folder: number, left: number, top: number) => void;
  begin: (what: Ask, folder: Folder) => void;
  discard: (folder: Folder) => void;
  node: ReactNode;
};

/** Takes a folder that is gone out of sight: what shows it goes first, so that nothing of it is asked for again. */
async function leave(queries: QueryClient, gone: number, go: () => void): Promise<void> {
  queries.setQueriesData<Schemas["FolderOut"][]>({ queryKey: keys.foldersOfAll }, (had) =>
    had?.filter((one) => one.id !== gone),
  );
  go();
  await new Promise((on) => setTimeout(on));
}

const TITLES: Record<Chooser, string> = {
  move: "Move the folder",
  copy: "Copy the folder, with what lies in it,",
  frame: "Copy the folder, without documents,",
  merge: "Merge the folder",
};

export function useFolderDoing(
  near: number | null,
  onGo: (folder: number) => void,
  onNew: (folder: number) => void,
  above: number | null,
): FolderDoing {
  const [doing, setDoing] = useState<Doing | null>(null);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const put = usePut();
  const { pickUp } = useHandActs();
  const copyLink = useCopyLink();
  const close = useCallback(() => setDoing(null), []);
  const menu = useCallback(
    (folder: Folder, left: number, top: number) => setDoing({ what: "menu", folder, left, top }),
    [],
  );
  const menuOf = useCallback(
    (folder: number, left: number, top: number) => {
      data(client.GET("/api/folders/{folder}", { params: { path: { folder } } })).then(
        (view) => {
          const held = selfOf(view);
          if (held) menu(held, left, top);
        },
        (error: unknown) => tell({ text: words(error), bad: true }),
      );
    },
    [menu, tell],
  );
  const askRules = useAskRules();
  const begin = useCallback((what: Ask, folder: Folder) => setDoing({ what, folder }), []);
  const told = (text: string) => tell({ text, action: { label: SAY.undo, run: undo } });
  const discard = async (folder: Folder) => {
    const params = { path: { folder: folder.id } };
    try {
      if (folder.empty) await data(client.DELETE("/api/folders/{folder}", { params }));
      else await data(client.POST("/api/folders/{folder}/discard", { params }));
      await leave(queries, folder.id, () => folder.id === near && above !== null && onGo(above));
      told(folder.empty ? `Removed the folder ${folder.name}` : `Discarded the folder ${folder.name} with all in it`);
      await askAgain(queries, "drive", "manifests");
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
  };
  const chosen = async (
    what: Chooser,
    folder: Folder,
    to: number,
    path: string,
    taken: Policy | null,
  ): Promise<string | null> => {
    const things = { entries: [folder.entry], name: `the folder ${folder.name}` };
    if (what === "move" || what === "copy") return put(what, things, to, path, taken);
    try {
      if (what === "merge") {
        const made = await data(
          client.POST("/api/manifests", {
            body: {
              chosen: { folder: folder.id, below: true, entries: [], search: null, order: "name" },
              way: {
                do: "merge",
                reads: "",
                prints: "",
                placing: false,
                base: to,
                remove_emptied: true,
                rules: "",
                borrow: null,
              },
              taken: "stop",
              title: null,
            },
          }),
        );
        void navigate(`/manifests/${made.id}`);
      } else {
        await data(
          client.POST("/api/entries/copy", {
            body: { entries: [folder.entry], folder: to, name: null, contents: false },
          }),
        );
        told(`Copied the folders of ${folder.name} to ${path}`);
        await askAgain(queries, "drive", "manifests");
      }
      return null;
    } catch (error) {
      return words(error);
    }
  };
  const folder = doing?.folder;
  const off = !folder?.mayFile;
  let node: ReactNode = null;
  if (doing?.what === "menu" && folder)
    node = (
      <Menu
        onClose={close}
        at={{
          left: doing.left,
          top: doing.top,
          title: `The folder ${folder.name}`,
          acts: [
            { label: SAY.open, keys: "Enter", run: () => onGo(folder.id) },
            { label: "New folder in it", run: () => onNew(folder.id), off },
            { label: "New folders from a template…", run: () => begin("trees", folder), off },
            { label: "Save its folders as a template…", run: () => begin("keep", folder) },
            "line",
            { label: "Rename…", run: () => begin("rename", folder), off },
            { label: SAY.move, run: () => begin("move", folder), off },
            { label: "Merge into another…", run: () => begin("merge", folder), off: off || folder.below === 0 },
            { label: "Copy with what lies in it…", run: () => begin("copy", folder) },
            { label: "Copy its folders only…", run: () => begin("frame", folder) },
            { label: SAY.pickUp, run: () => void pickUp([folder.entry]), off },
            { label: SAY.tags, run: () => begin("tags", folder), off },
            { label: SAY.askRules, run: () => askRules({ folder: folder.id }), off: off || folder.below === 0 },
            "line",
            { label: SAY.give, run: () => begin("give", folder), off: !folder.keeps },
            { label: SAY.whoReads, run: () => void navigate(`/readers/folder/${folder.id}`) },
            { label: SAY.copyLink, run: () => copyLink(`/drive/${folder.id}`) },
            "line",
            {
              label: folder.empty ? "Remove" : `Discard it with ${several(folder.below, "document")}`,
              run: () => void discard(folder),
              off,
            },
          ],
        }}
      />
    );
  else if (doing?.what === "give" && folder)
    node = (
      <Later onClose={close}>
        <GiveDialog
          title={`Give access to the folder ${folder.name}`}
          things={[{ folder: folder.id }]}
          single={false}
          onClose={close}
        />
      </Later>
    );
  else if (doing?.what === "rename" && folder) node = <RenameFolder folder={folder} onClose={close} />;
  else if (doing?.what === "tags" && folder)
    node = (
      <TagDialog
        things={{ entries: [], name: `the folder ${folder.name}`, folder: folder.id }}
        had={folder.tags}
        onClose={close}
      />
    );
  else if ((doing?.what === "trees" || doing?.what === "keep") && folder)
    node = (
      <Later onClose={close}>
        <TreesDialog folder={folder} keeping={doing.what === "keep"} onClose={close} />
      </Later>
    );
  else if (doing && folder && doing.what in TITLES) {
    const what = doing.what as Chooser;
    node = (
      <FolderChooser
        title={`${TITLES[what]} ${folder.name}`}
        verb={what === "merge" ? "Merge into" : VERBS[what === "move" ? "move" : "copy"]}
        entries={what === "frame" ? [] : [folder.entry]}
        without={[folder.id]}
        stays={what === "copy"}
        inside={what !== "move"}
        near={near}
        policies={what === "move" ? POLICIES.move.filter((policy) => policy === "both") : []}
        onChoose={async (to, path, taken) => {
          const wrong = await chosen(what, folder, to, path, taken);
          if (!wrong) close();
          return wrong;
        }}
        onClose={close}
      />
    );
  }
  return { menu, menuOf, begin, discard: (one) => void discard(one), node };
}

function RenameFolder(props: { folder: Folder; onClose: () => void }): ReactNode {
  const { folder, onClose } = props;
  return (
    <Dialog title={<>Rename the folder {folder.name}</>} onClose={onClose}>
      <RenameForm label="New name of the folder" entry={folder.entry} start={folder.name} onClose={onClose} />
    </Dialog>
  );
}
