// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import type { UserEvent } from "@testing-library/user-event";
import { beforeEach, describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { aLine, aManifest } from "../testing/manifests";
import { address, notice, show } from "../testing/page";
import { bodies, queries, Refusal, serve } from "../testing/server";
import { NOTHING } from "./chosen";
import { Made } from "./MadeFrom";
import ManifestPage from "./ManifestPage";

const CHECK = "POST /api/manifests/5/check";
const RUN = "POST /api/manifests/5/run";
const UNDO = "POST /api/manifests/5/undo";

const reason = (state: string, why: string, lines: number) => ({ state, why, lines, gap: null });
const REASONS: Schemas["LineReasons"] = {
  reasons: [reason("blocked", "taken by “…”", 40), reason("failed", "“rib.pdf” is elsewhere now.", 1)],
  others: { failed: 2 },
};

/** The screen of a manifest of four lines, once they are there. */
async function opened(
  manifest: Partial<Schemas["ManifestOut"]> = {},
  lines = [0, 1, 2, 3].map((line) => aLine({ line })),
): Promise<UserEvent> {
  serve({
    "GET /api/manifests/5": aManifest(manifest),
    "GET /api/manifests/5/lines": { lines, next: null },
    "GET /api/manifests/5/sums": { folders: [], renamed: 0 },
    "GET /api/manifests/5/reasons": REASONS,
    [CHECK]: {},
  });
  const user = show(<ManifestPage />, "/manifests/5", "/manifests/:manifest");
  await waitFor(() => expect(screen.getAllByRole("row")).toHaveLength(lines.length + 1));
  return user;
}

const row = (n: number) => screen.getAllByRole("row")[n + 1] as HTMLElement;
const button = (name: string | RegExp) => screen.getByRole("button", { name }) as HTMLButtonElement;

describe("a plan on its screen", () => {
  it("is run as a whole, or as far as it can be", async () => {
    serve({ [RUN]: { state: "done" } });
    const user = await opened();
    await user.click(button("Run 4 lines"));
    await waitFor(() => expect(notice()).toContain("Done: 4 lines. Ctrl+Z undoes it."));
    await user.click(screen.getByLabelText("do the others, list the rest"));
    serve({ [RUN]: { state: "partly done" } });
    await user.click(button("Run 4 lines"));
    await waitFor(() => expect(notice()).toContain("Done in part; see what failed."));
    expect(bodies(RUN)).toEqual([{ partial: false }, { partial: true }]);
  });

  it("runs by Ctrl+Enter, once", async () => {
    serve({ [RUN]: { state: "queued" } });
    const user = await opened();
    await user.keyboard("{Control>}{Enter}{/Control}");
    await waitFor(() => expect(notice()).toContain("It runs now; it goes on when this page is closed."));
    expect(bodies(RUN)).toHaveLength(1);
  });

  it("that runs says what became of it, also where it was over before it was seen to run", async () => {
    let state: Partial<Schemas["ManifestOut"]> = { state: "done", counts: { ready: 4 }, can_undo: true };
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

  it("that is refused says why, and stays", async () => {
    serve({ [RUN]: new Refusal(409, { detail: "Line 2: Odalys moved it at 9:12." }) });
    const user = await opened();
    await user.click(button("Run 4 lines"));
    await waitFor(() => expect(notice()).toContain("Line 2: Odalys moved it at 9:12."));
    expect(button("Run 4 lines").disabled).toBe(false);
  });

  it("is tried on as many lines as there are, 300 at most", async () => {
    serve({ "POST /api/manifests/5/try": {} });
    const user = await opened();
    expect(button("Try the first line only")).toBeTruthy();
    const many = screen.getByLabelText("how many");
    fireEvent.change(many, { target: { value: "999" } });
    expect((many as HTMLInputElement).value).toBe("300");
    await user.click(button("Try the first 4"));
    await waitFor(() => expect(notice()).toContain("Tried on 4."));
    expect(bodies("POST /api/manifests/5/try")).toEqual([{ count: 4 }]);
  });

  it("with nothing ready can be neither run nor tried", async () => {
    await opened({ counts: { blocked: 4 } }, [aLine({ state: "blocked", why: "the name is taken" })]);
    expect(button("Run 0 lines").disabled).toBe(true);
    expect(button("Try the first line only").disabled).toBe(true);
    expect(screen.getByText("the name is taken")).toBeTruthy();
  });

  it("adds up why lines are blocked or failed, and asks for it only where any is", async () => {
    const user = await opened({ counts: { ready: 1, blocked: 40, failed: 3 } });
    const told = async (name: string) =>
      [...(await screen.findByRole("region", { name })).querySelectorAll("li")].map((one) => one.textContent);
    expect(await told("Why lines are blocked")).toEqual(["40 taken by “…”"]);
    expect(await told("Why lines failed")).toEqual(["1 “rib.pdf” is elsewhere now.", "2 for other reasons"]);
    await user.click(button("show what failed"));
    await waitFor(() => expect(queries("GET /api/manifests/5/lines").at(-1)).toContain("state=failed"));
  });

  it("with nothing blocked asks for no reasons", async () => {
    await opened();
    expect(queries("GET /api/manifests/5/reasons")).toEqual([]);
    expect(screen.queryByRole("region", { name: /^Why lines/ })).toBeNull();
  });

  it("plans taken names as one says", async () => {
    const user = await opened();
    await user.click(screen.getByLabelText("keep both, with a mark ~2"));
    await waitFor(() => expect(bodies(CHECK)).toEqual([{ taken: "both", edits: {}, targets: {}, forget: [] }]));
  });

  it("takes the facts that its blocked lines lack, and is checked again", async () => {
    serve({
      "GET /api/vocabulary": { kinds: [], labels: {} },
      "GET /api/parties": { parties: [] },
      "PATCH /api/documents/104/facts": {},
    });
    const lacking = aLine({ line: 4, state: "blocked", code: "missing", why: "not known: ref", missing: ["ref"] });
    const user = await opened({ counts: { ready: 1, blocked: 1 } }, [aLine(), lacking]);
    expect(screen.queryByLabelText("ref of letter 4.pdf")).toBeNull();
    await user.click(button("blocked"));
    await user.type(await screen.findByLabelText("ref of letter 4.pdf"), "TT-7");
    await user.click(button("Keep these facts"));
    await waitFor(() => expect(bodies(CHECK)).toEqual([{ taken: null, edits: {}, targets: {}, forget: [] }]));
    expect(bodies("PATCH /api/documents/104/facts")).toEqual([{ field: "ref", value: "TT-7" }]);
  });

  it("shows the lines of one state", async () => {
    const user = await opened({ counts: { ready: 3, blocked: 1, "make folder": 2 } });
    await user.click(button("blocked"));
    await waitFor(() => expect(queries("GET /api/manifests/5/lines").at(-1)).toContain("state=blocked"));
    await user.click(button("folders made and removed"));
    await waitFor(() => expect(queries("GET /api/manifests/5/lines").at(-1)).toContain("state=folders"));
    expect(screen.queryByRole("button", { name: "left out" })).toBeNull();
  });
});

describe("lines of a plan", () => {
  it("get another name by hand", async () => {
    const user = await opened();
    await user.click(row(1));
    const name = screen.getByLabelText("Line 2: new name");
    expect(button("Take this name").disabled).toBe(true);
    await user.clear(name);
    expect(button("Take this name").disabled).toBe(true);
    await user.type(name, " By hand.pdf {Enter}");
    await waitFor(() =>
      expect(bodies(CHECK)).toEqual([{ taken: null, edits: { 101: "By hand.pdf" }, targets: {}, forget: [] }]),
    );
  });

  it("are left out, or as planned again", async () => {
    const user = await opened();
    await user.click(row(2));
    await user.click(button("Leave it out"));
    await user.click(button("as planned"));
    await waitFor(() => expect(bodies(CHECK)).toHaveLength(2));
    expect(bodies(CHECK)).toEqual([
      { taken: null, edits: { 102: null }, targets: {}, forget: [] },
      { taken: null, edits: {}, targets: {}, forget: [102] },
    ]);
  });

  it("are left out together: by mouse with Shift and Ctrl, by keyboard", async () => {
    const user = await opened();
    await user.click(row(0));
    await user.keyboard("{Shift>}");
    await user.click(row(2));
    await user.keyboard("{/Shift}{Control>}");
    await user.click(row(1));
    await user.keyboard("{/Control}");
    expect(screen.getByText("2 lines chosen")).toBeTruthy();
    await user.click(button("Leave them out"));
    await waitFor(() =>
      expect(bodies(CHECK)).toEqual([{ taken: null, edits: { 100: null, 102: null }, targets: {}, forget: [] }]),
    );
    expect(screen.queryByText("2 lines chosen")).toBeNull();

    screen.getByRole("grid").focus();
    await user.keyboard("{Home}{Shift>}{ArrowDown}{ArrowDown}{/Shift}");
    expect(screen.getByText("3 lines chosen")).toBeTruthy();
    await user.click(button("as planned"));
    await waitFor(() =>
      expect(bodies(CHECK)[1]).toEqual({ taken: null, edits: {}, targets: {}, forget: [100, 101, 102] }),
    );
  });

  it("that do not stand together are chosen by keyboard", async () => {
    const user = await opened();
    screen.getByRole("grid").focus();
    await user.keyboard("{Home}{Control>}{ArrowDown}{ArrowDown} {End}{/Control}");
    expect(screen.getByText("2 lines chosen")).toBeTruthy();
    await user.keyboard(" ");
    await user.click(button("Leave them out"));
    await waitFor(() => expect(bodies(CHECK)).toMatchObject([{ edits: { 100: null, 102: null, 103: null } }]));
    screen.getByRole("grid").focus();
    await user.keyboard("{Home}{Shift>}{End}{/Shift}{ArrowUp}");
    expect(screen.queryByText(/lines chosen/)).toBeNull();
  });

  it("go to a folder that is chosen by hand, one or several", async () => {
    serve({
      "GET /api/targets": { targets: [{ folder: 9, path: "Office / Regatta", lately: false, why: null }] },
      "POST /api/entries/targets": { targets: [] },
      "POST /api/entries/sight": { gain: [], lose: [] },
      "GET /api/folders/9": { id: 9, name: "Regatta", here: 0, below: 0, closed: false, may_file: true, folders: [] },
    });
    const user = await opened();
    await user.click(row(1));
    await user.click(button("To another folder…"));
    expect(screen.getByRole("dialog", { name: "Where the plan puts letter 1.pdf" })).toBeTruthy();
    await screen.findByRole("option");
    await user.type(screen.getByRole("combobox"), "{Enter}");
    await waitFor(() => expect(bodies(CHECK)).toEqual([{ taken: null, edits: {}, targets: { 101: 9 }, forget: [] }]));
    screen.getByRole("grid").focus();
    await user.keyboard("{Home}{Shift>}{ArrowDown}{/Shift}");
    await user.click(button("To another folder…"));
    await screen.findByRole("option");
    await user.click(button(/^Put in Regatta/));
    await waitFor(() => expect(bodies(CHECK)[1]).toMatchObject({ targets: { 100: 9, 101: 9 } }));
    expect(screen.queryByRole("dialog")).toBeNull();
  });

  it("that make folders are not among those that are edited", async () => {
    const user = await opened({ counts: { ready: 1, "make folder": 1 } }, [
      aLine({ line: 0, kind: "make folder", document: null, entry: 9, from_name: null, to_name: "2026" }),
      aLine({ line: 1, number: 1, from_name: "letter 0.pdf" }),
    ]);
    await user.click(row(0));
    expect(screen.queryByText("Take this name")).toBeNull();
    await user.keyboard("{Shift>}");
    await user.click(row(1));
    await user.keyboard("{/Shift}");
    expect(screen.getByLabelText("Line 1: new name")).toBeTruthy();
  });

  it("stay chosen by their documents where the plan that is checked again has them elsewhere", async () => {
    const user = await opened(
      {},
      [1, 2, 3].map((line) => aLine({ line, number: line, entry: 200 + line })),
    );
    await user.click(row(1));
    const name = () => screen.getByLabelText<HTMLInputElement>(/new name$/);
    await user.type(name(), "!");
    // a folder less is made: every line is one further up
    serve({
      "GET /api/manifests/5/lines": {
        lines: [1, 2, 3].map((n) => aLine({ line: n - 1, number: n, entry: 200 + n, to_name: `Letter ${n}.pdf` })),
        next: null,
      },
    });
    await user.click(button("Check again"));
    await waitFor(() => expect(queries("GET /api/manifests/5/lines")).toHaveLength(2));
    await waitFor(() => expect(screen.getByRole("grid").querySelector('[aria-selected="true"]')).toBe(row(1)));
    expect([name().labels?.[0]?.textContent, name().value]).toEqual(["Line 2: new name", "Letter 2.pdf!"]);
    await user.keyboard("{Enter}");
    await user.click(row(2));
    expect(name().value).toBe("Letter 3.pdf");
  });

  it("are not edited once a part of the plan was tried", async () => {
    const user = await opened({ problem: "tried" });
    await user.click(row(0));
    expect(screen.queryByText("Take this name")).toBeNull();
    expect(screen.queryByRole("button", { name: "Check again" })).toBeNull();
    expect((screen.getByLabelText("keep both, with a mark ~2") as HTMLInputElement).matches(":disabled")).toBe(true);
  });

  it("that want the same name are shown beside what has it", async () => {
    const user = await opened({}, [aLine({ state: "blocked", code: "taken", why: "the name is taken", holder: 77 })]);
    await user.click(row(0));
    expect(screen.getAllByRole("img").map((one) => one.getAttribute("src"))).toEqual([
      "/api/documents/100/pages/1",
      "/api/documents/77/pages/1",
    ]);
    fireEvent.error(screen.getByAltText("First page: this one"));
    expect(screen.getByText("no page to show")).toBeTruthy();
  });
});

describe("a manifest that ran", () => {
  const ran = { state: "done", ran_at: "2026-03-18T09:01:00Z", can_undo: true };

  it("in parts and was stopped goes on with what is left; another's is not one's own to go on with", async () => {
    const stopped = { ...ran, state: "partly done", partial: true, counts: { ready: 1, "not done": 3 } };
    serve({ [RUN]: { state: "queued" } });
    const user = await opened(stopped);
    await user.click(button("Go on with the 3 lines that are left"));
    await waitFor(() => expect(bodies(RUN)).toEqual([{ partial: true }]));
    cleanup();
    await opened({ ...stopped, mine: false });
    expect(screen.queryByRole("button", { name: /^Go on/ })).toBeNull();
    cleanup();
    await opened({ ...stopped, counts: { ready: 3, failed: 1 } });
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
    const user = await opened({ ...ran, counts: { ready: 3, failed: 1 } }, [
      aLine({ line: 0 }),
      aLine({ line: 1, state: "failed", why: "it was gone" }),
      aLine({ line: 2 }),
      aLine({ line: 3 }),
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
    const user = await opened({ ...ran, counts: { ready: 1, failed: 1 } }, [
      aLine({ line: 0, note: "party shortened" }),
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
    const user = await opened({ ...ran, state: "partly undone", counts: { ready: 3, undone: 1 } }, [
      aLine({ line: 0, state: "undone" }),
      ...[1, 2, 3].map((line) => aLine({ line })),
    ]);
    expect(within(row(0)).getByText("undone")).toBeTruthy();
    await user.click(row(0));
    expect(button("Undo the chosen line").disabled).toBe(true);
    await user.click(button("undone"));
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
    const way = { reads: "<n> <rest>", prints: "<rest>", placing: false, base: null, remove_emptied: false };
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
    expect(await screen.findByRole("heading", { name: "There is no such manifest" })).toBeTruthy();
    expect(screen.getByRole("link", { name: "All manifests" }).getAttribute("href")).toBe("/manifests");
  });
});
