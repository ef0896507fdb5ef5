// The keys of the drive; those of the lines themselves are the grid's.
import { useMemo } from "react";
import { type DocumentActs, documentKeys, listed, pressed } from "../acts/documentKeys";
import { type Key, useKeys } from "../ui/keys";

export type DriveActs = DocumentActs & {
  up: () => void;
  bring: () => void;
  newFolder: () => void;
  below: () => void;
  many: () => void;
  view: () => void;
};

/** `acts` must be memoised. */
export function useDriveKeys(acts: DriveActs): void {
  const keys = useMemo<Key[]>(() => {
    const told = (keys: string, what: string): Key => ({ keys, what, match: () => false, run: () => {} });
    return [
      pressed("Alt+↑", "Up one folder", (e) => e.altKey && e.key === "ArrowUp", acts.up),
      pressed("Backspace", "Up one folder", (e) => listed(e, "Backspace"), acts.up),
      ...documentKeys(acts, { here: ", or of this folder" }),
      pressed("Alt+N", "New folder here", (e) => e.altKey && e.code === "KeyN", acts.newFolder),
      pressed("Alt+I", "Bring in files", (e) => e.altKey && e.code === "KeyI", acts.bring),
      pressed("Alt+B", "Here, or with all below", (e) => e.altKey && e.code === "KeyB", acts.below),
      pressed("Alt+V", "Lines, or pages", (e) => e.altKey && e.code === "KeyV", acts.view),
      pressed(
        "Alt+M",
        "Rename or move many: what is chosen, or all here",
        (e) => e.altKey && e.code === "KeyM",
        acts.many,
      ),
      told("Shift+↓ Ctrl+↓ Space", "Choose several documents (with the mouse: Shift or Ctrl and click)"),
      told("Ctrl+A", "Choose all that is listed"),
      told("Shift+F10", "Menu of the chosen document, or of a folder in the tree"),
      told("Enter", "Open the chosen document"),
    ];
  }, [acts]);
  useKeys(keys);
}
