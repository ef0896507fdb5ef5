// Choosing one line of a list, or several, by mouse and keys: the same in every list of documents.
import { type KeyboardEvent, type MouseEvent, useCallback, useRef } from "react";
import { between, type Marks, NONE, toggled } from "./selection";

/** The keys that are held while one clicks. */
export type Held = { ctrlKey: boolean; metaKey: boolean; shiftKey: boolean };

type List<T> = {
  lines: T[];
  id: (line: T) => number;
  chosen: number | null;
  onChoose: (id: number) => void;
  /** Several lines may be chosen: by Ctrl and click or Space one more or less, by Shift all up to here; by Ctrl and arrows one goes on
   * without choosing. */
  marks?: Marks;
  onMarks?: (marks: Marks) => void;
  /** All lines, also those that are not loaded: Ctrl+A. */
  onAll?: () => void;
  /** Scrolls to a line, by its place. */
  show: (place: number) => void;
};

type Choosing = {
  /** The place of the line where the keys are; below zero for none. */
  at: number;
  /** A line, by its id, was clicked on; stays the same while lines scroll. */
  click: (id: number, held: Held) => void;
  /** Takes a key: `steps` says which places the keys that move lead to. False for keys that are no business of choosing. */
  press: (event: KeyboardEvent, steps: Record<string, number>) => boolean;
};

export function useChoosing<T>(list: List<T>): Choosing {
  const { lines, id, chosen, onChoose, marks = NONE, onMarks, onAll, show } = list;
  const at = lines.findIndex((line) => id(line) === chosen);
  // a stretch of lines reaches from this one, wherever it stands by then: lists change while one looks at them
  const anchor = useRef<number | null>(null);
  const choose = (index: number, how: { more?: boolean; upTo?: boolean; keep?: boolean }) => {
    const place = Math.min(Math.max(index, 0), lines.length - 1);
    const line = lines[place];
    if (!line) return;
    if (onMarks && how.upTo) {
      const ids = lines.map(id);
      let from = anchor.current === null ? -1 : ids.indexOf(anchor.current);
      if (from < 0) from = at < 0 ? place : at;
      anchor.current = ids[from] ?? null;
      onMarks(between(ids, from, place));
    } else {
      const had = marks.size === 0 && at >= 0 && lines[at] ? new Set([id(lines[at])]) : marks;
      if (onMarks && how.more) onMarks(toggled(had, id(line)));
      else if (onMarks && how.keep) onMarks(had);
      else if (marks.size) onMarks?.(NONE);
      anchor.current = id(line);
    }
    onChoose(id(line));
    show(place);
  };
  const latest = useRef({ choose, lines });
  latest.current = { choose, lines };
  const click = useCallback(
    (number: number, held: Held) =>
      latest.current.choose(
        latest.current.lines.findIndex((line) => id(line) === number),
        { more: held.ctrlKey || held.metaKey, upTo: held.shiftKey },
      ),
    [id],
  );
  const press = (event: KeyboardEvent, steps: Record<string, number>): boolean => {
    const mod = event.ctrlKey || event.metaKey;
    if (event.altKey) return false;
    const here = lines[at];
    const to = steps[event.key];
    if (mod && event.key === "a" && onAll) onAll();
    else if (to !== undefined) choose(to, { upTo: event.shiftKey, keep: mod });
    else if (event.key === " " && here && onMarks) onMarks(toggled(marks, id(here)));
    else return false;
    return true;
  };
  return { at, click, press };
}

/** Whether a key asks for the menu of the line where the keys are. */
export function asksForMenu(event: KeyboardEvent): boolean {
  return event.key === "ContextMenu" || (event.shiftKey && event.key === "F10");
}

/** For the press of a button of the mouse: up to here are lines, not the text of them; the list gets the keys. */
export function choosesNoText(event: MouseEvent<HTMLElement>, list: "grid" | "listbox"): void {
  if (!event.shiftKey) return;
  event.preventDefault();
  event.currentTarget.closest<HTMLElement>(`[role="${list}"]`)?.focus({ preventScroll: true });
}
