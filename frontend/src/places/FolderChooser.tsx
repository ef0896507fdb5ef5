import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { type KeyboardEvent, type ReactNode, useDeferredValue, useEffect, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { useFolder } from "../api/queries";
import { words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import "./places.css";
import { Dialog } from "../ui/Dialog";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { FolderWalk } from "./FolderWalk";
import { type Policy, TakenChoice, useTaken } from "./TakenChoice";
import { Sight, There } from "./There";

/** A folder that things can go to. */
export type Target = Pick<Schemas["TargetOut"], "folder" | "path">;
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
  /** The folder that is chosen already. */
  at?: Target;
  /** Where a new folder is made when nothing is found. */
  near: number | null;
  /** What can be done there with names that are taken; none where that is not asked. */
  policies?: Policy[];
  onChoose: (folder: number, path: string, taken: Policy | null) => Promise<string | null>;
  onClose: () => void;
};

const NO_POLICY: Policy[] = [];
const SAY_FIRST = "A name is taken there. Say first what to do with it.";

/**
 * Choose a folder by typing parts of its path, or by walking to it in the tree. What is there already, whose name is taken there and
 * who sees it is told before.
 */
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
  // the one that was walked to, else that of the list
  const [walked, setWalked] = useState<Target | null>(props.at ?? null);
  const chosen: Target | null = walked ?? (at < 0 ? null : (targets[Math.min(at, targets.length - 1)] ?? null));
  const walk = (folder: number, path: string) => {
    setWalked({ folder, path });
    setProblem(null);
  };
  const policies = props.policies ?? NO_POLICY;
  const taken = useTaken(props.entries, chosen?.folder ?? null, policies.length > 0);
  const [policy, setPolicy] = useState<Policy | null>(null);
  // what is shown until an answer comes was found for other words: nothing goes there
  const settled = walked !== null || (asked === typed && found.isSuccess && !found.isPlaceholderData);
  const known = chosen === null || taken !== undefined;
  const none = walked === null && asked.trim() !== "" && settled && targets.length === 0;
  const makes = none && props.near !== null;
  const beginning = useFolder(makes ? props.near : null, false);

  const choose = async (target: Target | null) => {
    if (!target || busy || !settled || !known) return;
    if (taken?.length && !policy) {
      setProblem(SAY_FIRST);
      document.querySelector<HTMLElement>("#taken-there input:enabled")?.focus();
      return;
    }
    setBusy(true);
    setProblem(await props.onChoose(target.folder, target.path, taken?.length ? policy : null));
    setBusy(false);
  };
  const make = async () => {
    if (props.near === null || busy || !settled) return;
    setBusy(true);
    try {
      const made = await data(client.POST("/api/folders", { body: { parent: props.near, name: typed } }));
      void askAgain(queries, "drive");
      setProblem(await props.onChoose(made.folder, typed, null));
    } catch (error) {
      setProblem(words(error));
    }
    setBusy(false);
  };
  // Enter before the answer came: it is done when that is here, on what was asked for
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the answer is here
  useEffect(() => {
    if (!wanted || !settled || !known) return;
    setWanted(false);
    void (makes ? make() : choose(chosen));
  }, [wanted, settled, known]);
  const press = (event: KeyboardEvent) => {
    const field = event.target instanceof HTMLInputElement && event.target.getAttribute("role") === "combobox";
    if (field && (event.key === "ArrowDown" || event.key === "ArrowUp")) {
      event.preventDefault();
      setWalked(null);
      setPolicy(null);
      setAt(Math.min(Math.max(at + (event.key === "ArrowDown" ? 1 : -1), 0), Math.max(targets.length - 1, 0)));
    } else if (event.key === "Enter" && event.target instanceof HTMLInputElement) {
      event.preventDefault();
      setWanted(true);
    }
  };
  return (
    <Dialog title={props.title} className="folder-chooser" width={940} onKeyDown={press} onClose={props.onClose}>
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
          setWalked(null);
          setPolicy(null);
          setProblem(null);
          setMade(null);
          setWanted(false);
          setAt(event.target.value.trim() ? 0 : -1);
        }}
      />
      <div className="chooser-body">
        <div>
          <div className="label">All folders</div>
          <FolderWalk
            chosen={chosen?.folder ?? null}
            without={props.without ?? []}
            onChoose={(folder, path) => {
              setPolicy(null);
              walk(folder, path);
            }}
            onTake={() => setWanted(true)}
          />
        </div>
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
                aria-selected={target.folder === chosen?.folder}
                className="target"
                onClick={() => {
                  setWalked(null);
                  setPolicy(null);
                  setAt(index);
                }}
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
              onGo={(folder, name) => {
                setPolicy(null);
                walk(folder, `${chosen.path} / ${name}`);
              }}
              onMade={(folder, name) => {
                setMade({ folder, path: `${chosen.path} / ${name}`, lately: false, why: "made now" });
                setWalked(null);
                setAt(0);
              }}
            />
          )}
          {chosen && taken && taken.length > 0 && (
            <TakenChoice
              taken={taken}
              of={props.entries.length}
              policies={policies}
              chosen={policy}
              onChoose={(next) => {
                setPolicy(next);
                setProblem(null);
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
          disabled={busy || !settled || !known || (!chosen && !makes)}
          onClick={() => void (makes ? make() : choose(chosen))}
        >
          {props.verb} {chosen ? chosen.path.split(" / ").at(-1) : makes ? "a new folder" : "…"} <kbd>Enter</kbd>
        </Button>
      </footer>
    </Dialog>
  );
}
