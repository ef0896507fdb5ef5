import { expect, it } from "vitest";
import { type Condition, grouped, groupOf, joinedBy, newAction, newRule, takesOne } from "./tree";

const test = (subject: string): Condition => ({ subject, test: "is known", values: [] });

it("joins a further part to a group of the same word, and puts another group into brackets", () => {
  const both = joinedBy("all", joinedBy("all", test("kind"), test("party")), test("ref"));
  expect(both).toEqual({ all: [test("kind"), test("party"), test("ref")] });
  expect(joinedBy("any", both, test("due"))).toEqual({ any: [both, test("due")] });
  expect(joinedBy("any", null, test("due"))).toEqual(test("due"));
});

it("leaves no brackets round one part, and nothing where nothing is left", () => {
  expect(grouped("all", [test("kind")])).toEqual(test("kind"));
  expect(grouped("any", [])).toBeNull();
  expect(grouped("any", [{ any: [test("a"), test("b")] }, test("c")])).toEqual({
    any: [test("a"), test("b"), test("c")],
  });
  expect(groupOf(test("kind"))).toBeNull();
});

it("gives a new rule a name that none has, and actions what they need", () => {
  expect(newRule(["New rule", "New rule 2"], "Imre").name).toBe("New rule 3");
  expect(newRule([], "Imre").owner).toBe("Imre");
  expect(newAction("tag").tags).toEqual([]);
  expect(newAction("place").pattern).toBe("");
  expect(newAction("leave")).toMatchObject({ do: "leave", pattern: null, words: null });
});

it("knows which tests take one value", () => {
  expect(takesOne("is at least")).toBe(true);
  expect(takesOne("contains")).toBe(false);
});
