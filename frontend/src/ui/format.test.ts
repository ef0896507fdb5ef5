import { describe, expect, it } from "vitest";
import { ago, cut, day, moment, parseAmount, parseDay, readingsOfDay, several, size, stemOf } from "./format";

describe("dates", () => {
  it("shows a day with its month by name", () => {
    expect(day("2026-03-08")).toBe("8 Mar 2026");
    expect(day("no date")).toBe("no date");
  });
  it.each([
    ["2026-03-18", "2026-03-18"],
    ["18.3.2026", "2026-03-18"],
    ["18/03/26", "2026-03-18"],
    ["18 mar 2026", "2026-03-18"],
    ["1 September 2025", "2025-09-01"],
  ])("reads %s as typed, the day first", (typed, iso) => expect(parseDay(typed)).toBe(iso));
  it.each(["30.2.2026", "18.13.2026", "18 xyz 2026", "soon", "", "2026-02-29"])(
    "does not take %s for a date",
    (typed) => expect(parseDay(typed)).toBeUndefined(),
  );
  it.each([
    ["03-04-26", ["2026-04-03", "2026-03-04"]],
    ["3.4.2026", ["2026-04-03", "2026-03-04"]],
    ["18-04-26", ["2026-04-18"]],
    ["04-18-26", ["2026-04-18"]],
    ["04-04-26", ["2026-04-04"]],
    ["2026-04-03", ["2026-04-03"]],
    ["3 Apr 2026", ["2026-04-03"]],
    ["31-13-26", []],
    ["soon", []],
  ])("reads %s in every way that it can be meant", (typed, days) => expect(readingsOfDay(typed)).toEqual(days));
  it("tells how long ago", () => {
    const now = new Date("2026-03-20T12:00:00Z");
    expect(ago("2026-03-20T11:52:00Z", now)).toBe("8 min");
    expect(ago("2026-03-20T07:00:00Z", now)).toBe("5 h");
    expect(ago("2026-03-19T07:00:00Z", now)).toBe("yesterday");
    expect(moment("2025-03-19T12:00:00Z", now)).toBe("19 Mar 2025");
  });
});

describe("amounts", () => {
  it.each([
    ["994.80", "994.80"],
    ["1.234,5", "1234.50"],
    ["1,234.50", "1234.50"],
    ["1 234,50", "1234.50"],
    ["-12", "-12."],
  ])("reads %s with either decimal mark", (typed, value) =>
    expect(parseAmount(typed)).toBe(value === "-12." ? "-12.00" : value),
  );
  it.each(["1.234.50x", "", "abc", "1,23,4"])("does not take %s for an amount", (typed) =>
    expect(parseAmount(typed)).toBeUndefined(),
  );
});

describe("names and sizes", () => {
  it("cuts a long name in the middle and keeps its end", () => {
    const name = "2026-03-18_a-very-long-name-of-a-document_TT-40917.pdf";
    const short = cut(name, 30);
    expect(short).toHaveLength(30);
    expect(short.endsWith("TT-40917.pdf")).toBe(true);
    expect(cut("short.pdf", 30)).toBe("short.pdf");
  });
  it("shows bytes in decimal units", () =>
    expect([size(900), size(1_940), size(96_400), size(1_100_000)]).toEqual(["900 B", "1.9 kB", "96 kB", "1.1 MB"]));
});

describe("so many of something", () => {
  it("is said in one or in many, with marks of thousands", () => {
    expect(several(1, "line")).toBe("1 line");
    expect(several(0, "line")).toBe("0 lines");
    expect(several(1200, "document")).toBe("1,200 documents");
  });
});

describe("the stem of a name", () => {
  it.each([
    ["keel.pdf", "keel"],
    ["keel.tar.gz", "keel.tar"],
    [".hidden", ".hidden"],
    ["no ending", "no ending"],
  ])("of %s is %s", (name, stem) => expect(stemOf(name)).toBe(stem));
});
