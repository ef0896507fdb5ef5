// Lines as pictures of their first pages, for looks rather than order; the size of the pictures is one's own.

import { useVirtualizer } from "@tanstack/react-virtual";
import { Slider } from "antd";
import { type KeyboardEvent, type ReactNode, useEffect, useLayoutEffect, useRef, useState } from "react";
import type { Schemas } from "../api/client";
import type { Marks } from "../parts/lines/selection";
import { asksForMenu, choosesNoText, useChoosing } from "../parts/lines/useChoosing";
import { cut } from "../ui/format";
import styles from "../ui/text.module.css";

type Line = Schemas["LineOut"];
type Props = {
  label: string;
  lines: Line[];
  chosen: number | null;
  marks: Marks;
  onChoose: (entry: number) => void;
  onMarks: (marks: Marks) => void;
  onAll: () => void;
  onOpen: (line: Line) => void;
  onMenu: (line: Line, left: number, top: number) => void;
  drag: (entry: number) => Record<string, unknown>;
  onEnd: () => void;
  more: boolean;
};

const entryOf = (line: Line): number => line.entry;
const KEPT = "waka.page-size";
const GAP = 14;

export function PagesGrid(props: Props): ReactNode {
  const { lines, chosen, marks } = props;
  const scroll = useRef<HTMLDivElement>(null);
  const [wide, setWide] = useState(() => Number(localStorage.getItem(KEPT)) || 170);
  const [room, setRoom] = useState(700);
  useLayoutEffect(() => {
    const box = scroll.current;
    if (!box) return;
    const watch = new ResizeObserver(() => setRoom(box.clientWidth - 36));
    watch.observe(box);
    return () => watch.disconnect();
  }, []);
  const across = Math.max(Math.floor((room + GAP) / (wide + GAP)), 1);
  const high = Math.round(wide * 1.42) + 48;
  const rows = useVirtualizer({
    count: Math.ceil(lines.length / across),
    getScrollElement: () => scroll.current,
    estimateSize: () => high,
    overscan: 2,
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: rows are measured anew when their height changes
  useEffect(() => rows.measure(), [high]);
  const last = rows.getVirtualItems().at(-1)?.index ?? 0;
  const { more, onEnd } = props;
  useEffect(() => {
    if (more && (last + 4) * across >= lines.length) onEnd();
  }, [more, last, across, lines.length, onEnd]);
  const {
    at,
    click,
    press: choose,
  } = useChoosing({
    ...props,
    id: entryOf,
    show: (place) => rows.scrollToIndex(Math.floor(place / across)),
  });
  const press = (event: KeyboardEvent) => {
    const here = lines[at];
    const steps = {
      ArrowRight: at + 1,
      ArrowLeft: at - 1,
      ArrowDown: at + across,
      ArrowUp: at - across,
      Home: 0,
      End: lines.length - 1,
    };
    if (!choose(event, steps)) {
      if (!here || event.altKey || event.ctrlKey || event.metaKey) return;
      if (event.key === "Enter") props.onOpen(here);
      else if (asksForMenu(event)) {
        const card = document.getElementById(`page-${chosen}`)?.getBoundingClientRect();
        props.onMenu(here, (card?.left ?? 0) + 20, (card?.top ?? 0) + 40);
      } else return;
    }
    event.preventDefault();
  };
  return (
    <>
      <div className={`page-size ${styles.small}`}>
        <span>Size of the pages</span>
        <Slider
          ariaLabelForHandle="Size of the pages"
          tooltip={{ open: false }}
          min={110}
          max={420}
          step={10}
          value={wide}
          onChange={(size: number) => {
            setWide(size);
            localStorage.setItem(KEPT, String(size));
          }}
        />
      </div>
      <div
        className="pages-grid"
        ref={scroll}
        role="listbox"
        aria-label={props.label}
        aria-multiselectable
        tabIndex={0}
        aria-activedescendant={at >= 0 ? `page-${chosen}` : undefined}
        onKeyDown={press}
      >
        <div style={{ height: rows.getTotalSize(), position: "relative" }}>
          {rows.getVirtualItems().map((row) => (
            <div
              key={row.key}
              role="presentation"
              className="pages-row"
              style={{ transform: `translateY(${row.start}px)`, gap: GAP }}
            >
              {lines.slice(row.index * across, (row.index + 1) * across).map((line) => (
                // biome-ignore lint/a11y/useKeyWithClickEvents: the list takes the keys
                // biome-ignore lint/a11y/useFocusableInteractive: the list holds the focus (aria-activedescendant)
                <div
                  key={line.entry}
                  id={`page-${line.entry}`}
                  role="option"
                  aria-selected={marks.size ? marks.has(line.entry) : line.entry === chosen}
                  className={`page-card${marks.size > 0 && line.entry === chosen ? " at" : ""}`}
                  style={{ width: wide }}
                  title={line.name}
                  onMouseDown={(event) => choosesNoText(event, "listbox")}
                  onClick={(event) => click(line.entry, event)}
                  onDoubleClick={() => props.onOpen(line)}
                  onContextMenu={(event) => {
                    event.preventDefault();
                    props.onMenu(line, event.clientX, event.clientY);
                  }}
                  {...props.drag(line.entry)}
                >
                  <Picture line={line} high={high - 48} />
                  <span className="mono">{cut(line.name, Math.max(Math.floor(wide / 4), 22))}</span>
                </div>
              ))}
            </div>
          ))}
        </div>
      </div>
    </>
  );
}

/** The first page; what has no page says what it is. */
function Picture(props: { line: Line; high: number }): ReactNode {
  const { line } = props;
  const [none, setNone] = useState(false);
  return (
    <span className="page-picture" style={{ height: props.high }}>
      {none ? (
        <b className={styles.quiet}>{line.type.toUpperCase()}</b>
      ) : (
        <img
          src={`/api/documents/${line.document}/pages/1`}
          alt=""
          loading="lazy"
          draggable={false}
          onError={() => setNone(true)}
        />
      )}
    </span>
  );
}
