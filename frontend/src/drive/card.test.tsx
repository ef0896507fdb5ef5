// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import type { UserEvent } from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { chosenOf } from "../manifest/chosen";
import { address, show } from "../testing/page";
import { serve } from "../testing/server";
import type { DriveActs } from "./driveKeys";
import { LineCard } from "./LineCard";

const acts = new Proxy({}, { get: () => () => {} }) as DriveActs;

/** The card of a document in folder 7 beside its line. */
function card(line: Partial<Schemas["LineOut"]>, may_file = true): UserEvent {
  serve({
    "GET /api/documents/12": { facts: [], places: [], versions: [{}], tags: [], may_file, keeps: may_file },
    "GET /api/documents/12/trail": { lines: [] },
  });
  const told = { entry: 31, document: 12, folder: 7, name: "invoice march.pdf", misfit: null, ...line };
  const one = told as Schemas["LineOut"];
  const nothing = {
    may: may_file,
    several: "1 document",
    more: [],
    renaming: false,
    onRenamed: vi.fn(),
    onMenu: vi.fn(),
    acts,
    onAll: vi.fn(),
    onInvert: vi.fn(),
    onNone: vi.fn(),
    onPattern: vi.fn(),
  };
  return show(<LineCard line={one} entries={[one.entry]} {...nothing} />);
}

describe("the card of a document whose name does not fit", () => {
  const misfit = "expected a date as yyyy-MM-dd where the name begins";

  it("says where not, and leads to the name by the plan", async () => {
    const user = card({ misfit });
    expect(screen.getByText(`Its name does not fit the plan: ${misfit}.`)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Name it by the plan" }));
    const query = new URL(address(), "http://waka").searchParams;
    expect(query.get("do")).toBe("plan");
    expect(chosenOf(query)?.entries).toEqual([31]);
  });

  it("offers nothing to who may not file", async () => {
    card({ misfit }, false);
    await screen.findByText("1");
    expect(screen.getByText(/does not fit/)).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Name it by the plan" })).toBeNull();
  });

  it("offers who may only read what changes nothing", async () => {
    card({}, false);
    await screen.findByText("1");
    const offered = screen.getAllByRole("button").map((one) => one.textContent?.trim());
    expect(offered).toEqual(["More…"]);
    expect(screen.getAllByRole("link").map((one) => one.textContent)).toEqual(["Open"]);
  });

  it("says nothing where it fits", async () => {
    card({});
    await screen.findByText("1");
    expect(screen.queryByText(/does not fit/)).toBeNull();
  });
});
