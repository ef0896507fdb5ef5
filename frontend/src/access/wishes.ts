// Changes of who reads something that are gathered before they are done: one for each person or group, and whether it is restricted.
import type { Schemas } from "../api/client";

export type Level = Schemas["RightOut"]["level"];
export const LEVELS: readonly Level[] = ["read", "comment", "file", "keep"];
export type Right = { level: Level; until: string | null };
export type Wish = { principal: number; name: string; had: Right | null; to: Right | null; word: string };
export type Wishes = { given: Wish[]; restricted: boolean | null };
export const NONE: Wishes = { given: [], restricted: null };

const same = (a: Right | null, b: Right | null) => a?.level === b?.level && (a?.until ?? null) === (b?.until ?? null);

/** One more wish: it takes the place of one for the same person; one that changes nothing goes. */
export function wished(now: Wishes, wish: Wish): Wishes {
  const others = now.given.filter((one) => one.principal !== wish.principal);
  return { ...now, given: same(wish.had, wish.to) ? others : [...others, wish] };
}

export function dropped(now: Wishes, principal: number): Wishes {
  return { ...now, given: now.given.filter((one) => one.principal !== principal) };
}

/** Restricted or not; with a restriction those who keep it by what is above are given keep here, so that somebody does. */
export function restricting(now: Wishes, restricted: boolean, was: boolean, rows: Schemas["ReaderOut"][]): Wishes {
  if (restricted === was) return { ...now, restricted: null };
  if (!restricted) return { ...now, restricted };
  const keepers = rows.filter(
    (row) =>
      row.kind === "person" &&
      row.level === "keep" &&
      row.here?.level !== "keep" &&
      row.sources.some((one) => one.level === "keep" && !one.root && !one.here) &&
      !now.given.some((one) => one.principal === row.id),
  );
  const given = keepers.map((row) => ({
    principal: row.id,
    name: row.name,
    had: row.here,
    to: { level: "keep" as const, until: null },
    word: "",
  }));
  return { given: [...now.given, ...given], restricted };
}

export function count(wishes: Wishes): number {
  return wishes.given.length + (wishes.restricted === null ? 0 : 1);
}

/** What is asked of the server: each with what was seen there, so that somebody else's change is not overwritten. */
export function asked(
  wishes: Wishes,
  thing: { folder: number | null; document: number | null },
): Schemas["WishForm"][] {
  const blank = { ...thing, entry: null, stale: true };
  const given = wishes.given.map((one) => ({
    ...blank,
    principal: one.principal,
    level: one.to?.level ?? null,
    until: one.to?.until ?? null,
    word: one.word,
    restricted: null,
    seen: one.had,
  }));
  if (wishes.restricted === null) return given;
  const whole = { principal: null, level: null, until: null, word: "", seen: null };
  return [...given, { ...blank, ...whole, restricted: wishes.restricted }];
}
