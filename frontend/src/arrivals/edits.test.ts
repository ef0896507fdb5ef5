import { expect, it } from "vitest";
import { afterEdits, editsDone } from "./edits";

it("runs edits one after another, also after one that failed", async () => {
  const told: string[] = [];
  const slow = afterEdits(async () => {
    await new Promise((resolve) => setTimeout(resolve, 20));
    told.push("first");
    throw new Error("refused");
  });
  const quick = afterEdits(async () => told.push("second"));
  await expect(slow).rejects.toThrow("refused");
  await quick;
  expect(told).toEqual(["first", "second"]);
});

it("waits for an edit that begins in the same turn", async () => {
  const told: string[] = [];
  const waiting = editsDone().then(() => told.push("filed"));
  void afterEdits(async () => told.push("edited"));
  await waiting;
  expect(told).toEqual(["edited", "filed"]);
});
