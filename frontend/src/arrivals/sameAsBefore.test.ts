import { beforeEach, describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { likeBefore, remember } from "./sameAsBefore";

type Slip = Schemas["SlipOut"];
const fact = (field: string, value: unknown, sure: boolean, given = false) => ({
  field,
  value,
  sure,
  given,
  repeats: !["ref", "issued"].includes(field),
});
const slip = (facts: unknown[], place: string[] | null = null): Slip =>
  ({
    facts,
    place_edited: place !== null,
    steps: (place ?? ["Letters"]).map((name) => ({ name })),
    area: { id: 4, name: "Office" },
  }) as unknown as Slip;

describe("same as the one before", () => {
  beforeEach(() => {
    const held = new Map<string, string>();
    Object.defineProperty(globalThis, "sessionStorage", {
      configurable: true,
      value: {
        getItem: (k: string) => held.get(k) ?? null,
        setItem: (k: string, v: string) => void held.set(k, v),
      },
    });
  });
  it("has nothing to give before anything was filed", () => {
    expect(likeBefore(slip([fact("kind", null, false)]))).toBeNull();
  });
  it("fills what is unknown or doubtful, and leaves what is sure or was written", () => {
    remember(slip([fact("kind", "letter", true), fact("party", { party: 3 }, true), fact("subject", "Berth", true)]));
    const next = slip([
      fact("kind", null, false),
      fact("party", { party: 9 }, false),
      fact("subject", "Mine", true, true),
    ]);
    expect(likeBefore(next)).toEqual({ facts: { kind: "letter", party: { party: 3 } } });
  });
  it("takes the place only where it was chosen by hand", () => {
    remember(slip([fact("kind", "letter", true)], ["Staff", "Leave"]));
    expect(likeBefore(slip([fact("kind", "letter", true)]))).toEqual({ place: "Staff/Leave" });
  });
  it("does not take over dates, references and amounts", () => {
    remember(slip([fact("issued", "2026-03-18", true), fact("ref", "A-1", true)]));
    expect(likeBefore(slip([fact("issued", null, false), fact("ref", null, false)]))).toBeNull();
  });
});
