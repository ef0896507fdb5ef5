import { renderToStaticMarkup } from "react-dom/server";
import { expect, it } from "vitest";
import { Marked } from "../../find/Hit";
import { PatternText, SlotText, strokeClass } from "./SlotText";

it("draws the same stroke for a field wherever it is shown", () => {
  const strokes = { issued: 0, party: 1 };
  const name = renderToStaticMarkup(
    <SlotText
      strokes={strokes}
      ending=".pdf"
      pieces={[
        { text: "2026-03-18", field: "issued" },
        { text: "_", field: null },
        { text: "tollgate", field: "party" },
      ]}
    />,
  );
  const pattern = renderToStaticMarkup(<PatternText pattern="<issued yyyy-MM-dd>_<party short>?" strokes={strokes} />);
  for (const html of [name, pattern]) {
    expect(html).toContain("stroke stroke-0");
    expect(html).toContain("stroke stroke-1");
  }
  expect(name.replace(/<[^>]*>/g, "")).toBe("2026-03-18_tollgate.pdf");
  expect(
    pattern
      .replace(/<[^>]*>/g, "")
      .replaceAll("&lt;", "<")
      .replaceAll("&gt;", ">"),
  ).toBe("<issued yyyy-MM-dd>_<party short>?");
});

it("draws none for a literal or an unknown field", () => {
  expect(strokeClass({ a: 3 }, null)).toBe("");
  expect(strokeClass({ a: 3 }, "b")).toBe("");
  expect(strokeClass({ a: 7 }, "a")).toBe("stroke stroke-1");
});

it("marks the met words in a name, whatever characters they have", () => {
  const html = renderToStaticMarkup(<Marked text="2026_a.b(c)_TT-1.pdf" words={["a.b(", "tt-1"]} />);
  expect(html).toBe("2026_<mark>a.b(</mark>c)_<mark>TT-1</mark>.pdf");
  expect(renderToStaticMarkup(<Marked text="x" words={[""]} />)).toBe("x");
});
