import { Tree } from "antd";
import { type KeyboardEvent, type ReactNode, useState } from "react";
import { count } from "../ui/format";
import { Failed, Loading } from "../ui/states";
import styles from "../ui/text.module.css";
import { type FolderNode, findNode, useFolderNodes } from "./folderNodes";
import "./tree.css";

// a line of the tree, and the room that the chooser has for it, in CSS pixels
const ROW = 27;
const HIGH = 300;

type Props = {
  chosen: number | null;
  /** None of these, nor what is in them. */
  without: number[];
  onChoose: (folder: number, path: string) => void;
  /** Enter: it shall go to the chosen one. */
  onTake: () => void;
};

/** All folders, walked by mouse or arrow keys: the one that one comes to is chosen. */
export function FolderWalk(props: Props): ReactNode {
  const { chosen, without, onChoose } = props;
  const [open, setOpen] = useState<number[]>([]);
  const [active, setActive] = useState<number | null>(null);
  const { nodes: all, top } = useFolderNodes(open);
  const nodes = leftOut(all, without);
  if (top?.isError && !top.data) return <Failed what="The tree" error={top.error} onAgain={top.refetch} />;
  if (!top?.data) return <Loading rows={5} />;
  const go = (key: number) => {
    const node = findNode(nodes, key);
    if (node) onChoose(node.folder.id, node.path);
  };
  const press = (event: KeyboardEvent) => {
    // the keys of the tree are not those of the field
    if (event.key === "Escape" || event.key === "Tab") return;
    if (event.key === "Enter" || event.key === " ") {
      event.preventDefault();
      event.stopPropagation();
      if (event.key === "Enter" && active === chosen) props.onTake();
      else if (active !== null) go(active);
    }
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the tree in it has the roles; these keys are not the field's
    <div
      className="tree chooser-tree"
      onKeyDownCapture={press}
      onKeyDown={(event) => event.key.startsWith("Arrow") && event.stopPropagation()}
    >
      <Tree<FolderNode>
        aria-label="All folders"
        blockNode
        motion={false}
        height={HIGH}
        itemHeight={ROW}
        treeData={nodes}
        switcherIcon={(node: { expanded?: boolean }) => <span aria-hidden>{node.expanded ? "▾" : "▸"}</span>}
        expandedKeys={open}
        onExpand={(keys) => setOpen(keys as number[])}
        selectedKeys={chosen === null ? [] : [chosen]}
        activeKey={active as number}
        onActiveChange={(key) => {
          setActive(key as number | null);
          if (key !== null) go(Number(key));
        }}
        onFocus={() => setActive(active ?? chosen ?? nodes[0]?.key ?? null)}
        onClick={(_, { key }) => {
          setOpen((had) => [...new Set([...had, Number(key)])]);
          setActive(Number(key));
          go(Number(key));
        }}
        titleRender={({ folder }) => (
          <div className="tree-row">
            <span className="tree-name" title={folder.name}>
              {folder.name}
            </span>
            <span className={`${styles.quiet} number`}>{folder.below ? count(folder.below) : "empty"}</span>
          </div>
        )}
      />
    </div>
  );
}

function leftOut(nodes: FolderNode[], without: number[]): FolderNode[] {
  return nodes
    .filter((node) => !without.includes(node.folder.id))
    .map((node) => ({ ...node, children: leftOut(node.children ?? [], without) }));
}
