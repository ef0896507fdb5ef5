import { describe, expect, it } from "vitest";
import { ownField } from "../api/queries";
import { VOCABULARY } from "../testing/vocabulary";
import { shared } from "./SeveralPanel";

describe("what was written on several slips", () => {
  const field = (name: string) => VOCABULARY.fields.find((one) => one.field === name) ?? ownField(name);
  const shown = (name: string, value: Parameters<typeof shared>[1]) =>
    shared(field(name), value, VOCABULARY.kinds).display;

  it("is shown as people write it, whatever it is kept as", () => {
    expect(shown("kind", "invoice")).toBe("Invoice");
    expect(shown("issued", "2026-03-02")).toBe("2 Mar 2026");
    expect(shown("person", { given: "Ines", family: "Aldridge" })).toBe("Ines Aldridge");
    expect(shown("subject", "Sheet 796")).toBe("Sheet 796");
  });
  it("is nothing until something was written", () => {
    for (const name of ["kind", "issued", "person", "subject"]) expect(shown(name, null)).toBe("");
  });
});
