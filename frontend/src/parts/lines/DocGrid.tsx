// Lines of documents as a grid of our own: rows drawn as they come into view, keys by the ARIA grid pattern.
import { useVirtualizer } from "@tanstack/react-virtual";
import {
  type KeyboardEvent,
  memo,
  type ReactNode,
  useCallback,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
} from "react";
import { Loading } from "../../ui/states";
import "./grid.css";
import { type Marks, NONE } from "./selection";
import { asksForMenu, choosesNoText, type Held, useChoosing } from "./useChoosing";

export type Column<T> = {
  key: string;
  label: ReactNode;
  width: string;
  sort?: string;
  right?: boolean;
  cell: (line: T) => ReactNode;
};

type Props<T> = {
  label: string;
  lines: T[];
  columns: Column<T>[];
  id: (line: T) => number;
  /** A line that is told across all name columns: what stands there, or undefined. */
  across?: (line: T) => ReactNode | undefined;
  acrossColumns: number;
  chosen: number | null;
  onChoose: (id: number) => void;
  onOpen: (line: T) => void;
  /** Where several lines may be chosen; see useChoosing. */
  marks?: Marks;
  onMarks?: (marks: Marks) => void;
  /** All lines, also those that are not loaded: Ctrl+A. */
  onAll?: () => void;
  /** The menu of a line, at a place of the screen: right button, Shift+F10. */
  onMenu?: (line: T, left: number, top: number) => void;
  /** What makes a line one that can be dragged; stays the same while lines scroll. */
  drag?: (id: number) => Record<string, unknown>;
  sort: string;
  descending: boolean;
  onSort: (sort: string) => void;
  onEnd: () => void;
  more: boolean;
  /** While the first lines are still asked for. */
  loading?: boolean;
  total: number;
  /** A class for a line's row, where lines differ in kind. */
  rowClass?: (line: T) => string;
  /** The first lines stand above the head, each told across all columns: how many they are, and what stands below them. */
  above?: { lines: number; foot?: ReactNode };
  /** Without a head, where no line stands below it. */
  headless?: boolean;
};

const ROW = 29;
const HEAD = 31;

export function DocGrid<T>(props: Props<T>): ReactNode {
  const scroll = useRef<HTMLDivElement>(null);
  const { lines, columns, chosen, onChoose, id, onEnd, more } = props;
  const first = props.above?.lines ?? 0;
  const top = useRef<HTMLDivElement>(null);
  const [over, setOver] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what stands above is as high as its lines
  useLayoutEffect(() => setOver(top.current?.offsetHeight ?? 0), [first, props.above?.foot]);
  const rows = useVirtualizer({
    count: lines.length - first,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW,
    overscan: 12,
    scrollMargin: HEAD + over,
    scrollPaddingStart: HEAD,
  });
  const shown = rows.getVirtualItems();
  const last = shown.at(-1)?.index ?? -1;
  useEffect(() => {
    if (more && last >= lines.length - first - 30) onEnd();
  }, [more, last, lines.length, first, onEnd]);
  const { marks = NONE, onMarks } = props;
  const choosing = useChoosing({
    lines,
    id,
    chosen,
    onChoose,
    marks,
    onMarks,
    onAll: props.onAll,
    show: (place) => {
      if (place < first) document.getElementById(`line-${id(lines[place] as T)}`)?.scrollIntoView({ block: "nearest" });
      else rows.scrollToIndex(place - first);
    },
  });
  const { at } = choosing;
  // rows are memoised: what they call stays the same while the lines scroll
  const latest = useRef({ lines, onMenu: props.onMenu });
  latest.current = { lines, onMenu: props.onMenu };
  const press = (event: KeyboardEvent) => {
    const page = Math.max(Math.floor((scroll.current?.clientHeight ?? ROW * 10) / ROW) - 2, 1);
    const here = lines[at];
    const steps = {
      ArrowDown: at + 1,
      ArrowUp: at - 1,
      Home: 0,
      End: lines.length - 1,
      PageDown: at + page,
      PageUp: at - page,
    };
    if (!choosing.press(event, steps)) {
      if (!here || event.altKey || event.ctrlKey || event.metaKey) return;
      if (event.key === "Enter") props.onOpen(here);
      else if (asksForMenu(event) && props.onMenu) {
        const row = document.getElementById(`line-${chosen}`)?.getBoundingClientRect();
        props.onMenu(here, (row?.left ?? 0) + 60, row?.bottom ?? 0);
      } else return;
    }
    event.preventDefault();
  };
  const openMenu = useCallback(
    (number: number, left: number, top: number) => {
      const line = latest.current.lines.find((one) => id(one) === number);
      if (line) latest.current.onMenu?.(line, left, top);
    },
    [id],
  );
  const template = columns.map((column) => column.width).join(" ");
  const draw = (line: T, index: number, from: number | null) => (
    <Row
      key={id(line)}
      line={line}
      number={id(line)}
      index={index}
      top={from}
      template={template}
      columns={columns as Column<unknown>[]}
      selected={marks.size ? marks.has(id(line)) : id(line) === chosen}
      at={marks.size > 0 && id(line) === chosen}
      several={onMarks !== undefined}
      across={props.across?.(line)}
      acrossColumns={from === null ? columns.length : props.acrossColumns}
      onChoose={choosing.click}
      onOpen={props.onOpen as (line: unknown) => void}
      onMenu={openMenu}
      drag={props.drag}
      extra={props.rowClass?.(line) ?? ""}
    />
  );
  return (
    // biome-ignore lint/a11y/useSemanticElements: a table element cannot be virtual; the grid role tells the same
    <div
      className="grid"
      ref={scroll}
      role="grid"
      aria-label={props.label}
      aria-rowcount={props.total + 1}
      aria-multiselectable={onMarks ? true : undefined}
      tabIndex={0}
      onKeyDown={press}
      aria-activedescendant={at >= 0 ? `line-${chosen}` : undefined}
    >
      {first > 0 && (
        // biome-ignore lint/a11y/useSemanticElements: see above
        <div role="rowgroup" ref={top} className="grid-above">
          {lines.slice(0, first).map((line, index) => draw(line, index - 1, null))}
          {props.above?.foot}
        </div>
      )}
      {!props.headless && (
        // biome-ignore lint/a11y/useSemanticElements: see above
        // biome-ignore lint/a11y/useFocusableInteractive: the grid holds the focus (aria-activedescendant)
        <div role="row" className="grid-head" style={{ gridTemplateColumns: template }} aria-rowindex={first + 1}>
          {columns.map((column) => (
            // biome-ignore lint/a11y/useSemanticElements: see above
            // biome-ignore lint/a11y/useFocusableInteractive: its button takes the focus
            <div
              key={column.key}
              role="columnheader"
              className={`${column.right ? "number" : ""}${column.sort ? " sorts" : ""}`}
              aria-sort={column.sort === props.sort ? (props.descending ? "descending" : "ascending") : undefined}
            >
              {column.sort ? (
                <button type="button" className="plain" onClick={() => props.onSort(column.sort ?? "")}>
                  {column.label}
                  {column.sort === props.sort ? (props.descending ? " ▾" : " ▴") : ""}
                </button>
              ) : (
                column.label
              )}
            </div>
          ))}
        </div>
      )}
      {props.loading && (
        // biome-ignore lint/a11y/useSemanticElements: see above
        // biome-ignore lint/a11y/useFocusableInteractive: see above
        <div role="row">
          {/* biome-ignore lint/a11y/useSemanticElements: see above */}
          {/* biome-ignore lint/a11y/useFocusableInteractive: see above */}
          <div role="gridcell">
            <Loading />
          </div>
        </div>
      )}
      {/* biome-ignore lint/a11y/useSemanticElements: see above */}
      <div role="rowgroup" style={{ height: rows.getTotalSize(), position: "relative" }}>
        {shown.map((item) => {
          const line = lines[item.index + first];
          if (!line) return null;
          return draw(line, item.index + first, item.start - HEAD - over);
        })}
      </div>
    </div>
  );
}

type RowProps = {
  line: unknown;
  number: number;
  index: number;
  /** Where it stands, in CSS pixels; null for where it falls. */
  top: number | null;
  template: string;
  columns: Column<unknown>[];
  selected: boolean;
  /** Of several that are chosen, or beside them: where the keys are. */
  at: boolean;
  /** Whether several can be chosen. */
  several: boolean;
  across: ReactNode | undefined;
  acrossColumns: number;
  onChoose: (id: number, event: Held) => void;
  onOpen: (line: unknown) => void;
  onMenu: (id: number, left: number, top: number) => void;
  drag?: (id: number) => Record<string, unknown>;
  extra: string;
};

const Row = memo(function Row(props: RowProps): ReactNode {
  const { columns, across, acrossColumns, line } = props;
  const cells = across === undefined ? columns : columns.slice(acrossColumns);
  return (
    // biome-ignore lint/a11y/useSemanticElements: see DocGrid
    // biome-ignore lint/a11y/useKeyWithClickEvents: the grid takes the keys
    // biome-ignore lint/a11y/useFocusableInteractive: the grid holds the focus (aria-activedescendant)
    <div
      role="row"
      id={`line-${props.number}`}
      aria-rowindex={props.index + 2}
      aria-selected={props.selected}
      className={`grid-row ${props.at ? "at " : ""}${props.extra}`}
      style={{
        ...(props.top === null ? { position: "relative" } : { transform: `translateY(${props.top}px)` }),
        gridTemplateColumns: props.template,
      }}
      onMouseDown={(event) => props.several && choosesNoText(event, "grid")}
      onClick={(event) => props.onChoose(props.number, event)}
      onDoubleClick={() => props.onOpen(line)}
      onContextMenu={(event) => {
        event.preventDefault();
        props.onMenu(props.number, event.clientX, event.clientY);
      }}
      {...props.drag?.(props.number)}
    >
      {across !== undefined && (
        // biome-ignore lint/a11y/useSemanticElements: see DocGrid
        // biome-ignore lint/a11y/useFocusableInteractive: the grid holds the focus
        <div role="gridcell" aria-colspan={acrossColumns} style={{ gridColumn: `1 / span ${acrossColumns}` }}>
          {across}
        </div>
      )}
      {cells.map((column) => (
        // biome-ignore lint/a11y/useSemanticElements: see DocGrid
        // biome-ignore lint/a11y/useFocusableInteractive: the grid holds the focus
        <div key={column.key} role="gridcell" className={column.right ? "number" : ""}>
          {column.cell(line)}
        </div>
      ))}
    </div>
  );
});
