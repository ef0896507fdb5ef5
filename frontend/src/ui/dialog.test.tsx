// @vitest-environment jsdom
import { screen, waitFor } from "@testing-library/react";
import { type ReactNode, useState } from "react";
import { expect, it, vi } from "vitest";
import { show } from "../testing/page";
import { Dialog } from "./Dialog";
import { useKeys } from "./keys";

const behind = vi.fn();
const KEYS = [
  { keys: "K", what: "Something", match: (e: KeyboardEvent) => e.key === "k" || e.key === "Escape", run: behind },
];

function Asked(props: { gone?: boolean }): ReactNode {
  const [open, setOpen] = useState(false);
  const [done, setDone] = useState(false);
  useKeys(KEYS);
  return (
    <>
      <button type="button" onClick={() => setOpen(true)}>
        Ask
      </button>
      {open && (
        <Dialog title="Asked" onClose={() => setOpen(false)}>
          {!(done && props.gone) && (
            <button type="button" disabled={done} onClick={() => setDone(true)}>
              Keep it
            </button>
          )}
          <button type="button">Close</button>
        </Dialog>
      )}
    </>
  );
}

async function asked(gone = false) {
  const user = show(<Asked gone={gone} />);
  await user.click(screen.getByRole("button", { name: "Ask" }));
  return { user, dialog: await screen.findByRole("dialog", { name: "Asked" }) };
}

it("has the focus, Esc closes it, and the focus is where it was", async () => {
  const { user, dialog } = await asked();
  await waitFor(() => expect(dialog.contains(document.activeElement)).toBe(true));
  await user.keyboard("k{Escape}");
  await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  expect(document.activeElement).toBe(screen.getByRole("button", { name: "Ask" }));
  expect(behind, "the keys of the screen behind rest").not.toHaveBeenCalled();
  await user.keyboard("k");
  expect(behind).toHaveBeenCalledOnce();
});

it.each([true, false])("has the focus where what had it is gone or cannot be used (gone: %s)", async (gone) => {
  const { user, dialog } = await asked(gone);
  await user.click(screen.getByRole("button", { name: "Keep it" }));
  await waitFor(() => expect(dialog.contains(document.activeElement)).toBe(true));
});

it("leaves the focus where it can be used", async () => {
  await asked(true);
  const close = screen.getByRole("button", { name: "Close" });
  const keep = screen.getByRole("button", { name: "Keep it" });
  close.focus();
  keep.click();
  await waitFor(() => expect(screen.queryByRole("button", { name: "Keep it" })).toBeNull());
  expect(document.activeElement).toBe(close);
});
