import { Tree } from "antd";
import { type KeyboardEvent, type ReactNode, useEffect, useLayoutEffect, useRef, useState } from "react";
import { asksForMenu } from "../parts/lines/useChoosing";
import { dragging, useDropping } from "../places/dragging";
import { type FolderNode, findNode, useFolderNodes } from "../places/folderNodes";
import { count } from "../ui/format";
import { Failed, Loading } from "../ui/states";
import styles from "../ui/text.module.css";
import { type FolderDoing, folderOf } from "./folderDoing";
import "../places/tree.css";

export type TreeProps = {
  current: number | null;
  /** The folders from the area to the current one. */
  path: number[];
  onGo: (folder: number) => void;
  doing: FolderDoing;
  /** The most that it may be high, in CSS pixels; what is more scrolls. */
  height: number;
};

/** The folders as a tree; the way to the current one is open. Each level is asked for when it is opened. */
export function FolderTree(props: TreeProps): ReactNode {
  const { current, onGo, doing } = props;
  const [open, setOpen] = useState<number[]>([]);
  const [active, setActive] = useState<number | null>(null);
  const tree = useRef<{ scrollTo: (to: { key: number }) => void }>(null);
  const { onto } = useDropping();
  const way = props.path.join(",");
  // the current folder itself stays as it is: what one is about to click does not move away
  // biome-ignore lint/correctness/useExhaustiveDependencies: the way is opened when it changes
  useEffect(() => setOpen((had) => [...new Set([...had, ...props.path.slice(0, -1)])]), [way]);
  const { nodes, top } = useFolderNodes(open);
  const shown = useRef<number | null>(null);
  useLayoutEffect(() => {
    if (shown.current === current || current === null || !top?.data) return;
    shown.current = current;
    tree.current?.scrollTo({ key: current });
  });
  if (top?.isError && !top.data) return <Failed what="The tree" error={top.error} onAgain={top.refetch} />;
  if (!top?.data) return <Loading rows={5} />;
  const menuOf = (node: FolderNode, left: number, at: number) => {
    const held = folderOf(node.folder);
    if (held) doing.menu(held, left, at);
  };
  const press = (event: KeyboardEvent) => {
    const node = active === null ? undefined : findNode(nodes, active);
    if (!node || event.altKey || event.ctrlKey) return;
    // the library opens and closes by Enter; here that goes to the folder
    if (event.key === "Enter" || event.key === " ") onGo(node.key);
    else if (asksForMenu(event)) {
      const row = event.currentTarget.querySelector(`.tree-row[data-folder="${node.key}"]`)?.getBoundingClientRect();
      menuOf(node, (row?.left ?? 0) + 30, row?.bottom ?? 0);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div onKeyDownCapture={press} className="tree">
      <Tree<FolderNode>
        ref={tree as never}
        aria-label="Folders"
        blockNode
        motion={false}
        height={props.height}
        itemHeight={ROW}
        treeData={nodes}
        switcherIcon={(node: { expanded?: boolean }) => <span aria-hidden>{node.expanded ? "▾" : "▸"}</span>}
        expandedKeys={open}
        onExpand={(keys) => setOpen(keys as number[])}
        selectedKeys={current === null ? [] : [current]}
        activeKey={active as number}
        onActiveChange={(key) => setActive(key as number | null)}
        onFocus={() => setActive(active ?? current)}
        onClick={(_, { key, expanded }) => {
          const folder = Number(key);
          // a second click closes what the first one opened
          setOpen(
            folder === current && expanded ? open.filter((one) => one !== folder) : [...new Set([...open, folder])],
          );
          onGo(folder);
        }}
        titleRender={(node) => (
          <Row node={node} here={node.key === current} onto={onto} onMenu={(left, at) => menuOf(node, left, at)} />
        )}
      />
    </div>
  );
}

const ROW = 27;

type RowProps = {
  node: FolderNode;
  here: boolean;
  onto: ReturnType<typeof useDropping>["onto"];
  onMenu: (left: number, top: number) => void;
};

/** A folder's line in the tree: dragged, dropped on, with a menu. */
function Row(props: RowProps): ReactNode {
  const { folder, path } = props.node;
  const held = folderOf(folder);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the tree that it belongs to takes keys and clicks
    <div
      className={`tree-row${props.here ? " here" : ""}`}
      {...props.onto(folder.id, path)}
      {...dragging(() => held && { entries: [held.entry], name: `the folder ${folder.name}`, folder: folder.id })}
      onContextMenu={(event) => {
        if (!held) return;
        event.preventDefault();
        props.onMenu(event.clientX, event.clientY);
      }}
    >
      <span className="tree-name" title={folder.name}>
        {folder.name}
        {folder.restricted && <span className={`${styles.quiet} ${styles.small}`}> restricted</span>}
      </span>
      <span className={`${styles.quiet} number`}>{folder.below ? count(folder.below) : "empty"}</span>
    </div>
  );
}
