import { describe, expect, it } from "vitest";
import { flipping } from "./flip";

describe("the list that one flips through", () => {
  it("goes with the way to a document in its order, as far as a browser keeps it", () => {
    expect(flipping([3, 1, 2])).toEqual({ flip: [3, 1, 2] });
    const long = flipping(Array.from({ length: 5_000 }, (_, n) => n));
    expect([long.flip.length, long.flip[0], long.flip.at(-1)]).toEqual([2_000, 0, 1_999]);
  });
});
