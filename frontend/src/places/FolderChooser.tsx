import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { type KeyboardEvent, type ReactNode, useDeferredValue, useEffect, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { useFolder } from "../api/queries";
import { count } from "../ui/format";
import { words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import "./places.css";
import { Dialog } from "../ui/Dialog";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { changesSight, SightTold } from "./SightTold";
import { useSight } from "./sight";

type Props = {
  title: string;
  /** What the button says, before the folder's name: "Move to", "Also file in". */
  verb: string;
  /** The entries that go there, to say who will see them; none for what is not filed yet. */
  entries: number[];
  /** The folders among them: none goes into itself. */
  without?: number[];
  /** They stay where they are too. */
  stays: boolean;
  /** Folders are copied or merged: what lies in them is seen like anything else there. */
  inside?: boolean;
  /** Where a new folder is made when nothing is found. */
  near: number | null;
  onChoose: (folder: number, path: string) => Promise<string | null>;
  onClose: () => void;
};

/** Choose a folder by typing parts of its path; what is there already and who sees it is told before. */
export function FolderChooser(props: Props): ReactNode {
  const [typed, setTyped] = useState("");
  const asked = useDeferredValue(typed);
  // nothing is chosen until somebody types or goes to one: Enter sends nothing to the folder used last
  const [at, setAt] = useState(-1);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [wanted, setWanted] = useState(false);
  const queries = useQueryClient();
  const found = useQuery({
    queryKey: keys.targets(asked, props.without),
    queryFn: () => data(client.GET("/api/targets", { params: { query: { q: asked, without: props.without } } })),
    placeholderData: (had) => had,
  });
  const suggested = useQuery({
    queryKey: keys.targetsFor(props.entries),
    enabled: props.entries.length > 0,
    queryFn: () => data(client.POST("/api/entries/targets", { body: { entries: props.entries.slice(0, 500) } })),
  });
  const [made, setMade] = useState<Schemas["TargetOut"] | null>(null);
  const offered = [...(made ? [made] : []), ...(asked.trim() ? [] : (suggested.data?.targets ?? []))];
  const targets = [
    ...offered,
    ...(found.data?.targets ?? []).filter((one) => !offered.some((other) => other.folder === one.folder)),
  ];
  const chosen = at < 0 ? null : (targets[Math.min(at, targets.length - 1)] ?? null);
  // what is shown until an answer comes was found for other words: nothing goes there
  const settled = asked === typed && found.isSuccess && !found.isPlaceholderData;
  const none = asked.trim() !== "" && settled && targets.length === 0;
  const makes = none && props.near !== null;
  const beginning = useFolder(makes ? props.near : null, false);

  const choose = async (target: Schemas["TargetOut"] | null) => {
    if (!target || busy || !settled) return;
    setBusy(true);
    setProblem(await props.onChoose(target.folder, target.path));
    setBusy(false);
  };
  const make = async () => {
    if (props.near === null || busy || !settled) return;
    setBusy(true);
    try {
      const made = await data(client.POST("/api/folders", { body: { parent: props.near, name: typed } }));
      void askAgain(queries, "drive");
      setProblem(await props.onChoose(made.folder, typed));
    } catch (error) {
      setProblem(words(error));
    }
    setBusy(false);
  };
  // Enter before the answer came: it is done when that is here, on what was asked for
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the answer is here
  useEffect(() => {
    if (!wanted || !settled) return;
    setWanted(false);
    void (makes ? make() : choose(chosen));
  }, [wanted, settled]);
  const press = (event: KeyboardEvent) => {
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      setAt(Math.min(Math.max(at + (event.key === "ArrowDown" ? 1 : -1), 0), Math.max(targets.length - 1, 0)));
    } else if (event.key === "Enter" && event.target instanceof HTMLInputElement) {
      event.preventDefault();
      setWanted(true);
    }
  };
  return (
    <Dialog title={props.title} className="folder-chooser" width={760} onKeyDown={press} onClose={props.onClose}>
      <Input
        role="combobox"
        aria-label="Folder, by parts of its path"
        aria-expanded={targets.length > 0}
        aria-controls="chooser-list"
        aria-activedescendant={chosen ? `target-${chosen.folder}` : undefined}
        autoComplete="off"
        autoFocus
        value={typed}
        maxLength={300}
        placeholder="type parts of the path: acc inv 26"
        onChange={(event) => {
          setTyped(event.target.value);
          setMade(null);
          setWanted(false);
          setAt(event.target.value.trim() ? 0 : -1);
        }}
      />
      <div className="chooser-body">
        <div>
          <div className="label">
            {asked.trim() ? "Found" : offered.length ? "Suggested, and used lately" : "Used lately"}
          </div>
          <div role="listbox" id="chooser-list" aria-label="Folders">
            {targets.map((target, index) => (
              // biome-ignore lint/a11y/useFocusableInteractive: as above
              // biome-ignore lint/a11y/useKeyWithClickEvents: the field takes the keys
              <div
                key={target.folder}
                id={`target-${target.folder}`}
                role="option"
                aria-selected={target === chosen}
                className="target"
                onClick={() => setAt(index)}
                onDoubleClick={() => void choose(target)}
              >
                {target.path}
                {target.why && <span className={`${styles.quiet} ${styles.small}`}> {target.why}</span>}
                {asked.trim() && target.lately && <span className={`${styles.quiet} ${styles.small}`}> lately</span>}
              </div>
            ))}
          </div>
          {none && (
            <>
              <p className={styles.small}>No folder has that name.</p>
              {beginning.data?.may_file && (
                <Button disabled={busy} className="make-it" onClick={() => void make()}>
                  Make “{typed.trim()}” in {beginning.data.name}
                </Button>
              )}
            </>
          )}
        </div>
        <div className="chooser-there" aria-live="polite">
          {chosen && (
            <There
              key={chosen.folder}
              folder={chosen.folder}
              onMade={(folder, name) => {
                setMade({ folder, path: `${chosen.path} / ${name}`, lately: false, why: "made now" });
                setAt(0);
              }}
            />
          )}
          {chosen && props.entries.length > 0 && (
            <Sight entries={props.entries} folder={chosen.folder} stays={props.stays} inside={props.inside ?? false} />
          )}
        </div>
      </div>
      {(problem ?? found.error) && <Problem small>{problem ?? words(found.error)}</Problem>}
      <footer>
        <Button onClick={props.onClose}>{SAY.cancel}</Button>
        <Button
          type="primary"
          disabled={busy || !settled || (!chosen && !makes)}
          onClick={() => void (makes ? make() : choose(chosen))}
        >
          {props.verb} {chosen ? chosen.path.split(" / ").at(-1) : makes ? "a new folder" : "…"} <kbd>Enter</kbd>
        </Button>
      </footer>
    </Dialog>
  );
}

/** What lies in a folder already; and a new folder in it, made at once. */
function There(props: { folder: number; onMade: (folder: number, name: string) => void }): ReactNode {
  const view = useFolder(props.folder, false);
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const make = async () => {
    if (!name.trim()) return;
    try {
      const done = await data(client.POST("/api/folders", { body: { parent: props.folder, name } }));
      void askAgain(queries, "drive");
      props.onMade(done.folder, name.trim());
    } catch (error) {
      setProblem(words(error));
    }
  };
  if (!view.data) return null;
  return (
    <>
      <div className="label">There already</div>
      <p className={styles.small}>
        {count(view.data.here)} document{view.data.here === 1 ? "" : "s"} here, {count(view.data.below)} with all below
        {view.data.restricted && "; restricted"}
      </p>
      <ul className={styles.small}>
        {view.data.folders.slice(0, 8).map((sub) => (
          <li key={sub.id}>
            {sub.name} <span className={styles.quiet}>{sub.below ? count(sub.below) : "empty"}</span>
          </li>
        ))}
      </ul>
      {view.data.may_file && (
        <p className="new-in">
          <Input
            aria-label={`New folder in ${view.data.name}`}
            placeholder="new folder in it"
            value={name}
            maxLength={300}
            onChange={(event) => setName(event.target.value)}
            onKeyDown={(event) => {
              // Esc on an empty field closes the chooser
              if (event.key !== "Escape" || name) event.stopPropagation();
              if (event.key === "Escape" && name) {
                // first the name goes, then the chooser
                event.preventDefault();
                setName("");
              }
              if (event.key !== "Enter") return;
              event.preventDefault();
              void make();
            }}
          />
          <Button disabled={!name.trim()} onClick={() => void make()}>
            {SAY.makeFolder}
          </Button>
        </p>
      )}
      {problem && <Problem small>{problem}</Problem>}
    </>
  );
}

/** Who will see it besides those who do, and who no longer. */
function Sight(props: { entries: number[]; folder: number; stays: boolean; inside: boolean }): ReactNode {
  const seen = useSight(props.entries, props.folder, props.stays, props.inside);
  return changesSight(seen) ? (
    <div className={`ask ${styles.small}`}>
      <SightTold sight={seen} />
    </div>
  ) : null;
}
