// @vitest-environment jsdom
import { screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { choose, notice, show } from "../testing/page";
import { bodies, Refusal, serve } from "../testing/server";
import { VOCABULARY } from "../testing/vocabulary";
import { KindEditor } from "./KindEditor";

const TRY = "POST /api/plans/3/try";
const KEEP = "PUT /api/plans/3";
const kind: Schemas["KindPlanOut"] = {
  kind: "invoice",
  label: "Invoice",
  name: "<issued>_<ref>",
  place: "Invoices",
  expects: ["issued", "ref"],
  fit: 40,
  of: 48,
};
const tried = { fit: 40, of: 48, warnings: [], examples: [] };

function editing(answer: unknown = tried, keeps = true) {
  serve({
    "GET /api/vocabulary": VOCABULARY,
    [TRY]: answer,
  });
  const plan = { area: 3, name: "Office", revision: 6, keeps, kinds: [kind] } as unknown as Schemas["PlanOut"];
  return show(<KindEditor plan={plan} kind={kind} />);
}
const name = () => screen.getByLabelText("Name") as HTMLInputElement;
const button = (called: string | RegExp) => screen.getByRole("button", { name: called }) as HTMLButtonElement;

describe("the patterns of a kind", () => {
  it("are tried on the area's own documents while one types", async () => {
    const user = editing({
      ...tried,
      warnings: ["Names of 3 documents would be the same."],
      examples: [
        { document: 1, now: "scan.pdf", place: "Invoices", name: "2026-03-18_SHF-1.pdf", why: null },
        { document: 2, now: "bill.pdf", place: "", name: "", why: "its reference is not known" },
      ],
    });
    expect(await screen.findByText("2026-03-18_SHF-1.pdf")).toBeTruthy();
    expect(screen.getByText("its reference is not known")).toBeTruthy();
    expect(screen.getByText("Names of 3 documents would be the same.")).toBeTruthy();
    expect(screen.getByRole("link", { name: "name the others by the plan" }).getAttribute("href")).toBe(
      "/manifests/new?folder=3&below=true&do=plan",
    );
    await user.type(name(), "_x");
    await waitFor(() =>
      expect(bodies(TRY).at(-1)).toEqual({ kind: "invoice", name: "<issued>_<ref>_x", place: "Invoices" }),
    );
    // what is not saved yet names nothing
    expect(screen.queryByRole("link", { name: "name the others by the plan" })).toBeNull();
  });

  it("say so where no document could fit them yet", async () => {
    editing({ ...tried, fit: 0, of: 0 });
    expect(await screen.findByText("No document of this kind is filed in Office yet.")).toBeTruthy();
    expect(screen.queryByText(/names fit/)).toBeNull();
  });

  it("are kept on top of the revision that one saw", async () => {
    const kept = { ...kind, name: "<issued>_<ref>_x" };
    serve({ [KEEP]: { area: 3, kinds: [kept] } });
    const user = editing();
    expect(button("Save as revision 7").disabled).toBe(true);
    await user.type(name(), "_x");
    await waitFor(() => expect(button("Save as revision 7").disabled).toBe(false));
    await user.click(button("Save as revision 7"));
    await waitFor(() => expect(notice()).toContain("Saved as revision 7 of the plan of Office."));
    expect(bodies(KEEP)).toEqual([
      expect.objectContaining({
        revision: 6,
        kinds: { invoice: { name: "<issued>_<ref>_x", place: "Invoices", expects: ["issued", "ref"] } },
      }),
    ]);
  });

  it("that are wrong say so at their place, and cannot be kept", async () => {
    const problem = { detail: "“tu” is not a field.", code: "pattern", field: "name", at: 16 };
    const user = editing((body: { name: string }) => (body.name.includes("tu") ? new Refusal(422, problem) : tried));
    await user.type(name(), "_<tu>");
    const told = await screen.findByRole("alert");
    expect(told.textContent).toContain("“tu” is not a field.");
    expect(told.querySelector("mark")?.textContent).toBe("t");
    expect(name().getAttribute("aria-invalid")).toBe("true");
    expect(button("Save as revision 7").disabled).toBe(true);
    await user.click(button("Reset"));
    expect(name().value).toBe("<issued>_<ref>");
    await waitFor(() => expect(screen.queryByRole("alert")).toBeNull());
  });

  it("are both there, or neither", async () => {
    const user = editing();
    await user.clear(name());
    expect(screen.getByText("A kind needs both patterns, or none.")).toBeTruthy();
    await user.clear(screen.getByLabelText("Place in Office"));
    expect(screen.queryByText("A kind needs both patterns, or none.")).toBeNull();
  });

  it("that somebody else changed meanwhile are not overwritten; what was typed stays", async () => {
    serve({ [KEEP]: new Refusal(409, { detail: "Odalys kept revision 7 at 9:12." }) });
    const user = editing();
    await user.type(name(), "_x");
    await waitFor(() => expect(button("Save as revision 7").disabled).toBe(false));
    await user.click(button("Save as revision 7"));
    await waitFor(() => expect(notice()).toContain("Odalys kept revision 7 at 9:12."));
    expect(name().value).toBe("<issued>_<ref>_x");
  });

  it("are only looked at by who does not keep the area", async () => {
    editing(tried, false);
    expect(name().readOnly).toBe(true);
    expect(screen.getByText("Keepers of Office change its plan.")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /^Keep/ })).toBeNull();
    expect(screen.queryByRole("combobox", { name: "Ask for another fact" })).toBeNull();
    await screen.findByText("40", { selector: "b" });
  });

  it("ask for facts in an order of one's own", async () => {
    serve({ [KEEP]: {} });
    const user = editing();
    await choose(user, "Ask for another fact", "Amount");
    expect(screen.queryByText("Kind", { selector: ".ant-select-item-option-content" })).toBeNull();
    await user.click(button("Do not ask for Issued"));
    await user.click(button("Save as revision 7"));
    await waitFor(() =>
      expect(bodies(KEEP)).toEqual([
        expect.objectContaining({ kinds: { invoice: expect.objectContaining({ expects: ["ref", "amount"] }) } }),
      ]),
    );
  });
});
