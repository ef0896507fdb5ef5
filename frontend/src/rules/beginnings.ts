import { useMemo } from "react";
import { newAction, newRule, type Rule } from "./tree";

/** Three rules to begin from, where an area has none. */
export function useNewRules(owner: string): Rule[] {
  return useMemo(() => {
    const rule = (part: Partial<Rule>): Rule => ({ ...newRule([], owner), ...part });
    const pattern = (kind: string, text: string) => ({ ...newAction(kind), pattern: text });
    return [
      rule({
        name: "Bills of known suppliers",
        purpose: "What asks for money, by year and month",
        when: {
          all: [
            { subject: "kind", test: "is", values: ["invoice", "credit note"] },
            { subject: "party", test: "is known", values: [] },
          ],
        },
        actions: [
          pattern("name", "<issued yyyy-MM-dd>_<party short>_<ref>"),
          pattern("place", "Invoices/<issued yyyy>/<issued MM>"),
          { ...newAction("tag"), tags: ["to pay"] },
        ],
      }),
      rule({
        name: "Large sums",
        purpose: "Two look at what costs much",
        when: { subject: "amount", test: "is at least", values: ["1000 GBP"] },
        actions: [{ ...newAction("tag"), tags: ["two signatures"] }],
        go_on: true,
      }),
      rule({
        name: "All else by mail",
        purpose: "A person says what it is",
        when: { subject: "source", test: "is", values: ["mail"] },
        actions: [{ ...newAction("ask"), words: "Whose is it, and what is it for?" }],
      }),
    ];
  }, [owner]);
}
