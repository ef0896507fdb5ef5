import { describe, expect, it } from "vitest";
import { matching } from "./known";

describe("what is offered while one types", () => {
  const people = ["Tavi Esker", "Ada Fenn", "Tavira Eskola", "Zoë Marram"];

  it("is found whatever the order of the words, the very words first", () => {
    expect(matching(people, "Esker Tavi")).toEqual(["Tavi Esker"]);
    expect(matching(people, "esk tav")).toEqual(["Tavi Esker", "Tavira Eskola"]);
    expect(matching(["Boats and carpentry", "Boat carpentry"], "boat carpentry")).toEqual([
      "Boat carpentry",
      "Boats and carpentry",
    ]);
  });
  it("is found without accents, and by the beginnings of words only", () => {
    expect(matching(people, "zoe")).toEqual(["Zoë Marram"]);
    expect(matching(people, "enn")).toEqual([]);
  });
  it("counts a word that is typed twice twice", () => {
    expect(matching(["Ada Fenn"], "ada ada")).toEqual([]);
    expect(matching(["Ada Adams"], "ada ada")).toEqual(["Ada Adams"]);
  });
  it("is nothing where nothing is typed, and never more than can be looked through", () => {
    expect(matching(people, "  ")).toEqual([]);
    expect(
      matching(
        Array.from({ length: 30 }, (_, n) => `Keel ${n}`),
        "keel",
      ),
    ).toHaveLength(8);
  });
});
