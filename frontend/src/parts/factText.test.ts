import { describe, expect, it } from "vitest";
import { factValue, typedFact } from "./factText";

const PARTIES = [
  { id: 1, name: "Tollgate Timber", short: "tollgate", code: "tt", area: null },
  { id: 2, name: "Gannet Rope", short: "gannet", code: "gr", area: null },
  { id: 3, name: "Gannet Rope Works", short: "works", code: "gr", area: null },
];

describe("a fact as it is typed", () => {
  it.each([
    ["party", "TT", { party: 1 }],
    ["party", " gannet ", { party: 2 }],
    ["person", "Fenn, Ada", { family: "Fenn", given: "Ada" }],
    ["issued", "18.3.2026", "2026-03-18"],
    ["due", "2026-04-01", "2026-04-01"],
    ["attempt", " 02 ", 2],
    ["ref", " TT-1 ", "TT-1"],
    ["kind", "Invoice", "invoice"],
  ])("%s %s", (field, text, value) => expect(factValue(field, text, PARTIES)).toEqual(value));

  it.each([
    ["party", "nobody", "no party of the register"],
    ["party", "gr", "no party of the register"],
    ["person", "Ada", "Family, Given"],
    ["issued", "31.2.2026", "is no date"],
    ["attempt", "two", "no whole number"],
  ])("%s %s is told to be wrong", (field, text, why) => expect(() => factValue(field, text, PARTIES)).toThrow(why));

  it("comes back as one would type it", () => {
    expect(typedFact("issued", "2026-03-18", "18 Mar 2026")).toBe("2026-03-18");
    expect(typedFact("person", { family: "Fenn", given: "Ada" }, "Ada Fenn")).toBe("Fenn, Ada");
    expect(typedFact("party", { party: 1 }, "Tollgate Timber")).toBe("Tollgate Timber");
    expect(typedFact("ref", null, "")).toBe("");
    for (const [field, text] of [
      ["issued", "2026-03-18"],
      ["person", "Fenn, Ada"],
      ["party", "Tollgate Timber"],
      ["kind", "invoice"],
    ] as const) {
      const value = factValue(field, text, PARTIES);
      expect(typedFact(field, value, text)).toBe(text);
    }
  });
});
