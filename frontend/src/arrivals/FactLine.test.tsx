// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { show } from "../testing/page";
import { FactLine } from "./FactLine";

function issued(question: string | null): Schemas["FactOut"] {
  return {
    field: "issued",
    label: "Issued",
    editor: "date",
    value: "2026-04-03",
    display: "3 Apr 2026",
    source: { kind: "page", why: "", box: null, text: "03-04-26", lesson: null },
    sure: question === null,
    given: false,
    repeats: false,
    alternatives: question === null ? [] : ["2026-03-04"],
    question,
  };
}

function line(question: string | null) {
  const edit = vi.fn(() => Promise.resolve(true));
  const user = show(
    <FactLine fact={issued(question)} strokes={{}} focused={false} problem={null} onFocus={() => {}} onEdit={edit} />,
  );
  return {
    edit,
    typed: (text: string) => user.type(screen.getByLabelText("Issued"), `{Control>}a{/Control}${text}{Enter}`),
  };
}

describe("a fact of the slip", () => {
  it("that is asked is answered by typing just what stands there", async () => {
    const { edit, typed } = line("Which date? 03-04-26 reads two ways");
    await typed("2026-04-03");
    expect(edit).toHaveBeenCalledExactlyOnceWith({ facts: { issued: "2026-04-03" } });
  });

  it("that is not asked is not changed by typing what stands there", async () => {
    const { edit, typed } = line(null);
    await typed("2026-04-03");
    expect(edit).not.toHaveBeenCalled();
    await typed("2026-04-04");
    expect(edit).toHaveBeenCalledExactlyOnceWith({ facts: { issued: "2026-04-04" } });
  });
});
