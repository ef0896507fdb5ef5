// The menu of a line, or of the several that are chosen.
import type { Schemas } from "../api/client";
import type { Act } from "../ui/Menu";

type Line = Schemas["LineOut"];
type Where = { many: boolean; may: boolean; folder: number | null };

// what is chosen is set by then
const press = (id: string) => () => window.setTimeout(() => document.getElementById(id)?.click());

/** What the menu of a line offers; most of it presses the buttons of the card beside the lines. */
export function lineActs(one: Line, where: Where, open: (line: Line) => void, go: (folder: number) => void): Act[] {
  const { many, may } = where;
  return [
    { label: "Open", keys: "Enter", run: () => open(one), off: many },
    { label: "Rename", keys: "F2", run: press("rename"), off: many || !may },
    "line",
    { label: "Move…", keys: "M", run: press("act-move"), off: !may },
    { label: "File in another folder too…", keys: "A", run: press("act-also"), off: !may },
    { label: "Copy…", keys: "C", run: press("act-copy") },
    { label: "New version…", run: press("act-version"), off: many || !may },
    { label: "Copy as next in series…", keys: "N", run: press("act-next"), off: many },
    { label: "Pick up", keys: "Ctrl+X", run: press("act-pick"), off: !may },
    { label: "Tags…", keys: "T", run: press("act-tag"), off: !may },
    { label: "Go to its folder", run: () => go(one.folder), off: many || one.folder === where.folder },
    "line",
    { label: "Discard", keys: "Delete", run: press("act-discard"), off: !may },
  ];
}
