import { describe, expect, it } from "vitest";
import {
  documents,
  isAsItCame,
  type Leaf,
  leavesOf,
  moved,
  parts,
  toggleCut,
  toggleOut,
  turned,
  withCorners,
} from "./arrangement";

const page = { width: 595, height: 842, blank: false, cut: null, sheet: null };
const stack = (cuts: Record<number, string> = {}, blank: number[] = [], count = 5): Leaf[] =>
  leavesOf({
    arrival: 7,
    name: "SCN.pdf",
    photo: false,
    pages: Array.from({ length: count }, (_, n) => ({
      ...page,
      cut: cuts[n + 1] ?? null,
      blank: blank.includes(n + 1),
    })),
  });
const told = (leaves: Leaf[]): string =>
  parts(leaves)
    .map((p) => p.map((one) => one.page).join(""))
    .join("|");

describe("an arrangement of pages", () => {
  it("begins with the proposed cuts, blank pages left out", () => {
    expect(told(stack({ 3: "a new letterhead", 5: "a new title" }, [2]))).toBe("1|34|5");
  });

  it("leaves a stack of blank pages alone", () => {
    expect(told(stack({}, [1, 2], 2))).toBe("12");
  });

  it("cuts and joins, but never before the first page", () => {
    const cut = toggleCut(stack(), 2);
    expect(told(cut)).toBe("12|345");
    expect(told(toggleCut(cut, 2))).toBe("12345");
    expect(told(toggleCut(stack(), 0))).toBe("12345");
  });

  it("turns both ways round", () => {
    expect(parts(turned(stack(), 0, -90))[0]?.[0]?.turn).toBe(270);
    expect(parts(turned(turned(stack(), 0, 90), 0, -90))[0]?.[0]?.turn).toBe(0);
  });

  it("leaves pages out and takes them in again; a document without pages is none", () => {
    const cut = toggleCut(stack({}, [], 2), 1);
    expect(told(toggleOut(cut, 1))).toBe("1");
    expect(told(toggleOut(toggleOut(cut, 1), 1))).toBe("1|2");
  });

  it("moves a page within its document and to another", () => {
    const cut = toggleCut(stack(), 3);
    expect(told(moved(cut, 0, 2))).toBe("213|45");
    expect(told(moved(cut, 4, 0))).toBe("5123|4");
    expect(told(moved(cut, 0, 5))).toBe("23|451");
  });

  it("keeps a document's beginning when its first page moves away", () => {
    expect(told(moved(toggleCut(stack(), 3), 3, 0))).toBe("4123|5");
    expect(told(moved(toggleCut(stack(), 3), 3, 5))).toBe("123|54");
  });

  it("puts a page that is moved before a first page into that document", () => {
    expect(told(moved(toggleCut(stack(), 2), 4, 2))).toBe("12|534");
  });

  it("never loses or doubles a page, wherever one is moved", () => {
    for (let from = 0; from < 5; from++)
      for (let to = 0; to <= 5; to++) {
        const after = moved(toggleCut(stack(), 2), from, to);
        expect(after.map((l) => l.page).sort()).toEqual([1, 2, 3, 4, 5]);
        expect(documents(after)).toHaveLength(2);
      }
  });

  it("knows when nothing would be other than it came", () => {
    expect(isAsItCame(stack())).toBe(true);
    for (const other of [
      toggleCut(stack(), 1),
      turned(stack(), 0, 90),
      toggleOut(stack(), 4),
      moved(stack(), 0, 2),
      withCorners(stack(), 0, [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ]),
    ])
      expect(isAsItCame(other)).toBe(false);
  });
});
