import { useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { type ReactNode, useId, useState } from "react";
import { client, data } from "../api/client";
import { askAgain } from "../api/keys";
import { useUndoAction } from "../ui/keys";
import { useNotices, words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import "./acts.css";

type Props = {
  label: string;
  entry: number;
  /** What it is called now; of a document without its ending. */
  start: string;
  /** The ending of a document's file, which stays. */
  ending?: string;
  onClose: () => void;
};

/** Whether a name ends like a file of another type. */
const other = (name: string, ending: string): boolean => {
  const typed = /\.([A-Za-z][A-Za-z0-9]{1,4})$/.exec(name.trim())?.[1]?.toLowerCase();
  return typed !== undefined && typed !== ending.toLowerCase();
};

/** Another name for a document or a folder in its place. */
export function RenameForm(props: Props): ReactNode {
  const { entry, start, ending, onClose } = props;
  const field = useId();
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const [name, setName] = useState(start);
  const [problem, setProblem] = useState<string | null>(null);
  const rename = async () => {
    if (name.trim() === start) {
      onClose();
      return;
    }
    try {
      const body = { name, parent: null };
      const done = await data(client.PATCH("/api/entries/{entry}", { params: { path: { entry } }, body }));
      tell({ text: done.title, action: { label: SAY.undo, run: undo } });
      onClose();
      await askAgain(queries, "drive", "manifests");
    } catch (error) {
      setProblem(words(error));
    }
  };
  return (
    <form
      className="rename"
      onSubmit={(event) => {
        event.preventDefault();
        void rename();
      }}
    >
      <label className="label" htmlFor={field}>
        {props.label}
      </label>
      <Input
        id={field}
        className="mono"
        autoFocus
        value={name}
        maxLength={4000}
        onFocus={(event) => event.target.select()}
        onChange={(event) => setName(event.target.value)}
        onKeyDown={(event) => event.key === "Escape" && onClose()}
      />
      {problem && <Problem small>{problem}</Problem>}
      {ending && other(name, ending) && (
        <p className={`${styles.quiet} ${styles.small}`} role="status">
          It stays a {ending.toUpperCase()} file: it will be <b className="mono">{`${name.trim()}.${ending}`}</b>
        </p>
      )}
      <div className="card-actions">
        <Button htmlType="submit" type="primary">
          {SAY.rename}
        </Button>
        <Button onClick={onClose}>{SAY.cancel}</Button>
      </div>
    </form>
  );
}
