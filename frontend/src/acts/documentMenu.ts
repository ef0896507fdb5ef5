// What can be done with a document, or with several that are chosen: the menu of its line, and what stands under More.
import type { Act } from "../ui/Menu";
import { SAY } from "../ui/wording";
import type { DocumentActs } from "./documentKeys";
import type { Placed } from "./useDocumentActs";

/** `folder`: the one that is looked at. `brings`: whether the screen has the button that asks for the file of a new version. */
type Where = { many: boolean; may: boolean; keeps: boolean; folder: number | null; brings: boolean };

/** Everything that a line offers, most used first. ``open`` and ``go`` lead elsewhere. */
export function lineActs(
  one: Placed,
  where: Where,
  acts: DocumentActs,
  open: () => void,
  go: (folder: number) => void,
): Act[] {
  const { many, may } = where;
  return [
    { label: SAY.open, keys: "Enter", run: open, off: many },
    { label: SAY.rename, keys: "F2", run: acts.rename, off: many || !may },
    "line",
    { label: SAY.move, keys: "M", run: acts.move, off: !may },
    { label: SAY.pickUp, keys: "Ctrl+X", run: acts.pickUp, off: !may },
    ...moreActs(one, where, acts, go),
  ];
}

/** What the card does not show as buttons. */
export function moreActs(one: Placed | null, where: Where, acts: DocumentActs, go: (folder: number) => void): Act[] {
  const { many, may, keeps } = where;
  return [
    { label: SAY.alsoFile, keys: "A", run: acts.also, off: !may },
    { label: SAY.copy, keys: "C", run: acts.copy },
    { label: SAY.newVersion, run: pressVersion, off: many || !may || !where.brings },
    { label: SAY.nextInSeries, keys: "N", run: acts.next, off: many || !may },
    { label: SAY.tags, keys: "T", run: acts.tag, off: !may },
    { label: SAY.askRules, run: acts.ask, off: !may },
    "line",
    { label: SAY.give, keys: "G", run: acts.give, off: !keeps },
    { label: SAY.whoReads, keys: "W", run: acts.readers, off: many },
    { label: SAY.copyLink, keys: "L", run: acts.link, off: many },
    {
      label: SAY.goToFolder,
      run: () => one?.folder != null && go(one.folder),
      off: one?.folder == null || many || one.folder === where.folder,
    },
    {
      label: SAY.download,
      run: () => one && window.location.assign(`/api/documents/${one.document}/content?download=true`),
      off: !one || many,
    },
    "line",
    { label: SAY.discard, keys: "Delete", run: acts.discard, off: !may },
  ];
}

/** The button that asks for the file of a new version, where there is one. */
export const NEW_VERSION = "act-version";

/** The browser opens its list of files only for a button that was pressed; that one stands on the screen. */
function pressVersion(): void {
  window.setTimeout(() => document.getElementById(NEW_VERSION)?.click());
}
