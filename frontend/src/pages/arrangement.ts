// How pages are put together anew: a row of leaves, some of which begin a document. Pure, so that keys, mouse and tests share it.
import type { Schemas } from "../api/client";

export type Corners = [number, number][];
export type Leaf = {
  arrival: number;
  page: number;
  turn: 0 | 90 | 180 | 270;
  out: boolean;
  /** A document begins here. */
  begins: boolean;
  /** Why a cut was proposed here. */
  why: string | null;
  blank: boolean;
  photo: boolean;
  sheet: Corners | null;
  corners: Corners | null;
  ratio: number;
};
export type Document = { first: number; leaves: { leaf: Leaf; at: number }[] };

/** The leaves of an arrival as they are proposed: cut where documents seem to begin, blank pages left out. */
export function leavesOf(stack: Schemas["StackOut"]): Leaf[] {
  const several = stack.pages.some((page) => !page.blank);
  return stack.pages.map((page, index) => ({
    arrival: stack.arrival,
    page: index + 1,
    turn: 0,
    out: page.blank && several,
    begins: page.cut !== null,
    why: page.cut,
    blank: page.blank,
    photo: stack.photo,
    sheet: page.sheet as Corners | null,
    corners: null,
    ratio: page.width / page.height,
  }));
}

function changed(leaves: Leaf[], at: number, change: Partial<Leaf>): Leaf[] {
  return leaves.map((leaf, index) => (index === at ? { ...leaf, ...change } : leaf));
}

/** A document begins at the leaf, or no longer does; the first leaf always begins one. */
export function toggleCut(leaves: Leaf[], at: number): Leaf[] {
  const leaf = leaves[at];
  return leaf && at > 0 ? changed(leaves, at, { begins: !leaf.begins }) : leaves;
}

export function turned(leaves: Leaf[], at: number, by: 90 | -90): Leaf[] {
  const leaf = leaves[at];
  return leaf ? changed(leaves, at, { turn: ((leaf.turn + by + 360) % 360) as Leaf["turn"] }) : leaves;
}

export function toggleOut(leaves: Leaf[], at: number): Leaf[] {
  const leaf = leaves[at];
  return leaf ? changed(leaves, at, { out: !leaf.out }) : leaves;
}

export function withCorners(leaves: Leaf[], at: number, corners: Corners | null): Leaf[] {
  return changed(leaves, at, { corners });
}

/** The leaf moved to stand before what is at `to` now; documents keep where they begin. */
export function moved(leaves: Leaf[], from: number, to: number): Leaf[] {
  const leaf = leaves[from];
  if (!leaf || to === from || to === from + 1 || to < 0 || to > leaves.length) return leaves;
  const rest = leaves.slice();
  const next = rest[from + 1];
  // what it began goes on to begin with the page after it
  if (leaf.begins && next) rest[from + 1] = { ...next, begins: true };
  rest.splice(from, 1);
  const target = to > from ? to - 1 : to;
  const there = rest[target];
  // put before a first page, it becomes the first page of that document
  const begins = there?.begins === true && target > 0 && to < from;
  if (begins && there) rest[target] = { ...there, begins: false, why: null };
  rest.splice(target, 0, { ...leaf, begins, why: begins ? leaf.why : null });
  return rest;
}

/** The documents that come of it, with the leaves that are left out where they stand. */
export function documents(leaves: Leaf[]): Document[] {
  const found: Document[] = [];
  leaves.forEach((leaf, at) => {
    const last = found[found.length - 1];
    if (!last || leaf.begins) found.push({ first: at, leaves: [{ leaf, at }] });
    else last.leaves.push({ leaf, at });
  });
  return found;
}

/** What the server is asked for: the pages of each document that has any. */
export function parts(leaves: Leaf[]): Schemas["PageForm"][][] {
  return documents(leaves)
    .map((document) =>
      document.leaves
        .filter(({ leaf }) => !leaf.out)
        .map(({ leaf }) => ({ arrival: leaf.arrival, page: leaf.page, turn: leaf.turn, corners: leaf.corners })),
    )
    .filter((pages) => pages.length > 0);
}

/** Whether anything would be other than it is: one arrival, all its pages, in order, as they are. */
export function isAsItCame(leaves: Leaf[]): boolean {
  const made = parts(leaves);
  return (
    made.length === 1 &&
    leaves.every((l, i) => !l.out && !l.turn && !l.corners && l.arrival === leaves[0]?.arrival && l.page === i + 1)
  );
}
