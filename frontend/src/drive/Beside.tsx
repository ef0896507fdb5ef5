import type { ReactNode } from "react";
import { moreActs } from "../acts/documentMenu";
import type { Schemas } from "../api/client";
import { count } from "../ui/format";
import type { MenuAt } from "../ui/Menu";
import styles from "../ui/text.module.css";
import type { DriveActs } from "./driveKeys";
import { FolderCard } from "./FolderCard";
import type { Folder, FolderDoing } from "./folderDoing";
import { chosenTold, foldersAmong, type Item, isFolder } from "./items";
import { LineCard } from "./LineCard";

type Props = {
  /** The folder that one looks at; null for the drive itself. */
  view: Schemas["FolderViewOut"] | null;
  self: Folder | null;
  areas: Schemas["FolderOut"][];
  figures: Map<number, Schemas["FolderFigures"]> | undefined;
  one: Item | null;
  entries: number[];
  items: Item[];
  may: boolean;
  keeps: boolean;
  acts: DriveActs;
  doing: FolderDoing;
  renaming: boolean;
  onRenamed: () => void;
  onGo: (folder: number) => void;
  onMenu: (menu: MenuAt) => void;
  onAll: () => void;
  onInvert: () => void;
  onNone: () => void;
  onPattern: (pattern: string) => Promise<void>;
};

/** The column beside the lines: the chosen document or folder, several together, or the folder that one looks at. */
export function Beside(props: Props): ReactNode {
  const { view, self, one, entries, items, acts, doing, figures, onGo } = props;
  const held = entries.length === 1 && one && isFolder(one) ? one : null;
  const line = entries.length === 1 && one && !isFolder(one) ? one : null;
  const inArea = view !== null && view.path.length > 1;
  let card: ReactNode;
  if (held)
    card = (
      <FolderCard
        folder={held.held}
        area={view === null}
        figures={figures?.get(held.sub.id)}
        changed={held.sub.changed_at}
        doing={doing}
        onOpen={() => onGo(held.sub.id)}
        onPickUp={acts.pickUp}
      />
    );
  else if (entries.length)
    card = (
      <LineCard
        {...props}
        line={line}
        several={chosenTold(entries.length, foldersAmong(entries, items).length)}
        more={moreActs(
          line,
          { many: entries.length > 1, may: props.may, keeps: props.keeps, folder: view?.id ?? null, brings: true },
          acts,
          onGo,
        )}
      />
    );
  else if (self && view)
    card = (
      <FolderCard
        folder={self}
        area={!inArea}
        figures={{
          folders: view.folders.length,
          fit: view.fits.reduce((sum, fit) => sum + fit.fit, 0),
          of: view.fits.reduce((sum, fit) => sum + fit.of, 0),
          months: view.months,
        }}
        changed={view.changed_at}
        doing={doing}
        onPickUp={acts.pickUp}
      />
    );
  else if (view === null)
    card = (
      <div className="card">
        <h2>The drive</h2>
        <p>
          {count(props.areas.reduce((sum, area) => sum + area.below, 0))} documents in {count(props.areas.length)}{" "}
          areas.
        </p>
        <p className={styles.quiet}>Choose an area to see what is in it. Enter or a double click opens it.</p>
      </div>
    );
  return (
    <aside className="card-pane" aria-label={held || !entries.length ? "The folder" : "The chosen document"}>
      {card}
    </aside>
  );
}
