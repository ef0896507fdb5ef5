// @vitest-environment jsdom
import { fireEvent, screen, waitFor } from "@testing-library/react";
import { type ReactNode, useMemo } from "react";
import { describe, expect, it, vi } from "vitest";
import { address, notice, show } from "../testing/page";
import { bodies, Refusal, serve } from "../testing/server";
import { type Key, useKeys } from "./keys";

/** A screen with a field and keys of its own. */
function Screen(props: { run: () => void; anywhere?: boolean; single?: boolean }): ReactNode {
  const { run, anywhere, single } = props;
  const keys = useMemo<Key[]>(
    () => [{ keys: "B", what: "Do it", match: (e) => e.key === "b", run, anywhere, single }],
    [run, anywhere, single],
  );
  useKeys(keys);
  return <input aria-label="field" />;
}

const undone = { title: "Move to Letters", manifest: 8, lines: 1, left_out: [], arrivals: [], queued: false };

describe("keys of a screen", () => {
  it("do nothing while one types, unless they are for anywhere", async () => {
    const run = vi.fn();
    const user = show(<Screen run={run} />);
    await user.type(screen.getByLabelText("field"), "b");
    expect(run).not.toHaveBeenCalled();
    (document.activeElement as HTMLElement).blur();
    await user.keyboard("b");
    expect(run).toHaveBeenCalledOnce();
  });
  it("for anywhere act in a field too, and are not typed", async () => {
    const run = vi.fn();
    const user = show(<Screen run={run} anywhere />);
    await user.type(screen.getByLabelText("field"), "abc");
    expect(run).toHaveBeenCalledOnce();
    expect((screen.getByLabelText("field") as HTMLInputElement).value).toBe("ac");
  });
  it("as strokes for anywhere are the screen's before a field makes something of them", () => {
    const run = vi.fn();
    const opened = vi.fn();
    show(
      <>
        <Screen run={run} anywhere />
        <input
          aria-label="list"
          onKeyDown={(event) => {
            event.preventDefault();
            opened();
          }}
        />
      </>,
    );
    fireEvent.keyDown(screen.getByLabelText("list"), { key: "b", ctrlKey: true });
    expect([run.mock.calls.length, opened.mock.calls.length]).toEqual([1, 0]);
    fireEvent.keyDown(screen.getByLabelText("list"), { key: "x", ctrlKey: true });
    expect([run.mock.calls.length, opened.mock.calls.length]).toEqual([1, 1]);
  });
  it("act once while they are held", () => {
    const run = vi.fn();
    show(<Screen run={run} />);
    fireEvent.keyDown(document.body, { key: "b" });
    fireEvent.keyDown(document.body, { key: "b", repeat: true });
    expect(run).toHaveBeenCalledOnce();
  });
  it("do not act on what was handled, or while letters are composed", () => {
    const run = vi.fn();
    show(<Screen run={run} />);
    fireEvent.keyDown(document.body, { key: "b", isComposing: true });
    document.body.addEventListener("keydown", (event) => event.preventDefault(), { once: true });
    fireEvent.keyDown(document.body, { key: "b" });
    expect(run).not.toHaveBeenCalled();
  });
  it("are listed by ?, where single ones are switched off for good", async () => {
    const run = vi.fn();
    const user = show(<Screen run={run} single />);
    await user.keyboard("?");
    expect(screen.getByRole("dialog", { name: "Keys on this screen" }).textContent).toContain("Do it");
    await user.click(screen.getByLabelText("Allow single-key shortcuts"));
    await user.click(screen.getByRole("button", { name: "Close" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    await user.keyboard("b?");
    expect(run).not.toHaveBeenCalled();
    expect(screen.queryByRole("dialog")).toBeNull();
  });
});

describe("keys of all screens", () => {
  it("lead to the screens", async () => {
    show(null);
    for (const [code, path] of [
      ["Digit2", "/drive"],
      ["Digit5", "/manifests"],
      ["Digit1", "/arrivals"],
      ["Digit6", "/parties"],
    ] as const) {
      fireEvent.keyDown(document.body, { altKey: true, code });
      expect(address()).toBe(path);
    }
  });
  it("undo and do again, and say what that was", async () => {
    serve({ "POST /api/undo": undone, "POST /api/redo": { ...undone, title: "Undo: Move to Letters" } });
    const user = show(null);
    await user.keyboard("{Control>}z{/Control}");
    await waitFor(() => expect(notice()).toContain("Undone: Move to Letters."));
    await user.keyboard("{Control>}{Shift>}z{/Shift}{/Control}");
    await waitFor(() => expect(notice()).toContain("Done again: Move to Letters."));
    await user.keyboard("{Control>}y{/Control}");
    await waitFor(() => expect(bodies("POST /api/redo")).toHaveLength(2));
    expect(bodies("POST /api/undo")).toHaveLength(1);
  });
  it("leave undo to a field while one types in it", async () => {
    const user = show(<input aria-label="field" />);
    await user.type(screen.getByLabelText("field"), "x{Control>}z{/Control}");
    expect(bodies("POST /api/undo")).toEqual([]);
  });
  it("lead back to what waits again when its filing was undone", async () => {
    serve({ "POST /api/undo": { ...undone, arrivals: [31] } });
    const user = show(null, "/drive/4");
    await user.keyboard("{Control>}z{/Control}");
    await waitFor(() => expect(address()).toBe("/arrivals/31"));
  });
  it("say what could not be undone, and keep that in sight", async () => {
    serve({ "POST /api/undo": { ...undone, left_out: ["“a.pdf” is no longer where it was."] } });
    const user = show(null);
    await user.keyboard("{Control>}z{/Control}");
    await waitFor(() => expect(notice()).toContain("Not so: “a.pdf” is no longer where it was."));
    expect(document.querySelector(".notice.bad")).not.toBeNull();
  });
  it("lead to what is undone by the worker", async () => {
    serve({ "POST /api/undo": { ...undone, lines: 100_000, queued: true } });
    const user = show(null);
    await user.keyboard("{Control>}z{/Control}");
    await waitFor(() => expect(notice()).toContain("“Move to Letters” is being undone: 100,000 lines."));
    await user.click(screen.getByRole("button", { name: "See it" }));
    expect(address()).toBe("/manifests/8");
  });
  it("say why nothing can be undone", async () => {
    serve({ "POST /api/undo": new Refusal(409, { detail: "There is nothing to undo in this session." }) });
    const user = show(null);
    await user.keyboard("{Control>}z{/Control}");
    await waitFor(() => expect(notice()).toContain("There is nothing to undo in this session."));
    await user.click(screen.getByRole("button", { name: "Close" }));
    expect(notice()).toBe("");
  });
});
