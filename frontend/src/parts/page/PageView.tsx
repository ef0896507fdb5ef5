import { Button } from "antd";
import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { type Key, useKeys } from "../../ui/keys";
import { strokeClass } from "../names/SlotText";
import "./page.css";
import styles from "../../ui/text.module.css";
import { SAY } from "../../ui/wording";

export type Mark = { field: string; label: string; box: Schemas["BoxOut"] };

type Props = {
  document: number;
  pages: Schemas["PageOut"][];
  marks: Mark[];
  strokes: Record<string, number>;
  focus: string | null;
  /** Which version of the document is shown. */
  version?: number;
  page: number;
  onPage: (page: number) => void;
  onPainted?: () => void;
  onMark?: (field: string) => void;
  tools?: ReactNode;
  /** Its tools have keys: plus, minus, R, page up and down. */
  keyed?: boolean;
};

// how many times the width of the pane a page is drawn
const ZOOMS = [1, 1.4, 2, 2.8, 4];
const NO_KEYS: Key[] = [];

/** The address of a page's picture; of a version where there may be several, so that a new one is drawn at once. */
export function pictureOf(document: number, page: number, version?: number): string {
  return `/api/documents/${document}/pages/${page}${version === undefined ? "" : `?version=${version}`}`;
}

/** Milliseconds after which a picture that did not come is asked for again. */
const RETRIES = [1000, 3000];

/** One page of a document, large, with the places marked where facts were read; names of marks stand in the margin. */
export function PageView(props: Props): ReactNode {
  const { document, pages, page, focus, marks } = props;
  const [turn, setTurn] = useState(0);
  const [whole, setWhole] = useState(false);
  const [zoom, setZoom] = useState(0);
  const [broken, setBroken] = useState(false);
  const [tries, setTries] = useState(0);
  const frame = useRef<HTMLDivElement>(null);
  const here = marks.filter((mark) => mark.box.page === page);
  const size = pages[page - 1];
  const larger = useCallback((by: number) => {
    setWhole(false);
    setZoom((had) => Math.min(Math.max(had + by, 0), ZOOMS.length - 1));
  }, []);
  const { keyed, onPage } = props;
  const pageKeys = useMemo<Key[]>(() => {
    if (!keyed) return NO_KEYS;
    const plain = (e: KeyboardEvent, ...names: string[]) =>
      names.includes(e.key) && !e.altKey && !e.ctrlKey && !e.metaKey;
    const one = (keys: string, what: string, names: string[], run: () => void): Key => ({
      keys,
      what,
      single: keys.length === 1,
      match: (e) => plain(e, ...names),
      run,
    });
    return [
      one("+", "Enlarge the page", ["+", "="], () => larger(1)),
      one("-", "Make the page smaller", ["-"], () => larger(-1)),
      one("R", "Turn the page", ["r", "R"], () => setTurn((had) => (had + 90) % 360)),
      one("Page ↓", "The next page", ["PageDown"], () => page < pages.length && onPage(page + 1)),
      one("Page ↑", "The previous page", ["PageUp"], () => page > 1 && onPage(page - 1)),
    ];
  }, [keyed, page, pages.length, onPage, larger]);
  useKeys(pageKeys);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another document starts upright
  useEffect(() => {
    setTurn(0);
    setBroken(false);
    setTries(0);
  }, [document, page]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the focused mark is brought into view when it changes
  useEffect(() => {
    frame.current?.querySelector(".mark.focus")?.scrollIntoView?.({ block: "nearest" });
  }, [focus, document]);
  if (!size) return <div className={`well-empty ${styles.quiet}`}>There is no page to show.</div>;
  const lain = turn % 180 !== 0;
  return (
    <div className="page-view">
      <div className="page-tools">
        <span className={`${styles.quiet} nowrap`}>
          {pages.length > 1 && (
            <Button
              type="text"
              size="small"
              className="step"
              aria-label={SAY.previousPage}
              disabled={page === 1}
              onClick={() => props.onPage(page - 1)}
            >
              ‹
            </Button>
          )}
          Page {page} of {pages.length}
          {pages.length > 1 && (
            <Button
              type="text"
              size="small"
              className="step"
              aria-label={SAY.nextPage}
              disabled={page === pages.length}
              onClick={() => props.onPage(page + 1)}
            >
              ›
            </Button>
          )}
        </span>
        <Button type="text" size="small" aria-pressed={whole} onClick={() => setWhole(!whole)}>
          {whole ? "Fit width" : "Whole page"}
        </Button>
        <Button type="text" size="small" disabled={zoom === ZOOMS.length - 1} onClick={() => larger(1)}>
          Enlarge
        </Button>
        {zoom > 0 && (
          <Button type="text" size="small" onClick={() => larger(-1)}>
            Smaller
          </Button>
        )}
        <Button type="text" size="small" onClick={() => setTurn((turn + 90) % 360)}>
          Turn
        </Button>
        <span className="spread" />
        {props.tools}
      </div>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a scrolled area must be reachable by keyboard (WCAG 2.1.1) */}
      <section className="page-scroll" ref={frame} tabIndex={0} aria-label={`Page ${page}`}>
        <div
          className={`page-sheet${whole ? " whole" : ""}${lain ? " lain" : ""}`}
          style={zoom ? { width: `${(ZOOMS[zoom] ?? 1) * 100}%`, maxWidth: "none" } : undefined}
        >
          <div
            className="page-turn"
            style={{ transform: `rotate(${turn}deg)`, aspectRatio: `${size.width} / ${size.height}` }}
          >
            {broken ? (
              <div className="page-broken">
                This page cannot be shown. The document itself is kept and can be downloaded.
              </div>
            ) : (
              <img
                src={`${pictureOf(document, page, props.version)}${tries ? `${props.version === undefined ? "?" : "&"}again=${tries}` : ""}`}
                alt={`Page ${page}`}
                draggable={false}
                onLoad={() => requestAnimationFrame(() => props.onPainted?.())}
                onError={() => {
                  // very many pages may be being drawn just now: it is asked for again before it is called broken
                  if (tries < RETRIES.length) setTimeout(() => setTries(tries + 1), RETRIES[tries]);
                  else {
                    setBroken(true);
                    props.onPainted?.();
                  }
                }}
              />
            )}
            {here.map((mark) => (
              <Spot
                key={mark.field}
                mark={mark}
                strokes={props.strokes}
                focused={mark.field === focus}
                onMark={props.onMark}
              />
            ))}
          </div>
          {!lain && turn === 0 && zoom === 0 && (
            <ul className="margin" aria-hidden="true">
              {spread(here).map(([mark, top]) => (
                <li key={mark.field} style={{ top: `${top * 100}%` }} className={mark.field === focus ? "focus" : ""}>
                  <span className={strokeClass(props.strokes, mark.field)}>{mark.label}</span>
                </li>
              ))}
            </ul>
          )}
        </div>
      </section>
    </div>
  );
}

function Spot(props: {
  mark: Mark;
  strokes: Record<string, number>;
  focused: boolean;
  onMark?: (field: string) => void;
}): ReactNode {
  const { box, field, label } = props.mark;
  return (
    <button
      type="button"
      tabIndex={-1}
      className={`mark ${strokeClass(props.strokes, field) || "stroke stroke-5"}${props.focused ? " focus" : ""}`}
      aria-label={`Where ${label} was read`}
      title={label}
      onClick={() => props.onMark?.(field)}
      style={{
        left: `${box.left * 100}%`,
        top: `${box.top * 100}%`,
        width: `${(box.right - box.left) * 100}%`,
        height: `${(box.bottom - box.top) * 100}%`,
      }}
    />
  );
}

/** The marks with the height of their names in the margin, kept apart from one another. */
export function spread(marks: Mark[]): [Mark, number][] {
  const sorted = [...marks].sort((a, b) => a.box.top - b.box.top);
  let last = -1;
  return sorted.map((mark) => {
    const top = Math.max(mark.box.top, last + 0.036);
    last = top;
    return [mark, top];
  });
}

/** The spot of a fact, enlarged from the page's picture: a reference is checked without leaving its field. */
export function Loupe(props: {
  document: number;
  /** Which version of the document it is read from. */
  version?: number;
  box: Schemas["BoxOut"] | null;
  size: Schemas["PageOut"] | undefined;
  label: string;
  /** What stands there where there is no spot. */
  none?: string;
}): ReactNode {
  const width = 310;
  const height = 56;
  if (!props.box || !props.size)
    return (
      <div className={`loupe empty-loupe ${styles.quiet} ${styles.small}`}>
        {props.none ?? `No spot on the page: ${props.label}`}
      </div>
    );
  const { box, size } = props;
  const tall = (box.bottom - box.top) * size.height;
  const wide = (box.right - box.left) * size.width;
  const scale = Math.min(24 / Math.max(tall, 6), (width - 40) / Math.max(wide, 20), 3.2);
  const pictureWidth = size.width * scale;
  const pictureHeight = size.height * scale;
  const x = width / 2 - ((box.left + box.right) / 2) * pictureWidth;
  const y = height / 2 - ((box.top + box.bottom) / 2) * pictureHeight;
  return (
    <div className="loupe" role="img" aria-label={`The spot of ${props.label} on the page, enlarged`}>
      <div
        style={{ transform: `translate(${x}px, ${y}px)`, width: pictureWidth, height: pictureHeight }}
        className="loupe-sheet"
      >
        <img src={pictureOf(props.document, box.page, props.version)} alt="" draggable={false} />
        <span
          style={{
            left: box.left * pictureWidth - 3,
            top: box.bottom * pictureHeight + 1,
            width: (box.right - box.left) * pictureWidth + 6,
          }}
        />
      </div>
    </div>
  );
}
