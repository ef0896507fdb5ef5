import { describe, expect, it } from "vitest";
import { shortest } from "./shortest";

const told = (...paths: string[]) => [...shortest(paths).entries()].map(([path, end]) => `${path} → ${end}`).sort();

describe("paths told by their last levels", () => {
  it("have two, where that tells them apart", () => {
    expect(told("Office / Letters / 2026", "Office / Minutes / 2026", "Office")).toEqual([
      "Office / Letters / 2026 → Letters / 2026",
      "Office / Minutes / 2026 → Minutes / 2026",
      "Office → Office",
    ]);
  });

  it("have more where others end alike, and only those", () => {
    expect(told("A / x / Sorted / Kept", "A / y / Sorted / Kept", "Sorted / Kept", "A / z / Kept")).toEqual([
      "A / x / Sorted / Kept → x / Sorted / Kept",
      "A / y / Sorted / Kept → y / Sorted / Kept",
      "A / z / Kept → z / Kept",
      "Sorted / Kept → Sorted / Kept",
    ]);
  });

  it("that are the same are told once", () => {
    expect(told("…", "…")).toEqual(["… → …"]);
  });
});
