import { describe, expect, it } from "vitest";
import { typedValue } from "./FactLine";

describe("what is typed into a fact's field", () => {
  it.each([
    ["issued", "18.3.2026", { value: "2026-03-18" }],
    ["issued", "  ", { value: null }],
    ["amount", "994,80", { value: { value: "994.80", currency: "GBP" } }],
    ["amount", "1.234,5 eur", { value: { value: "1234.50", currency: "EUR" } }],
    ["person", "Ana Rosa van-Dorn", { value: { given: "Ana Rosa", family: "van-Dorn" } }],
    ["attempt", "2", { value: 2 }],
    ["ref", " TT-40917 ", { value: "TT-40917" }],
    ["subject", "", { value: null }],
  ])("%s “%s”", (field, typed, expected) => expect(typedValue(field, typed, "GBP")).toEqual(expected));

  it.each([
    ["issued", "30.2.2026"],
    ["issued", "soon"],
    ["amount", "lots"],
    ["amount", "GBP"],
    ["person", "Lise"],
    ["attempt", "second"],
    ["attempt", "-1"],
  ])("%s “%s” is refused in words", (field, typed) => {
    const read = typedValue(field, typed, "GBP");
    expect("why" in read && read.why.length > 10).toBe(true);
  });
});
