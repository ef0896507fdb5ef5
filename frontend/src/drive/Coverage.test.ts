import { describe, expect, it } from "vitest";
import { barsOf } from "./Coverage";

describe("the coverage strip", () => {
  it("has a bar for every month between the first and the last, gaps among them", () => {
    const bars = barsOf([
      { month: "2025-11", documents: 3 },
      { month: "2026-02", documents: 1 },
    ]);
    expect(bars.map((b) => [b.month, b.documents, b.gap])).toEqual([
      ["2025-11", 3, false],
      ["2025-12", 0, true],
      ["2026-01", 0, true],
      ["2026-02", 1, false],
    ]);
    expect(bars[2]?.label).toBe("Jan 2026");
  });
  it("has nothing to show for nothing", () => expect(barsOf([])).toEqual([]));
  it("keeps the last months of a long series", () => {
    const bars = barsOf([
      { month: "2020-01", documents: 1 },
      { month: "2026-02", documents: 1 },
    ]);
    expect(bars).toHaveLength(24);
    expect(bars.at(-1)?.month).toBe("2026-02");
  });
});
