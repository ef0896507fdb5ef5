// What a manifest is planned for, in the address of the planning screen: a folder, some documents, or a search.
import type { Schemas } from "../api/client";
import type { Marks } from "../parts/selection";

export type Chosen = Schemas["ChosenForm"];
const KEPT = "waka-chosen-";

/** The address that plans for the marked places, or where none is, for all that a folder shows. */
export function planningOf(folder: number, below: boolean, marks: Marks): string {
  const where = `/manifests/new?folder=${folder}&below=${below}`;
  if (!marks.size) return where;
  // an address has no room for thousands of numbers: the tab keeps them
  const key = String(Date.now());
  window.sessionStorage.setItem(KEPT + key, JSON.stringify([...marks]));
  return `${where}&chosen=${key}`;
}

/** What the address of the planning screen means; null where it means nothing. */
export function chosenOf(query: URLSearchParams): Chosen | null {
  const none = { folder: null, below: false, entries: [], search: null, order: "name" as const };
  const key = query.get("chosen");
  if (key !== null) {
    const kept = window.sessionStorage.getItem(KEPT + key);
    return kept === null ? null : { ...none, entries: JSON.parse(kept) as number[] };
  }
  const folder = Number(query.get("folder")) || null;
  if (folder !== null) return { ...none, folder, below: query.get("below") === "true" };
  const search = {
    words: query.get("q") ?? "",
    kind: query.get("kind"),
    party: Number(query.get("party")) || null,
    year: Number(query.get("year")) || null,
    below: null,
    tag: query.get("tag"),
  };
  return search.words.trim() || search.kind || search.party || search.year || search.tag ? { ...none, search } : null;
}
