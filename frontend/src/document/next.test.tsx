// @vitest-environment jsdom
import { cleanup, screen, waitFor } from "@testing-library/react";
import type { UserEvent } from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { isUnkept } from "../parts/typing/drafts";
import { address, notice, show } from "../testing/page";
import { bodies, Refusal, serve } from "../testing/server";
import { VOCABULARY } from "../testing/vocabulary";
import { NextOneDialog } from "./NextOneDialog";

const MAKE = "POST /api/documents/11/next";
const FACTS = [
  { field: "issued", label: "Issued", editor: "date", value: "2026-03-18", display: "18 March 2026" },
  { field: "ref", label: "Reference", editor: "code", value: "TT-7", display: "TT-7" },
];

/** The dialog for one document; what it would be called is made from the reference. */
function open() {
  serve({
    "GET /api/vocabulary": VOCABULARY,
    "GET /api/parties": { parties: [] },
    "POST /api/documents/11/next/preview": (form: { facts: { ref?: string } }) => {
      const name = form.facts.ref ? `${form.facts.ref}.pdf` : null;
      return { facts: FACTS, name, place: "Accounts", marked: false, why: name ? null : "Nothing is different." };
    },
  });
  const onClose = vi.fn();
  const user = show(<NextOneDialog document={11} name="TT-7.pdf" onClose={onClose} />);
  return { user, onClose };
}

const field = (name: string) => screen.findByLabelText<HTMLInputElement>(name);
/** The reference is chosen when it gets the focus: what is typed takes its place. */
const called = async (user: UserEvent, ref: string) => {
  await user.click(await field("Reference"));
  await user.keyboard(ref);
};
const make = () => screen.getByRole<HTMLButtonElement>("button", { name: /^Make the copy/, hidden: true });

describe("the next one of a series", () => {
  it("is told as one types, made, and shown", async () => {
    serve({ [MAKE]: { document: 12, manifest: 5 } });
    const { user, onClose } = open();
    expect((await field("Issued")).value).toBe("2026-03-18");
    expect(make().disabled).toBe(true);
    await called(user, "TT-7-b");
    await screen.findByText("TT-7-b.pdf");
    await user.keyboard("{Enter}");
    await waitFor(() => expect(address()).toBe("/documents/12"));
    expect(bodies(MAKE)).toEqual([{ facts: { ref: "TT-7-b" } }]);
    expect(notice()).toContain("Made TT-7-b.pdf in Accounts");
    expect(onClose).toHaveBeenCalledOnce();
    expect(isUnkept("next after 11")).toBe(false);
  });

  it("with a day that is none is not made", async () => {
    const { user } = open();
    await user.clear(await field("Issued"));
    await user.type(await field("Issued"), "31.2.2026");
    expect(await screen.findByText(/“31.2.2026” is no date/)).toBeTruthy();
    expect(make().disabled).toBe(true);
  });

  it("that is refused says why, and what was typed stays, also where the page goes meanwhile", async () => {
    serve({ [MAKE]: new Refusal(409, { detail: "Its folder is gone." }) });
    const { user, onClose } = open();
    await called(user, "TT-7-b");
    await screen.findByText("TT-7-b.pdf");
    await user.keyboard("{Enter}");
    expect(await screen.findByText("Its folder is gone.")).toBeTruthy();
    expect(onClose).not.toHaveBeenCalled();
    cleanup();
    open();
    expect((await field("Reference")).value).toBe("TT-7-b");
  });

  it("that one leaves is forgotten", async () => {
    const { user, onClose } = open();
    await called(user, "TT-7-b");
    await user.click(screen.getByRole("button", { name: "Cancel", hidden: true }));
    expect(onClose).toHaveBeenCalled();
    cleanup();
    open();
    expect((await field("Reference")).value).toBe("TT-7");
  });
});
