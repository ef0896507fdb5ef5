// @vitest-environment jsdom
import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { notice, pick, show } from "../testing/page";
import { bodies, queries, Refusal, serve } from "../testing/server";
import ManifestList from "./ManifestList";

const one = (part: Partial<Schemas["ManifestRowOut"]>): Schemas["ManifestRowOut"] => ({
  id: 5,
  title: "Rename in Office",
  by: "Imre Falk",
  at: "2026-03-18T09:00:00Z",
  ran_at: null,
  state: "done",
  lines: 4,
  progress: 0,
  partial: false,
  problem: null,
  tried: false,
  mine: false,
  undo_of: null,
  ...part,
});
const failed = (part: Record<string, unknown>) => ({
  job: 3,
  document: 9,
  name: "scan 7.pdf",
  source: "the scanner",
  area: "Office",
  why: "The file is cut off.",
  again: false,
  ...part,
});

function listed(manifests: Schemas["ManifestRowOut"][], readings: unknown[] = []) {
  serve({ "GET /api/manifests": { manifests, next: null }, "GET /api/readings/failed": { readings } });
  return show(<ManifestList />);
}

describe("the list of manifests", () => {
  it("tells what runs and how far, what went wrong and why", async () => {
    listed([
      one({ id: 9, state: "running", partial: true, progress: 1200, lines: 30_000, mine: true }),
      one({ id: 8, state: "failed", problem: "the worker broke off" }),
      one({ id: 7, state: "checked", tried: true }),
    ]);
    await screen.findAllByText("Rename in Office");
    const rows = (await screen.findAllByRole("row")).slice(1).map((row) => within(row).getAllByRole("cell"));
    expect(rows.map((cells) => cells[3]?.textContent)).toEqual([
      "runs 1,200 of 30,000",
      "failed: the worker broke off",
      "draft, not run yet",
    ]);
    expect(rows.map((cells) => cells[4]?.textContent)).toEqual(["me", "Imre Falk", "Imre Falk"]);
    expect(rows[1]?.[3]?.querySelector(".signal")).toBeTruthy();
    expect(screen.getAllByRole("link", { name: "Rename in Office" })[0]?.getAttribute("href")).toBe("/manifests/9");
  });

  it("shows one's own only where one asks for these", async () => {
    const user = listed([one({})]);
    await pick(user, "Mine");
    await waitFor(() => expect(queries("GET /api/manifests").at(-1)).toBe("?mine=true"));
    expect(screen.getByRole<HTMLInputElement>("radio", { name: "Mine" }).checked).toBe(true);
  });

  it("shows what is long or unfinished only where one asks for it, and says where there is none", async () => {
    const user = listed([]);
    await pick(user, "Long or unfinished");
    await waitFor(() => expect(queries("GET /api/manifests").at(-1)).toBe("?runs=true"));
    expect(await screen.findByText("Nothing is under way")).toBeTruthy();
  });

  it("goes on with older ones", async () => {
    const user = listed([]);
    serve({
      "GET /api/manifests": (_: never, at: URL) =>
        at.searchParams.has("before")
          ? { manifests: [one({ id: 1, title: "The first" })], next: null }
          : { manifests: [one({ id: 2, title: "The second" })], next: 2 },
    });
    await pick(user, "Mine");
    await user.click(await screen.findByRole("button", { name: "Show older ones" }));
    expect(await screen.findByText("The first")).toBeTruthy();
    expect(screen.getByText("The second")).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Show older ones" })).toBeNull();
  });

  it("says what will be here where nothing is yet", async () => {
    listed([]);
    expect(await screen.findByRole("heading", { name: "No manifest yet" })).toBeTruthy();
  });
});

describe("readings that failed", () => {
  it("are told with their source and reason, and read again", async () => {
    serve({ "POST /api/readings/3/again": {} });
    const user = listed([], [failed({}), failed({ job: 4, document: 10, name: "fax.tif", area: null, again: true })]);
    const told = await screen.findByRole("region", { name: "Readings that failed" });
    const [first, second] = within(told).getAllByRole("listitem");
    expect(first?.textContent).toContain("scan 7.pdf by the scanner for Office: The file is cut off.");
    expect(second?.textContent).toContain("It is tried again by itself.");
    await user.click(within(told).getByRole("button", { name: "read it again" }));
    await waitFor(() => expect(bodies("POST /api/readings/3/again")).toHaveLength(1));
  });

  it("that cannot be read again say why", async () => {
    serve({ "POST /api/readings/3/again": new Refusal(404, { detail: "It was filed meanwhile." }) });
    const user = listed([], [failed({})]);
    await user.click(await screen.findByRole("button", { name: "read it again" }));
    await waitFor(() => expect(notice()).toContain("It was filed meanwhile."));
  });
});
