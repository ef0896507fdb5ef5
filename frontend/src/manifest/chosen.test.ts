import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { chosenOf, planningOf } from "./chosen";

const of = (address: string) => chosenOf(new URL(address, "http://waka.test").searchParams);

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

  it("is nothing where another tab kept them", () => expect(of("/manifests/new?folder=7&chosen=1")).toBeNull());

  it("is a search by any of its parts, and nothing where none is said", () => {
    expect(of("/manifests/new?q=larch&year=2026")?.search).toMatchObject({ words: "larch", year: 2026, kind: null });
    expect(of("/manifests/new?tag=to+pay")?.search).toMatchObject({ tag: "to pay", words: "" });
    expect(of("/manifests/new?party=x")).toBeNull();
    expect(of("/manifests/new?q=+")).toBeNull();
    expect(of("/manifests/new")).toBeNull();
  });
});
