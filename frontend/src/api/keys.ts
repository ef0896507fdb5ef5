// The keys of all that screens ask for, by subject: what a change touches is asked for anew, and nothing else.
import type { QueryClient } from "@tanstack/react-query";
import type { Schemas } from "./client";

export type Subject = "drive" | "arrivals" | "manifests" | "register" | "plans" | "office" | "me";
export type FindQuery = {
  q: string;
  kind?: string;
  party?: number;
  year?: number;
  below?: number;
  tag?: string;
  names?: "empty" | "shared";
};

export const keys = {
  pulse: ["pulse"] as const,
  // what does not change while the page is open
  vocabulary: ["fixed", "vocabulary"] as const,
  words: (id: number, page: number) => ["fixed", "words", id, page] as const,
  compare: (id: number, first: number, second: number) => ["fixed", "compare", id, first, second] as const,

  foldersOfAll: ["drive", "folders"] as const,
  folders: (id: number | null) => ["drive", "folders", id] as const,
  monthsOf: (folder: number | null, below: boolean, by: string | null, group: string | null) =>
    ["drive", "months", folder, below, by, group] as const,
  figures: (id: number | null) => ["drive", "figures", id] as const,
  folder: (id: number, below: boolean) => ["drive", "folder", id, below] as const,
  areaOf: (folder: number) => ["drive", "area of", folder] as const,
  lines: (id: number, below: boolean, sort: string, descending: boolean, group: { by?: string; group?: string }) =>
    ["drive", "lines", id, below, sort, descending, group] as const,
  groupsOf: (id: number | null, below: boolean, by: string | null) => ["drive", "groups", id, below, by] as const,
  sums: (entries: readonly number[]) => ["drive", "sums", entries] as const,
  cards: ["drive", "card"] as const,
  card: (id: number) => ["drive", "card", id] as const,
  trail: (id: number) => ["drive", "trail", id] as const,
  next: (id: number, facts: string) => ["drive", "next", id, facts] as const,
  tags: ["drive", "tags"] as const,
  taggedFolders: (tag: string) => ["drive", "tags", tag] as const,
  targets: (asked: string, without: number[] | undefined) => ["drive", "targets", asked, without] as const,
  targetsFor: (entries: number[]) => ["drive", "targets for", entries] as const,
  taken: (entries: number[], folder: number | null) => ["drive", "taken", entries, folder] as const,
  sight: (entries: number[], folder: number | null, stays: boolean, inside: boolean) =>
    ["drive", "sight", entries, folder, stays, inside] as const,
  tree: (id: number) => ["drive", "tree", id] as const,
  trees: (id: number, asked: string) => ["drive", "trees", id, asked] as const,
  hand: ["drive", "hand"] as const,
  lately: ["drive", "lately"] as const,
  discards: ["drive", "discards"] as const,
  valuesUsed: (field: string) => ["drive", "values used", field] as const,
  putAway: ["drive", "put away"] as const,
  discardedFolders: ["drive", "discards", "folders"] as const,
  find: (query: FindQuery) => ["drive", "find", query] as const,

  waiting: ["arrivals", "waiting"] as const,
  slip: (id: number) => ["arrivals", "slip", id] as const,
  watched: ["arrivals", "watched"] as const,
  failedReadings: ["arrivals", "failed readings"] as const,

  manifests: (which: string) => ["manifests", "list", which] as const,
  manifest: (id: number) => ["manifests", "one", id] as const,
  manifestLines: (id: number, state: string | null) => ["manifests", "lines", id, state] as const,
  manifestReasons: (id: number, state: string | undefined) => ["manifests", "reasons", id, state] as const,
  manifestSums: (id: number, state: string) => ["manifests", "sums", id, state] as const,
  manifestTypes: (id: number, state: string) => ["manifests", "types", id, state] as const,
  preview: (body: Schemas["PlanForm"]) => ["manifests", "preview", body] as const,
  quick: (body: Schemas["ChosenForm"]) => ["manifests", "quick", body] as const,

  parties: ["register", "parties"] as const,
  register: ["register", "entries"] as const,
  party: (id: number) => ["register", "party", id] as const,
  unknown: ["register", "unknown"] as const,

  areas: ["plans", "areas"] as const,
  plan: (area: number) => ["plans", "plan", area] as const,
  tryPlan: (area: number, revision: number, kind: string, name: string, place: string) =>
    ["plans", "try", area, revision, kind, name, place] as const,
  templates: ["plans", "templates"] as const,
  rulebook: (area: number) => ["plans", "rulebook", area] as const,
  ruleWords: ["fixed", "rule words"] as const,
  checkedRules: (area: number, text: string) => ["plans", "checked rules", area, text] as const,
  tryRules: (area: number, revision: number, body: Schemas["TryRulebookForm"]) =>
    ["plans", "try rules", area, revision, body] as const,
  whyTried: (area: number, text: string, document: number) => ["plans", "why tried", area, text, document] as const,
  comparedRules: (area: number, old: number, now: number) => ["fixed", "compared rules", area, old, now] as const,
  ruleOffers: (area: number) => ["plans", "rule offers", area] as const,
  ruleFigures: (area: number) => ["plans", "rule figures", area] as const,
  ruleRuns: (area: number, asked: Record<string, string | undefined>) => ["plans", "rule runs", area, asked] as const,
  why: (document: number) => ["drive", "why", document] as const,

  setUp: ["set-up"] as const,
  link: ["link"] as const,
  strength: (password: string) => ["strength", password] as const,
  office: ["office", "settings"] as const,
  missing: ["office", "missing"] as const,
  people: ["office", "people"] as const,
  behind: (person: number) => ["office", "behind", person] as const,
  groups: ["office", "groups"] as const,
  group: (id: number) => ["office", "group", id] as const,
  officeAreas: ["office", "areas"] as const,
  outlines: ["fixed", "outlines"] as const,
  outlineTried: (kind: string, name: string, place: string) => ["office", "tried", kind, name, place] as const,
  officeTrail: (asked: Record<string, string | undefined>) => ["office", "trail", asked] as const,
  me: ["me", "mine"] as const,
  principals: ["office", "principals"] as const,
  readers: (folder: number | null, document: number | null) => ["drive", "readers", folder, document] as const,
  effects: (wishes: Schemas["WishForm"][]) => ["drive", "effects", wishes] as const,
  asSeen: (person: number, folder: number | null) => ["drive", "as", person, folder] as const,
  shared: (byMe: boolean) => ["drive", "shared", byMe] as const,
  restrictedFolders: ["drive", "restricted folders"] as const,
  told: ["me", "told"] as const,
};

/**
 * Ask anew for all of some subjects, as far as it is shown.
 *
 * What is being asked for the first time is left to come in by the library; but its answer may be of before, so it is asked once more.
 */
export async function askAgain(queries: QueryClient, ...subjects: Subject[]): Promise<void> {
  const predicate = ({ queryKey }: { queryKey: readonly unknown[] }) => subjects.includes(queryKey[0] as Subject);
  const first = queries
    .getQueryCache()
    .findAll({ predicate, fetchStatus: "fetching" })
    .filter(({ state }) => state.data === undefined);
  for (const { promise, queryKey } of first) {
    const again = () => queries.invalidateQueries({ queryKey, exact: true });
    promise?.then(again, () => undefined);
  }
  await queries.invalidateQueries({ predicate });
}

/** A change that may touch everything: filing, undoing, what others did. */
export async function askAllAgain(queries: QueryClient): Promise<void> {
  await askAgain(queries, "drive", "arrivals", "manifests", "register", "plans", "office", "me");
}
