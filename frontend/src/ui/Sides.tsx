// A screen's middle and the sides beside it, as wide as each person likes them; kept in the browser, per person and screen.
import { Splitter } from "antd";
import { type KeyboardEvent, type ReactNode, useCallback, useContext, useState } from "react";
import { SessionContext } from "./session";
import "./sides.css";
import { useNarrow, usePhone } from "./window";

/** A side: how wide it is at first, in CSS pixels, in a wide window and in a narrow one. */
type Side = { width: readonly [wide: number, narrow: number]; content: ReactNode };
type Part = "start" | "middle" | "end";
type Props = {
  name: string;
  start?: Side;
  end?: Side;
  /** What of it a telephone shows, one below the other; all of it where that is not said. */
  onPhone?: readonly Part[];
  children: ReactNode;
};
type Which = "start" | "end";
type Widths = { start?: number; end?: number };

const LEAST = 150;
const MOST = "45%";
const LEAST_MIDDLE = 260;
const STEP = 16;
const ALL: readonly Part[] = ["start", "middle", "end"];

export function Sides(props: Props): ReactNode {
  const me = useContext(SessionContext)?.me.id ?? 0;
  const key = `waka.sides.${me}.${props.name}`;
  const [widths, setWidths] = useState<Widths>(() => kept(key));
  const narrow = useNarrow();
  const phone = usePhone();
  const sides = (["start", "end"] as const).filter((which) => props[which]);
  const widthOf = (which: Which) => widths[which] ?? props[which]?.width[narrow ? 1 : 0] ?? 0;
  const change = (next: Widths) => {
    setWidths(next);
    localStorage.setItem(key, JSON.stringify(next));
  };
  /** What the library says of all its panels, as widths of the sides; one that was not moved keeps its own way. */
  const told = (sizes: number[]): Widths => {
    const now = { start: sizes[0], end: sizes.at(-1) };
    const moved = sides.filter((which) => Math.abs((now[which] ?? 0) - widthOf(which)) > 0.5);
    return { ...widths, ...Object.fromEntries(moved.map((which) => [which, now[which]])) };
  };
  const reset = (bar: number) => {
    const which = sides[bar];
    if (which) change({ ...widths, [which]: undefined });
  };
  // the library's bars take no keys: they do by the ARIA window splitter pattern
  const there = sides.join(" ");
  const bars = useCallback(
    (box: HTMLDivElement | null) => {
      box?.querySelectorAll<HTMLElement>('[role="separator"]').forEach((bar, index) => {
        bar.tabIndex = 0;
        bar.ariaLabel = `Resize the ${there.split(" ")[index] === "start" ? "left" : "right"} side`;
      });
    },
    [there],
  );
  const press = (event: KeyboardEvent<HTMLDivElement>) => {
    const all = [...event.currentTarget.querySelectorAll('[role="separator"]')];
    const which = sides[all.indexOf(event.target as Element)];
    if (!which || event.altKey || event.ctrlKey || event.metaKey) return;
    const steps = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (steps === undefined && event.key !== "Home") return;
    event.preventDefault();
    event.stopPropagation();
    if (steps === undefined) return reset(sides.indexOf(which));
    const wider = (which === "start" ? steps : -steps) * STEP;
    const most = event.currentTarget.clientWidth * (Number.parseFloat(MOST) / 100);
    change({ ...widths, [which]: Math.min(Math.max(widthOf(which) + wider, LEAST), most) });
  };
  if (phone)
    return (
      <div className="stacked">
        {(props.onPhone ?? ALL).map((part) => (
          <div key={part} className={`stacked-${part}`}>
            {part === "middle" ? props.children : props[part]?.content}
          </div>
        ))}
      </div>
    );
  const side = (which: Which) =>
    props[which] && (
      <Splitter.Panel key={which} size={widthOf(which)} min={LEAST} max={MOST}>
        {props[which].content}
      </Splitter.Panel>
    );
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the bars in it take the keys
    <div className="sides" ref={bars} onKeyDown={press}>
      <Splitter
        onResize={(sizes) => setWidths(told(sizes))}
        onResizeEnd={(sizes) => change(told(sizes))}
        onDraggerDoubleClick={reset}
      >
        {side("start")}
        <Splitter.Panel key="middle" min={LEAST_MIDDLE}>
          {props.children}
        </Splitter.Panel>
        {side("end")}
      </Splitter>
    </div>
  );
}

function kept(key: string): Widths {
  try {
    const had: unknown = JSON.parse(localStorage.getItem(key) ?? "{}");
    const width = (which: Which) => {
      const one = (had as Widths)?.[which];
      return typeof one === "number" && one >= LEAST ? one : undefined;
    };
    return { start: width("start"), end: width("end") };
  } catch {
    // what was kept is not one of ours
    return {};
  }
}
