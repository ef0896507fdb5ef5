// @vitest-environment jsdom
import { fireEvent, screen, waitFor } from "@testing-library/react";
import type { UserEvent } from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { aLine } from "../testing/manifests";
import { address, choose, notice, show } from "../testing/page";
import { bodies, Refusal, serve } from "../testing/server";
import { VOCABULARY } from "../testing/vocabulary";
import NewManifest from "./NewManifest";

const PREVIEW = "POST /api/manifests/preview";
const KEEP = "POST /api/manifests";
const TWO = { counts: { ready: 2 }, lines: [aLine(), aLine({ line: 1 })], more: false };

/** The planning screen for a folder that has so many documents itself and below. */
function open(
  here: number,
  below: number,
  preview: unknown,
  query = "folder=7&below=false",
  quick: Schemas["Offers"] = { offers: [], tried: null },
): UserEvent {
  serve({
    "GET /api/folders/7": { id: 7, name: "Office", path: [{ id: 7, name: "Office" }], here, below },
    "GET /api/parties": { parties: [] },
    "GET /api/vocabulary": VOCABULARY,
    "POST /api/manifests/quick": quick,
    [PREVIEW]: preview,
  });
  return show(<NewManifest />, `/manifests/new?${query}`, "/manifests/new");
}

const keep = () => screen.getByRole<HTMLButtonElement>("button", { name: /^Save this plan/ });
const rows = () => screen.queryAllByRole("row").length;

describe("planning a manifest", () => {
  it("keeps what the lines show, and leads to it", async () => {
    const user = open(2, 2, TWO);
    await waitFor(() => expect(rows()).toBe(3));
    serve({ [KEEP]: { id: 31 } });
    await user.click(keep());
    await waitFor(() => expect(address()).toBe("/manifests/31"));
    expect(bodies(KEEP)).toEqual([bodies(PREVIEW).at(-1)]);
  });

  it("with nothing ready is not offered as ready: it says how much is to be mended", async () => {
    open(2, 2, { counts: { blocked: 2, right: 1 }, lines: [aLine(), aLine({ line: 1 })], more: false });
    await waitFor(() => expect(keep().textContent).toBe("Save this plan with 2 to mend"));
    expect(keep().className).not.toContain("ant-btn-primary");
  });

  it("says on how many names the quick edits were tried, and takes one", async () => {
    const offer = { title: "Small letters", reads: "<name>", prints: "<name lower>", changes: 380 };
    const quick = { offers: [{ ...offer, before: "KEEL", after: "keel" }], tried: 400 };
    const user = open(2, 2, TWO, "folder=7&below=false&do=rewrite", quick);
    expect(await screen.findByRole("heading", { name: "Quick edits, tried on the first 400" })).toBeTruthy();
    await user.click(screen.getByRole("button", { name: /^Small letters 380/ }));
    expect(screen.getByLabelText<HTMLInputElement>(/^To: how/).value).toBe("<name lower>");
  });

  it("that is refused says why, and can be kept again", async () => {
    const user = open(2, 2, TWO);
    await waitFor(() => expect(rows()).toBe(3));
    serve({ [KEEP]: new Refusal(409, { detail: "The folder “Office” is gone." }) });
    await user.keyboard("{Control>}{Enter}{/Control}");
    await waitFor(() => expect(notice()).toContain("The folder “Office” is gone."));
    expect(keep().disabled).toBe(false);
  });

  it("offers what lies below a folder that has no document itself, and keeps nothing of nothing", async () => {
    const answer = (form: { chosen: { below: boolean } }) =>
      form.chosen.below ? TWO : { counts: { "make folder": 0 }, lines: [], more: false };
    const user = open(0, 2, answer, "folder=7&below=false&do=rewrite");
    await screen.findByText("There is none in this folder itself.");
    expect(keep().disabled).toBe(true);
    await user.keyboard("{Control>}{Enter}{/Control}");
    await user.click(screen.getByRole("button", { name: "Take the 2 below it" }));
    await waitFor(() => expect(rows()).toBe(3));
    expect(keep().disabled).toBe(false);
    expect(address()).toBe("/manifests/new?folder=7&below=true&do=rewrite");
    expect(bodies(KEEP)).toEqual([]);
  });

  it("keeps nothing where all names are right already, and says what to do", async () => {
    const user = open(1, 1, {
      counts: { right: 1, "make folder": 0 },
      lines: [aLine({ state: "right" })],
      more: false,
    });
    await screen.findByText(/^Nothing would change/);
    expect(keep().disabled).toBe(true);
    await user.keyboard("{Control>}{Enter}{/Control}");
    expect(bodies(KEEP)).toEqual([]);
  });

  it("replaces a text wherever it stands after something, or in front or at the end alone", async () => {
    const user = open(2, 2, TWO);
    await waitFor(() => expect(rows()).toBe(3));
    await user.type(screen.getByLabelText("Text to replace"), "FINAL");
    await user.type(screen.getByLabelText("Text instead"), "v1");
    const patterns = () =>
      ["From: how the names read now", "To: how they shall read"].map(
        (label) => screen.getByLabelText<HTMLInputElement>(label).value,
      );
    expect(patterns()).toEqual(["<before>FINAL<after>?", "<before>v1<after>?"]);
    await choose(user, "Where it stands in the name", "in front");
    expect(patterns()).toEqual(["FINAL<after>", "v1<after>"]);
    await choose(user, "Where it stands in the name", "at the end only");
    expect(patterns()).toEqual(["<before>FINAL", "<before>v1"]);
  });

  it("offers nothing where there is none at all", async () => {
    open(0, 0, { counts: {}, lines: [], more: false });
    await screen.findByText("There is none in this folder, nor below it.");
    expect(screen.queryByRole("button", { name: /^Take the/ })).toBeNull();
  });

  it("adds up why lines are blocked, with what mends it, and tells it of the chosen line", async () => {
    const gap = { area: 7, kind: "letter" };
    const blocked = { state: "blocked", code: "no pattern", why: "no pattern for letter in the plan of Office", gap };
    const user = open(4, 4, {
      counts: { ready: 1, blocked: 306 },
      reasons: {
        reasons: [
          { state: "blocked", why: "does not fit: expected “…”", lines: 300, gap: null },
          { state: "blocked", why: blocked.why, lines: 2, gap },
          { state: "blocked", why: "not known: ref", lines: 1, gap: null },
        ],
        others: { blocked: 3 },
      },
      lines: [
        aLine(),
        aLine({ line: 1, state: "blocked", code: "missing", why: "not known: ref", missing: ["ref"], to_name: null }),
        aLine({ line: 2, ...blocked }),
        aLine({ line: 3, ...blocked }),
      ],
      more: false,
    });
    const reasons = await screen.findByRole("region", { name: "Why lines are blocked" });
    expect([...reasons.querySelectorAll("li")].map((one) => one.textContent)).toEqual([
      "300 does not fit: expected “…”",
      "2 no pattern for letter in the plan of Office · write it",
      "1 not known: ref",
      "3 for other reasons",
    ]);
    expect(screen.getByRole("link", { name: "write it" }).getAttribute("href")).toBe("/plan/7?kind=letter");
    const second = screen.getAllByRole("row")[2] as HTMLElement;
    expect([...second.children].slice(-2).map((cell) => cell.textContent)).toEqual(["not known: ref", "blocked"]);
    await user.click(second);
    expect(screen.getByText(/^Line 2:/).textContent).toBe("Line 2: not known: ref");
    await user.click(screen.getAllByRole("row")[3] as HTMLElement);
    expect(screen.getAllByRole("link", { name: "write it" })).toHaveLength(2);
    // a line that is ready has no reason
    await user.click(screen.getAllByRole("row")[1] as HTMLElement);
    expect(screen.queryByText(/^Line /)).toBeNull();
  });

  it("asks for the facts that new names need, not for what from reads out of them", async () => {
    const lacking = aLine({ state: "blocked", why: "not known: ref, party", missing: ["ref", "party"] });
    open(1, 1, { counts: { blocked: 1 }, lines: [lacking], more: false }, "folder=7&reads=<party> <n>&do=rewrite");
    await screen.findByLabelText("Reference of letter 0.pdf");
    expect(screen.queryByLabelText("Party of letter 0.pdf")).toBeNull();
  });

  it("keeps the last good lines in sight while a pattern cannot be used, and does not keep them", async () => {
    const answer = (form: { way: { prints: string } }) =>
      form.way.prints === "<name"
        ? new Refusal(400, { detail: "The slot is not closed.", code: "pattern", at: 0 })
        : TWO;
    open(2, 2, answer);
    await waitFor(() => expect(rows()).toBe(3));
    fireEvent.change(screen.getByLabelText("To: how they shall read"), { target: { value: "<name" } });
    await screen.findByText(/^The pattern cannot be used yet\./);
    expect(rows()).toBe(3);
    expect(keep().disabled).toBe(true);
    fireEvent.change(screen.getByLabelText("To: how they shall read"), { target: { value: "<name upper>" } });
    await waitFor(() => expect(keep().disabled).toBe(false));
    await waitFor(() => expect(bodies(PREVIEW).at(-1)).toMatchObject({ way: { prints: "<name upper>" } }));
  });

  it("asks for documents first where the address names none", () => {
    serve({ "GET /api/parties": { parties: [] } });
    show(<NewManifest />, "/manifests/new", "/manifests/new");
    expect(screen.getByRole("heading", { name: "Choose documents first" })).toBeTruthy();
  });
});
