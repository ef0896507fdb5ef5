import { describe, expect, it } from "vitest";
import { type Editor, factValue, typedFact } from "./factText";

const parties = [
  { id: 1, name: "Tollgate Timber", short: "tollgate", code: "tt", area: null },
  { id: 2, name: "Gannet Rope", short: "gannet", code: "gr", area: null },
  { id: 3, name: "Gannet Rope Works", short: "works", code: "gr", area: null },
];
const known = { parties };

describe("a fact as it is typed", () => {
  it.each<[Editor, string, unknown]>([
    ["party", "TT", { party: 1 }],
    ["party", " gannet ", { party: 2 }],
    ["person", "Fenn, Ada", { family: "Fenn", given: "Ada" }],
    ["person", "Ana Rosa van-Dorn", { given: "Ana Rosa", family: "van-Dorn" }],
    ["person", "van der Meer, Ada", { given: "Ada", family: "van der Meer" }],
    ["date", "18.3.2026", "2026-03-18"],
    ["date", "2026-04-01", "2026-04-01"],
    ["money", "994,80", { value: "994.80", currency: "GBP" }],
    ["money", "1.234,5 eur", { value: "1234.50", currency: "EUR" }],
    ["number", " 02 ", 2],
    ["code", " TT-1 ", "TT-1"],
    ["text", " Berth four ", "Berth four"],
    ["kind", "Invoice", "invoice"],
  ])("%s %s", (editor, text, value) => expect(factValue(editor, text, known)).toEqual(value));

  it.each<[Editor, string, string]>([
    ["party", "nobody", "no party of the register"],
    ["party", "gr", "no party of the register"],
    ["person", "Ada", "Family, Given"],
    ["person", "Fenn, Ada, Bo", "Family, Given"],
    ["date", "31.2.2026", "is no date"],
    ["date", "soon", "is no date"],
    ["money", "lots", "is no amount"],
    ["money", "GBP", "is no amount"],
    ["number", "two", "no whole number"],
    ["number", "-1", "no whole number"],
  ])("%s %s is told to be wrong", (editor, text, why) => expect(() => factValue(editor, text, known)).toThrow(why));

  it("takes the currency that it had where none is typed", () => {
    expect(factValue("money", "7", { currency: "NOK" })).toEqual({ value: "7.00", currency: "NOK" });
  });

  it("comes back as one would type it, and is read as what it was", () => {
    expect(typedFact("code", null, "")).toBe("");
    for (const [editor, value, display, text] of [
      ["date", "2026-03-18", "18 Mar 2026", "2026-03-18"],
      ["person", { given: "Ada", family: "Fenn" }, "Ada Fenn", "Ada Fenn"],
      ["person", { given: "Ada", family: "van der Meer" }, "Ada van der Meer", "van der Meer, Ada"],
      ["party", { party: 1 }, "Tollgate Timber", "Tollgate Timber"],
      ["money", { value: "1234.50", currency: "EUR" }, "1,234.50 EUR", "1234.50 EUR"],
      ["kind", "invoice", "Invoice", "invoice"],
      ["number", 2, "2", "2"],
    ] as const) {
      expect(typedFact(editor, value, display)).toBe(text);
      expect(factValue(editor, text, known)).toEqual(value);
    }
  });
});
