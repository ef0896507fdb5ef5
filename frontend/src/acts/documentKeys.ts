// The keys of what is done with documents: the same wherever documents are met.
import { type Key, plainKey } from "../ui/keys";

export type DocumentActs = {
  rename: () => void;
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
};

/** A letter alone; only while a list of documents, or nothing at all, has the focus. */
export function listed(event: KeyboardEvent, key: string): boolean {
  const at = event.target;
  const list =
    at === document.body || (at instanceof HTMLElement && at.closest('[role="grid"], [role="listbox"]') !== null);
  return list && plainKey(event, key);
}

export const pressed = (
  keys: string,
  what: string,
  match: (event: KeyboardEvent) => boolean,
  run: () => void,
): Key => ({ keys, what, single: keys.length === 1, match, run });

type Where = {
  /** How the thing is called in the list of keys. */
  what?: string;
  /** What else some keys are for where none is chosen. */
  here?: string;
  /** Whether a letter is meant for it; on a list only while that has the focus. */
  letter?: (event: KeyboardEvent, key: string) => boolean;
};

export function documentKeys(acts: DocumentActs, where: Where = {}): Key[] {
  const { what = "what is chosen", here = "", letter = listed } = where;
  return [
    pressed("F2", `Rename ${what}`, (e) => e.key === "F2", acts.rename),
    pressed("M", `Move ${what} to another folder`, (e) => letter(e, "m"), acts.move),
    pressed("A", `File ${what} in another folder too`, (e) => letter(e, "a"), acts.also),
    pressed("C", `Copy ${what} to a folder`, (e) => letter(e, "c"), acts.copy),
    pressed("T", `Tags of ${what}`, (e) => letter(e, "t"), acts.tag),
    pressed("N", `Copy ${what} as next in its series`, (e) => letter(e, "n"), acts.next),
    pressed("G", `Give access to ${what}${here}`, (e) => letter(e, "g"), acts.give),
    pressed("W", `Who reads ${what}${here}`, (e) => letter(e, "w"), acts.readers),
    pressed("L", `Copy the link of ${what}${here}`, (e) => letter(e, "l"), acts.link),
    pressed("Ctrl+X", `Pick up ${what}`, (e) => (e.ctrlKey || e.metaKey) && e.key === "x", acts.pickUp),
    pressed("Delete", `Discard ${what}`, (e) => e.key === "Delete", acts.discard),
    pressed(
      ".",
      `What else can be done with ${what}`,
      (e) => letter(e, "."),
      () => document.getElementById("card-more")?.click(),
    ),
  ];
}
