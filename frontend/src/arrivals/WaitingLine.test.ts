import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { groupsOf, howFar } from "./WaitingLine";

function arrival(id: number, part: Partial<Schemas["SlipSummary"]>): Schemas["SlipSummary"] {
  return {
    id,
    revision: 0,
    original_name: `scan${id}.pdf`,
    state: "read",
    problem: null,
    by: "Odalys Brink",
    arrived_at: "2026-03-20T10:00:00Z",
    source: "upload",
    size: 1,
    claimed_by: null,
    claimed_by_me: false,
    ready: false,
    question: null,
    name: null,
    area: null,
    place: "",
    parked: null,
    mail: null,
    joinable: true,
    page_count: 1,
    pages_left: 0,
    ...part,
  };
}

describe("the waiting line", () => {
  it("is grouped by what it needs from a person, the ready ones first", () => {
    const groups = groupsOf([
      arrival(1, { state: "unreadable" }),
      arrival(2, { question: "Which date?" }),
      arrival(3, { ready: true }),
      arrival(4, { state: "reading" }),
      arrival(5, { ready: true }),
    ]);
    expect(groups.map((g) => [g.key, g.arrivals.map((a) => a.id)])).toEqual([
      ["ready", [3, 5]],
      ["look", [2]],
      ["reading", [4]],
      ["unreadable", [1]],
    ]);
  });

  it("tells how far a long scan is read, as soon as that is known", () => {
    expect(howFar(arrival(1, { state: "reading", page_count: 0 }))).toBe("Being read…");
    expect(howFar(arrival(1, { state: "reading", page_count: 9, pages_left: 5 }))).toBe("4 of 9 pages are read…");
  });

  it("shows no group that nothing is in, and every arrival once", () => {
    expect(groupsOf([])).toEqual([]);
    const many = Array.from({ length: 9 }, (_, n) => arrival(n, { ready: n % 2 === 0 }));
    expect(groupsOf(many).flatMap((g) => g.arrivals)).toHaveLength(9);
  });
});
