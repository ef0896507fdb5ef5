import { describe, expect, it } from "vitest";
import { cutAt, diff, placed } from "./diff";

describe("diff", () => {
  it("marks only what the other lacks, and loses nothing", () => {
    const { before, after } = diff("0042 keel photo.pdf", "keel photo.pdf");
    expect(before).toEqual([
      { text: "0042 ", changed: true },
      { text: "keel photo.pdf", changed: false },
    ]);
    expect(after).toEqual([{ text: "keel photo.pdf", changed: false }]);
  });
  it("sees a level that moved", () => {
    const { before, after } = diff("Drawings/2025/01/job.pdf", "2025/01/Drawings/job.pdf");
    expect(before.map((p) => p.text).join("")).toBe("Drawings/2025/01/job.pdf");
    expect(after.map((p) => p.text).join("")).toBe("2025/01/Drawings/job.pdf");
    expect(before[0]).toEqual({ text: "Drawings/", changed: true });
  });
  it("takes a letter with its marks as one part", () => {
    expect(diff("e\u0301", "e").before).toEqual([{ text: "e\u0301", changed: true }]);
  });
});

describe("placed", () => {
  it("shows the place below where the manifest works", () => {
    expect(placed("Yard / Jobs / 2025", "a.pdf", "Yard / Jobs")).toBe("2025/a.pdf");
    expect(placed("Office", "a.pdf", "Yard / Jobs")).toBe("/Office/a.pdf");
    expect(placed("Office", "a.pdf", null)).toBe("Office/a.pdf");
    expect(placed("Yard / Jobs", "a.pdf", "Yard / Jobs")).toBe("a.pdf");
    expect(placed("Yard", null, "Yard")).toBe("");
  });
});

describe("cutAt", () => {
  it("cuts inside a part and keeps its mark", () => {
    const parts = [
      { text: "2025/", changed: true },
      { text: "01/job.pdf", changed: false },
    ];
    expect(cutAt(parts, 8)).toEqual([
      [parts[0], { text: "01/", changed: false }],
      [{ text: "job.pdf", changed: false }],
    ]);
    expect(cutAt(parts, 0)).toEqual([[], parts]);
  });
});
