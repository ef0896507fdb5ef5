// @vitest-environment jsdom
import { screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { ownField } from "../../api/queries";
import { show } from "../../testing/page";
import { queries, serve } from "../../testing/server";
import { VOCABULARY } from "../../testing/vocabulary";
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
  serve({ "GET /api/vocabulary": VOCABULARY });
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

/** An entry of the list below a field; the library writes each a second time, for screen readers. */
const option = async (text: string) =>
  (await screen.findAllByText(text)).find((one) => one.closest(".ant-select-item-option")) as HTMLElement;

describe("a fact whose values recur", () => {
  const course = { ...issued(null), field: "course", label: "Course", editor: "text", value: null, display: "" };
  const typing = (used: string[]) => {
    const fields = [...VOCABULARY.fields, { ...ownField("course"), label: "Course", recurs: true }];
    serve({ "GET /api/vocabulary": { ...VOCABULARY, fields }, "GET /api/fact-values": { values: used } });
    const edit = vi.fn(() => Promise.resolve(true));
    const user = show(
      <FactLine
        fact={course as Schemas["FactOut"]}
        strokes={{}}
        focused={false}
        problem={null}
        onFocus={() => {}}
        onEdit={edit}
      />,
    );
    return { edit, user, field: () => screen.getByLabelText("Course") };
  };

  it("offers what is there while one types", async () => {
    const { edit, user, field } = typing(["Boat carpentry", "Rigging"]);
    await user.click(field());
    await user.type(field(), "boat carp");
    await user.click(await option("Boat carpentry"));
    expect(edit).toHaveBeenCalledExactlyOnceWith({ facts: { course: "Boat carpentry" } });
  });

  it("takes what is typed as it is where one says so, or nothing is like it", async () => {
    const { edit, user, field } = typing(["Boat carpentry"]);
    await user.click(field());
    await user.type(field(), "boat");
    await user.click(await option("“boat”, as typed"));
    expect(edit).toHaveBeenCalledExactlyOnceWith({ facts: { course: "boat" } });
  });

  it("shows what was used by an arrow key before anything is typed", async () => {
    const { edit, user, field } = typing(["Boat carpentry", "Rigging"]);
    await waitFor(() => expect(field().getAttribute("role")).toBe("combobox"));
    await user.click(field());
    await waitFor(() => expect(queries("GET /api/fact-values")).toHaveLength(1));
    await user.keyboard("{ArrowDown}");
    await user.click(await option("Rigging"));
    expect(edit).toHaveBeenCalledExactlyOnceWith({ facts: { course: "Rigging" } });
  });

  it("takes nothing by Enter on an empty field", async () => {
    const { edit, user, field } = typing(["Boat carpentry"]);
    await user.click(field());
    await user.keyboard("{Enter}");
    expect(edit).not.toHaveBeenCalled();
  });
});
