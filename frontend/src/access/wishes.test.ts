import { expect, test } from "vitest";
import type { Schemas } from "../api/client";
import { asked, count, dropped, NONE, restricting, wished } from "./wishes";

const read = { level: "read" as const, until: null };
const wish = (to: typeof read | null, had: typeof read | null = null) => ({
  principal: 3,
  name: "Lise",
  had,
  to,
  word: "",
});
const row = (part: Partial<Schemas["ReaderOut"]>): Schemas["ReaderOut"] => ({
  id: 1,
  kind: "person",
  name: "Imre",
  login: "imre",
  level: "keep",
  here: null,
  people: [],
  sources: [
    {
      level: "keep",
      until: null,
      here: false,
      folder: 4,
      path: "Office",
      root: false,
      group: null,
      given_by: null,
      given_at: null,
      word: "",
    },
  ],
  ...part,
});

test("a wish takes the place of one for the same person, and goes when it changes nothing", () => {
  const first = wished(NONE, wish(read));
  const second = wished(first, wish({ level: "read", until: "2026-12-24" } as unknown as typeof read));
  expect(second.given.map((one) => one.to?.until)).toEqual(["2026-12-24"]);
  expect(wished(second, wish(null)).given).toEqual([]);
  expect(dropped(second, 3).given).toEqual([]);
});

test("who keeps a folder by what is above is given keep when it is restricted, administrators are not", () => {
  const root = row({ id: 2, name: "Petra", sources: row({}).sources.map((one) => ({ ...one, root: true })) });
  const here = row({ id: 5, here: { level: "keep", until: null } });
  const told = restricting(NONE, true, false, [row({}), root, here, row({ id: 6, level: "file" })]);
  expect(told.given.map((one) => one.name)).toEqual(["Imre"]);
  expect(count(told)).toBe(2);
  expect(restricting(told, false, false, []).restricted).toBeNull();
});

test("what was seen goes along, so that somebody else's change is not overwritten", () => {
  const wishes = { ...wished(NONE, wish(null, read)), restricted: true };
  expect(asked(wishes, { folder: 9, document: null })).toMatchObject([
    { folder: 9, principal: 3, level: null, seen: read, stale: true },
    { folder: 9, principal: null, restricted: true, stale: true },
  ]);
});
