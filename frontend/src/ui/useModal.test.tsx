// @vitest-environment jsdom
import { render, screen, waitFor } from "@testing-library/react";
import { type ReactNode, useState } from "react";
import { expect, it } from "vitest";
import { useModal } from "./useModal";

function Asked(props: { gone?: boolean }): ReactNode {
  const dialog = useModal();
  const [done, setDone] = useState(false);
  return (
    <dialog ref={dialog} aria-label="Asked">
      {!(done && props.gone) && (
        <button type="button" disabled={done} onClick={() => setDone(true)}>
          Keep it
        </button>
      )}
      <button type="button">Close</button>
    </dialog>
  );
}

const dialog = () => screen.getByRole("dialog", { name: "Asked" }) as HTMLDialogElement;

it("opens", () => {
  render(<Asked />);
  expect(dialog().open).toBe(true);
});

it.each([true, false])("has the focus where what had it is gone or cannot be used (gone: %s)", async (gone) => {
  render(<Asked gone={gone} />);
  const keep = screen.getByRole("button", { name: "Keep it" });
  keep.focus();
  keep.click();
  await waitFor(() => expect(document.activeElement).toBe(dialog()));
});

it("leaves the focus where it can be used", async () => {
  render(<Asked gone />);
  const close = screen.getByRole("button", { name: "Close" });
  close.focus();
  screen.getByRole("button", { name: "Keep it" }).click();
  await waitFor(() => expect(screen.queryByRole("button", { name: "Keep it" })).toBeNull());
  expect(document.activeElement).toBe(close);
});
