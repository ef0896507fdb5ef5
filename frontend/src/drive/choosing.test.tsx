// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { type ReactNode, useState } from "react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { DocGrid } from "../parts/lines/DocGrid";
import { type Marks, NONE } from "../parts/lines/selection";
import { useChoosing } from "../parts/lines/useChoosing";
import { show } from "../testing/page";
import { PagesGrid } from "./PagesGrid";

type Line = Schemas["LineOut"];
const LINES = ["bilge", "keel", "oar", "rib", "stem", "tiller"].map(
  (name, n) => ({ entry: n + 1, document: n + 1, name: `${name}.pdf`, type: "pdf" }) as Line,
);
const opened = vi.fn();
const menu = vi.fn();
const all = vi.fn();

/** The lines in one of the two ways to look at them, with what is chosen kept as a screen keeps it. */
function Lines(props: { pages: boolean }): ReactNode {
  const [chosen, setChosen] = useState<number | null>(1);
  const [marks, setMarks] = useState<Marks>(NONE);
  const shared = {
    label: "Documents",
    lines: LINES,
    chosen,
    marks,
    onChoose: setChosen,
    onMarks: setMarks,
    onAll: all,
    onOpen: (line: Line) => opened(line.name),
    onMenu: (line: Line) => menu(line.name),
    onEnd: () => {},
    more: false,
  };
  return props.pages ? (
    <PagesGrid {...shared} drag={() => ({})} />
  ) : (
    <DocGrid
      {...shared}
      id={entry}
      columns={[{ key: "name", label: "Name", width: "1fr", cell: (line) => line.name }]}
      acrossColumns={1}
      sort="name"
      descending={false}
      onSort={() => {}}
      total={LINES.length}
    />
  );
}
const entry = (line: Line) => line.entry;
beforeEach(() => {
  vi.clearAllMocks();
});

/** A list whose lines are put in another order while one looks at them. */
function Turned(props: { onMarks: (marks: Marks) => void }): ReactNode {
  const [lines, setLines] = useState(LINES);
  const [chosen, setChosen] = useState<number | null>(null);
  const choosing = useChoosing({
    lines,
    id: entry,
    chosen,
    onChoose: setChosen,
    marks: NONE,
    onMarks: props.onMarks,
    show: () => {},
  });
  return (
    <>
      <button type="button" onClick={() => setLines([...lines].reverse().slice(1))}>
        turn
      </button>
      {lines.map((line) => (
        <button type="button" key={line.entry} onClick={(event) => choosing.click(line.entry, event)}>
          {line.name}
        </button>
      ))}
    </>
  );
}

describe("a stretch of lines", () => {
  it("reaches from the line that was chosen, wherever that stands by then", async () => {
    const marked = vi.fn();
    const user = show(<Turned onMarks={marked} />);
    await user.click(screen.getByText("keel.pdf"));
    await user.click(screen.getByText("turn"));
    await user.keyboard("{Shift>}");
    await user.click(screen.getByText("rib.pdf"));
    await user.keyboard("{/Shift}");
    const called = marked.mock.lastCall?.[0] as Marks;
    expect([...called].map((n) => LINES[n - 1]?.name)).toEqual(["rib.pdf", "oar.pdf", "keel.pdf"]);
  });
});

describe.each([
  { pages: false, list: "grid", line: "row", next: "{ArrowDown}", before: "{ArrowUp}" },
  { pages: true, list: "listbox", line: "option", next: "{ArrowRight}", before: "{ArrowLeft}" },
] as const)("lines of documents as a $list", ({ pages, list, line, next, before }) => {
  const chosen = () =>
    screen
      .getAllByRole(line, { selected: true })
      .map((one) => one.textContent?.replace(".pdf", "").trim())
      .join(" ");
  const named = (name: string) => screen.getByRole(line, { name: new RegExp(name) });
  const start = () => {
    const user = show(<Lines pages={pages} />);
    screen.getByRole(list).focus();
    return user;
  };

  it("are chosen one, a stretch, or here and there by keys", async () => {
    const user = start();
    expect(chosen()).toBe("bilge");
    await user.keyboard(next);
    expect(chosen()).toBe("keel");
    await user.keyboard(`{Shift>}${next}${next}{/Shift}`);
    expect(chosen()).toBe("keel oar rib");
    await user.keyboard(`{Shift>}${before}{/Shift}`);
    expect(chosen()).toBe("keel oar");
    await user.keyboard(`{Control>}${next}${next} {End}{/Control}`);
    expect(chosen()).toBe("keel oar stem");
    await user.keyboard(" ");
    expect(chosen()).toBe("keel oar stem tiller");
    await user.keyboard("{Home}");
    expect(chosen()).toBe("bilge");
    await user.keyboard("{Control>}a{/Control}");
    expect(all).toHaveBeenCalledOnce();
  });

  it("are chosen by the mouse as by keys", async () => {
    const user = start();
    await user.click(named("keel"));
    await user.keyboard("{Shift>}");
    await user.click(named("rib"));
    await user.keyboard("{/Shift}{Control>}");
    await user.click(named("oar"));
    await user.click(named("tiller"));
    await user.keyboard("{/Control}");
    expect(chosen()).toBe("keel rib tiller");
    expect(document.activeElement).toBe(screen.getByRole(list));
    await user.click(named("stem"));
    expect(chosen()).toBe("stem");
  });

  it("open, and show their menu, where the keys are", async () => {
    const user = start();
    await user.keyboard(`${next}{Enter}`);
    expect(opened).toHaveBeenLastCalledWith("keel.pdf");
    await user.keyboard(`${next}{Shift>}{F10}{/Shift}`);
    expect(menu).toHaveBeenLastCalledWith("oar.pdf");
    opened.mockClear();
    await user.keyboard("{Control>}{Enter}{/Control}");
    expect(opened).not.toHaveBeenCalled();
  });
});
