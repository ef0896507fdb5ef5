// @vitest-environment jsdom
import { screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { pick, show } from "../testing/page";
import { queries, serve } from "../testing/server";
import { SumsTable } from "./SumsTable";

const SUMS = "GET /api/manifests/5/sums";
const TYPES = "GET /api/manifests/5/sums/types";

const sum = (place: string, part: Partial<Schemas["SumOut"]>): Schemas["SumOut"] => ({
  place,
  before: 0,
  leaving: 0,
  arriving: 0,
  after: 0,
  ...part,
});
const told = () => screen.getAllByRole("row").map((row) => [...row.children].map((cell) => cell.textContent).join(" "));

describe("sums of a manifest", () => {
  it("are told by folder: what leaves, what comes, and why there is more after than comes", async () => {
    serve({
      [SUMS]: {
        folders: [
          sum("Yard / Jobs", { before: 5, leaving: 3, after: 2 }),
          sum("Yard / Jobs / 2025", { before: 4, arriving: 3, after: 7 }),
        ],
        renamed: 0,
      },
    });
    show(<SumsTable manifest={5} state="checked" />);
    await screen.findByRole("heading", { name: "What should be there after" });
    expect(told()).toEqual(["documents in before leave come after", "Yard / Jobs 5 3  2", "Jobs / 2025 4  3 7"]);
    expect(
      screen.getByText("4 in Jobs / 2025 are there already: that is why what is there after is more than what comes."),
    ).toBeTruthy();
    expect(queries(TYPES)).toEqual([]);
  });

  it("are told by type where one asks for that", async () => {
    serve({
      [SUMS]: { folders: [sum("Yard / Jobs", { arriving: 3, after: 4, before: 1 })], renamed: 0 },
      [TYPES]: {
        types: [
          { type: "pdf", before: 1, leaving: 0, arriving: 2, after: 3 },
          { type: "", before: 0, leaving: 0, arriving: 1, after: 1 },
        ],
      },
    });
    const user = show(<SumsTable manifest={5} state="done" />);
    await screen.findByRole("heading", { name: "What was there before and after" });
    await pick(user, "by type");
    await waitFor(() => expect(told()).toEqual(["type before leave come after", "pdf 1  2 3", "none 0  1 1"]));
    expect(
      screen.getByText("1 pdf is there already: that is why what is there after is more than what comes."),
    ).toBeTruthy();
    await pick(user, "by folder");
    expect(told()[0]).toBe("documents in before leave come after");
  });

  it("of what is renamed where it is say so, and nothing leaves or comes", async () => {
    serve({ [SUMS]: { folders: [sum("Yard", { before: 9, after: 9 }), sum("Office", {})], renamed: 8 } });
    show(<SumsTable manifest={5} state="checked" />);
    await screen.findByText("8 are renamed in their folders.");
    expect(screen.queryByRole("table")).toBeNull();
    expect(screen.queryByRole("heading")).toBeNull();
    expect(screen.queryByRole("radio", { name: "by type" })).toBeNull();
  });

  it("of more folders than are shown say how many there are", async () => {
    serve({
      [SUMS]: {
        folders: Array.from({ length: 14 }, (_, n) => sum(`Yard / ${n}`, { leaving: 1, before: 1 })),
        renamed: 0,
      },
    });
    show(<SumsTable manifest={5} state="checked" />);
    await screen.findByText("2 folders more.");
    expect(told()).toHaveLength(13);
  });
});
