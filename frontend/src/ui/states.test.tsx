// @vitest-environment jsdom
import { screen, waitFor } from "@testing-library/react";
import { lazy } from "react";
import { afterEach, expect, test, vi } from "vitest";
import { Trouble } from "../api/client";
import { show } from "../testing/page";
import { Later } from "./Later";
import { Failed } from "./states";

afterEach(() => vi.restoreAllMocks());

/** A part that cannot be had, as Chromium says it. */
function unloaded() {
  vi.spyOn(console, "error").mockImplementation(() => {});
  return lazy(() => Promise.reject(new TypeError("Failed to fetch dynamically imported module: /assets/Gone.js")));
}

test("what failed is told with its reason, and tried again on demand", async () => {
  const again = vi.fn();
  const user = show(<Failed what="The folder" error={new Trouble("The disk is full.", 500, "")} onAgain={again} />);
  expect(screen.getByRole("alert").textContent).toContain("The folder cannot be shown");
  expect(screen.getByRole("alert").textContent).toContain("The disk is full.");
  await user.click(screen.getByRole("button", { name: "Try again" }));
  expect(again).toHaveBeenCalledOnce();
});

test("what is not one's own any more is told so, with a way out and nothing to try", () => {
  const gone = new Trouble("There is no such folder, or it is not yours to read.", 404, "not-found");
  show(
    <Failed what="The folder" error={gone} onAgain={vi.fn()}>
      Go to the drive
    </Failed>,
  );
  expect(screen.getByRole("alert").textContent).toContain("The folder is not there, or not yours to see");
  expect(screen.getByRole("alert").textContent).toContain("Go to the drive");
  expect(screen.queryByRole("button")).toBeNull();
});

test("a screen that cannot be loaded asks to load the page again", async () => {
  const Part = unloaded();
  show(
    <Later>
      <Part />
    </Later>,
  );
  await waitFor(() => screen.getByText("This part of Waka could not be loaded"));
  screen.getByRole("button", { name: "Load the page again" });
});

test("a dialog that cannot be loaded says so in one, and is closed again", async () => {
  const Part = unloaded();
  const close = vi.fn();
  const user = show(
    <Later onClose={close}>
      <Part />
    </Later>,
  );
  const dialog = await screen.findByRole("dialog");
  expect(dialog.textContent).toContain("Load the page again");
  await user.click(screen.getByRole("button", { name: "Close" }));
  expect(close).toHaveBeenCalledOnce();
});
