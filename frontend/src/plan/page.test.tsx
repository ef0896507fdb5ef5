// @vitest-environment jsdom
import { cleanup, screen, waitFor } from "@testing-library/react";
import { beforeEach, describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { choose, notice, pick, show } from "../testing/page";
import { bodies, Refusal, serve } from "../testing/server";
import { VOCABULARY } from "../testing/vocabulary";
import PlanPage from "./PlanPage";

const KEEP = "PUT /api/plans/3";
const letter = { kind: "letter", label: "Letter", name: "<issued>_<subject>", place: "Letters", fit: 4, of: 4 };
const revisions = (count: number): Schemas["PlanRevisionOut"][] =>
  Array.from({ length: count }, (_, n) => ({
    revision: count - n,
    at: "2026-03-18T09:00:00Z",
    by: "Imre",
    changed: [],
  }));
const aPlan = (revision: number, more: object = {}) => ({
  area: 3,
  name: "Office",
  revision,
  keeps: true,
  kinds: [{ ...letter, expects: ["subject"] }],
  revisions: revisions(revision),
  limits: { loose: 40, thin: 6, few: 2 },
  composing: { characters: 80, narrow: false },
  month_first: false,
  ...more,
});

let plan = aPlan(2);
beforeEach(() => {
  plan = aPlan(2);
  serve({
    "GET /api/plans": { areas: [{ id: 3, name: "Office" }] },
    "GET /api/plans/3": () => plan,
    "GET /api/vocabulary": VOCABULARY,
    "POST /api/plans/3/try": { fit: 4, of: 4, warnings: [], examples: [] },
  });
});
const opened = async () => {
  const user = show(<PlanPage />, "/plan/3", "/plan/:area");
  await screen.findByRole("heading", { name: "Letter" });
  return user;
};
const radio = (name: string) => screen.getByRole<HTMLInputElement>("radio", { name });
const button = (called: string | RegExp) => screen.getByRole("button", { name: called }) as HTMLButtonElement;
const name = () => screen.getByLabelText("Name") as HTMLInputElement;
const loose = () => screen.getByLabelText("Loose documents on a level") as HTMLInputElement;

describe("the plan of an area", () => {
  it("is changed in one part after another: each is kept on top of what the screen shows", async () => {
    let answer = (_: unknown) => {};
    serve({ [KEEP]: () => new Promise((kept) => (answer = kept)) });
    const user = await opened();
    await user.click(button("Restore it"));
    await waitFor(() => expect(radio("month first: 4 March").disabled).toBe(true));
    expect(button("Restore it").disabled).toBe(true);
    await pick(user, "month first: 4 March");
    plan = aPlan(3);
    answer(plan);
    await waitFor(() => expect(notice()).toContain("The plan is as in revision 1 again, saved as revision 3."));
    // what was kept stands there as soon as it is told
    expect(screen.getAllByRole("button", { name: "Restore it" })).toHaveLength(2);
    await waitFor(() => expect(radio("month first: 4 March").disabled).toBe(false));
    serve({ [KEEP]: () => aPlan(4, { month_first: true }) });
    await pick(user, "month first: 4 March");
    await waitFor(() => expect(bodies(KEEP)).toHaveLength(2));
    expect(bodies(KEEP)).toEqual([
      expect.objectContaining({ revision: 2, back_to: 1 }),
      expect.objectContaining({ revision: 3, month_first: true }),
    ]);
  });

  it("that somebody else changed meanwhile is shown; what one typed stays, in every part", async () => {
    const user = await opened();
    await user.type(name(), "_x");
    await user.clear(loose());
    await user.type(loose(), "90");
    plan = aPlan(3, {
      kinds: [{ ...letter, name: "<subject>", place: "Post", expects: ["subject"] }],
      limits: { loose: 50, thin: 6, few: 2 },
      composing: { characters: 60, narrow: true },
    });
    serve({ [KEEP]: new Refusal(409, { detail: "Odalys kept revision 3 at 9:12." }) });
    await waitFor(() => expect(button("Save as revision 3").disabled).toBe(false));
    await user.click(button("Save as revision 3"));
    await waitFor(() => expect(notice()).toContain("Odalys kept revision 3 at 9:12."));
    await waitFor(() => expect(button("Save as revision 4").disabled).toBe(false));
    expect([name().value, loose().value]).toEqual(["<issued>_<subject>_x", "90"]);
    // what one did not touch is as the other kept it
    expect((screen.getByLabelText("Place in Office") as HTMLInputElement).value).toBe("Post");
    expect((screen.getByLabelText("Characters of a composed name") as HTMLInputElement).value).toBe("60");
    await user.click(button("Reset"));
    expect(name().value).toBe("<subject>");
  });

  it("has what one typed when one comes back, and says at which kind something is not kept", async () => {
    const user = await opened();
    const row = () => screen.getByRole("row", { name: /^Letter/ }).textContent;
    expect(row()).not.toContain("not saved yet");
    await user.type(name(), "_x");
    expect(row()).toContain("not saved yet");
    await user.clear(loose());
    cleanup();
    await opened();
    expect([name().value, loose().value]).toEqual(["<issued>_<subject>_x", ""]);
    await user.click(button("Reset"));
    await user.click(button("Reset: the limits"));
    expect([name().value, loose().value]).toEqual(["<issued>_<subject>", "40"]);
    expect(row()).not.toContain("not saved yet");
  });

  it("shows what was kept where that is not quite what was typed", async () => {
    serve({ [KEEP]: () => (plan = aPlan(3, { kinds: [{ ...letter, name: "<subject>", expects: ["subject"] }] })) });
    const user = await opened();
    await user.clear(name());
    await user.type(name(), "<<subject> ");
    await waitFor(() => expect(button("Save as revision 3").disabled).toBe(false));
    await user.click(button("Save as revision 3"));
    await waitFor(() => expect(notice()).toContain("Saved as revision 3"));
    await waitFor(() => expect(name().value).toBe("<subject>"));
    expect(button("Save as revision 4").disabled).toBe(true);
  });

  it("chooses a kind by its whole row, and saves all that were changed in one revision", async () => {
    const bill = { kind: "invoice", label: "Invoice", name: "<ref>", place: "Bills", fit: 1, of: 1, expects: [] };
    plan = aPlan(2, { kinds: [{ ...letter, expects: ["subject"] }, bill] });
    serve({
      [KEEP]: () => (plan = aPlan(3, { kinds: [{ ...letter, name: "<subject>", expects: ["subject"] }, bill] })),
    });
    const user = await opened();
    await user.clear(name());
    await user.paste("<subject>");
    expect(screen.queryByText(/are changed and not saved/)).toBeNull();
    await user.click(screen.getByText("Bills"));
    await screen.findByRole("heading", { name: "Invoice" });
    await user.clear(name());
    await user.paste("<ref>_b");
    await screen.findByText("2 kinds are changed and not saved.");
    await user.click(button("Save all 2 as revision 3"));
    await waitFor(() =>
      expect(bodies(KEEP)[0]).toMatchObject({
        revision: 2,
        kinds: {
          letter: { name: "<subject>", place: "Letters", expects: ["subject"] },
          invoice: { name: "<ref>_b", place: "Bills", expects: [] },
        },
      }),
    );
    await waitFor(() => expect(screen.queryByText(/are changed and not saved/)).toBeNull());
  });

  it("says which kind keeps all from being saved", async () => {
    const bill = { kind: "invoice", label: "Invoice", name: "<ref>", place: "Bills", fit: 1, of: 1, expects: [] };
    plan = aPlan(2, { kinds: [{ ...letter, expects: ["subject"] }, bill] });
    const user = await opened();
    await user.clear(name());
    await user.click(screen.getByText("Bills"));
    await screen.findByRole("heading", { name: "Invoice" });
    await user.clear(name());
    await user.paste("<ref>_b");
    expect(await screen.findByText("Letter needs both patterns, or none.")).toBeTruthy();
    expect(button("Save all 2 as revision 3").disabled).toBe(true);
  });

  it("takes over the plan of another area", async () => {
    const other = { kind: "letter", label: "Letter", name: "<ref>", place: "L", fit: 0, of: 0, expects: ["ref"] };
    serve({
      "GET /api/plans": {
        areas: [
          { id: 3, name: "Office" },
          { id: 4, name: "Yard" },
        ],
      },
      "GET /api/plans/4": aPlan(7, { area: 4, name: "Yard", kinds: [other], month_first: true }),
      [KEEP]: () => (plan = aPlan(3, { kinds: [other] })),
    });
    const user = await opened();
    await choose(user, "Same plan as", "Yard");
    await waitFor(() =>
      expect(bodies(KEEP)[0]).toMatchObject({
        revision: 2,
        kinds: { letter: { name: "<ref>", place: "L", expects: ["ref"] } },
        month_first: true,
      }),
    );
    expect(notice()).toContain("The plan of Office is as that of Yard, saved as revision 3.");
  });
});
