// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { isUnkept } from "../parts/typing/drafts";
import { button, CHECK, opened, RUN, row } from "../testing/manifestScreen";
import { aLine } from "../testing/manifests";
import { notice, pick } from "../testing/page";
import { bodies, queries, Refusal, serve } from "../testing/server";
import { VOCABULARY } from "../testing/vocabulary";

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
    fireEvent.blur(many);
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
      "GET /api/vocabulary": VOCABULARY,
      "GET /api/parties": { parties: [] },
      "PATCH /api/documents/104/facts": {},
    });
    const lacking = aLine({ line: 4, state: "blocked", code: "missing", why: "not known: ref", missing: ["ref"] });
    const user = await opened({ counts: { ready: 1, blocked: 1 } }, [aLine(), lacking]);
    expect(screen.queryByLabelText("Reference of letter 4.pdf")).toBeNull();
    await pick(user, "blocked");
    await user.type(await screen.findByLabelText("Reference of letter 4.pdf"), "TT-7");
    await user.click(button("Save these facts"));
    await waitFor(() => expect(bodies(CHECK)).toEqual([{ taken: null, edits: {}, targets: {}, forget: [] }]));
    expect(bodies("PATCH /api/documents/104/facts")).toEqual([{ field: "ref", value: "TT-7" }]);
  });

  it("shows the lines of one state", async () => {
    const user = await opened({ counts: { ready: 3, blocked: 1, "make folder": 2 } });
    await pick(user, "blocked");
    await waitFor(() => expect(queries("GET /api/manifests/5/lines").at(-1)).toContain("state=blocked"));
    await pick(user, "folders made and removed");
    await waitFor(() => expect(queries("GET /api/manifests/5/lines").at(-1)).toContain("state=folders"));
    expect(screen.queryByRole("button", { name: "left out" })).toBeNull();
  });
});

describe("lines of a plan", () => {
  it("get another name by hand", async () => {
    const user = await opened();
    await user.click(row(1));
    const name = screen.getByLabelText("Line 2: new name");
    expect(button("Use this name").disabled).toBe(true);
    await user.clear(name);
    expect(button("Use this name").disabled).toBe(true);
    await user.type(name, " By hand.pdf {Enter}");
    await waitFor(() =>
      expect(bodies(CHECK)).toEqual([{ taken: null, edits: { 101: "By hand.pdf" }, targets: {}, forget: [] }]),
    );
  });

  it("keep the name that one types, until it is taken or the plan is none any more", async () => {
    const name = () => screen.getByLabelText<HTMLInputElement>(/new name$/);
    let user = await opened();
    await user.click(row(1));
    await user.type(name(), "!");
    await user.click(row(0));
    expect(name().value).toBe("Letter 0.pdf");
    cleanup();
    user = await opened();
    await user.click(row(1));
    expect(name().value).toBe("Letter 1.pdf!");
    cleanup();
    await opened({ state: "stopped", ran_at: "2026-03-18T09:01:00Z" });
    expect(isUnkept("manifest 5")).toBe(false);
  });

  it("that were tried say in which manifest", async () => {
    const tried = aLine({ state: "done", code: "tried", why: "done in the trial", trial: 9 });
    const user = await opened({ tried: true, counts: { ready: 3, "left out": 1 } }, [tried]);
    await user.click(row(0));
    const told = screen.getByText(/^Line 1:/);
    expect(told.textContent).toBe("Line 1: done in the trial · manifest 9");
    expect(told.className).not.toContain("problem");
    expect(screen.getByRole("link", { name: "manifest 9" }).getAttribute("href")).toBe("/manifests/9");
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
    await user.click(button("Leave out these lines"));
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
    await user.click(button("Leave out these lines"));
    await waitFor(() => expect(bodies(CHECK)).toMatchObject([{ edits: { 100: null, 102: null, 103: null } }]));
    screen.getByRole("grid").focus();
    await user.keyboard("{Home}{Shift>}{End}{/Shift}{ArrowUp}");
    expect(screen.queryByText(/lines chosen/)).toBeNull();
  });

  it("go to a folder that is chosen by hand, one or several", async () => {
    serve({
      "GET /api/folders": { folders: [] },
      "GET /api/targets": { targets: [{ folder: 9, path: "Office / Regatta", lately: false, why: null }] },
      "POST /api/entries/targets": { targets: [] },
      "POST /api/entries/sight": { gain: [], lose: [] },
      "GET /api/folders/9": {
        id: 9,
        name: "Regatta",
        here: 0,
        below: 0,
        restricted: false,
        may_file: true,
        folders: [],
      },
    });
    const user = await opened();
    await user.click(row(1));
    await user.click(button("To another folder…"));
    expect(screen.getByRole("dialog", { name: "Where the plan puts letter 1.pdf" })).toBeTruthy();
    await screen.findByRole("option");
    await user.type(screen.getByRole("combobox"), "{ArrowDown}{Enter}");
    await waitFor(() => expect(bodies(CHECK)).toEqual([{ taken: null, edits: {}, targets: { 101: 9 }, forget: [] }]));
    screen.getByRole("grid").focus();
    await user.keyboard("{Home}{Shift>}{ArrowDown}{/Shift}");
    await user.click(button("To another folder…"));
    await screen.findByRole("option");
    await user.type(screen.getByRole("combobox"), "{ArrowDown}");
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
    expect(screen.queryByText("Use this name")).toBeNull();
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
    const user = await opened({ tried: true });
    await user.click(row(0));
    expect(screen.queryByText("Use this name")).toBeNull();
    expect(screen.queryByRole("button", { name: "Check again" })).toBeNull();
    expect((screen.getByLabelText("keep both, with a mark ~2") as HTMLInputElement).matches(":disabled")).toBe(true);
  });

  it("that want the same name are shown beside what has it", async () => {
    const user = await opened({}, [aLine({ state: "blocked", code: "taken", why: "the name is taken", holder: 77 })]);
    await user.click(row(0));
    expect(screen.getAllByAltText(/^First page/).map((one) => one.getAttribute("src"))).toEqual([
      "/api/documents/100/pages/1",
      "/api/documents/77/pages/1",
    ]);
    fireEvent.error(screen.getByAltText("First page: this one"));
    expect(screen.getByText("no page to show")).toBeTruthy();
  });
});
