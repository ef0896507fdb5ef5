// @vitest-environment jsdom
import { screen, waitFor } from "@testing-library/react";
import { expect, it, vi } from "vitest";
import { show } from "../testing/page";
import { Choices } from "./MadeFrom";

const radio = (label: string) => screen.getByLabelText<HTMLInputElement>(label);

it("how taken names are planned is shown at once; one plan is made after the other, of the last one chosen", async () => {
  const answers: (() => void)[] = [];
  const onTaken = vi.fn((_: string) => new Promise<void>((done) => answers.push(done)));
  const manifest = { taken: "stop", problem: null, tried: false } as Parameters<typeof Choices>[0]["manifest"];
  const user = show(<Choices manifest={manifest} partial={false} onPartial={() => {}} onTaken={onTaken} />);
  await user.click(radio("keep both, with a mark ~2"));
  await screen.findByText("The lines are planned anew…");
  await user.click(radio("make it a new version of the one there"));
  await user.click(radio("leave that line out"));
  expect(radio("leave that line out").checked).toBe(true);
  expect(onTaken.mock.calls).toEqual([["both"]]);
  answers[0]?.();
  await waitFor(() => expect(onTaken.mock.calls).toEqual([["both"], ["skip"]]));
  answers[1]?.();
  await waitFor(() => expect(screen.queryByText("The lines are planned anew…")).toBeNull());
  expect(radio("show the line as blocked").checked, "what the manifest says").toBe(true);
});
