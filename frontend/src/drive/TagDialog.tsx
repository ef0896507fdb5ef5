import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { client, data } from "../api/client";
import { useModal } from "../parts/useModal";
import { called, type Things, usePutTag } from "../places/moving";

/** Tags put on and taken off what is chosen, all at once; those of a folder are its own unless one says otherwise. */
export function TagDialog(props: { things: Things; had: string[]; onClose: () => void }): ReactNode {
  const { things } = props;
  const dialog = useModal();
  const put = usePutTag();
  const [text, setText] = useState("");
  const [contents, setContents] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const known = useQuery({ queryKey: ["tags"], queryFn: () => data(client.GET("/api/tags")) });
  const typed = text
    .split(",")
    .map((tag) => tag.trim())
    .filter(Boolean);
  const change = async (add: string[], remove: string[]) => {
    if (!add.length && !remove.length) return;
    const wrong = await put(things, add, remove, contents);
    if (wrong) setProblem(wrong);
    else props.onClose();
  };
  return (
    <dialog
      ref={dialog}
      className="help"
      aria-labelledby="tag-title"
      onClose={props.onClose}
      onKeyDown={(event) => event.stopPropagation()}
    >
      <h2 id="tag-title">Tags of {called(things)}</h2>
      <form
        className="rename"
        onSubmit={(event) => {
          event.preventDefault();
          void change(typed, []);
        }}
      >
        {props.had.length > 0 && (
          <p>
            {props.had.map((tag) => (
              <button
                key={tag}
                type="button"
                className="tag"
                aria-label={`Take off ${tag}`}
                title="Take it off"
                onClick={() => void change([], [tag])}
              >
                {tag} ×
              </button>
            ))}
          </p>
        )}
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
        {things.folder !== undefined && (
          <p className="small">
            <label>
              <input type="checkbox" checked={contents} onChange={(event) => setContents(event.target.checked)} /> also
              on all documents in it
            </label>
            <br />
            <span className="quiet">Else the tag is the folder's alone.</span>
          </p>
        )}
        {problem && (
          <p className="problem small" role="alert">
            {problem}
          </p>
        )}
        <div className="card-actions">
          <button type="submit" className="button primary" disabled={!typed.length}>
            Put on <kbd>Enter</kbd>
          </button>
          <button type="button" className="button" disabled={!typed.length} onClick={() => void change([], typed)}>
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
