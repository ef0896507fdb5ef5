// @vitest-environment jsdom
import { screen, waitFor } from "@testing-library/react";
import type { UserEvent } from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { address, choose, show } from "../testing/page";
import { queries, Refusal, serve } from "../testing/server";
import { VOCABULARY } from "../testing/vocabulary";
import FindPage from "./FindPage";

const FIND = "GET /api/find";
const hit = (document: number, name: string, reasons: Schemas["ReasonOut"][]): Schemas["HitOut"] => ({
  document,
  entry: document + 100,
  may_file: true,
  keeps: true,
  name,
  path: "Old share / Scans",
  folder: 9,
  kind: null,
  party: null,
  issued: null,
  reasons,
  snippet: null,
});

/** The screen for an address, with what is found there. */
function open(query: string, hits: Schemas["HitOut"][] = []): UserEvent {
  const path = [
    { id: 7, name: "Old share" },
    { id: 9, name: "Scans" },
  ];
  serve({
    "GET /api/vocabulary": VOCABULARY,
    "GET /api/parties": { parties: [] },
    "GET /api/tags": { tags: [] },
    "GET /api/folders/9": { id: 9, name: "Scans", path, here: 2, below: 2 },
    [FIND]: { hits, total: hits.length, capped: false },
  });
  return show(<FindPage />, `/find${query}`, "/find");
}

const link = () => screen.findByRole("link", { name: "Rename or move them" });

describe("finding", () => {
  it("names that say nothing leads from the filter to renaming them", async () => {
    const user = open("", [hit(3, "scan0001.pdf", [{ kind: "empty", text: "" }])]);
    expect(screen.getByRole("heading", { name: /^Find a record/ })).toBeTruthy();
    await choose(user, "Names", "Meaningless names");
    expect(await screen.findByText("its name is meaningless")).toBeTruthy();
    expect(address()).toBe("/find?names=empty");
    expect(queries(FIND).at(-1)).toContain("names=empty");
    expect((await link()).getAttribute("href")).toBe("/manifests/new?names=empty");
  });

  it("names that several have tells how many have each", async () => {
    open("?names=shared", [hit(3, "Statement.pdf", [{ kind: "shared", text: "14" }])]);
    expect(await screen.findByText("14 documents have this name")).toBeTruthy();
  });

  it("looks below a folder, until one looks in the whole drive", async () => {
    const user = open("?q=larch&in=9", [hit(3, "larch.pdf", [{ kind: "name", text: "larch" }])]);
    expect(await screen.findByText(/^in Old share \/ Scans/)).toBeTruthy();
    expect(queries(FIND).at(-1)).toContain("below=9");
    expect((await link()).getAttribute("href")).toBe("/manifests/new?q=larch&in=9");
    await user.click(screen.getByRole("button", { name: "Look in the whole drive" }));
    await waitFor(() => expect(queries(FIND).at(-1)).not.toContain("below"));
    expect(address()).toBe("/find?q=larch");
  });

  it("below a folder asks for what one remembers first", async () => {
    open("?in=9");
    expect(await screen.findByText(/^in Old share \/ Scans/)).toBeTruthy();
    expect(screen.getByRole("heading", { name: /^Find a record/ })).toBeTruthy();
    expect(queries(FIND)).toEqual([]);
  });

  it("below a folder that is gone says so", async () => {
    serve({ [FIND]: new Refusal(404, { detail: "There is no such folder." }) });
    open("?in=9&q=larch");
    serve({
      [FIND]: new Refusal(404, { detail: "There is no such folder." }),
      "GET /api/folders/9": new Refusal(404, { detail: "There is no such folder." }),
    });
    expect(await screen.findByText(/a folder that is not there/)).toBeTruthy();
    expect(await screen.findByText("The folder to look in is not there, or not yours to see")).toBeTruthy();
  });

  it.each([
    ["?names=empty", "Every name says something of who, what or when"],
    ["?names=shared", "No two documents have the same name"],
    ["?tag=to+pay", "No document that you may read bears this tag"],
    ["?tag=to+pay&names=empty", "Nothing that you may read meets all of that"],
    ["?q=larch", "Nothing that you may read meets all of that"],
  ])("nothing says what that means: %s", async (query, said) => {
    serve({ "GET /api/tags/folders": { folders: [] } });
    open(query);
    expect(await screen.findByRole("heading", { name: said })).toBeTruthy();
  });
});
