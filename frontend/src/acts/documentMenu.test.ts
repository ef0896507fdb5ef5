import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import type { DocumentActs } from "./documentKeys";
import { lineActs } from "./documentMenu";

const line = { entry: 7, document: 3, folder: 5, name: "keel.pdf" } as Schemas["LineOut"];

const ACTS = new Proxy({}, { get: () => () => {} }) as DocumentActs;

function offered(where: { many?: boolean; may?: boolean; keeps?: boolean; folder?: number | null }): string[] {
  const acts = lineActs(
    line,
    { many: false, may: true, keeps: true, folder: 5, brings: true, ...where },
    ACTS,
    () => {},
    () => {},
  );
  return acts.flatMap((act) => (act === "line" || act.off ? [] : [act.label]));
}

describe("the menu of a line", () => {
  it("offers everything for one document of a folder that one files in", () => {
    expect(offered({})).toEqual([
      "Open",
      "Rename",
      "Move…",
      "Pick up",
      "File in another folder too…",
      "Copy…",
      "New version…",
      "Copy as next in series…",
      "Tags…",
      "Ask the rules…",
      "Give access…",
      "Who reads this",
      "Copy link",
      "Download",
      "Discard",
    ]);
  });

  it("offers for several what is done to each alike", () => {
    expect(offered({ many: true })).toEqual([
      "Move…",
      "Pick up",
      "File in another folder too…",
      "Copy…",
      "Tags…",
      "Ask the rules…",
      "Give access…",
      "Discard",
    ]);
  });

  it("offers who may only read what changes nothing there", () => {
    expect(offered({ may: false, keeps: false })).toEqual(["Open", "Copy…", "Who reads this", "Copy link", "Download"]);
  });

  it("goes to the folder of a line that is shown from below", () => {
    expect(offered({ folder: 1 })).toContain("Go to its folder");
    let went = 0;
    const acts = lineActs(
      line,
      { many: false, may: true, keeps: true, folder: 1, brings: true },
      ACTS,
      () => {},
      (folder) => {
        went = folder;
      },
    );
    const go = acts.find((act) => act !== "line" && act.label === "Go to its folder");
    if (go && go !== "line") go.run();
    expect(went).toBe(5);
  });
});
