// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { choose, show } from "../testing/page";
import { serve } from "../testing/server";
import { VOCABULARY } from "../testing/vocabulary";
import { NOTHING, wayOf } from "./chosen";
import { WayPanel } from "./WayPanel";

const area = (id: number, name: string) => ({ id, name, entry: id, below: 0, has_folders: false });

function panel(way: Partial<Schemas["WayForm"]>, areas = [area(3, "Office"), area(4, "Yard")]) {
  serve({
    "GET /api/vocabulary": VOCABULARY,
    "GET /api/folders": { folders: areas },
    "POST /api/manifests/quick": { offers: [], tried: null },
  });
  const onChange = vi.fn();
  const of = { ...wayOf(new URLSearchParams("do=plan")), ...way };
  const user = show(
    <WayPanel way={of} chosen={NOTHING} wrong={null} onChange={onChange} onOrder={vi.fn()} told={null} />,
  );
  return { user, onChange, of };
}

describe("a pattern that a plan lacks", () => {
  it("is borrowed from another area", async () => {
    const { user, onChange, of } = panel({ placing: true });
    await screen.findByText("Where a plan has no pattern");
    await choose(user, "Where a plan has no pattern", "use that of Yard");
    expect(onChange).toHaveBeenCalledExactlyOnceWith({ ...of, borrow: 4 });
  });

  it("is borrowed no more", async () => {
    const { user, onChange, of } = panel({ borrow: 4 });
    await screen.findByText("use that of Yard");
    await choose(user, "Where a plan has no pattern", "leave the line blocked");
    expect(onChange).toHaveBeenCalledExactlyOnceWith({ ...of, borrow: null });
  });

  it("is borrowed for places of the plan, not where a pattern is written", async () => {
    panel({ do: "place", prints: "" });
    expect(await screen.findByText("Where a plan has no pattern")).toBeTruthy();
  });

  it("is of no use where a place is written, or there is one area alone", async () => {
    panel({ do: "place", prints: "<issued yyyy>" });
    await screen.findByText("below the area");
    expect(screen.queryByText("Where a plan has no pattern")).toBeNull();
  });

  it("stands in the address, so that a plan like it can be begun", () => {
    expect(wayOf(new URLSearchParams("do=plan&borrow=4")).borrow).toBe(4);
    expect(wayOf(new URLSearchParams("do=plan&borrow=x")).borrow).toBeNull();
  });
});
