import { useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { type ReactNode, useState } from "react";
import { client, data } from "../api/client";
import { askAgain } from "../api/keys";
import { useUndoAction } from "../ui/keys";
import { useNotices, words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import { SAY } from "../ui/wording";

/** A folder made right where one looks; `a/b/c` makes several levels. */
export function NewFolder(props: { parent: number; onClose: () => void; onMade: (folder: number) => void }): ReactNode {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const [name, setName] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const make = async () => {
    try {
      const made = await data(client.POST("/api/folders", { body: { parent: props.parent, name } }));
      tell({ text: made.title, action: { label: SAY.undo, run: undo } });
      await askAgain(queries, "drive", "manifests");
      props.onClose();
      props.onMade(made.folder);
    } catch (error) {
      setProblem(words(error));
    }
  };
  return (
    <form
      className="new-folder"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim()) void make();
      }}
    >
      <label htmlFor="new-folder" className="label">
        New folder here
      </label>
      <Input
        id="new-folder"
        autoFocus
        value={name}
        maxLength={900}
        placeholder="name, or several levels: a/b/c"
        onChange={(event) => setName(event.target.value)}
        onKeyDown={(event) => event.key === "Escape" && props.onClose()}
      />
      <Button htmlType="submit" type="primary" disabled={!name.trim()}>
        {SAY.makeFolder}
      </Button>
      <Button onClick={props.onClose}>{SAY.cancel}</Button>
      {problem && <Problem small>{problem}</Problem>}
    </form>
  );
}
