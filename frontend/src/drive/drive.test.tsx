import { renderToStaticMarkup } from "react-dom/server";
import { MemoryRouter } from "react-router";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { FitsTold } from "./Fits";
import { amounts, Groups } from "./Groups";
import { Hints } from "./Hints";
import { wayTo } from "./useLines";

const group = (value: string, label: string, documents: number, total: string | null): Schemas["GroupOut"] => ({
  value,
  label,
  documents,
  bytes: 2048,
  amounts: total === null ? [] : [{ currency: "GBP", total }],
});

describe("groups", () => {
  const told = renderToStaticMarkup(
    <Groups
      groups={[group("1", "Tollgate Timber", 1200, "1234.5"), group("", "no party", 3, null)]}
      chosen=""
      onChoose={() => {}}
    />,
  );
  it("add up their documents and their amounts", () => {
    expect(told).toContain("1,203");
    expect(told).toContain("1,234.50 GBP");
    expect(told).toContain('title="2.0 kB, 1,234.50 GBP"');
  });
  it("tell which is shown, also the group of those that have none", () => {
    expect(told.match(/aria-pressed="true"/g)).toHaveLength(1);
    expect(told).toMatch(/aria-pressed="true"[^>]*><span>no party/);
  });
  it("keep amounts of several currencies apart", () => {
    expect(
      amounts([
        { currency: "EUR", total: "10" },
        { currency: "GBP", total: "0.5" },
      ]),
    ).toBe("10.00 EUR, 0.50 GBP");
    expect(amounts([])).toBe("");
  });
});

describe("names that fit", () => {
  const kind = (label: string, fit: number, of: number): Schemas["KindFitOut"] => ({
    kind: label,
    label,
    pattern: "<ref>",
    strokes: {},
    fit,
    of,
  });
  const told = (...fits: Schemas["KindFitOut"][]) =>
    renderToStaticMarkup(<FitsTold fits={fits} open onOpen={() => {}} />)
      .replaceAll(/<[^>]+>/g, "")
      .replaceAll("&lt;", "<")
      .replaceAll("&gt;", ">");

  it("are told with their pattern; the kind is named where there are several", () => {
    expect(told(kind("Invoice", 3, 3))).toBe("3 of 3 names fit hide the patternnamed as <ref> 3 of 3 names fit");
    expect(told(kind("Invoice", 3, 4), kind("Letter", 1, 1))).toBe(
      "4 of 5 names fit hide the patterninvoice named as <ref> 3 of 4 names fitletter named as <ref> 1 of 1 names fit",
    );
  });
  it("of further kinds are added up, so that none is passed over", () => {
    const html = told(kind("Invoice", 9, 9), kind("Letter", 8, 8), kind("Receipt", 2, 3), kind("Credit note", 1, 1));
    expect(html).toContain("receipt, credit note 3 of 4 names fit");
  });
  it("are not told where no kind has a pattern", () => {
    expect(told()).toBe("");
  });
});

describe("hints of a level", () => {
  const shown = (hints: Schemas["HintOut"][], may_file = true) =>
    renderToStaticMarkup(
      <MemoryRouter>
        <Hints folder={{ id: 9, hints, may_file } as Schemas["FolderViewOut"]} />
      </MemoryRouter>,
    );
  const loose = { what: "loose", count: 1201, most: 200, of: 0, few: 2 } as Schemas["HintOut"];
  const thin = (few: number) => ({ what: "thin", count: 12, most: 10, of: 20, few }) as Schemas["HintOut"];

  it("say what is too much and lead to the manifest that mends it", () => {
    const html = shown([loose]);
    expect(html).toContain("1,201 documents lie loose in this folder. With more than 200, they are hard to find.");
    const way = new URL(/href="([^"]+)"/.exec(html)?.[1]?.replaceAll("&amp;", "&") ?? "", "http://waka.test");
    expect(Object.fromEntries(way.searchParams)).toEqual({
      folder: "9",
      below: "false",
      do: "place",
      base: "9",
      prints: "<issued yyyy>/<issued MM>",
    });
  });
  it("say how little is in thin folders", () => {
    expect(shown([thin(0)])).toContain("12 of 20 folders here are empty.");
    expect(shown([thin(1)])).toContain("hold one document or fewer.");
    expect(shown([thin(3)])).toContain("hold 3 documents or fewer.");
  });
  it("offer nothing to who may only read, and say nothing where all is well", () => {
    expect(shown([loose], false)).not.toContain("href");
    expect(shown([])).toBe("");
  });
});

describe("the address of a folder", () => {
  it("keeps how one looks at folders", () => {
    expect(wayTo(4, false, false)).toBe("/drive/4");
    expect(wayTo(4, true, false)).toBe("/drive/4?below=true");
    expect(wayTo(4, true, true)).toBe("/drive/4?below=true&view=pages");
  });
});
