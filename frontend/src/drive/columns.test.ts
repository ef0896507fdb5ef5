import { afterEach, describe, expect, it, vi } from "vitest";
import { ownField } from "../api/queries";
import { COLUMNS, columnsOf, keepColumns, keptColumns } from "./columns";

function browserThatHolds(text: string | null): Map<string, string> {
  const held = new Map(text === null ? [] : [["waka.columns", text]]);
  vi.stubGlobal("localStorage", {
    getItem: (key: string) => held.get(key) ?? null,
    setItem: (key: string, value: string) => held.set(key, value),
  });
  return held;
}

afterEach(() => vi.unstubAllGlobals());

describe("the columns that one keeps", () => {
  it("are the usual ones at first, and where what the browser holds is broken", () => {
    for (const held of [null, "{", "7", '"size"']) {
      browserThatHolds(held);
      expect(keptColumns()).toEqual(["where", "type", "size", "filed", "by"]);
    }
  });

  it("are those that were kept, in their own order, without what is no column", () => {
    const held = browserThatHolds(null);
    keepColumns(["by", "colour", "amount"]);
    expect(held.get("waka.columns")).toContain("amount");
    expect(keptColumns()).toEqual(["amount", "by"]);
  });

  it("stand behind the parts of the name; where a document lies is told with all below only", () => {
    const all = COLUMNS.map((one) => one.key);
    expect(columnsOf(["issued", "ref"], { issued: 0, ref: 1 }, false, all, ownField).map((c) => c.key)).not.toContain(
      "where",
    );
    const below = columnsOf(["issued", "ref"], { issued: 0, ref: 1 }, true, all, ownField).map((c) => c.key);
    expect(below.slice(0, 3)).toEqual(["issued-0", "ref-1", "where"]);
    expect(columnsOf([], {}, true, [], ownField).map((c) => c.key)).toEqual(["name"]);
  });
});
