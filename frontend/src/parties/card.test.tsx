// @vitest-environment jsdom
import { cleanup, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { choose, notice, show } from "../testing/page";
import { bodies, queries, Refusal, serve } from "../testing/server";
import { CardEditor, EMPTY } from "./CardEditor";

const card = (part: Partial<Schemas["PartyCardOut"]> = {}): Schemas["PartyCardOut"] => ({
  id: 7,
  name: "Tollgate Timber",
  short: "tollgate",
  code: "tt",
  aliases: ["Tollgate"],
  numbers: ["GB 1"],
  area: null,
  changes: true,
  documents: 12,
  removed: false,
  revision: 3,
  ...part,
});
const register: Schemas["RegisterOut"] = {
  parties: [
    card(),
    card({ id: 8, name: "Tollgate Sawmill", documents: 1 }),
    card({ id: 9, name: "Old Mill", removed: true }),
  ],
  areas: [{ id: 2, name: "Office" }],
  enter: [{ id: 2, name: "Office" }],
  common: true,
};
const entry = (part: Partial<Schemas["PartyCardOut"]> = {}) => ({
  card: card(part),
  merged: [{ id: 5, name: "T. Timber", at: "2026-03-18T09:00:00Z", by: "Imre Falk" }],
  lessons: [
    {
      id: 4,
      field: "total",
      kind: "Invoice",
      beside: "To pay",
      by: "Lise Ott",
      at: "2026-03-18T09:00:00Z",
      right: 3,
      wrong: 0,
    },
  ],
  revisions: [
    { revision: 3, at: "2026-03-18T09:00:00Z", by: "Imre Falk", what: "short name" },
    { revision: 1, at: "2026-03-01T09:00:00Z", by: null, what: "entered" },
  ],
});

async function editing(part: Partial<Schemas["PartyCardOut"]> = {}) {
  serve({ "GET /api/register/7": entry(part) });
  const onDone = vi.fn();
  const user = show(<CardEditor party={7} draft={null} register={register} onDone={onDone} onLeave={() => {}} />);
  await screen.findByLabelText("Full name");
  return { user, onDone };
}
const button = (name: string | RegExp) =>
  screen.getByRole("button", { name: name instanceof RegExp ? name : new RegExp(`^${name}`) }) as HTMLButtonElement;

describe("a party's entry", () => {
  it("is kept on top of the revision that one saw; lines are its other names", async () => {
    serve({ "PUT /api/register/7": { card: card({ revision: 4 }) } });
    const { user } = await editing();
    expect(button("Save").disabled).toBe(true);
    await user.type(screen.getByLabelText("Also called (one a line)"), "{Enter}  Tollgate Ltd {Enter}{Enter}");
    await user.click(button("Save"));
    await waitFor(() => expect(notice()).toContain("Saved."));
    expect(bodies("PUT /api/register/7")).toEqual([
      {
        name: "Tollgate Timber",
        short: "tollgate",
        code: "tt",
        aliases: ["Tollgate", "Tollgate Ltd"],
        numbers: ["GB 1"],
        area: null,
        revision: 3,
      },
    ]);
  });

  it("with another short name offers that names of documents follow", async () => {
    serve({ "PUT /api/register/7": { card: card({ short: "toll", revision: 4 }) } });
    const { user } = await editing();
    await user.clear(screen.getByLabelText("Short name, for names"));
    await user.type(screen.getByLabelText("Short name, for names"), "toll{Enter}");
    await waitFor(() => expect(notice()).toContain("Saved. The names of 12 documents may still show the old one."));
    expect(button("Rename them")).toBeDefined();
    expect(screen.getByRole("link", { name: "Rename them by the plan" }).getAttribute("href")).toBe(
      "/manifests/new?party=7&do=plan",
    );
  });

  it("stays as typed while one is elsewhere, until it is as it was", async () => {
    const { user } = await editing();
    await user.type(screen.getByLabelText("Full name"), " and Son");
    cleanup();
    const back = await editing();
    expect(screen.getByLabelText<HTMLInputElement>("Full name").value).toBe("Tollgate Timber and Son");
    await back.user.click(button("Reset"));
    cleanup();
    await editing();
    expect(screen.getByLabelText<HTMLInputElement>("Full name").value).toBe("Tollgate Timber");
    expect(screen.queryByRole("button", { name: "Reset" })).toBeNull();
  });

  it("that is new stays as typed too, until it is entered or left", async () => {
    serve({ "POST /api/register": { card: card({ id: 11 }) } });
    const fresh = () => {
      cleanup();
      return show(<CardEditor party={null} draft={EMPTY} register={register} onDone={() => {}} onLeave={() => {}} />);
    };
    const name = () => screen.getByLabelText<HTMLInputElement>("Full name");
    await fresh().type(name(), "Old Quay");
    const user = fresh();
    expect(name().value).toBe("Old Quay");
    await user.click(button("Add"));
    await waitFor(() => expect(notice()).toContain("Added Tollgate Timber."));
    const next = fresh();
    expect(name().value).toBe("");
    await next.type(name(), "Wharf");
    await next.click(button("Cancel"));
    fresh();
    expect(name().value).toBe("");
  });

  it("that clashes with another says so at the field", async () => {
    const clash = { detail: "“ts” is the code of Tollgate Sawmill.", code: "clash", field: "code" };
    serve({ "PUT /api/register/7": new Refusal(409, clash) });
    const { user } = await editing();
    await user.clear(screen.getByLabelText("Code, to type"));
    await user.type(screen.getByLabelText("Code, to type"), "ts{Enter}");
    expect((await screen.findByRole("alert")).id).toBe("card-code-problem");
    const code = screen.getByLabelText("Code, to type") as HTMLInputElement;
    expect(code.value).toBe("ts");
    expect(code.getAttribute("aria-describedby")).toBe("card-code-problem");
    expect(document.activeElement).toBe(code);
    expect(notice()).toBe("");
    await user.type(code, "m");
    expect(screen.queryByRole("alert")).toBeNull();
  });

  it("tells a refusal that no field of it is about", async () => {
    const refusal = { detail: "Merge the other way round.", code: "party", field: "into" };
    serve({ "POST /api/register/7/merge": new Refusal(422, refusal) });
    const { user } = await editing();
    await choose(user, "It is the same party as", "Tollgate Sawmill");
    await user.click(button("Merge"));
    await waitFor(() => expect(notice()).toContain("Merge the other way round."));
  });

  it("is kept by Ctrl+Enter from a field of many lines", async () => {
    serve({ "PUT /api/register/7": { card: card({ revision: 4 }) } });
    const { user } = await editing();
    await user.type(screen.getByLabelText("Tax and account numbers (one a line)"), "{Enter}GB 2{Control>}{Enter}");
    await waitFor(() => expect(bodies("PUT /api/register/7")).toMatchObject([{ numbers: ["GB 1", "GB 2"] }]));
  });

  it("that somebody else changed meanwhile is not overwritten; what was typed stays, the rest is as it is now", async () => {
    const { user } = await editing();
    await user.type(screen.getByLabelText("Full name"), " and Son");
    serve({
      "GET /api/register/7": entry({ revision: 4, code: "tgt" }),
      "PUT /api/register/7": new Refusal(409, { detail: "Odalys changed it at 9:12." }),
    });
    await user.click(button("Save"));
    await waitFor(() => expect(notice()).toContain("Odalys changed it at 9:12."));
    await waitFor(() => expect(screen.getByLabelText<HTMLInputElement>("Code, to type").value).toBe("tgt"));
    expect(screen.getByLabelText<HTMLInputElement>("Full name").value).toBe("Tollgate Timber and Son");
    serve({ "PUT /api/register/7": { card: card({ revision: 5, name: "Tollgate Timber and Son" }) } });
    await user.click(button("Save"));
    await waitFor(() => expect(bodies("PUT /api/register/7")).toHaveLength(2));
    expect(bodies("PUT /api/register/7")[1]).toMatchObject({
      name: "Tollgate Timber and Son",
      code: "tgt",
      revision: 4,
    });
  });

  it("without a name is not kept", async () => {
    const { user } = await editing();
    await user.clear(screen.getByLabelText("Full name"));
    expect(button("Save").disabled).toBe(true);
    await user.keyboard("{Enter}");
    expect(bodies("PUT /api/register/7")).toEqual([]);
  });

  it("is merged into one that stays, after one saw what that means", async () => {
    serve({ "POST /api/register/7/merge": {} });
    const { user, onDone } = await editing();
    expect(button("Merge").disabled).toBe(true);
    await choose(user, "It is the same party as", "Tollgate Sawmill");
    expect(screen.getByText(/its 12 documents are then of Tollgate Sawmill/)).toBeTruthy();
    await user.click(button("Merge"));
    await waitFor(() => expect(onDone).toHaveBeenCalledWith(8));
    expect(bodies("POST /api/register/7/merge")).toEqual([{ revision: 3, into: 8 }]);
    expect(notice()).toContain("Tollgate Timber is Tollgate Sawmill now.");
  });

  it("leads to the entry that it was merged into", async () => {
    const { onDone } = await editing({ id: 8, name: "Tollgate Sawmill" });
    await waitFor(() => expect(onDone).toHaveBeenCalledWith(8));
    expect(notice()).toBe("");
  });

  it("that somebody merges while one types into it says what becomes of that, and gives nothing of it to the other", async () => {
    const { user, onDone } = await editing();
    await user.type(screen.getByLabelText("Full name"), " and Son");
    serve({
      "GET /api/register/7": entry({ id: 8, name: "Tollgate Sawmill" }),
      "PUT /api/register/7": new Refusal(409, { detail: "Odalys merged it at 9:12." }),
    });
    await user.click(button("Save"));
    await waitFor(() => expect(onDone).toHaveBeenCalledWith(8));
    expect(notice()).toContain("It was merged into Tollgate Sawmill. What you typed is there again when that is taken");
    expect(screen.getByLabelText<HTMLInputElement>("Full name").value).toBe("Tollgate Sawmill");
    cleanup();
    await editing();
    expect(screen.getByLabelText<HTMLInputElement>("Full name").value).toBe("Tollgate Timber and Son");
  });

  it("goes back to a revision, parts from a merged one, forgets what was learnt", async () => {
    serve({ "POST /api/register/7/back": {}, "POST /api/register/7/part": {}, "DELETE /api/lessons/4": {} });
    const { user } = await editing();
    expect(screen.getByText(/total of invoices stands beside “To pay”/)).toBeTruthy();
    await user.click(button("Restore it"));
    await user.click(button("Take the merge back"));
    await user.click(button(/^forget/));
    await waitFor(() => expect(notice()).toContain("Forgotten. Arrivals are checked again."));
    expect(bodies("POST /api/register/7/back")).toEqual([{ revision: 3, to: 1 }]);
    expect(bodies("POST /api/register/7/part")).toEqual([{ revision: 3, party: 5 }]);
  });

  it("is taken out, and says that its documents stay its", async () => {
    serve({ "DELETE /api/register/7": {} });
    const { user } = await editing();
    await user.click(button("Remove from the register"));
    await waitFor(() =>
      expect(notice()).toContain("Removed Tollgate Timber from the register. Its documents stay as they are"),
    );
    expect(queries("DELETE /api/register/7")).toEqual(["?revision=3"]);
  });

  it("is only looked at by who may not change it", async () => {
    await editing({ changes: false });
    expect((screen.getByLabelText("Full name") as HTMLInputElement).readOnly).toBe(true);
    expect(screen.getByText("Only keepers change it.")).toBeTruthy();
    for (const name of ["Keep", "Merge", "Restore it", "Take the merge back", "Remove from the register"])
      expect(screen.queryByRole("button", { name })).toBeNull();
  });

  it("that was taken out is brought back", async () => {
    serve({ "PUT /api/register/7": { card: card({ revision: 4 }) } });
    const { user } = await editing({ removed: true });
    await user.click(screen.getByRole("button", { name: /^Restore( Ctrl|$)/ }));
    await waitFor(() => expect(bodies("PUT /api/register/7")).toHaveLength(1));
  });
});

describe("a new party", () => {
  it("is entered with what is known of it", async () => {
    serve({ "POST /api/register": { card: card({ id: 10, name: "Foam & Sons" }) } });
    const onDone = vi.fn();
    const draft = { ...EMPTY, name: "Foam & Sons" };
    const user = show(<CardEditor party={null} draft={draft} register={register} onDone={onDone} onLeave={() => {}} />);
    await user.type(screen.getByLabelText("Code, to type"), "fs");
    await choose(user, "Whose entry", "Office only");
    await user.click(button("Add"));
    await waitFor(() => expect(onDone).toHaveBeenCalledWith(10));
    expect(bodies("POST /api/register")).toEqual([
      { name: "Foam & Sons", short: "", code: "fs", aliases: [], numbers: [], area: 2 },
    ]);
    expect(notice()).toContain("Added Foam & Sons.");
  });
});
