// @vitest-environment jsdom
import { cleanup, screen, waitFor, within } from "@testing-library/react";
import { beforeEach, describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { button, opened, RUN, row, UNDO } from "../testing/manifestScreen";
import { aLine, aManifest } from "../testing/manifests";
import { address, notice, pick, show } from "../testing/page";
import { bodies, queries, Refusal, serve } from "../testing/server";
import { NOTHING } from "./chosen";
import { Made } from "./MadeFrom";
import ManifestPage from "./ManifestPage";

describe("a manifest that ran", () => {
  const ran = { state: "done", ran_at: "2026-03-18T09:01:00Z", can_undo: true };

  it("in parts and was stopped goes on with what is left; another's is not one's own to go on with", async () => {
    const stopped = { ...ran, state: "partly done", partial: true, counts: { done: 1, "not done": 3 } };
    serve({ [RUN]: { state: "queued" } });
    const user = await opened(stopped);
    await user.click(button("Continue with the 3 lines that are left"));
    await waitFor(() => expect(bodies(RUN)).toEqual([{ partial: true }]));
    cleanup();
    await opened({ ...stopped, mine: false });
    expect(screen.queryByRole("button", { name: /^Go on/ })).toBeNull();
    cleanup();
    await opened({ ...stopped, counts: { done: 3, failed: 1 } });
    expect(screen.queryByRole("button", { name: /^Go on/ })).toBeNull();
  });

  it("is undone as a whole", async () => {
    serve({ [UNDO]: { queued: false, lines: 4, left_out: [] } });
    const user = await opened(ran);
    expect(screen.queryByRole("button", { name: /^Run/ })).toBeNull();
    await user.click(button("Undo all 4 lines"));
    await waitFor(() => expect(notice()).toContain("Undone: 4 lines."));
    expect(bodies(UNDO)).toEqual([{ lines: null }]);
  });

  it("is undone by lines that are chosen, those that were done", async () => {
    serve({ [UNDO]: { queued: false, lines: 2, left_out: [] } });
    const user = await opened({ ...ran, counts: { done: 3, failed: 1 } }, [
      aLine({ line: 0, state: "done" }),
      aLine({ line: 1, state: "failed", why: "it was gone" }),
      aLine({ line: 2, state: "done" }),
      aLine({ line: 3, state: "done" }),
    ]);
    expect(button("Undo the chosen line").disabled).toBe(true);
    await user.click(row(1));
    expect(button("Undo the chosen line").disabled).toBe(true);
    screen.getByRole("grid").focus();
    await user.keyboard("{Home}{Shift>}{ArrowDown}{ArrowDown}{/Shift}");
    await user.click(button("Undo the 2 chosen lines"));
    await waitFor(() => expect(bodies(UNDO)).toEqual([{ lines: [0, 2] }]));
  });

  it("tells of a chosen line why it failed, or what was noted of it", async () => {
    const user = await opened({ ...ran, counts: { done: 1, failed: 1 } }, [
      aLine({ line: 0, state: "done", note: "party shortened" }),
      aLine({ line: 1, state: "failed", why: "“rib.pdf” is elsewhere now. Lise did that at 10:04." }),
    ]);
    await user.click(row(1));
    expect(screen.getByText(/^Line 2:/).textContent).toBe(
      "Line 2: “rib.pdf” is elsewhere now. Lise did that at 10:04.",
    );
    screen.getByRole("grid").focus();
    await user.keyboard("{ArrowUp}");
    expect(screen.getByText(/^Line /).textContent).toBe("Line 1: party shortened");
  });

  it("tells which lines are undone, and undoes those that are left", async () => {
    serve({ [UNDO]: { queued: false, lines: 3, left_out: [] } });
    const user = await opened({ ...ran, state: "partly undone", counts: { done: 3, undone: 1 } }, [
      aLine({ line: 0, state: "undone" }),
      ...[1, 2, 3].map((line) => aLine({ line, state: "done" })),
    ]);
    expect(within(row(0)).getByText("undone")).toBeTruthy();
    await user.click(row(0));
    expect(button("Undo the chosen line").disabled).toBe(true);
    await pick(user, "undone");
    await waitFor(() => expect(queries("GET /api/manifests/5/lines").at(-1)).toContain("state=undone"));
    await user.click(button("Undo the 3 lines left"));
    await waitFor(() => expect(bodies(UNDO)).toEqual([{ lines: null }]));
  });

  it("says what could not be undone", async () => {
    serve({ [UNDO]: { queued: false, lines: 3, left_out: ["“letter 1.pdf” is no longer where it was."] } });
    const user = await opened(ran);
    await user.click(button("Undo all 4 lines"));
    await waitFor(() => expect(notice()).toContain("Undone but for 1: “letter 1.pdf” is no longer where it was."));
  });

  it("of somebody else says why it cannot be undone, and nothing is chosen in it", async () => {
    const user = await opened({ ...ran, mine: false, can_undo: false, why_not: "only Odalys Brink can undo it" });
    expect(screen.getByText("It cannot be undone: only Odalys Brink can undo it.")).toBeTruthy();
    await user.keyboard("{Shift>}");
    await user.click(row(2));
    expect(within(screen.getByRole("grid")).getAllByRole("row", { selected: true })).toHaveLength(1);
  });

  it("is where a new plan begins, of the same documents in the same way", async () => {
    const way = {
      reads: "<n> <rest>",
      prints: "<rest>",
      placing: false,
      base: null,
      remove_emptied: false,
      rules: "",
      borrow: null,
    };
    const made = aManifest({ chosen: { ...NOTHING, folder: 7 }, way: { do: "rewrite", ...way } });
    const user = show(<Made manifest={made} />);
    await user.click(button("Begin a new plan from this"));
    expect(address()).toBe("/manifests/new?folder=7&do=rewrite&reads=%3Cn%3E+%3Crest%3E&prints=%3Crest%3E");
  });

  it("opens the document of a line", async () => {
    const user = await opened(ran);
    await user.dblClick(row(3));
    expect(address()).toBe("/documents/103");
  });
});

describe("a manifest that is at work", () => {
  it("says what became of it, also where it was over before it was seen to run", async () => {
    let state: Partial<Schemas["ManifestOut"]> = { state: "done", counts: { done: 4 }, can_undo: true };
    serve({
      [RUN]: () => {
        serve({ "GET /api/manifests/5": aManifest(state) });
        return { state: "queued" };
      },
    });
    let user = await opened();
    await user.click(button("Run 4 lines"));
    await waitFor(() => expect(notice()).toContain("Done: 4 lines. Ctrl+Z undoes it."));
    cleanup();
    state = { problem: "Line 2: Odalys moved it at 9:12." };
    user = await opened();
    await user.click(button("Run 4 lines"));
    await waitFor(() => expect(notice()).toContain("Line 2: Odalys moved it at 9:12."));
    cleanup();
    user = await opened({ state: "running", mine: false });
    serve({ "GET /api/manifests/5": aManifest({ state: "done", mine: false }) });
    await waitFor(() => expect(notice()).toContain("Done: 4 lines."));
    expect(notice()).not.toContain("Ctrl+Z");
    cleanup();
    user = await opened({ state: "undoing", can_undo: true });
    serve({ "GET /api/manifests/5": aManifest({ state: "partly undone" }) });
    await waitFor(() => expect(notice()).toContain("Undone in part; see which lines are not."));
  });

  it("shows its lines as they are now where it ends as a plan again", async () => {
    serve({
      [RUN]: () => {
        serve({ "GET /api/manifests/5": aManifest({ state: "running" }) });
        return { state: "queued" };
      },
    });
    const user = await opened();
    await user.click(button("Run 4 lines"));
    await screen.findByRole("button", { name: "Stop it" });
    serve({
      "GET /api/manifests/5": aManifest({ problem: "Line 2: Odalys moved it at 9:12." }),
      "GET /api/manifests/5/lines": { lines: [aLine({ line: 0, state: "blocked", why: "It is gone." })], next: null },
    });
    await waitFor(() => expect(row(0).textContent).toContain("It is gone."));
    expect(screen.getAllByRole("row")).toHaveLength(2);
  });

  it("is stopped; what that does is told by how it runs", async () => {
    serve({ "POST /api/manifests/5/stop": {} });
    const user = await opened({ state: "running", partial: true, progress: 2 });
    await user.click(button("Stop it"));
    await waitFor(() => expect(notice()).toContain("It stops after the lines in work."));
  });

  it("of somebody else is only looked at", async () => {
    await opened({ state: "running", mine: false });
    expect(screen.queryByRole("button", { name: "Stop it" })).toBeNull();
  });
});

describe("a manifest that is not there", () => {
  beforeEach(() => serve({ "GET /api/manifests/6": new Refusal(404, { detail: "There is no such manifest." }) }));

  it("leads to those that are", async () => {
    show(<ManifestPage />, "/manifests/6", "/manifests/:manifest");
    expect((await screen.findByRole("alert")).textContent).toContain("The manifest is not there, or not yours to see");
    expect(screen.getByRole("link", { name: "All manifests" }).getAttribute("href")).toBe("/manifests");
  });
});
