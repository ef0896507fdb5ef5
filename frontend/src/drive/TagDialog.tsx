import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { client, data } from "../api/client";
import { useUndoAction } from "../app/keys";
import { useNotices, words } from "../app/notices";
import { count } from "../parts/format";

/** Tags put on and taken off what is chosen, all at once. */
export function TagDialog(props: { entries: number[]; name: string; onClose: () => void }): ReactNode {
  const dialog = useRef<HTMLDialogElement>(null);
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const [text, setText] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const known = useQuery({ queryKey: ["tags"], queryFn: () => data(client.GET("/api/tags")) });
  useEffect(() => dialog.current?.showModal(), []);
  const what = props.entries.length === 1 ? props.name : `${count(props.entries.length)} documents`;
  const change = async (how: "add" | "remove") => {
    const tags = text
      .split(",")
      .map((tag) => tag.trim())
      .filter(Boolean);
    if (!tags.length) return;
    try {
      const body = { entries: props.entries, add: how === "add" ? tags : [], remove: how === "remove" ? tags : [] };
      await data(client.POST("/api/entries/tags", { body }));
      tell({
        text: `${how === "add" ? "Tagged" : "Took off"} ${tags.join(", ")}: ${what}`,
        action: { label: "Undo", run: undo },
      });
      props.onClose();
      await queries.invalidateQueries();
    } catch (error) {
      setProblem(words(error));
    }
  };
  return (
    <dialog
      ref={dialog}
      className="help"
      aria-labelledby="tag-title"
      onClose={props.onClose}
      onKeyDown={(event) => event.stopPropagation()}
    >
      <h2 id="tag-title">Tags of {what}</h2>
      <form
        className="rename"
        onSubmit={(event) => {
          event.preventDefault();
          void change("add");
        }}
      >
        <label className="label" htmlFor="tags">
          Tags, with commas between
        </label>
        <input
          id="tags"
          className="text-input"
          list="known-tags"
          autoFocus
          value={text}
          maxLength={400}
          onChange={(event) => setText(event.target.value)}
        />
        <datalist id="known-tags">
          {known.data?.tags.map((one) => (
            <option key={one.tag} value={one.tag} />
          ))}
        </datalist>
        {problem && (
          <p className="problem small" role="alert">
            {problem}
          </p>
        )}
        <div className="card-actions">
          <button type="submit" className="button primary" disabled={!text.trim()}>
            Put on <kbd>Enter</kbd>
          </button>
          <button type="button" className="button" disabled={!text.trim()} onClick={() => void change("remove")}>
            Take off
          </button>
          <button type="button" className="button" onClick={props.onClose}>
            Leave it
          </button>
        </div>
      </form>
    </dialog>
  );
}
