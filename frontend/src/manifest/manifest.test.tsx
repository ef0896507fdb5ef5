import { renderToStaticMarkup } from "react-dom/server";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { StateBar } from "./Ledger";
import { Progress } from "./Progress";

type Manifest = Schemas["ManifestOut"];

const told = (part: Partial<Manifest>) =>
  renderToStaticMarkup(
    <Progress
      manifest={
        {
          lines: 100_000,
          bytes: 3 << 20,
          progress: 0,
          progress_bytes: 0,
          phase: null,
          partial: false,
          ...part,
        } as Manifest
      }
    />,
  ).replace(/<!-- -->/g, "");

describe("how far a manifest is", () => {
  it("says that it waits, for the worker or for its plan", () => {
    expect(told({ state: "queued" })).toContain("It waits for the worker.");
    expect(told({ state: "planned" })).toContain("it goes on when this page is closed");
  });
  it("tells the phase of a run in one step, and how much it speaks of", () => {
    expect(told({ state: "running", phase: "placing documents" })).toContain(
      "All its 100,000 lines (3.1 MB) in one step: placing documents…",
    );
    expect(told({ state: "running", bytes: null })).toContain("All its 100,000 lines in one step…");
  });
  it("counts lines and bytes of a run in parts", () => {
    const html = told({ state: "running", partial: true, progress: 25_000, progress_bytes: 1 << 20 });
    expect(html).toContain("25,000 of 100,000 lines, 1.0 MB of 3.1 MB");
    expect(html).toContain('aria-valuenow="25"');
    expect(told({ state: "running", partial: true, bytes: null })).toContain("0 of 100,000 lines</div>");
  });
  it("tells the phase of an undo", () => {
    expect(told({ state: "undoing", phase: "comparing names" })).toContain(
      "Its 100,000 lines are being undone in one step: comparing names…",
    );
    expect(told({ state: "undoing" })).toContain("in one step…");
  });
});

describe("the bar of states", () => {
  const bar = (counts: Record<string, number>) =>
    renderToStaticMarkup(<StateBar counts={counts} />)
      .replace(/<[^>]+>/g, "")
      .replace(/\s+/g, " ");

  it("says in words what its parts are, and leaves out what is not there", () => {
    expect(bar({ ready: 30, blocked: 18 })).toBe("30 ready · 18 blocked · 48 lines");
    expect(bar({ ready: 2, right: 1, "left out": 4, failed: 3 })).toBe(
      "2 ready · 1 already right · 4 left out · 3 failed · 10 lines",
    );
    expect(bar({})).toBe("no lines");
  });
  it("counts folders apart from lines of documents", () => {
    expect(bar({ ready: 1, "make folder": 2, "remove folder": 3 })).toBe(
      "1 ready · 1 line · makes 2 folders · removes up to 3 emptied",
    );
  });
  it("tells what is done, undone and not done", () => {
    expect(bar({ done: 5 })).toBe("5 done · 5 lines");
    expect(bar({ undone: 5, "not done": 2 })).toBe("5 undone · 2 not done · 7 lines");
    expect(bar({ done: 41, undone: 4 })).toBe("41 done · 4 undone · 45 lines");
  });
  it("sets what is still to be done apart from what is done, while it runs in parts", () => {
    expect(bar({ ready: 2000, done: 1000 })).toBe("1,000 done · 2,000 ready · 3,000 lines");
    expect(renderToStaticMarkup(<StateBar counts={{ ready: 2, done: 1 }} />)).toMatch(
      /part to-do" style="flex-grow:2"/,
    );
  });
  it("gives each part its share of the width", () => {
    const html = renderToStaticMarkup(<StateBar counts={{ ready: 3, blocked: 1 }} />);
    expect(html).toMatch(/part ready" style="flex-grow:3"/);
    expect(html).toMatch(/part blocked" style="flex-grow:1"/);
    expect(html).toMatch(/part failed" style="flex-grow:0"/);
  });
});
