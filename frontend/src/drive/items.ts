// What a folder's list shows: the folders in it, then its documents. Each has a place of its own, by which it is chosen.
import type { Schemas } from "../api/client";
import type { Things } from "../places/moving";
import { several } from "../ui/format";
import { type Folder, folderOf } from "./folderDoing";

export type Line = Schemas["LineOut"];
/** A folder among the lines. */
export type FolderLine = { entry: number; sub: Schemas["FolderOut"]; held: Folder };
export type Item = Line | FolderLine;

export const isFolder = (item: Item): item is FolderLine => "sub" in item;
export const itemId = (item: Item): number => item.entry;
export const nameOf = (item: Item): string => (isFolder(item) ? `the folder ${item.sub.name}` : item.name);

/** Folders as lines. */
export function folderLines(folders: Schemas["FolderOut"][]): FolderLine[] {
  return folders.flatMap((sub) => {
    const held = folderOf(sub);
    return held ? [{ entry: held.entry, sub, held }] : [];
  });
}

/** What is chosen, as what can be put somewhere; its name, where it is one. */
export function thingsOf(entries: number[], items: Item[]): Things {
  const one = items.find((item) => item.entry === entries[0]);
  if (entries.length !== 1 || !one)
    return { entries, name: "", told: chosenTold(entries.length, foldersAmong(entries, items).length) };
  return { entries, name: nameOf(one), ...(isFolder(one) ? { folder: one.sub.id } : {}) };
}

/** The folders among what is chosen. */
export function foldersAmong(entries: number[], items: Item[]): FolderLine[] {
  const held = new Set(entries);
  return items.filter((item): item is FolderLine => isFolder(item) && held.has(item.entry));
}

/** What several chosen things are called together. */
export function chosenTold(entries: number, folders: number): string {
  const documents = entries - folders;
  if (!folders) return several(documents, "document");
  return documents ? `${several(folders, "folder")} and ${several(documents, "document")}` : several(folders, "folder");
}
