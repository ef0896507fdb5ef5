// @vitest-environment jsdom
import { fireEvent, screen, waitFor } from "@testing-library/react";
import { beforeEach, expect, it } from "vitest";
import { show } from "../testing/page";
import { bodies, Refusal, serve } from "../testing/server";
import RulesPage from "./RulesPage";

const TEXT = 'rule "One"\n  tag "a"\n';
const rule = {
  name: "One",
  line: 1,
  owner: "Imre",
  purpose: "To see",
  paused: false,
  on: ["arrival"],
  when: null,
  actions: [{ do: "tag", field: null, value: null, pattern: null, tags: ["a"], words: null }],
  go_on: false,
  before: [],
  comments: {},
  ends: [],
};
const checked = { rules: [rule], ends: [], text: TEXT, errors: [], warnings: [] };
const trial = { documents: 0, becomes: {}, differs: {}, lines: [], cut: false };

beforeEach(() => {
  serve({
    "GET /api/plans": { areas: [{ id: 3, name: "Office", keeps: true }] },
    "GET /api/rulebooks/3": {
      area: 3,
      name: "Office",
      keeps: true,
      revision: 1,
      by_itself: false,
      text: TEXT,
      checked,
      revisions: [],
      lets: [],
      let_by: [],
      others: [],
    },
    "GET /api/rulebooks/words": { subjects: [], kinds: ["letter"], currencies: ["GBP"] },
    "GET /api/rulebooks/3/figures": { since: "2026-03-01", until: "2026-03-30", rules: [], outcomes: {} },
    "GET /api/rulebooks/3/offers": { offers: [] },
    "GET /api/parties": { parties: [] },
    "POST /api/rulebooks/3/try": trial,
    "POST /api/rulebooks/3/check": checked,
  });
});

const opened = async () => {
  const user = show(<RulesPage />, "/plan/3/rules", "/plan/:area/rules");
  await screen.findByRole("article", { name: "Rule 1: One" });
  return user;
};
const text = () => screen.getByLabelText("Text of the rules") as HTMLTextAreaElement;
const run = () => screen.getByRole("button", { name: /Run as revision 2/ }) as HTMLButtonElement;

it("says of a text that could not be looked at why, and runs it not", async () => {
  serve({ "POST /api/rulebooks/3/check": new Refusal(422, { code: "form", detail: "The text is too long." }) });
  await opened();
  fireEvent.change(text(), { target: { value: `${TEXT}#` } });
  await screen.findByText("The text is too long.");
  expect(screen.getByText("not looked at")).toBeTruthy();
  expect(run().disabled).toBe(true);
});

it("prints what is changed in the sentence, and takes the text that comes back", async () => {
  const printed = { ...checked, rules: [{ ...rule, paused: true }], text: TEXT.replace("  tag", "  paused\n  tag") };
  serve({ "POST /api/rulebooks/3/print": printed });
  const user = await opened();
  await user.click(screen.getByRole("button", { name: "Pause" }));
  await waitFor(() => expect(text().value).toBe(printed.text));
  expect(bodies("POST /api/rulebooks/3/print")).toHaveLength(1);
  expect(await screen.findByRole("button", { name: "Go on with it" })).toBeTruthy();
});

it("keeps the last sentences while a text with errors is typed", async () => {
  const error = { line: 1, column: 1, length: 3, expected: "a rule", mend: "" };
  serve({ "POST /api/rulebooks/3/check": { ...checked, rules: null, text: null, errors: [error] } });
  await opened();
  fireEvent.change(text(), { target: { value: "rul" } });
  await screen.findByText("1 error");
  expect(screen.getByRole("article", { name: "Rule 1: One" })).toBeTruthy();
  expect(run().disabled).toBe(true);
});
