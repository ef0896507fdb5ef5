import { renderToStaticMarkup } from "react-dom/server";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { LikePlaces } from "./Offers";

type Slip = Schemas["SlipOut"];
type Place = Slip["places"][number];

const place = (path: string, count: number): Place => ({
  area: 1,
  place: path.split(" / ").slice(1).join("/"),
  path,
  count,
});
const shown = (...places: Place[]) =>
  renderToStaticMarkup(<LikePlaces slip={{ places } as unknown as Slip} onEdit={() => Promise.resolve(true)} />);

describe("other places of an arrival", () => {
  it("are the folder that it was brought in for, first, and those of others like it", () => {
    const html = shown(place("Accounts / Invoices / 2025", 0), place("Accounts / Disputed", 4));
    expect(html.indexOf("It was brought in for")).toBeLessThan(html.indexOf("Others like it went to"));
    expect(html).toContain("Accounts / Disputed (4)");
    expect(html).toContain("4 of the latest of this party and kind are there");
    expect(html).not.toContain("Accounts / Invoices / 2025 (");
  });
  it("are told only as far as there are any", () => {
    expect(shown(place("Office / Letters", 2))).not.toContain("brought in for");
    expect(shown(place("Office / Letters", 0))).not.toContain("Others like it");
    expect(shown()).toBe("");
  });
});
