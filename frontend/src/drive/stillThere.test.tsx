// @vitest-environment jsdom
import { renderHook } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Schemas } from "../api/client";
import { useStillThere } from "./useStillThere";

const lines = (...entries: number[]) => entries.map((entry) => ({ entry }) as Schemas["LineOut"]);

/** The marks that are left of 1, 2, 3 after each of the lists. */
function after(asked: object[], lists: Schemas["LineOut"][][]): number[] {
  let marks: ReadonlySet<number> = new Set([1, 2, 3]);
  const { rerender } = renderHook(
    ({ at }) =>
      useStillThere(asked[at] ?? {}, lists[at], (next) => {
        marks = typeof next === "function" ? next(marks) : next;
      }),
    { initialProps: { at: 0 } },
  );
  for (let at = 1; at < lists.length; at++) rerender({ at });
  return [...marks];
}

test("what was moved away is not chosen any more", () => {
  const asked = {};
  expect(after([asked, asked], [lines(1, 2, 3, 4), lines(1, 3, 4)])).toEqual([1, 3]);
});

test("what is not listed yet in another order stays chosen", () => {
  expect(after([{}, {}], [lines(1, 2, 3), lines(9, 8, 1)])).toEqual([1, 2, 3]);
});
