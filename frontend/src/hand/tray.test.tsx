// @vitest-environment jsdom
import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { notice, show } from "../testing/page";
import { bodies, Refusal, serve } from "../testing/server";
import { Tray } from "./Tray";

const DOWN = "POST /api/hand/put-down";
const SIGHT = "POST /api/entries/sight";
const held = [11, 12, 13, 14].map((entry) => ({ entry, name: `plan ${entry}.pdf`, place: "Office" }));

async function carrying(address: string, may_file = true) {
  serve({
    "GET /api/hand": { held },
    [SIGHT]: (form: { stays: boolean }) => ({ gain: ["Lise Ott"], lose: form.stays ? [] : ["Petra Alm"] }),
    "GET /api/folders/4": { id: 4, name: "Letters", may_file, path: [{ name: "Office" }, { name: "Letters" }] },
  });
  const user = show(<Tray />, address);
  await screen.findByText("4 in hand");
  return user;
}

describe("what is in hand", () => {
  it("is told on every screen, the first three by name", async () => {
    await carrying("/find");
    expect(screen.getByRole("complementary").textContent).toContain("plan 11.pdf, plan 12.pdf, plan 13.pdf …");
    expect(screen.queryByRole("button", { name: /down here/ })).toBeNull();
  });

  it("is put down in the folder that is open, by a button or Ctrl+V", async () => {
    serve({ [DOWN]: {} });
    const user = await carrying("/drive/4");
    await user.click(await screen.findByRole("button", { name: /^Put 4 down here/ }));
    await waitFor(() => expect(notice()).toContain("Moved 4 documents to Office / Letters"));
    await user.keyboard("{Control>}v{/Control}{Control>}{Shift>}v{/Shift}{/Control}");
    await waitFor(() => expect(bodies(DOWN)).toHaveLength(3));
    expect(bodies(DOWN)).toEqual(
      ["move", "move", "copy"].map((how) => ({ entries: [11, 12, 13, 14], how, folder: 4, taken: "stop" })),
    );
  });

  it("tells who would see it there, and for the way that one points at", async () => {
    const user = await carrying("/drive/4");
    const told = await screen.findByText(/will also see it/);
    expect(told.textContent).toBe("Put down here: Lise Ott will also see it. Petra Alm will no longer see it.");
    await user.hover(screen.getByRole("button", { name: "Copy here" }));
    await screen.findByText(/^Copied here/);
    expect(screen.queryByText("Petra Alm")).toBeNull();
    await user.unhover(screen.getByRole("button", { name: "Copy here" }));
    await screen.findByText("Petra Alm");
    expect(bodies(SIGHT).slice(0, 2)).toEqual([
      { entries: [11, 12, 13, 14], folder: 4, stays: false, inside: false },
      { entries: [11, 12, 13, 14], folder: 4, stays: true, inside: true },
    ]);
  });

  it("is put down in part: what is ticked", async () => {
    serve({ [DOWN]: {} });
    const user = await carrying("/drive/4");
    await user.click(screen.getByRole("button", { name: /4 in hand/ }));
    const list = screen.getByRole("list", { name: "What is in hand" });
    await user.click(within(list).getAllByRole("checkbox")[1] as HTMLElement);
    await user.click(await screen.findByRole("button", { name: /^Put plan 12.pdf down here/ }));
    await waitFor(() => expect(bodies(DOWN)).toEqual([{ entries: [12], how: "move", folder: 4, taken: "stop" }]));
    expect(notice()).toContain("Moved plan 12.pdf to Office / Letters");
  });

  it("stays in hand where it cannot be put down, and says why", async () => {
    serve({ [DOWN]: new Refusal(409, { detail: "There is “plan 11.pdf” in Letters already." }) });
    const user = await carrying("/drive/4");
    await user.click(await screen.findByRole("button", { name: /^Put 4 down here/ }));
    await waitFor(() => expect(notice()).toContain("There is “plan 11.pdf” in Letters already."));
    expect(screen.getByText("4 in hand")).toBeTruthy();
  });

  it("is not offered to a folder that may only be read", async () => {
    await carrying("/drive/4", false);
    expect(await screen.findByText("You may not file in Letters.")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /down here/ })).toBeNull();
  });

  it("is let go as a whole", async () => {
    serve({ "POST /api/hand/let-go": { held: [] } });
    const user = await carrying("/find");
    await user.click(screen.getByRole("button", { name: "Cancel" }));
    await waitFor(() => expect(screen.queryByText("4 in hand")).toBeNull());
    expect(bodies("POST /api/hand/let-go")).toEqual([{ entries: null }]);
  });
});
