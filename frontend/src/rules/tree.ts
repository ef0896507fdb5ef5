// A rule as the screen edits it. The server prints it as text, and reads that again: what fits what is said there.
import type { Schemas } from "../api/client";

export type Rule = Schemas["RuleOut"];
export type Action = Schemas["ActionOut"];
export type Test = { subject: string; test: string; values: string[] };
export type Condition = Test | { all: Condition[] } | { any: Condition[] } | { not: Condition };
export type Group = "all" | "any";

export const isTest = (one: Condition): one is Test => "subject" in one;
export const groupOf = (one: Condition): Group | null => ("all" in one ? "all" : "any" in one ? "any" : null);

/** The parts of a group of a sort; of anything else itself alone. */
export function partsOf(one: Condition, group: Group): Condition[] {
  if (group === "all" && "all" in one) return one.all;
  if (group === "any" && "any" in one) return one.any;
  return [one];
}

/** Parts as one condition: one alone is itself; None where there is none. */
export function grouped(group: Group, parts: Condition[]): Condition | null {
  const first = parts[0];
  if (!first) return null;
  if (parts.length === 1) return first;
  const flat = parts.flatMap((part) => partsOf(part, group));
  return group === "all" ? { all: flat } : { any: flat };
}

/** A condition with one more part behind it, joined by a word. */
export function joinedBy(group: Group, condition: Condition | null, part: Condition): Condition {
  return condition ? (grouped(group, [...partsOf(condition, group), part]) ?? part) : part;
}

export const NEW_TEST: Test = { subject: "kind", test: "is", values: [] };
/** Tests that stand without a value. */
export const BARE = ["is known", "is missing", "is sure"];
/** Tests that take one value, and the one that takes two. */
const ONE = [
  "is above",
  "is below",
  "is at least",
  "is at most",
  "is before",
  "is after",
  "is within the last",
  "is within the next",
  "is older than",
  "is in",
];
export const takesOne = (test: string) => ONE.includes(test);
export const BETWEEN = "is between";

/** What a rule does, as a sentence says it, by what the text calls it. */
export const DOES: Record<string, string> = {
  set: "set",
  clear: "clear",
  name: "name it",
  place: "place it in",
  "also file in": "file it in another folder too:",
  "copy to": "copy it to",
  tag: "tag it",
  untag: "take its tag off:",
  archive: "close it",
  ask: "ask",
  leave: "leave it where it is",
};

/** A new action of a sort, empty where something has to be said. */
export function newAction(kind: string): Action {
  const bare = { do: kind, field: null, value: null, pattern: null, tags: null, words: null };
  if (kind === "set") return { ...bare, field: "kind", value: "" };
  if (kind === "clear") return { ...bare, field: "subject" };
  if (kind === "tag" || kind === "untag") return { ...bare, tags: [] };
  if (kind === "ask") return { ...bare, words: "" };
  if (kind === "archive" || kind === "leave") return bare;
  return { ...bare, pattern: "" };
}

/** A rule to begin with, whose ``owner`` answers for it. */
export function newRule(names: readonly string[], owner: string | null): Rule {
  let name = "New rule";
  for (let number = 2; names.includes(name); number++) name = `New rule ${number}`;
  return {
    name,
    line: 0,
    owner,
    purpose: null,
    paused: false,
    on: ["arrival"],
    when: { subject: "kind", test: "is", values: ["invoice"] },
    actions: [{ ...newAction("place"), pattern: "Invoices/<issued yyyy>" }],
    go_on: false,
    before: [],
    comments: {},
    ends: [],
  };
}
