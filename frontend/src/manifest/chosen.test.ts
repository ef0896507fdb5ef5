import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { type Chosen, chosenOf, NOTHING, orderOf, planningLike, planningOf, type Way, wayOf } from "./chosen";

const query = (address: string) => new URL(address, "http://waka.test").searchParams;
const of = (address: string) => chosenOf(query(address));
const REWRITE: Way = {
  do: "rewrite",
  reads: "<n digits> <rest>",
  prints: "Sheets & more/<rest>",
  placing: false,
  base: null,
  remove_emptied: true,
  borrow: null,
  rules: "",
};
const SEARCH = { words: "larch", kind: null, party: 4, year: 2026, below: null, tag: null, names: null };

beforeEach(() => {
  const kept = new Map<string, string>();
  const storage = {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
  };
  vi.stubGlobal("window", { sessionStorage: storage });
});
afterEach(() => vi.unstubAllGlobals());

describe("what a manifest is planned for", () => {
  it("is a folder, here or with all below", () => {
    expect(of(planningOf(7, false, new Set()))).toMatchObject({ folder: 7, below: false, entries: [], search: null });
    expect(of(planningOf(7, true, new Set()))).toMatchObject({ folder: 7, below: true });
  });

  it("is the marked places, however many: the tab keeps their numbers", () => {
    const marks = new Set(Array.from({ length: 5000 }, (_, n) => n + 1));
    const address = planningOf(7, true, marks);
    expect(address.length).toBeLessThan(100);
    expect(of(address)).toMatchObject({ folder: null, below: false });
    expect(of(address)?.entries).toHaveLength(5000);
  });

  it.each<[Chosen, Way]>([
    [{ ...NOTHING, folder: 7 }, REWRITE],
    [
      { ...NOTHING, folder: 7, below: true, order: "issued" },
      { ...REWRITE, do: "plan", reads: "", prints: "", placing: true },
    ],
    [
      { ...NOTHING, entries: [3, 4, 5] },
      { ...REWRITE, do: "place", reads: "", prints: "<issued yyyy>", base: 9 },
    ],
    [
      { ...NOTHING, search: SEARCH },
      { ...REWRITE, remove_emptied: false },
    ],
    [{ ...NOTHING, search: { ...SEARCH, below: 3, names: "shared" } }, REWRITE],
  ])("is begun again as it was: %o, %o", (chosen, way) => {
    const address = planningLike(chosen, way) ?? "";
    expect({ ...of(address), order: orderOf(query(address)) }).toEqual(chosen);
    expect(wayOf(query(address))).toEqual(way);
  });

  it("is not begun again where no address can say it", () => {
    expect(planningLike(NOTHING, REWRITE)).toBeNull();
    expect(planningLike({ ...NOTHING, folder: 7 }, { ...REWRITE, do: "merge" })).toBeNull();
  });

  it("is nothing where another tab kept them", () => expect(of("/manifests/new?folder=7&chosen=1")).toBeNull());

  it("is a search by any of its parts, and nothing where none is said", () => {
    expect(of("/manifests/new?q=larch&year=2026")?.search).toMatchObject({ words: "larch", year: 2026, kind: null });
    expect(of("/manifests/new?tag=to+pay")?.search).toMatchObject({ tag: "to pay", words: "" });
    expect(of("/manifests/new?in=3&q=larch")?.search).toMatchObject({ below: 3, names: null });
    expect(of("/manifests/new?in=3")).toBeNull();
    expect(of("/manifests/new?names=empty")?.search).toMatchObject({ names: "empty", below: null });
    expect(of("/manifests/new?names=nice")).toBeNull();
    expect(of("/manifests/new?party=x")).toBeNull();
    expect(of("/manifests/new?q=+")).toBeNull();
    expect(of("/manifests/new")).toBeNull();
  });
});
