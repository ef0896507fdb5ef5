import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { type KeyboardEvent, type ReactNode, useCallback, useEffect, useLayoutEffect, useRef, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { LinkButton } from "../ui/LinkButton";
import { words } from "../ui/notices";
import { AddPages } from "./AddPages";
import {
  type Corners,
  documents,
  isAsItCame,
  type Leaf,
  leavesOf,
  moved,
  parts,
  toggleCut,
  toggleOut,
  turned,
  withCorners,
} from "./arrangement";
import { LeafDesk } from "./LeafDesk";
import { LeafView } from "./LeafView";
import "./pages.css";
import { Dialog } from "../ui/Dialog";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

type Props = {
  arrival: number;
  others: Schemas["SlipSummary"][];
  onClose: () => void;
  onMade: (made: Schemas["ArrangedOut"], from: string) => void;
};

/** The pages of a stack: cut, turned, moved, left out, joined with others; new arrivals come of it, the original is kept. */
export default function PagesDialog(props: Props): ReactNode {
  const dialog = useRef<HTMLDivElement>(null);
  const refocus = useRef(false);
  const [leaves, setLeaves] = useState<Leaf[]>([]);
  const [names, setNames] = useState<Record<number, string>>({});
  const [at, setAt] = useState(0);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  // the same request, however often it is sent: nothing is made twice
  const [request, setRequest] = useState(() => crypto.randomUUID());
  const queries = useQueryClient();
  const made = parts(leaves);
  const pageCount = made.reduce((sum, part) => sum + part.length, 0);
  const out = leaves.filter((leaf) => leaf.out).length;

  const add = useCallback(async (arrival: number): Promise<void> => {
    try {
      const stack = await data(client.GET("/api/arrivals/{arrival}/pages", { params: { path: { arrival } } }));
      setNames((had) => ({ ...had, [arrival]: stack.name }));
      setLeaves((had) => (had.some((leaf) => leaf.arrival === arrival) ? had : [...had, ...leavesOf(stack)]));
      setProblem(null);
    } catch (error) {
      setProblem(words(error));
    }
  }, []);

  useEffect(() => {
    void add(props.arrival);
  }, [add, props.arrival]);

  // a page that goes to another document is drawn anew: the focus follows it
  // biome-ignore lint/correctness/useExhaustiveDependencies: after every change of the pages
  useLayoutEffect(() => {
    const leaf = dialog.current?.querySelector<HTMLElement>(`[data-leaf="${at}"]`);
    if (refocus.current) leaf?.focus();
    refocus.current = false;
    leaf?.scrollIntoView({ block: "nearest" });
  }, [leaves, at]);

  const loaded = leaves.length > 0;
  useEffect(() => {
    if (loaded) dialog.current?.querySelector<HTMLElement>('[data-leaf="0"]')?.focus();
  }, [loaded]);

  const change = (next: Leaf[], focus = at) => {
    setLeaves(next);
    setRequest(crypto.randomUUID());
    choose(focus);
  };
  const choose = (to: number) => {
    refocus.current = document.activeElement?.hasAttribute("data-leaf") ?? false;
    setAt(Math.min(Math.max(to, 0), leaves.length - 1));
  };
  const move = (from: number, to: number) => {
    const next = moved(leaves, from, to);
    if (next !== leaves) change(next, to > from ? to - 1 : to);
  };

  const make = async () => {
    if (busy || !made.length || isAsItCame(leaves)) return;
    setBusy(true);
    setProblem(null);
    try {
      const got = await data(client.POST("/api/arrivals/pages", { body: { request, parts: made } }));
      await queries.invalidateQueries({ queryKey: keys.waiting });
      props.onMade(got, names[props.arrival] ?? "");
    } catch (error) {
      setProblem(words(error));
    } finally {
      setBusy(false);
    }
  };

  const press = (event: KeyboardEvent) => {
    // the bench behind has keys of its own
    if ((event.ctrlKey || event.metaKey) && event.key === "Enter") {
      event.preventDefault();
      void make();
      return;
    }
    // the letters act on the page in focus, not on what is typed elsewhere
    if (!(event.target instanceof HTMLElement) || !event.target.hasAttribute("data-leaf")) return;
    const act = leafKeys(event, leaves, at);
    if (!act) return;
    event.preventDefault();
    if (act.leaves) change(act.leaves, act.focus);
    else choose(act.focus);
  };

  const leaf = leaves[at];
  return (
    <Dialog
      title={<>Pages of {names[props.arrival] ?? "…"}</>}
      className="pages-dialog"
      width={1240}
      body={dialog}
      onKeyDown={press}
      onClose={props.onClose}
    >
      <div className="pages-head">
        <span className={`${styles.quiet} ${styles.small}`}>
          Arrows go from page to page · <kbd>C</kbd> cut before · <kbd>T</kbd> turn · <kbd>Del</kbd> leave out ·{" "}
          <kbd>Alt ← →</kbd> move
        </span>
      </div>
      <div className="pages-body">
        <div className="pages-parts">
          {documents(leaves).map((document, number) => (
            <section key={document.first} className="pages-part" aria-label={`Document ${number + 1}`}>
              <h3>
                <b>{number + 1}</b>{" "}
                <span className={`${styles.quiet} ${styles.small}`}>
                  {count(document.leaves.filter((one) => !one.leaf.out).length, "page")}
                  {document.leaves[0]?.leaf.why && <> · {document.leaves[0].leaf.why}</>}
                </span>
                {number > 0 && (
                  <LinkButton onClick={() => change(toggleCut(leaves, document.first), document.first)}>
                    Join with {number}
                  </LinkButton>
                )}
              </h3>
              <div className="pages-leaves">
                {document.leaves.map((one) => (
                  <LeafView
                    key={`${one.leaf.arrival}-${one.leaf.page}`}
                    leaf={one.leaf}
                    at={one.at}
                    name={names[one.leaf.arrival] ?? ""}
                    chosen={one.at === at}
                    among={Object.keys(names).length > 1}
                    onChoose={() => setAt(one.at)}
                    onMove={move}
                  />
                ))}
              </div>
            </section>
          ))}
        </div>
        <div className="pages-side">
          {leaf && (
            <LeafDesk
              leaf={leaf}
              name={names[leaf.arrival] ?? ""}
              first={at === 0}
              last={at === leaves.length - 1}
              onCut={() => change(toggleCut(leaves, at))}
              onTurn={(by) => change(turned(leaves, at, by))}
              onOut={() => change(toggleOut(leaves, at))}
              onMove={(by) => move(at, by < 0 ? at - 1 : at + 2)}
              onCorners={(corners: Corners | null) => change(withCorners(leaves, at, corners))}
            />
          )}
          <AddPages
            others={props.others.filter((other) => !leaves.some((one) => one.arrival === other.id))}
            onAdd={(arrival) => void add(arrival)}
          />
        </div>
      </div>
      <footer className="pages-foot">
        <p className={styles.small} role="status">
          {problem ? (
            <span className="problem">{problem}</span>
          ) : isAsItCame(leaves) ? (
            <span className={styles.quiet}>
              This is the document as it came. Cut, turn, move or leave out a page, or add others.
            </span>
          ) : (
            <>
              {count(made.length, "document")} of {count(pageCount, "page")}
              {out > 0 && `, ${count(out, "page")} left out`}. The{" "}
              {Object.keys(names).length > 1 ? "originals are" : "original is"} kept.
            </>
          )}
        </p>
        <Button onClick={props.onClose}>{SAY.cancel}</Button>
        <Button type="primary" disabled={busy || !made.length || isAsItCame(leaves)} onClick={() => void make()}>
          {busy ? "Making…" : `Make ${made.length === 1 ? "1 arrival" : `${made.length} arrivals`}`}{" "}
          <kbd>Ctrl+Enter</kbd>
        </Button>
      </footer>
    </Dialog>
  );
}

function count(number: number, what: string): string {
  return `${number} ${what}${number === 1 ? "" : "s"}`;
}

type Act = { leaves?: Leaf[]; focus: number };

/** What a key does to the page in focus; null for keys that are not the pages'. */
function leafKeys(event: KeyboardEvent, leaves: Leaf[], at: number): Act | null {
  if (event.ctrlKey || event.metaKey) return null;
  const back = event.key === "ArrowLeft";
  if (event.altKey && (back || event.key === "ArrowRight")) {
    const next = moved(leaves, at, back ? at - 1 : at + 2);
    return { leaves: next, focus: next === leaves ? at : back ? at - 1 : at + 1 };
  }
  if (event.altKey) return null;
  switch (event.key) {
    case "ArrowLeft":
    case "ArrowUp":
      return { focus: at - 1 };
    case "ArrowRight":
    case "ArrowDown":
      return { focus: at + 1 };
    case "Home":
      return { focus: 0 };
    case "End":
      return { focus: leaves.length - 1 };
    case "c":
    case "C":
      return { leaves: toggleCut(leaves, at), focus: at };
    case "t":
      return { leaves: turned(leaves, at, 90), focus: at };
    case "T":
      return { leaves: turned(leaves, at, -90), focus: at };
    case "Delete":
    case "Backspace":
      return { leaves: toggleOut(leaves, at), focus: at };
    default:
      return null;
  }
}
