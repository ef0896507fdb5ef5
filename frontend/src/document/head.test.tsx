// @vitest-environment jsdom
import { screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { address, notice, show } from "../testing/page";
import { bodies, Refusal, serve } from "../testing/server";
import { DocumentHead } from "./DocumentHead";

const RENAME = "PATCH /api/entries/31";
const DISCARD = "POST /api/entries/discard";
const home = { entry: 31, folder: 5, path: "Accounts / Invoices", name: "keel.pdf", home: true };

function head(more: Partial<Schemas["CardOut"]> = {}) {
  const card = {
    id: 12,
    name: "keel.pdf",
    places: [home],
    tags: [],
    planned_name: null,
    may_file: true,
    keeps: true,
    ...more,
  } as unknown as Schemas["CardOut"];
  serve({ "GET /api/tags": { tags: [] } });
  return show(<DocumentHead card={card} />, "/documents/12", "/documents/:document");
}

const buttons = () => screen.getAllByRole("button").map((one) => one.textContent);

describe("the head of a document's page", () => {
  it("offers what its folder does; the rest stands under More", async () => {
    const user = head();
    expect(buttons()).toEqual(["Rename", "Move…", "Pick up", "More…", "Add tags…"]);
    await user.keyboard(".");
    const acts = (await screen.findAllByRole("menuitem")).map((one) => one.textContent?.replace(/[A-Z]$|Delete$/, ""));
    expect(acts).toEqual([
      "File in another folder too…",
      "Copy…",
      "New version…",
      "Copy as next in series…",
      "Tags…",
      "Ask the rules…",
      "Give access…",
      "Who reads this",
      "Copy link",
      "Go to its folder",
      "Download",
      "Discard",
    ]);
  });

  it("gives it the name that the plan has by its facts", async () => {
    serve({ [RENAME]: { title: "Renamed keel.pdf to 2026_keel.pdf" } });
    const user = head({ planned_name: "2026_keel.pdf" });
    await user.click(screen.getByRole("button", { name: "Rename it so" }));
    await waitFor(() => expect(bodies(RENAME)).toEqual([{ name: "2026_keel.pdf", parent: null }]));
    await waitFor(() => expect(notice()).toContain("Renamed keel.pdf to 2026_keel.pdf"));
  });

  it("says why that name cannot be given", async () => {
    serve({ [RENAME]: new Refusal(409, { detail: "The name is taken.", code: "taken" }) });
    const user = head({ planned_name: "2026_keel.pdf" });
    await user.click(screen.getByRole("button", { name: "Rename it so" }));
    await waitFor(() => expect(notice()).toContain("The name is taken."));
  });

  it("discards the document wherever it lies, and goes to its folder", async () => {
    serve({ [DISCARD]: {} });
    const user = head({ places: [home, { ...home, entry: 44, folder: 8, home: false }] });
    await user.keyboard("{Delete}");
    await waitFor(() => expect(bodies(DISCARD)).toEqual([{ entries: [31, 44] }]));
    await waitFor(() => expect(address()).toBe("/drive/5"));
  });

  it("stays where a document cannot be discarded, and says why", async () => {
    serve({ [DISCARD]: new Refusal(403, { detail: "It is kept by a hold.", code: "rights" }) });
    const user = head();
    await user.keyboard("{Delete}");
    await waitFor(() => expect(notice()).toContain("It is kept by a hold."));
    expect(address()).toBe("/documents/12");
  });

  it("takes a new name where the old one stands", async () => {
    serve({ [RENAME]: { title: "Renamed keel.pdf to mast.pdf" } });
    const user = head();
    await user.keyboard("{F2}");
    await user.clear(screen.getByLabelText("New name"));
    await user.type(screen.getByLabelText("New name"), "mast{Enter}");
    await waitFor(() => expect(bodies(RENAME)).toEqual([{ name: "mast", parent: null }]));
    await waitFor(() => expect(screen.queryByLabelText("New name")).toBeNull());
  });

  it("says to who may only read that it cannot be changed, and changes nothing", async () => {
    const user = head({ may_file: false, keeps: false });
    expect(buttons()).toEqual(["More…"]);
    await user.keyboard("m");
    await waitFor(() => expect(notice()).toContain("You may read this document, but not change it."));
    await user.keyboard("g");
    await waitFor(() => expect(notice()).toContain("You do not keep this folder"));
    expect(screen.queryByRole("dialog")).toBeNull();
  });
});
