// What is done with documents wherever they are met (in a folder, among results, on their own page), and the dialogs that ask for more.
import { useQueryClient } from "@tanstack/react-query";
import { lazy, type ReactNode, useCallback, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { client, data, type Schemas } from "../api/client";
import { askAgain } from "../api/keys";
import { NextOneDialog } from "../document/NextOneDialog";
import { useHandActs } from "../hand/useHand";
import { useAskRules } from "../parts/plan/askRules";
import { FolderChooser } from "../places/FolderChooser";
import { called, POLICIES, type Putting, type Things, usePut, VERBS } from "../places/moving";
import { stays } from "../places/sight";
import { useUndoAction } from "../ui/keys";
import { Later } from "../ui/Later";
import { useCopyLink } from "../ui/link";
import { useNotices, words } from "../ui/notices";
import { SAY } from "../ui/wording";
import type { DocumentActs } from "./documentKeys";
import { TagDialog } from "./TagDialog";

const GiveDialog = lazy(async () => ({ default: (await import("../access/GiveDialog")).GiveDialog }));

// what is put somewhere in one request
const MOST = 500;
export const KEEPS_NOT = "You do not keep this folder, so you cannot give access to it. Press W to see who keeps it.";
const ONE = "That is of one document. Choose one.";

/** A document in one of its places. */
export type Placed = Pick<Schemas["LineOut"], "document" | "name"> & { entry: number | null; folder: number | null };

export type Chosen = {
  /** The chosen document, where it is one. */
  one: Placed | null;
  /** The places of what is chosen, and how it is called. */
  things: Things;
  /** What goes when it is discarded, where that is more than the places above. */
  places?: number[];
  /** The folders among it: none goes into itself. */
  without?: number[];
  /** What access is given to. */
  shared: { entry?: number; folder?: number; document?: number }[];
  /** Why it may not be changed; null where it may. */
  locked: string | null;
  keeps: boolean;
  tags?: string[];
  /** Where a new folder is made when nothing is found. */
  near: number | null;
  /** Something was done with it that takes it from what is chosen. */
  onDone: (how: "discarded" | "put" | "picked up") => void;
};

export function useDocumentActs(chosen: Chosen): {
  acts: DocumentActs;
  renaming: number | null;
  endRenaming: () => void;
  node: ReactNode;
} {
  const { one, things, places, without, shared, locked, keeps, near, onDone } = chosen;
  const { entries } = things;
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const put = usePut();
  const { pickUp } = useHandActs();
  const copyLink = useCopyLink();
  const askRules = useAskRules();
  const [putting, setPutting] = useState<Putting | null>(null);
  const [asking, setAsking] = useState<"tags" | "next" | "give" | null>(null);
  const [renaming, setRenaming] = useState<number | null>(null);
  const told = called(things);

  const discard = useCallback(async () => {
    try {
      await data(client.POST("/api/entries/discard", { body: { entries: places ?? entries } }));
      tell({ text: `Discarded ${told}. Ctrl+Z brings it back.`, action: { label: SAY.undo, run: undo } });
      onDone("discarded");
      await askAgain(queries, "drive", "manifests");
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
  }, [entries, places, told, tell, queries, undo, onDone]);

  const acts = useMemo<DocumentActs>(() => {
    const few = (then: () => void, onlyReads = false) => {
      if (!onlyReads && locked) tell({ text: locked, bad: true });
      else if (entries.length > MOST)
        tell({ text: `More than ${MOST} at once are moved by a manifest: “Rename or move many”.`, bad: true });
      else if (entries.length) then();
    };
    return {
      rename: () => one?.entry != null && few(() => setRenaming(one.entry)),
      discard: () => few(() => void discard()),
      move: () => few(() => setPutting("move")),
      also: () => few(() => setPutting("also")),
      copy: () => few(() => setPutting("copy"), true),
      tag: () => few(() => setAsking("tags")),
      next: () => one !== null && few(() => setAsking("next")),
      pickUp: () => few(() => void pickUp(entries).then(() => onDone("picked up"))),
      give: () => {
        if (!keeps) tell({ text: KEEPS_NOT, bad: true });
        else if (shared.length) setAsking("give");
      },
      readers: () =>
        one ? void navigate(`/readers/document/${one.document}`) : entries.length > 0 && tell({ text: ONE, bad: true }),
      link: () => (one ? copyLink(`/documents/${one.document}`) : entries.length > 0 && tell({ text: ONE, bad: true })),
      ask: () => entries.length > 0 && askRules({ entries }),
    };
  }, [one, entries, locked, keeps, shared, discard, pickUp, onDone, navigate, copyLink, askRules, tell]);

  const close = () => setAsking(null);
  const node = (
    <>
      {putting && entries.length > 0 && (
        <FolderChooser
          title={`${VERBS[putting].replace(/ (to|in)$/, "")} ${told}`}
          verb={VERBS[putting]}
          entries={entries}
          without={without}
          stays={stays(putting)}
          near={near}
          policies={POLICIES[putting]}
          onChoose={async (to, where, taken) => {
            const wrong = await put(putting, things, to, where, taken);
            if (wrong) return wrong;
            setPutting(null);
            onDone("put");
            return null;
          }}
          onClose={() => setPutting(null)}
        />
      )}
      {asking === "tags" && <TagDialog things={things} had={chosen.tags ?? []} onClose={close} />}
      {asking === "next" && one && <NextOneDialog document={one.document} name={one.name} onClose={close} />}
      {asking === "give" && (
        <Later onClose={close}>
          <GiveDialog
            title={`Give access to ${told}`}
            things={shared}
            single={shared.length > (without?.length ?? 0)}
            onClose={close}
          />
        </Later>
      )}
    </>
  );
  const endRenaming = useCallback(() => setRenaming(null), []);
  return { acts, renaming: renaming === one?.entry ? renaming : null, endRenaming, node };
}
