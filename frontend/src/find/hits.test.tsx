// @vitest-environment jsdom
import { screen, waitFor } from "@testing-library/react";
import type { UserEvent } from "@testing-library/user-event";
import { type ReactNode, useState } from "react";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { address, notice, show } from "../testing/page";
import { bodies, serve } from "../testing/server";
import { HitList } from "./HitList";

const TAGS = "POST /api/entries/tags";
const DISCARD = "POST /api/entries/discard";

function hit(document: number, more: Partial<Schemas["HitOut"]> = {}): Schemas["HitOut"] {
  return {
    document,
    entry: document + 100,
    may_file: true,
    keeps: true,
    name: `bill ${document}.pdf`,
    path: "Accounts / Invoices",
    folder: 5,
    kind: null,
    party: null,
    issued: null,
    reasons: [],
    snippet: null,
    ...more,
  };
}

function Found(props: { hits: Schemas["HitOut"][] }): ReactNode {
  const [shown, setShown] = useState(props.hits);
  return (
    <>
      <button type="button" onClick={() => setShown(shown.slice(1))}>
        the first is gone
      </button>
      <HitList hits={shown} />
    </>
  );
}

function found(hits = [hit(1), hit(2), hit(3)]): UserEvent {
  serve({ "GET /api/tags": { tags: [] } });
  return show(<Found hits={hits} />, "/find?q=bill", "/find");
}

const link = (document: number) => screen.getByRole("link", { name: `bill ${document}.pdf` });
const bar = () => screen.queryByRole("region", { name: "What is chosen" })?.textContent ?? "";
const chosen = () =>
  screen.queryAllByRole("row", { selected: true }).map((one) => /bill \d/.exec(one.textContent ?? "")?.[0]);

describe("results", () => {
  it("are chosen by their boxes, each by itself", async () => {
    const user = found();
    expect(bar()).toBe("");
    await user.click(screen.getByRole("checkbox", { name: "Choose bill 2.pdf" }));
    await user.click(screen.getByRole("checkbox", { name: "Choose bill 3.pdf" }));
    expect(chosen()).toEqual(["bill 2", "bill 3"]);
    expect(bar()).toContain("2 documents chosen");
    await user.click(screen.getByRole("checkbox", { name: "Choose bill 3.pdf" }));
    expect(bar()).toContain("bill 2.pdf");
    await user.click(screen.getByRole("button", { name: "Choose none" }));
    expect(chosen()).toEqual([]);
  });

  it("are chosen like lines: with Ctrl one more, with Shift all up to there, by Ctrl+A all", async () => {
    const user = found();
    await user.keyboard("{Control>}");
    await user.click(link(1));
    await user.keyboard("{/Control}{Shift>}");
    await user.click(link(3));
    await user.keyboard("{/Shift}");
    expect(chosen()).toEqual(["bill 1", "bill 2", "bill 3"]);
    expect(address()).toBe("/find?q=bill");
    await user.keyboard("{Control>}");
    await user.click(link(2));
    await user.keyboard("{/Control}");
    expect(chosen()).toEqual(["bill 1", "bill 3"]);
    await user.keyboard("{Control>}a{/Control}");
    expect(chosen()).toEqual(["bill 1", "bill 2", "bill 3"]);
  });

  it("are walked and marked from the keyboard", async () => {
    const user = found();
    link(1).focus();
    await user.keyboard(" {Shift>}{ArrowDown}{/Shift}");
    expect(chosen()).toEqual(["bill 1", "bill 2"]);
    await user.keyboard("{End}");
    expect(document.activeElement).toBe(link(3));
    expect(chosen()).toEqual([]);
  });

  it("are opened by a click on the name alone", async () => {
    const user = found();
    await user.click(link(2));
    expect(address()).toBe("/documents/2");
  });

  it("take what is done with all that is chosen", async () => {
    serve({ [TAGS]: {} });
    const user = found();
    await user.click(screen.getByRole("checkbox", { name: "Choose bill 1.pdf" }));
    await user.click(screen.getByRole("checkbox", { name: "Choose bill 2.pdf" }));
    await user.click(screen.getByRole("button", { name: "Tags…" }));
    await user.type(await screen.findByLabelText("Tags, with commas between"), "paid{Enter}");
    await waitFor(() => expect(bodies(TAGS)).toEqual([{ entries: [101, 102], add: ["paid"], remove: [] }]));
    expect(notice()).toContain("Tagged paid: 2 documents");
  });

  it("that are discarded are chosen no more", async () => {
    serve({ [DISCARD]: {} });
    const user = found();
    await user.click(screen.getByRole("checkbox", { name: "Choose bill 1.pdf" }));
    link(1).focus();
    await user.keyboard("{Delete}");
    await waitFor(() => expect(bodies(DISCARD)).toEqual([{ entries: [101] }]));
    await waitFor(() => expect(chosen()).toEqual([]));
  });

  it("that are not found any more are chosen no more: Delete would act out of sight", async () => {
    const user = found();
    await user.click(screen.getByRole("checkbox", { name: "Choose bill 1.pdf" }));
    await user.click(screen.getByRole("checkbox", { name: "Choose bill 2.pdf" }));
    await user.click(screen.getByRole("button", { name: "the first is gone" }));
    expect(chosen()).toEqual(["bill 2"]);
    expect(bar()).toContain("bill 2.pdf");
  });

  it("among which some may only be read are not changed, and it is said", async () => {
    const user = found([hit(1), hit(2, { may_file: false, keeps: false })]);
    await user.click(screen.getByRole("checkbox", { name: "Choose bill 1.pdf" }));
    await user.click(screen.getByRole("checkbox", { name: "Choose bill 2.pdf" }));
    expect(screen.queryByRole("button", { name: "Move…" })).toBeNull();
    link(1).focus();
    await user.keyboard("{Delete}");
    await waitFor(() => expect(notice()).toContain("some that you may read, but not change"));
    expect(bodies(DISCARD)).toEqual([]);
  });

  it("given by themselves, without their folder, cannot be put anywhere", async () => {
    const user = found([hit(1, { entry: null, folder: null, path: "" })]);
    await user.pointer({ keys: "[MouseRight]", target: link(1) });
    const acts = (await screen.findAllByRole("menuitem")).map((one) => one.textContent);
    expect(acts.some((act) => act?.startsWith("Move"))).toBe(false);
    expect(acts.some((act) => act?.startsWith("Go to its folder"))).toBe(false);
    expect(acts.some((act) => act?.startsWith("Who reads this"))).toBe(true);
  });

  it("have the menu of what is chosen where one of that is right-clicked, of itself else", async () => {
    const user = found();
    await user.click(screen.getByRole("checkbox", { name: "Choose bill 1.pdf" }));
    await user.click(screen.getByRole("checkbox", { name: "Choose bill 2.pdf" }));
    await user.pointer({ keys: "[MouseRight]", target: link(2) });
    expect(await screen.findByRole("menu", { name: "2 documents" })).toBeTruthy();
    await user.keyboard("{Escape}");
    await user.pointer({ keys: "[MouseRight]", target: link(3) });
    expect(await screen.findByRole("menu", { name: "bill 3.pdf" })).toBeTruthy();
    expect(chosen()).toEqual([]);
  });
});
