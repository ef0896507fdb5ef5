import { renderToStaticMarkup } from "react-dom/server";
import { describe, expect, it } from "vitest";
import { Loupe, type Mark, PageView, spread } from "./PageView";

const page = { width: 600, height: 800 };
const mark = (field: string, top: number, left = 0.1): Mark => ({
  field,
  label: field,
  box: { page: 1, left, top, right: left + 0.2, bottom: top + 0.02 },
});

describe("the page", () => {
  it("marks where facts were read, with the strokes of their slots, and names them in the margin", () => {
    const html = renderToStaticMarkup(
      <PageView
        document={7}
        pages={[page]}
        marks={[mark("ref", 0.2), { ...mark("issued", 0.3), box: { ...mark("issued", 0.3).box, page: 2 } }]}
        strokes={{ ref: 2 }}
        focus="ref"
        page={1}
        onPage={() => {}}
      />,
    );
    expect(html).toContain('src="/api/documents/7/pages/1"');
    expect(html).toContain("mark stroke stroke-2 focus");
    expect(html).not.toContain("issued"); // it stands on another page
    expect(html).toContain("Page 1 of 1");
  });

  it("says so where there is nothing to show", () => {
    const html = renderToStaticMarkup(
      <PageView document={7} pages={[]} marks={[]} strokes={{}} focus={null} page={1} onPage={() => {}} />,
    );
    expect(html).toContain("There is no page to show.");
  });

  it("keeps the names in the margin apart", () => {
    const tops = spread([mark("a", 0.2), mark("b", 0.2), mark("c", 0.21), mark("d", 0.9)]).map(([, top]) => top);
    expect(tops[0]).toBe(0.2);
    for (let n = 1; n < tops.length; n += 1) expect((tops[n] ?? 0) - (tops[n - 1] ?? 0)).toBeGreaterThanOrEqual(0.0359);
    expect(tops[3]).toBe(0.9);
  });
});

describe("the loupe", () => {
  it("brings a spot to its middle, enlarged", () => {
    const html = renderToStaticMarkup(
      <Loupe document={7} box={mark("ref", 0.5, 0.4).box} size={page} label="reference" />,
    );
    expect(html).toContain("The spot of reference on the page, enlarged");
    const [, x, width] = /translate\((-?[\d.]+)px.*?width:([\d.]+)px/.exec(html) ?? [];
    expect(Number(x) + 0.5 * Number(width)).toBeCloseTo(155, 0);
    expect(Number(width)).toBeGreaterThan(600);
  });

  it("says so where the fact has no spot", () => {
    expect(renderToStaticMarkup(<Loupe document={7} box={null} size={page} label="party" />)).toContain(
      "No spot on the page: party",
    );
  });
});
