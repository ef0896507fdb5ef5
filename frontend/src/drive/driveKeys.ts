// The keys of the drive; those of the lines themselves are the grid's.
import { useMemo } from "react";
import { type Key, useKeys } from "../ui/keys";

export type DriveActs = {
  up: () => void;
  rename: () => void;
  bring: () => void;
  discard: () => void;
  move: () => void;
  also: () => void;
  copy: () => void;
  tag: () => void;
  next: () => void;
  give: () => void;
  readers: () => void;
  link: () => void;
  pickUp: () => void;
  ask: () => void;
  newFolder: () => void;
  below: () => void;
  many: () => void;
  view: () => void;
};

/** A letter alone; only while the lines or pages, or nothing at all, have the focus. */
function plain(event: KeyboardEvent, key: string): boolean {
  const at = event.target;
  const listed =
    at === document.body || (at instanceof HTMLElement && at.closest('[role="grid"], [role="listbox"]') !== null);
  return listed && event.key === key && !event.ctrlKey && !event.altKey && !event.metaKey;
}

/** `acts` must be memoised. */
export function useDriveKeys(acts: DriveActs): void {
  const keys = useMemo<Key[]>(() => {
    const told = (keys: string, what: string): Key => ({ keys, what, match: () => false, run: () => {} });
    const one = (keys: string, what: string, match: (e: KeyboardEvent) => boolean, run: () => void): Key => ({
      keys,
      what,
      single: keys.length === 1,
      match,
      run,
    });
    return [
      one("Alt+↑", "Up one folder", (e) => e.altKey && e.key === "ArrowUp", acts.up),
      one("Backspace", "Up one folder", (e) => plain(e, "Backspace"), acts.up),
      one("F2", "Rename the chosen document or folder", (e) => e.key === "F2", acts.rename),
      one("M", "Move what is chosen to another folder", (e) => plain(e, "m"), acts.move),
      one("A", "File what is chosen in another folder too", (e) => plain(e, "a"), acts.also),
      one("C", "Copy what is chosen to a folder", (e) => plain(e, "c"), acts.copy),
      one("T", "Tags of what is chosen", (e) => plain(e, "t"), acts.tag),
      one("N", "Copy the chosen document as next in its series", (e) => plain(e, "n"), acts.next),
      one("G", "Give access to what is chosen, or to this folder", (e) => plain(e, "g"), acts.give),
      one("W", "Who reads the chosen document, or this folder", (e) => plain(e, "w"), acts.readers),
      one("L", "Copy the link of the chosen document, or of this folder", (e) => plain(e, "l"), acts.link),
      one("Ctrl+X", "Pick up what is chosen", (e) => (e.ctrlKey || e.metaKey) && e.key === "x", acts.pickUp),
      one("Delete", "Discard what is chosen", (e) => e.key === "Delete", acts.discard),
      one("Alt+N", "New folder here", (e) => e.altKey && e.code === "KeyN", acts.newFolder),
      one(
        ".",
        "What else can be done with what is chosen",
        (e) => plain(e, "."),
        () => document.getElementById("card-more")?.click(),
      ),
      one("Alt+I", "Bring in files", (e) => e.altKey && e.code === "KeyI", acts.bring),
      one("Alt+B", "Here, or with all below", (e) => e.altKey && e.code === "KeyB", acts.below),
      one("Alt+V", "Lines, or pages", (e) => e.altKey && e.code === "KeyV", acts.view),
      one("Alt+M", "Rename or move many: what is chosen, or all here", (e) => e.altKey && e.code === "KeyM", acts.many),
      told("Shift+↓ Ctrl+↓ Space", "Choose several documents (with the mouse: Shift or Ctrl and click)"),
      told("Ctrl+A", "Choose all that is listed"),
      told("Shift+F10", "Menu of the chosen document, or of a folder in the tree"),
      told("Enter", "Open the chosen document"),
    ];
  }, [acts]);
  useKeys(keys);
}
