// @vitest-environment jsdom
import { screen, waitFor } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import { notice, show } from "../testing/page";
import { bodies, Refusal, serve } from "../testing/server";
import { RenameForm } from "./RenameForm";

const RENAME = "PATCH /api/entries/31";

function renaming() {
  const onClose = vi.fn();
  return {
    user: show(<RenameForm label="New name" entry={31} start="letter" ending="pdf" onClose={onClose} />),
    onClose,
  };
}

test("the name as it is now is told, not as it was typed", async () => {
  serve({ [RENAME]: { title: "Renamed letter.pdf to a-b.pdf" } });
  const { user, onClose } = renaming();
  await user.clear(screen.getByLabelText("New name"));
  await user.type(screen.getByLabelText("New name"), "a/b{Enter}");
  await waitFor(() => expect(onClose).toHaveBeenCalled());
  expect(notice()).toContain("Renamed letter.pdf to a-b.pdf");
});

test("an ending of another type is told before it is done", async () => {
  const { user } = renaming();
  await user.clear(screen.getByLabelText("New name"));
  await user.type(screen.getByLabelText("New name"), "letter.docx");
  expect(screen.getByText(/It stays a/).textContent).toBe("It stays a PDF file: it will be letter.docx.pdf");
});

test("a name that is too long is sent whole and refused with the reason; nothing of it is lost", async () => {
  const long = "keel ".repeat(60).trim();
  serve({ [RENAME]: new Refusal(422, { detail: "It is too long." }) });
  const { user, onClose } = renaming();
  await user.clear(screen.getByLabelText("New name"));
  await user.paste(long);
  await user.keyboard("{Enter}");
  expect((await screen.findByRole("alert")).textContent).toBe("It is too long.");
  expect(bodies(RENAME)).toEqual([{ name: long, parent: null }]);
  expect(screen.getByLabelText("New name")).toHaveProperty("value", long);
  expect(onClose).not.toHaveBeenCalled();
});
