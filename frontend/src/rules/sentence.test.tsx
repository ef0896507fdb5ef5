// @vitest-environment jsdom
import { render } from "@testing-library/react";
import { expect, it } from "vitest";
import { DayBars } from "./DayBars";
import { Sentence } from "./Sentence";
import { newAction, newRule, type Rule } from "./tree";

const said = (rule: Partial<Rule>) =>
  render(<Sentence rule={{ ...newRule([], null), ...rule }} />).container.textContent;

it("reads as a sentence, with brackets where another word joins", () => {
  const when = {
    all: [
      { subject: "kind", test: "is", values: ["invoice", "credit note"] },
      {
        any: [
          { subject: "amount", test: "is above", values: ["0 GBP"] },
          { not: { subject: "ref", test: "is known", values: [] } },
        ],
      },
    ],
  };
  const actions = [
    { ...newAction("place"), pattern: "Invoices/<issued yyyy>" },
    { ...newAction("tag"), tags: ["to pay", "new"] },
  ];
  expect(said({ when, actions })).toBe(
    "When kind is invoice or credit note and (amount is above 0 GBP or not ref is known), place it in Invoices/<issued yyyy> and tag it to pay, new.",
  );
});

it("says always, goes on, asks, sets and clears", () => {
  const actions = [
    { ...newAction("set"), field: "kind", value: "letter" },
    { ...newAction("clear"), field: "due" },
    { ...newAction("ask"), words: "Whose?" },
  ];
  expect(said({ when: null, actions, go_on: true })).toBe(
    "Always set kind to letter, clear due, ask “Whose?”, then go on to the next rule.",
  );
});

it("says until when it is paused", () => {
  expect(said({ paused: "until May" })).toBe("Paused: until May");
  expect(said({ paused: true })).toBe("Paused.");
});

it("draws a bar a day, and tells them to who does not see", () => {
  const days = [{ day: "2026-03-18", done: 3, asked: 1, failed: 0, undone: 1 }];
  const { container } = render(<DayBars days={days} since="2026-03-17" until="2026-03-19" label="Bills" />);
  expect(container.querySelectorAll("rect.none")).toHaveLength(2);
  expect(container.querySelectorAll("g")).toHaveLength(1);
  expect(container.querySelector("svg")?.getAttribute("aria-label")).toBe(
    "Bills by day: 2026-03-18: 3 done, 1 asked, 0 failed",
  );
});
