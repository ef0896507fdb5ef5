// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import { show } from "../testing/page";
import { Menu } from "./Menu";

test("a menu offers what can be done, and no line that parts nothing", async () => {
  const run = vi.fn();
  show(
    <Menu
      at={{
        left: 0,
        top: 0,
        title: "keel.pdf",
        acts: [
          { label: "Rename", run, off: true },
          "line",
          { label: "Open", run },
          "line",
          { label: "Move", run, off: true },
          "line",
          { label: "Copy", run },
          "line",
          { label: "Discard", run, off: true },
        ],
      }}
      onClose={vi.fn()}
    />,
  );
  expect((await screen.findAllByRole("menuitem")).map((one) => one.textContent)).toEqual(["Open", "Copy"]);
  expect(screen.getAllByRole("separator")).toHaveLength(1);
});
