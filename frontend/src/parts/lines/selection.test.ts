import { describe, expect, it } from "vitest";
import { between, NONE, toggled } from "./selection";

describe("several lines chosen at once", () => {
  it("takes one more in, or out, and leaves what was as it was", () => {
    const one = toggled(NONE, 4);
    const two = toggled(one, 7);
    expect([[...one], [...two], [...toggled(two, 4)], [...NONE]]).toEqual([[4], [4, 7], [7], []]);
  });

  it("reaches from one place to another in either direction, both included", () => {
    const ids = [10, 11, 12, 13, 14];
    expect([...between(ids, 1, 3)]).toEqual([11, 12, 13]);
    expect([...between(ids, 3, 1)]).toEqual([11, 12, 13]);
    expect([...between(ids, 2, 2)]).toEqual([12]);
    expect([...between(ids, -1, 1)]).toEqual([10, 11]);
    expect([...between(ids, 3, 99)]).toEqual([13, 14]);
  });
});
