import { useQuery } from "@tanstack/react-query";
import { AutoComplete, Button, Checkbox, Tag } from "antd";
import { type ReactNode, useState } from "react";
import { client, data } from "../api/client";
import { keys } from "../api/keys";
import { called, type Things, usePutTag } from "../places/moving";
import { Dialog } from "../ui/Dialog";
import { Problem } from "../ui/Problem";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import "./acts.css";

/** Tags put on and taken off what is chosen, all at once; those of a folder are its own unless one says otherwise. */
export function TagDialog(props: { things: Things; had: string[]; onClose: () => void }): ReactNode {
  const { things } = props;
  const put = usePutTag();
  const [text, setText] = useState("");
  const [contents, setContents] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const known = useQuery({ queryKey: keys.tags, queryFn: () => data(client.GET("/api/tags")) });
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
    <Dialog title={<>Tags of {called(things)}</>} onClose={props.onClose}>
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
              <Tag key={tag} closable={{ "aria-label": `Remove ${tag}` }} onClose={() => void change([], [tag])}>
                {tag}
              </Tag>
            ))}
          </p>
        )}
        <label className="label" htmlFor="tags">
          Tags, with commas between
        </label>
        <AutoComplete
          id="tags"
          autoFocus
          maxLength={400}
          // what is offered completes the last of them
          options={(known.data?.tags ?? []).map((one) => ({
            value: [...typed.slice(0, -1), one.tag].join(", "),
            label: one.tag,
          }))}
          showSearch={{
            // one that is typed whole is not offered: Enter adds it
            filterOption: (entered, option) => {
              const last = entered.split(",").at(-1)?.trim().toLowerCase() ?? "";
              const tag = String(option?.label).toLowerCase();
              return tag.startsWith(last) && tag !== last;
            },
          }}
          value={text}
          onChange={setText}
        />
        {things.folder !== undefined && (
          <p className={styles.small}>
            <Checkbox checked={contents} onChange={(event) => setContents(event.target.checked)}>
              {" "}
              also on all documents in it
            </Checkbox>
            <br />
            <span className={styles.quiet}>Otherwise only the folder gets the tag.</span>
          </p>
        )}
        {problem && <Problem small>{problem}</Problem>}
        <div className="card-actions">
          <Button htmlType="submit" type="primary" disabled={!typed.length}>
            Add <kbd>Enter</kbd>
          </Button>
          <Button disabled={!typed.length} onClick={() => void change([], typed)}>
            Remove
          </Button>
          <Button onClick={props.onClose}>{SAY.cancel}</Button>
        </div>
      </form>
    </Dialog>
  );
}
