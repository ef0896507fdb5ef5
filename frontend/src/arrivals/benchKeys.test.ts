import { describe, expect, it } from "vitest";
import type { Key } from "../ui/keys";
import { benchKeys } from "./benchKeys";

type Press = { key: string; ctrl?: boolean; shift?: boolean; alt?: boolean; meta?: boolean };

function pressed(press: Press, inLine = true): string[] {
  const did: string[] = [];
  const note = (what: string) => () => void did.push(what);
  const keys: Key[] = benchKeys({
    file: note("file"),
    step: (by) => void did.push(`step ${by}`),
    skim: note("skim"),
    park: note("park"),
    arrange: note("arrange"),
    enter: note("enter"),
    inLine: () => inLine,
    turn: (by) => void did.push(`turn ${by}`),
  });
  const event = {
    key: press.key,
    ctrlKey: press.ctrl ?? false,
    shiftKey: press.shift ?? false,
    altKey: press.alt ?? false,
    metaKey: press.meta ?? false,
  } as KeyboardEvent;
  for (const key of keys.filter((one) => one.match(event))) if (!["F2", "F4", "F7"].includes(press.key)) key.run(event);
  return did;
}

describe("the keys of the bench", () => {
  it("each do one thing", () => {
    expect(pressed({ key: "Enter", ctrl: true })).toEqual(["file"]);
    expect(pressed({ key: "Enter", meta: true })).toEqual(["file"]);
    expect(pressed({ key: "Enter", ctrl: true, shift: true })).toEqual(["skim"]);
    expect(pressed({ key: "ArrowDown", alt: true })).toEqual(["step 1"]);
    expect(pressed({ key: "ArrowUp", alt: true })).toEqual(["step -1"]);
    expect(pressed({ key: "F8" })).toEqual(["park"]);
    expect(pressed({ key: "F9" })).toEqual(["arrange"]);
    expect(pressed({ key: "PageUp" })).toEqual(["turn -1"]);
  });

  it("file by Enter alone only in the waiting line", () => {
    expect(pressed({ key: "Enter" })).toEqual(["enter"]);
    expect(pressed({ key: "Enter" }, false)).toEqual([]);
  });

  it("leave alone what belongs to the browser", () => {
    expect(pressed({ key: "ArrowDown" })).toEqual([]);
    expect(pressed({ key: "Enter", alt: true }, false)).toEqual([]);
    expect(pressed({ key: "a", ctrl: true })).toEqual([]);
  });
});
