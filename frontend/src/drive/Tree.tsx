import { type KeyboardEvent, type ReactNode, useEffect, useRef, useState } from "react";
import type { Schemas } from "../api/client";
import { useFolders } from "../api/queries";
import { dragging, useDropping } from "../places/dragging";
import { count } from "../ui/format";
import { type FolderDoing, folderOf } from "./folderDoing";

type Props = { current: number | null; path: number[]; onGo: (folder: number) => void; doing: FolderDoing };
type Branch = Props & {
  open: Set<number>;
  toggle: (folder: number, open: boolean) => void;
  onto: ReturnType<typeof useDropping>["onto"];
  above: string;
};

/** The folders as a tree; the way to the current one is open. Keys by the ARIA tree pattern. */
export function Tree(props: Props): ReactNode {
  const [open, setOpen] = useState<Set<number>>(new Set());
  const tree = useRef<HTMLUListElement>(null);
  const { onto } = useDropping();
  const way = props.path.join(",");
  // biome-ignore lint/correctness/useExhaustiveDependencies: the way is opened when it changes
  useEffect(() => setOpen((had) => new Set([...had, ...props.path])), [way]);
  const toggle = (folder: number, wanted: boolean) =>
    setOpen((had) => {
      const next = new Set(had);
      if (wanted) next.add(folder);
      else next.delete(folder);
      return next;
    });
  const press = (event: KeyboardEvent) => {
    const items = [...(tree.current?.querySelectorAll<HTMLElement>('[role="treeitem"]') ?? [])];
    const at = items.indexOf(document.activeElement as HTMLElement);
    const item = items[at];
    if (!item || event.altKey || event.ctrlKey) return;
    const folder = Number(item.dataset.folder);
    const expanded = item.getAttribute("aria-expanded");
    if (event.key === "ArrowDown") items[at + 1]?.focus();
    else if (event.key === "ArrowUp") items[at - 1]?.focus();
    else if (event.key === "Home") items[0]?.focus();
    else if (event.key === "End") items.at(-1)?.focus();
    else if (event.key === "ArrowRight" && expanded === "false") toggle(folder, true);
    else if (event.key === "ArrowRight") item.querySelector<HTMLElement>('[role="treeitem"]')?.focus();
    else if (event.key === "ArrowLeft" && expanded === "true") toggle(folder, false);
    else if (event.key === "ArrowLeft") item.parentElement?.closest<HTMLElement>('[role="treeitem"]')?.focus();
    else if (event.key === "Enter" || event.key === " ") props.onGo(folder);
    else if (event.key === "ContextMenu" || (event.shiftKey && event.key === "F10"))
      // the row's own handler knows the folder
      item.firstElementChild?.dispatchEvent(new MouseEvent("contextmenu", { bubbles: true, ...below(item) }));
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    // biome-ignore lint/a11y/noNoninteractiveElementToInteractiveRole: a tree of nested lists is the ARIA pattern
    <ul className="tree" role="tree" ref={tree} onKeyDown={press} aria-label="Folders">
      <Level {...props} parent={null} open={open} toggle={toggle} onto={onto} above="" />
    </ul>
  );
}

function below(item: HTMLElement): { clientX: number; clientY: number } {
  const at = item.firstElementChild?.getBoundingClientRect();
  return { clientX: (at?.left ?? 0) + 30, clientY: at?.bottom ?? 0 };
}

function Level(props: Branch & { parent: number | null }): ReactNode {
  const folders = useFolders(props.parent);
  return (folders.data ?? []).map((folder, index) => (
    <Item key={folder.id} {...props} folder={folder} first={props.parent === null && index === 0} />
  ));
}

function Item(props: Branch & { folder: Schemas["FolderOut"]; first: boolean }): ReactNode {
  const { folder, open, current } = props;
  const expanded = folder.has_folders ? open.has(folder.id) : undefined;
  const here = folder.id === current;
  const path = `${props.above}${folder.name}`;
  const held = folderOf(folder);
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the tree takes the keys
    <li
      role="treeitem"
      aria-expanded={expanded}
      aria-selected={here}
      data-folder={folder.id}
      tabIndex={here || (current === null && props.first) ? 0 : -1}
      onClick={(event) => {
        event.stopPropagation();
        props.toggle(folder.id, !(here && expanded));
        props.onGo(folder.id);
      }}
    >
      {/* biome-ignore lint/a11y/noStaticElementInteractions: the item that it belongs to takes keys and clicks */}
      <div
        className={`tree-row${here ? " here" : ""}`}
        {...props.onto(folder.id, path)}
        {...dragging(() => held && { entries: [held.entry], name: `the folder ${folder.name}`, folder: folder.id })}
        onContextMenu={(event) => {
          if (!held) return;
          event.preventDefault();
          props.doing.menu(held, event.clientX, event.clientY);
        }}
      >
        <span>
          {folder.name}
          {folder.closed && <span className="quiet small"> closed</span>}
        </span>
        <span className="quiet number">{folder.below ? count(folder.below) : "empty"}</span>
      </div>
      {expanded && (
        // biome-ignore lint/a11y/useSemanticElements: the ARIA tree pattern asks for this role
        <ul role="group">
          <Level {...props} parent={folder.id} above={`${path} / `} />
        </ul>
      )}
    </li>
  );
}
