// @vitest-environment jsdom
import { screen, waitFor } from "@testing-library/react";
import type { UserEvent } from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { show } from "../testing/page";
import { bodies, queries, Refusal, serve } from "../testing/server";
import { FolderChooser } from "./FolderChooser";
import type { Policy } from "./TakenChoice";

const target = (folder: number, path: string, more = {}) => ({ folder, path, lately: false, why: null, ...more });
const view = (id: number, name: string, more = {}) => ({
  id,
  name,
  here: 1,
  below: 12,
  restricted: false,
  may_file: true,
  folders: [],
  ...more,
});
const FOLDER = { ...view(4, "Office"), entry: 40, has_folders: false, tags: [], keeps: true };
const LETTERS = target(4, "Office / Letters");
const BILLS = target(5, "Accounts / Invoices / 2026");

function choosing(
  onChoose = vi.fn(async () => null as string | null),
  found: unknown = { targets: [LETTERS, BILLS] },
  without: number[] = [],
  goes: { stays: boolean; inside?: boolean; policies?: Policy[] } = { stays: false },
  taken: { entry: number; name: string; document: number | null; version: boolean }[] = [],
) {
  serve({
    "GET /api/targets": found,
    "GET /api/folders": { folders: [FOLDER] },
    "POST /api/entries/taken": { names: taken },
    "GET /api/folders/4": view(4, "Letters", {
      folders: [
        { id: 6, name: "2026", below: 3 },
        { id: 7, name: "2027", below: 0 },
      ],
    }),
    "GET /api/folders/5": view(5, "2026", { here: 2, restricted: true, may_file: false }),
    "POST /api/entries/targets": { targets: [target(5, BILLS.path, { why: "others of this party" })] },
    "POST /api/entries/sight": { gain: ["Lise Ott"], lose: ["Petra Alm"] },
  });
  const user = show(
    <FolderChooser
      title="Move a.pdf"
      verb="Move to"
      entries={[11]}
      without={without}
      {...goes}
      near={4}
      onChoose={onChoose}
      onClose={() => {}}
    />,
  );
  return { user, onChoose };
}
const box = () => screen.getByRole("combobox");
const options = () => screen.getAllByRole("option").map((one) => one.textContent);
/** Goes to the first that is offered: none is chosen beforehand. */
const first = async (user: UserEvent) => {
  await waitFor(() => expect(options()).toHaveLength(2));
  await user.type(box(), "{ArrowDown}");
};

describe("choosing a folder", () => {
  it("offers what fits these documents first, each once", async () => {
    choosing();
    await waitFor(() => expect(options()).toEqual([`${BILLS.path} others of this party`, LETTERS.path]));
    expect(screen.getByText("Suggested, and used lately")).toBeTruthy();
  });

  it("asks who would see a copy as well as where it is, by what lies in it", async () => {
    const { user } = choosing(undefined, undefined, [], { stays: true, inside: true });
    await first(user);
    await screen.findByText(/will also see it/);
    expect(bodies("POST /api/entries/sight")).toEqual([{ entries: [11], folder: 5, stays: true, inside: true }]);
  });

  it("tells what is there, and who will see it and who no longer", async () => {
    const { user } = choosing();
    await first(user);
    expect(await screen.findByText(/2 documents here, 12 with all below; restricted/)).toBeTruthy();
    const told = await screen.findByText(/will also see it/);
    expect(told.textContent).toBe("Lise Ott will also see it. Petra Alm will no longer see it.");
    expect(screen.queryByLabelText("New folder in 2026")).toBeNull();
  });

  it("chooses none beforehand: Enter sends nothing to the folder used last", async () => {
    const { user, onChoose } = choosing();
    await waitFor(() => expect(options()).toHaveLength(2));
    await user.keyboard("{Enter}");
    expect(screen.getByRole<HTMLButtonElement>("button", { name: /^Move to …/ }).disabled).toBe(true);
    await user.keyboard("{ArrowDown}{Enter}");
    await waitFor(() => expect(onChoose).toHaveBeenCalledExactlyOnceWith(5, BILLS.path, null));
  });

  it("goes by the arrows and Enter", async () => {
    const { user, onChoose } = choosing();
    await waitFor(() => expect(options()).toHaveLength(2));
    await user.type(box(), "{ArrowDown}{ArrowDown}");
    expect(await screen.findByText(/1 document here, 12 with all below/)).toBeTruthy();
    await user.keyboard("{Enter}");
    await waitFor(() => expect(onChoose).toHaveBeenCalledExactlyOnceWith(4, "Office / Letters", null));
  });

  it("leaves out a folder that is to go there itself", async () => {
    choosing(undefined, undefined, [8, 9]);
    await waitFor(() => expect(options()).toHaveLength(2));
    expect(queries("GET /api/targets")).toEqual(["?q=&without=8&without=9"]);
  });

  it("says why it can offer none", async () => {
    choosing(undefined, new Refusal(404, { detail: "There is no such folder, or it is not yours to read." }), [8]);
    expect((await screen.findByRole("alert")).textContent).toContain("not yours to read");
  });

  it("waits with Enter for what was typed last", async () => {
    let answer: (found: unknown) => void = () => {};
    const late = new Promise((resolve) => {
      answer = resolve;
    });
    const { user, onChoose } = choosing(undefined, (_: never, at: URL) =>
      at.searchParams.get("q") === "inv" ? late : { targets: [LETTERS] },
    );
    await waitFor(() => expect(options()).toHaveLength(2));
    await user.type(box(), "inv{Enter}");
    expect((screen.getByRole("button", { name: /^Move to/ }) as HTMLButtonElement).disabled).toBe(true);
    expect(onChoose).not.toHaveBeenCalled();
    answer({ targets: [BILLS] });
    await waitFor(() => expect(onChoose).toHaveBeenCalledExactlyOnceWith(5, BILLS.path, null));
  });

  it("makes the folder where none is called so", async () => {
    serve({ "POST /api/folders": { folder: 20 } });
    const { user, onChoose } = choosing(undefined, { targets: [] });
    await user.type(box(), "Regatta");
    await user.click(await screen.findByRole("button", { name: "Make “Regatta” in Letters" }));
    await waitFor(() => expect(onChoose).toHaveBeenCalledExactlyOnceWith(20, "Regatta", null));
    expect(bodies("POST /api/folders")).toEqual([{ parent: 4, name: "Regatta" }]);
  });

  it("makes a folder in the one that is chosen, and offers it first", async () => {
    serve({ "POST /api/folders": { folder: 21 }, "GET /api/folders/21": view(21, "2028", { here: 0, below: 0 }) });
    const { user } = choosing();
    await waitFor(() => expect(options()).toHaveLength(2));
    await user.click(screen.getByText(LETTERS.path));
    await user.type(await screen.findByLabelText("New folder in Letters"), "2028{Enter}");
    await waitFor(() => expect(options()[0]).toBe("Office / Letters / 2028 made now"));
    expect(screen.getByRole("button", { name: /^Move to 2028/ })).toBeTruthy();
  });

  it("says why a folder cannot be made, and keeps what was typed", async () => {
    serve({ "POST /api/folders": new Refusal(422, { detail: "“a:b” holds a colon." }) });
    const { user } = choosing();
    await waitFor(() => expect(options()).toHaveLength(2));
    await user.click(screen.getByText(LETTERS.path));
    await user.type(await screen.findByLabelText("New folder in Letters"), "a:b{Enter}");
    expect((await screen.findByRole("alert")).textContent).toBe("“a:b” holds a colon.");
    await user.type(screen.getByLabelText("New folder in Letters"), "{Escape}");
    expect((screen.getByLabelText("New folder in Letters") as HTMLInputElement).value).toBe("");
  });

  it("stays open with the reason where it cannot go there", async () => {
    const { user } = choosing(vi.fn(async () => "You may read this folder but not file in it."));
    await first(user);
    await user.click(screen.getByRole("button", { name: /^Move to 2026/ }));
    expect((await screen.findByRole("alert")).textContent).toBe("You may read this folder but not file in it.");
  });

  it("is walked to in the tree, and goes there by Enter", async () => {
    const { user, onChoose } = choosing();
    await user.click(await screen.findByText("Office"));
    expect(await screen.findByText(/1 document here, 12 with all below/)).toBeTruthy();
    await user.keyboard("{Enter}");
    await waitFor(() => expect(onChoose).toHaveBeenCalledExactlyOnceWith(4, "Office", null));
  });

  it("leads on to a folder in the one that is chosen", async () => {
    serve({ "GET /api/folders/6": view(6, "2026") });
    const { user, onChoose } = choosing();
    await user.click(await screen.findByText("Office"));
    await user.click(await screen.findByRole("button", { name: "2026" }));
    await user.click(await screen.findByRole("button", { name: /^Move to 2026/ }));
    await waitFor(() => expect(onChoose).toHaveBeenCalledExactlyOnceWith(6, "Office / 2026", null));
  });

  it("tells a name that is taken before it is done, and what to do with it is said first", async () => {
    const taken = [{ entry: 11, name: "a.pdf", document: 9, version: true }];
    const policies: Policy[] = ["both", "version", "skip"];
    const { user, onChoose } = choosing(undefined, undefined, [], { stays: false, policies }, taken);
    await first(user);
    expect(await screen.findByRole("group", { name: "1 name is taken there" })).toBeTruthy();
    expect(screen.getAllByRole("radio").map((one) => one.closest("label")?.textContent)).toEqual([
      "Keep both",
      "Make it a new version",
    ]);
    await user.keyboard("{Enter}");
    expect((await screen.findByRole("alert")).textContent).toContain("Say first what to do with it");
    expect(onChoose).not.toHaveBeenCalled();
    await user.click(screen.getByLabelText("Make it a new version"));
    await user.keyboard("{Enter}");
    await waitFor(() => expect(onChoose).toHaveBeenCalledExactlyOnceWith(5, BILLS.path, "version"));
  });

  it("offers no new version where one of them cannot become one", async () => {
    const taken = [
      { entry: 11, name: "a.pdf", document: 9, version: true },
      { entry: 12, name: "Jobs", document: null, version: false },
    ];
    const { user } = choosing(undefined, undefined, [], { stays: false, policies: ["both", "version"] }, taken);
    await first(user);
    expect(await screen.findByRole("group", { name: "2 names are taken there" })).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>("Make each a new version").disabled).toBe(true);
  });
});
