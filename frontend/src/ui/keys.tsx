// The keyboard map: global keys live here; screens add theirs for as long as they are shown. `?` lists them all.

import { useQueryClient } from "@tanstack/react-query";
import { Button, Checkbox } from "antd";
import {
  createContext,
  type ReactNode,
  useCallback,
  useContext,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import { useNavigate } from "react-router";
import { client, data } from "../api/client";
import { askAllAgain } from "../api/keys";
import { Dialog } from "./Dialog";
import { count } from "./format";
import { covered } from "./layers";
import { useNotices, words } from "./notices";
import styles from "./text.module.css";
import { SAY } from "./wording";

export type Key = {
  keys: string;
  what: string;
  match: (event: KeyboardEvent) => boolean;
  run: (event: KeyboardEvent) => void;
  anywhere?: boolean;
  /** A single character: it can be switched off (WCAG 2.1.4). */
  single?: boolean;
};
type Registry = { register: (keys: Key[]) => () => void; undo: () => void; show: () => void };

const Context = createContext<Registry>({ register: () => () => {}, undo: () => {}, show: () => {} });

const SINGLES = "waka.single-keys";

/** Whether single characters are no keys, as the person chose. */
function singlesOff(): boolean {
  return localStorage.getItem(SINGLES) === "off";
}

/** Whether a key press belongs to a text field. */
export function inText(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.isContentEditable || target instanceof HTMLTextAreaElement) return true;
  return target instanceof HTMLInputElement && !["checkbox", "radio", "button", "range", "file"].includes(target.type);
}

/** A key pressed without others. */
export function plainKey(event: KeyboardEvent, key: string): boolean {
  return event.key === key && !event.ctrlKey && !event.altKey && !event.metaKey;
}

// one after another: two that are pressed quickly mean the last change and the one before
let last: Promise<unknown> = Promise.resolve();

/** Undo my last change of this session, or do again what was undone last; and say what that was. */
function useUndo(how: "undo" | "redo"): () => void {
  const { tell } = useNotices();
  const queries = useQueryClient();
  const navigate = useNavigate();
  return useCallback(() => {
    last = last
      .then(() => data(client.POST(how === "undo" ? "/api/undo" : "/api/redo")))
      .then((undone) => {
        if (undone.queued) {
          const { manifest, title, lines } = undone;
          const action = { label: "See it", run: () => void navigate(`/manifests/${manifest}`) };
          tell({ text: `“${title}” is being undone: ${count(lines)} lines. It goes on by itself.`, action });
          return askAllAgain(queries);
        }
        const rest = undone.left_out.length ? ` Not so: ${undone.left_out.join(" ")}` : "";
        const what = how === "undo" ? `Undone: ${undone.title}` : `Done again: ${undone.title.replace(/^Undo: /, "")}`;
        tell({ text: `${what}.${rest}`, bad: undone.left_out.length > 0 });
        const back = undone.arrivals[0];
        if (back !== undefined) void navigate(`/arrivals/${back}`);
        return askAllAgain(queries);
      })
      .catch((error: unknown) => tell({ text: words(error), bad: true }));
  }, [how, tell, queries, navigate]);
}

export function KeysProvider(props: { children: ReactNode }): ReactNode {
  const sets = useRef<Key[][]>([]);
  const [shown, setShown] = useState<Key[] | null>(null);
  const navigate = useNavigate();
  const undo = useUndo("undo");
  const redo = useUndo("redo");

  const listed = useRef<Key[]>([]);
  const show = useCallback(() => setShown([...listed.current, ...sets.current.flat()]), []);
  const global = useMemo<Key[]>(
    () => [
      {
        keys: "Alt+1",
        what: "Arrivals",
        anywhere: true,
        match: (e) => e.altKey && e.code === "Digit1",
        run: () => void navigate("/arrivals"),
      },
      {
        keys: "Alt+2",
        what: "Drive",
        anywhere: true,
        match: (e) => e.altKey && e.code === "Digit2",
        run: () => void navigate("/drive"),
      },
      {
        keys: "Alt+3",
        what: "Find",
        anywhere: true,
        match: (e) => e.altKey && e.code === "Digit3",
        run: () => void navigate("/find"),
      },
      {
        keys: "Alt+4",
        what: "Plan",
        anywhere: true,
        match: (e) => e.altKey && e.code === "Digit4",
        run: () => void navigate("/plan"),
      },
      {
        keys: "Alt+5",
        what: "Manifests",
        anywhere: true,
        match: (e) => e.altKey && e.code === "Digit5",
        run: () => void navigate("/manifests"),
      },
      {
        keys: "Alt+6",
        what: "Parties",
        anywhere: true,
        match: (e) => e.altKey && e.code === "Digit6",
        run: () => void navigate("/parties"),
      },
      {
        keys: "/",
        what: "Find a record",
        single: true,
        match: (e) => e.key === "/" && !e.ctrlKey,
        run: () => document.getElementById("find-box")?.focus(),
      },
      {
        keys: "Ctrl+Z",
        what: "Undo my last change",
        match: (e) => (e.ctrlKey || e.metaKey) && !e.shiftKey && e.key.toLowerCase() === "z",
        run: undo,
      },
      {
        keys: "Ctrl+Shift+Z",
        what: "Do again what I undid",
        match: (e) =>
          (e.ctrlKey || e.metaKey) && ((e.shiftKey && e.key.toLowerCase() === "z") || (!e.shiftKey && e.key === "y")),
        run: redo,
      },
      {
        keys: "?",
        what: "These keys",
        single: true,
        match: (e) => e.key === "?",
        run: show,
      },
    ],
    [navigate, undo, redo, show],
  );

  useEffect(() => {
    listed.current = global;
    const press = (event: KeyboardEvent, may: (key: Key) => boolean) => {
      if (event.defaultPrevented || event.isComposing || covered()) return;
      const key = [...sets.current.flat().reverse(), ...global].find(
        (k) => may(k) && !(k.single && singlesOff()) && k.match(event),
      );
      if (!key) return;
      event.preventDefault();
      event.stopPropagation();
      // a held key never acts twice
      if (!event.repeat) key.run(event);
    };
    // a stroke for anywhere is the screen's before any field sees it: a list to choose from would open at Ctrl+Enter
    const first = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey) press(event, (key) => key.anywhere === true);
    };
    const then = (event: KeyboardEvent) => press(event, (key) => key.anywhere || !inText(event.target));
    window.addEventListener("keydown", first, true);
    window.addEventListener("keydown", then);
    return () => {
      window.removeEventListener("keydown", first, true);
      window.removeEventListener("keydown", then);
    };
  }, [global]);

  const register = useCallback((keys: Key[]) => {
    sets.current = [...sets.current, keys];
    return () => {
      sets.current = sets.current.filter((set) => set !== keys);
    };
  }, []);
  const value = useMemo(() => ({ register, undo, show }), [register, undo, show]);
  return (
    <Context value={value}>
      {props.children}
      {shown && <KeyList keys={shown} onClose={() => setShown(null)} />}
    </Context>
  );
}

function KeyList(props: { keys: Key[]; onClose: () => void }): ReactNode {
  const [singles, setSingles] = useState(() => !singlesOff());
  return (
    <Dialog title="Keys on this screen" width={920} onClose={props.onClose}>
      <dl className="keys">
        {props.keys.map((key) => (
          <div key={key.keys + key.what}>
            <dt>
              <kbd>{key.keys}</kbd>
            </dt>
            <dd>{key.what}</dd>
          </div>
        ))}
      </dl>
      <p className={styles.small}>
        <Checkbox
          checked={singles}
          onChange={(event) => {
            setSingles(event.target.checked);
            localStorage.setItem(SINGLES, event.target.checked ? "on" : "off");
          }}
        >
          Allow single-key shortcuts
        </Checkbox>
      </p>
      <footer>
        <Button onClick={props.onClose}>{SAY.close}</Button>
      </footer>
    </Dialog>
  );
}

/** Keys of a screen, for as long as it is shown. `keys` must be memoised. */
export function useKeys(keys: Key[]): void {
  const { register } = useContext(Context);
  // with what is shown, not a moment later: a key that is pressed as soon as a button is there does what the button does
  useLayoutEffect(() => register(keys), [register, keys]);
}

/** Shows the list of keys. */
export function useKeyList(): () => void {
  return useContext(Context).show;
}

export function useUndoAction(): () => void {
  return useContext(Context).undo;
}
