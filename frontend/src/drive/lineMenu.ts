// The menu of a line, or of the several that are chosen.
import type { Schemas } from "../api/client";
import type { Act } from "../ui/Menu";
import { SAY } from "../ui/wording";

type Line = Schemas["LineOut"];
type Where = { many: boolean; may: boolean; keeps: boolean; folder: number | null };

// what is chosen is set by then
const press = (id: string) => () => window.setTimeout(() => document.getElementById(id)?.click());

/** What the menu of a line offers; most of it presses the buttons of the card beside the lines. */
export function lineActs(one: Line, where: Where, open: (line: Line) => void, go: (folder: number) => void): Act[] {
  const { many, may, keeps } = where;
  return [
    { label: SAY.open, keys: "Enter", run: () => open(one), off: many },
    { label: SAY.rename, keys: "F2", run: press("rename"), off: many || !may },
    "line",
    { label: SAY.move, keys: "M", run: press("act-move"), off: !may },
    { label: SAY.alsoFile, keys: "A", run: press("act-also"), off: !may },
    { label: SAY.copy, keys: "C", run: press("act-copy") },
    { label: SAY.newVersion, run: press("act-version"), off: many || !may },
    { label: SAY.nextInSeries, keys: "N", run: press("act-next"), off: many || !may },
    { label: SAY.pickUp, keys: "Ctrl+X", run: press("act-pick"), off: !may },
    { label: SAY.tags, keys: "T", run: press("act-tag"), off: !may },
    { label: SAY.askRules, run: press("act-rules"), off: !may },
    { label: SAY.give, keys: "G", run: press("act-give"), off: !keeps },
    { label: SAY.whoReads, keys: "W", run: press("act-readers"), off: many },
    { label: SAY.copyLink, keys: "L", run: press("act-link"), off: many },
    { label: SAY.goToFolder, run: () => go(one.folder), off: many || one.folder === where.folder },
    "line",
    { label: SAY.discard, keys: "Delete", run: press("act-discard"), off: !may },
  ];
}
