import { expect, test } from "vitest";
import { added, changed, fieldsOf, moved, partsOf, patternOf, without } from "./patternParts";

test.each([
  "<issued yyyy-MM-dd>_<party short>_<ref>",
  "Invoices/<issued yyyy>/<issued MM>",
  "<person last-first> <task> <attempt 00>?",
  "<party|person last> — <subject>",
  "plain text",
  "",
])("%s is written back as it was", (pattern) => {
  expect(patternOf(partsOf(pattern) ?? [])).toBe(pattern);
});

test.each(["<issued", "issued>", "<>", "<a||b>", "a|b", "<a<b>>"])("%s has no parts, only its text", (pattern) => {
  expect(partsOf(pattern)).toBeNull();
});

test("a pattern's fields are told once each", () => {
  expect(fieldsOf("<party|person last>_<issued yyyy>-<issued MM>?")).toEqual(["party", "person", "issued"]);
  expect(fieldsOf("<party")).toEqual([]);
});

test("parts are changed, moved, taken out and put in", () => {
  const parts = partsOf("<issued>_<ref>") ?? [];
  expect(patternOf(changed(parts, 0, { slot: [{ field: "due", shape: "yyyy" }], optional: true }))).toBe(
    "<due yyyy>?_<ref>",
  );
  expect(patternOf(changed(parts, 1, { text: "" }))).toBe("<issued><ref>");
  const right = moved(parts, 0, 1);
  expect([patternOf(right.parts), right.at]).toEqual(["<ref>_<issued>", 2]);
  expect(moved(parts, 0, -1)).toEqual({ parts, at: 0 });
  for (const [pattern, at, left] of [
    ["<issued>_<ref>", 0, "<ref>"],
    ["<issued>_<ref>", 2, "<issued>"],
    ["Invoices/<issued>", 1, "Invoices/"],
    ["a<x>b", 1, "ab"],
    ["No. <n>, <ref>", 1, "No, <ref>"],
  ] as const)
    expect(patternOf(without(partsOf(pattern) ?? [], at))).toBe(left);
  expect(patternOf(added(parts, "party", "short"))).toBe("<issued>_<ref>_<party short>");
  expect(patternOf(added([], "name", ""))).toBe("<name>");
});
