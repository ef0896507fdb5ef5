// What a manifest is planned for, and how, in the address of the planning screen: a folder, some documents, or a search.
import type { Schemas } from "../api/client";
import { namesOf } from "../find/names";
import type { Marks } from "../parts/lines/selection";

export type Chosen = Schemas["ChosenForm"];
export type Way = Schemas["WayForm"];
export const NOTHING: Chosen = { folder: null, below: false, entries: [], search: null, order: "name" };
const START: Way = {
  do: "rewrite",
  reads: "<name>",
  prints: "<name>",
  placing: false,
  base: null,
  remove_emptied: false,
  rules: "",
  borrow: null,
};
const BY_PLAN: Way = { ...START, do: "plan", reads: "", prints: "" };
const KEPT = "waka-chosen-";

/** The address that plans for the marked places, or where none is, for all that a folder shows. */
export function planningOf(folder: number, below: boolean, marks: Marks): string {
  const where = `/manifests/new?folder=${folder}&below=${below}`;
  if (!marks.size) return where;
  return `${where}&chosen=${kept([...marks])}`;
}

/** An address has no room for thousands of numbers: the tab keeps them, under the key that is given back. */
function kept(entries: readonly number[]): string {
  const key = String(Date.now());
  window.sessionStorage.setItem(KEPT + key, JSON.stringify(entries));
  return key;
}

/** The address that plans for the same documents in the same way as a manifest was; null for what no address can say. */
export function planningLike(chosen: Chosen, way: Way): string | null {
  if (way.do === "merge") return null;
  const query = new URLSearchParams();
  const say = (name: string, value: string | number | boolean | null | undefined) =>
    value && query.set(name, String(value));
  if (chosen.folder !== null) {
    query.set("folder", String(chosen.folder));
    say("below", chosen.below);
  } else if (chosen.search) {
    const { words, kind, party, year, below, tag, names } = chosen.search;
    say("q", words);
    for (const [name, value] of Object.entries({ kind, party, year, tag, names, in: below })) say(name, value);
  } else if (chosen.entries?.length) query.set("chosen", kept(chosen.entries));
  else return null;
  if (chosen.order !== "name") say("order", chosen.order);
  query.set("do", way.do);
  say("reads", way.reads);
  say("prints", way.prints);
  say("base", way.base);
  say("placing", way.placing);
  say("emptied", way.remove_emptied);
  say("borrow", way.borrow);
  return `/manifests/new?${query}`;
}

/** The way that the address asks for: what leads here may say how to begin. */
export function wayOf(query: URLSearchParams): Way {
  const remove_emptied = query.get("emptied") === "true";
  const prints = query.get("prints") ?? "";
  const borrow = Number(query.get("borrow")) || null;
  switch (query.get("do")) {
    case "plan":
      return { ...BY_PLAN, placing: query.get("placing") === "true", remove_emptied, borrow };
    case "place":
      return { ...BY_PLAN, do: "place", prints, base: Number(query.get("base")) || null, remove_emptied, borrow };
    case "rewrite":
      return { ...START, reads: query.get("reads") || START.reads, prints: prints || START.prints, remove_emptied };
    default:
      return START;
  }
}

/** The order that running numbers follow, as the address asks. */
export function orderOf(query: URLSearchParams): NonNullable<Chosen["order"]> {
  const asked = query.get("order");
  return asked === "issued" || asked === "filed" ? asked : "name";
}

/** What the address of the planning screen means; null where it means nothing. */
export function chosenOf(query: URLSearchParams): Chosen | null {
  const key = query.get("chosen");
  if (key !== null) {
    const kept = window.sessionStorage.getItem(KEPT + key);
    return kept === null ? null : { ...NOTHING, entries: JSON.parse(kept) as number[] };
  }
  const folder = Number(query.get("folder")) || null;
  if (folder !== null) return { ...NOTHING, folder, below: query.get("below") === "true" };
  const search = {
    words: query.get("q") ?? "",
    kind: query.get("kind"),
    party: Number(query.get("party")) || null,
    year: Number(query.get("year")) || null,
    below: Number(query.get("in")) || null,
    tag: query.get("tag"),
    names: namesOf(query) ?? null,
  };
  return search.words.trim() || Object.values({ ...search, words: null, below: null }).some(Boolean)
    ? { ...NOTHING, search }
    : null;
}
