// The folders as a tree of which each level is asked for when it is opened.
import { useQueries, useQueryClient } from "@tanstack/react-query";
import type { TreeDataNode } from "antd";
import type { Schemas } from "../api/client";
import { foldersOf } from "../api/queries";

type Folder = Schemas["FolderOut"];
export type FolderNode = TreeDataNode & { key: number; folder: Folder; path: string; children?: FolderNode[] };
type Top = ReturnType<typeof useQueries<ReturnType<typeof foldersOf>[]>>[number];

/** The nodes that are in sight where `open` are open, and how asking for the areas goes. */
export function useFolderNodes(open: number[]): { nodes: FolderNode[]; top: Top | undefined } {
  const queries = useQueryClient();
  const levels = levelsOf(open, (level) => queries.getQueryData(foldersOf(level).queryKey));
  const asked = useQueries({ queries: levels.map((level) => foldersOf(level)) });
  const below = new Map(levels.map((level, index) => [level, asked[index]?.data]));
  return { nodes: nodesOf(below, null, "", 1), top: asked[0] as Top | undefined };
}

/** The levels that are in sight: the areas, and what is open below what is open. */
function levelsOf(open: number[], known: (level: number | null) => Folder[] | undefined): (number | null)[] {
  const levels: (number | null)[] = [null];
  for (const level of levels)
    for (const one of known(level) ?? []) if (one.has_folders && open.includes(one.id)) levels.push(one.id);
  return levels;
}

function nodesOf(
  below: Map<number | null, Folder[] | undefined>,
  parent: number | null,
  above: string,
  level: number,
): FolderNode[] {
  return (below.get(parent) ?? []).map((folder) => {
    const path = `${above}${folder.name}`;
    const children = folder.has_folders ? nodesOf(below, folder.id, `${path} / `, level + 1) : [];
    return { key: folder.id, folder, path, isLeaf: !folder.has_folders, children, "aria-level": level };
  });
}

export function findNode(nodes: FolderNode[], key: number): FolderNode | undefined {
  for (const node of nodes) {
    const found = node.key === key ? node : findNode(node.children ?? [], key);
    if (found) return found;
  }
  return undefined;
}
