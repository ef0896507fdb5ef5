// @vitest-environment jsdom
import { screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Things } from "../places/moving";
import { notice, show } from "../testing/page";
import { bodies, Refusal, serve } from "../testing/server";
import { TagDialog } from "./TagDialog";

const TAGS = "POST /api/entries/tags";
const several: Things = { entries: [11, 12], name: "" };
const folder: Things = { entries: [30], name: "Regatta", folder: 9 };

function tagging(things: Things, had: string[] = []) {
  serve({ "GET /api/tags": { tags: [{ tag: "urgent" }, { tag: "paid" }] } });
  const onClose = vi.fn();
  return { user: show(<TagDialog things={things} had={had} onClose={onClose} />), onClose };
}

describe("tags", () => {
  it("are put on several documents at once, with commas between", async () => {
    serve({ [TAGS]: {} });
    const { user, onClose } = tagging(several);
    expect(screen.getByRole("dialog", { name: "Tags of 2 documents" })).toBeTruthy();
    await user.type(screen.getByLabelText("Tags, with commas between"), " paid , ,urgent{Enter}");
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(bodies(TAGS)).toEqual([{ entries: [11, 12], add: ["paid", "urgent"], remove: [] }]);
    expect(notice()).toContain("Tagged paid, urgent: 2 documents");
  });
  it("are taken off by name, or by the one that is there", async () => {
    serve({ [TAGS]: {} });
    const { user } = tagging(several, ["paid"]);
    await user.click(screen.getByRole("button", { name: "Remove paid" }));
    await user.type(screen.getByLabelText("Tags, with commas between"), "urgent");
    await user.click(screen.getByRole("button", { name: "Remove" }));
    await waitFor(() => expect(bodies(TAGS)).toHaveLength(2));
    expect(bodies(TAGS)).toEqual([
      { entries: [11, 12], add: [], remove: ["paid"] },
      { entries: [11, 12], add: [], remove: ["urgent"] },
    ]);
  });
  it("of a folder are its own, unless one asks for all in it", async () => {
    serve({ "PATCH /api/folders/9/tags": {} });
    const { user } = tagging(folder);
    await user.type(screen.getByLabelText("Tags, with commas between"), "paid{Enter}");
    await waitFor(() => expect(notice()).toContain("Tagged paid: Regatta"));
    await user.click(screen.getByLabelText(/also on all documents in it/));
    await user.click(screen.getByRole("button", { name: "Add Enter" }));
    await waitFor(() => expect(notice()).toContain("Tagged paid: Regatta with all in it"));
    expect(bodies("PATCH /api/folders/9/tags")).toEqual([
      { add: ["paid"], remove: [], contents: false },
      { add: ["paid"], remove: [], contents: true },
    ]);
  });
  it("that are refused stay typed, with the reason", async () => {
    serve({ [TAGS]: new Refusal(422, { detail: "A tag has 40 characters at most." }) });
    const { user, onClose } = tagging(several);
    await user.type(screen.getByLabelText("Tags, with commas between"), "long{Enter}");
    expect((await screen.findByRole("alert")).textContent).toBe("A tag has 40 characters at most.");
    expect((screen.getByLabelText("Tags, with commas between") as HTMLInputElement).value).toBe("long");
    expect(onClose).not.toHaveBeenCalled();
  });
  it("are not put on where none is typed", async () => {
    const { user } = tagging(several);
    await user.type(screen.getByLabelText("Tags, with commas between"), " , {Enter}");
    expect((screen.getByRole("button", { name: "Add Enter" }) as HTMLButtonElement).disabled).toBe(true);
    expect(bodies(TAGS)).toEqual([]);
  });
});
