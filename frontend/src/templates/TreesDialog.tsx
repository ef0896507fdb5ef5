// Folders made from a template by a list: the lines, the list, and what would come of it, side by side.

import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { type ReactNode, useDeferredValue, useEffect, useState } from "react";
import { client, data, type Schemas, Trouble } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { forget } from "../parts/typing/drafts";
import { useTyped } from "../parts/typing/typed";
import { count, several } from "../ui/format";
import { useUndoAction } from "../ui/keys";
import { useNotices, words } from "../ui/notices";
import { PickOne } from "../ui/PickOne";
import { Problem } from "../ui/Problem";
import { KeepTemplate } from "./KeepTemplate";
import "./templates.css";
import { Dialog } from "../ui/Dialog";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

type Template = Schemas["TemplateOut"];
type Props = {
  folder: { id: number; name: string };
  /** Begin with the tree that stands in the folder, to keep it as a template. */
  keeping: boolean;
  onClose: () => void;
};
const START = "<count 01> <course>\n<count 01> <course>/01 Tasks\n<count 01> <course>/02 Marks";

export function useTemplates() {
  return useQuery({
    queryKey: keys.templates,
    queryFn: async () => (await data(client.GET("/api/templates"))).templates,
  });
}

export function TreesDialog(props: Props): ReactNode {
  const { folder } = props;
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const templates = useTemplates();
  const [from, setFrom] = useState<Template | null>(null);
  const typedAt = `trees ${folder.id}`;
  // a template's lines are kept already, and what stands in the folder is there
  const [text, setText] = useTyped(START, from || props.keeping ? undefined : `${typedAt}/lines`);
  const [rows, setRows] = useTyped("", `${typedAt}/rows`);
  const start = (template: Template | null) => {
    setFrom(template);
    setText(template ? template.lines.join("\n") : START);
  };
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const standing = useQuery({
    queryKey: keys.tree(folder.id),
    enabled: props.keeping,
    retry: false,
    queryFn: () => data(client.GET("/api/folders/{folder}/tree", { params: { path: { folder: folder.id } } })),
  });
  const stands = standing.data?.lines;
  useEffect(() => {
    if (stands) setText(stands.join("\n"));
  }, [stands, setText]);
  const asked = useDeferredValue(`${text}\0${rows}`);
  const seen = useQuery({
    queryKey: keys.trees(folder.id, asked),
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () => {
      const [lines = "", list = ""] = asked.split("\0");
      return data(
        client.POST("/api/folders/{folder}/trees/preview", {
          params: { path: { folder: folder.id } },
          body: { lines: lines.split("\n"), rows: list },
        }),
      );
    },
  });
  const wrong = seen.error instanceof Trouble ? seen.error.message : null;
  const told = wrong ? undefined : seen.data;
  const columns = told?.columns ?? [];
  const bad = told ? told.problems.length + told.folders.filter((one) => one.problem).length : 0;
  const settled = asked === `${text}\0${rows}` && !seen.isPlaceholderData;
  const can = !busy && settled && told !== undefined && told.makes > 0 && bad === 0;
  const make = async () => {
    if (!can) return;
    setBusy(true);
    try {
      const done = await data(
        client.POST("/api/folders/{folder}/trees", {
          params: { path: { folder: folder.id } },
          body: { lines: text.split("\n"), rows },
        }),
      );
      tell({ text: `Made ${several(done.lines, "folder")} in ${folder.name}`, action: { label: SAY.undo, run: undo } });
      forget(typedAt);
      props.onClose();
      await askAgain(queries, "drive", "manifests");
    } catch (error) {
      setProblem(words(error));
      setBusy(false);
    }
  };
  return (
    <Dialog
      title={
        props.keeping
          ? `Save the folders of ${folder.name} as a template`
          : `New folders in ${folder.name}, from a template`
      }
      className="trees"
      width={1000}
      onKeyDown={(event) => {
        if (event.key === "Enter" && event.ctrlKey) {
          event.preventDefault();
          void make();
        }
      }}
      onClose={props.onClose}
    >
      <div className="trees-body">
        <div className="trees-form">
          <label className="label" htmlFor="template">
            Template
          </label>
          <PickOne
            id="template"
            none="Write my own"
            of={(templates.data ?? []).map((one) => [one.id, one.name] as const)}
            value={from?.id ?? null}
            onChange={(id) => start(templates.data?.find((one) => one.id === id) ?? null)}
            onNone={() => start(null)}
          />
          <label className="label" htmlFor="template-lines">
            Its folders, a line each
          </label>
          <Input.TextArea
            id="template-lines"
            className="mono"
            rows={6}
            value={text}
            spellCheck={false}
            onChange={(event) => setText(event.target.value)}
          />
          {(wrong ?? (standing.error ? words(standing.error) : null)) && (
            <Problem small>{wrong ?? words(standing.error)}</Problem>
          )}
          <KeepTemplate key={from?.id ?? 0} from={from} text={text} near={folder.id} onKept={setFrom} />
          <label className="label" htmlFor="template-rows">
            {columns.length ? `The list: ${columns.join(" ; ")}` : told ? "It needs no list" : "The list"}
          </label>
          <Input.TextArea
            id="template-rows"
            rows={6}
            value={rows}
            disabled={told !== undefined && columns.length === 0}
            placeholder={columns.length ? "a line for each; typed, or pasted from a table" : ""}
            onChange={(event) => setRows(event.target.value)}
          />
          {problem && <Problem small>{problem}</Problem>}
        </div>
        <div className="trees-seen" aria-live="polite">
          <div className="label">{told ? `${count(told.makes)} new folders` : "What comes of it"}</div>
          {told?.problems.map((one) => (
            <Problem small key={one.row}>
              Row {one.row}: {one.why}
            </Problem>
          ))}
          {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a scrolled area must be reachable by keyboard (WCAG 2.1.1) */}
          <ul tabIndex={0} aria-label="Folders">
            {told?.folders.map((one) => (
              <li key={one.path.join("/")} style={{ paddingLeft: (one.path.length - 1) * 18 }}>
                <span className={one.there ? styles.quiet : ""}>{one.path.at(-1)}</span>
                {one.there && <span className={`${styles.quiet} ${styles.small}`}> there already</span>}
                {one.like && <span className={`signal ${styles.small}`}> “{one.like}” is there: is it the same?</span>}
                {one.problem && <span className={`signal ${styles.small}`}> {one.problem}</span>}
              </li>
            ))}
          </ul>
          {told !== undefined && told.more > 0 && (
            <p className={`${styles.quiet} ${styles.small}`}>and {count(told.more)} more</p>
          )}
          {told !== undefined && told.folders.length === 0 && told.problems.length === 0 && (
            <p className={`${styles.quiet} ${styles.small}`}>
              Write the list: each of its lines makes the folders of the template once.
            </p>
          )}
        </div>
      </div>
      <footer>
        <Button onClick={props.onClose}>{SAY.cancel}</Button>
        <Button type="primary" disabled={!can} onClick={() => void make()}>
          Make {told ? several(told.makes, "folder") : "folders"} <kbd>Ctrl+Enter</kbd>
        </Button>
      </footer>
    </Dialog>
  );
}
