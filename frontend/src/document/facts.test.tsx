// @vitest-environment jsdom
import { screen, waitFor, within } from "@testing-library/react";
import { type ReactNode, useState } from "react";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { notice, show } from "../testing/page";
import { bodies, Refusal, serve } from "../testing/server";
import { VOCABULARY } from "../testing/vocabulary";
import { DocumentFacts } from "./DocumentFacts";

const KEEP = "PATCH /api/documents/12/facts";
const box = { page: 1, left: 0.1, top: 0.2, right: 0.3, bottom: 0.22 };

function fact(field: string, label: string, more: Partial<Schemas["FactOut"]>): Schemas["FactOut"] {
  return {
    field,
    label,
    editor: "text",
    repeats: false,
    value: null,
    display: "",
    source: { kind: "page", why: "", text: "", box: null, lesson: null },
    sure: true,
    given: false,
    alternatives: [],
    question: null,
    ...more,
  };
}

const ISSUED = fact("issued", "Issued", {
  editor: "date",
  value: "2026-03-18",
  display: "18 Mar 2026",
  source: { kind: "page", why: "", text: "18 March 2026", box, lesson: null },
});
const SUBJECT = fact("subject", "Subject", {});

function Shown(props: { card: Schemas["CardOut"] }): ReactNode {
  const [focus, setFocus] = useState<string | null>(null);
  return <DocumentFacts card={props.card} focus={focus} onFocus={setFocus} />;
}

function facts(more: Partial<Schemas["CardOut"]> = {}) {
  const card = {
    id: 12,
    facts: [ISSUED, SUBJECT],
    strokes: { issued: 0 },
    pages: [{ width: 595, height: 842 }],
    versions: [{ number: 3 }],
    may_file: true,
    ...more,
  } as Schemas["CardOut"];
  serve({ "GET /api/vocabulary": VOCABULARY });
  return show(<Shown card={card} />);
}

describe("the facts of a filed document", () => {
  it("are corrected where they stand, and told with a way back", async () => {
    serve({ [KEEP]: { title: "Fact changed" } });
    const user = facts();
    await user.clear(screen.getByLabelText("Issued"));
    await user.type(screen.getByLabelText("Issued"), "4.5.2026{Enter}");
    await waitFor(() => expect(bodies(KEEP)).toEqual([{ field: "issued", value: "2026-05-04" }]));
    await waitFor(() => expect(notice()).toContain("Issued changed"));
    expect(notice()).toContain("Undo");
  });

  it("are told to be no value where they are none, and nothing is sent", async () => {
    const user = facts();
    await user.clear(screen.getByLabelText("Issued"));
    await user.type(screen.getByLabelText("Issued"), "31.2.2026{Enter}");
    expect((await screen.findByRole("alert")).textContent).toContain("is no date");
    expect(bodies(KEEP)).toEqual([]);
  });

  it("that are lacking stand there to be written", async () => {
    serve({ [KEEP]: { title: "Fact changed" } });
    const user = facts();
    await user.type(screen.getByLabelText("Subject"), "Larch prices{Enter}");
    await waitFor(() => expect(bodies(KEEP)).toEqual([{ field: "subject", value: "Larch prices" }]));
  });

  it("say why they were refused, at their field", async () => {
    serve({ [KEEP]: new Refusal(403, { detail: "You may not file here any more.", code: "rights" }) });
    const user = facts();
    await user.type(screen.getByLabelText("Subject"), "Larch{Enter}");
    const problem = await screen.findByRole("alert");
    expect(problem.textContent).toBe("You may not file here any more.");
    expect(problem.closest("[data-fact]")?.getAttribute("data-fact")).toBe("subject");
  });

  it("show their spot, enlarged, of the version that is looked at", async () => {
    const user = facts();
    expect(screen.getByText("The spot of a fact is shown here, enlarged.")).toBeTruthy();
    await user.click(screen.getByLabelText("Issued"));
    const loupe = screen.getByRole("img", { name: "The spot of issued on the page, enlarged" });
    expect(loupe.querySelector("img")?.getAttribute("src")).toBe("/api/documents/12/pages/1?version=3");
    await user.click(screen.getByLabelText("Subject"));
    expect(screen.getByText("No spot on the page: subject")).toBeTruthy();
  });

  it("that the newest version says otherwise are asked; what stands there can be confirmed", async () => {
    serve({ [KEEP]: { title: "Fact changed" } });
    const question = "Version 3 says 4 May 2026. Which is right?";
    const user = facts({ facts: [{ ...ISSUED, question, sure: false, alternatives: ["2026-05-04"] }] });
    expect(screen.getByText(question)).toBeTruthy();
    expect(screen.getByRole("button", { name: "4 May 2026" })).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "18 Mar 2026" }));
    await waitFor(() => expect(bodies(KEEP)).toEqual([{ field: "issued", value: "2026-03-18" }]));
  });

  it("that one may only read have no fields, and those that are not known are left out", () => {
    facts({ may_file: false });
    expect(screen.queryByRole("textbox")).toBeNull();
    const shown = screen.getByText("Issued").closest(".fact") as HTMLElement;
    expect(within(shown).getByText("18 Mar 2026")).toBeTruthy();
    expect(screen.queryByText("Subject")).toBeNull();
  });
});
