import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { client, data } from "../api/client";
import { askAllAgain } from "../api/keys";
import { Dialog } from "../ui/Dialog";
import { useUndoAction } from "../ui/keys";
import { useNotices, words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { BLANK, GiveFields } from "./GiveFields";
import "../ui/acts.css";
import "./access.css";

type Thing = { entry?: number; folder?: number; document?: number };

/** Access given to what is chosen in a list: whom, what, until when, with a word. Enter gives. */
export function GiveDialog(props: {
  title: string;
  things: Thing[];
  /** Documents among them: they are given to read or to comment. */
  single: boolean;
  onClose: () => void;
}): ReactNode {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const [typed, setTyped] = useState(BLANK);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const first = useRef<{ focus: () => void }>(null);
  useEffect(() => first.current?.focus(), []);
  const give = () => {
    const { whom, level, until, word } = typed;
    if (whom === null || busy) return;
    setBusy(true);
    setProblem(null);
    const wishes = props.things.map((one) => ({
      entry: one.entry ?? null,
      folder: one.folder ?? null,
      document: one.document ?? null,
      principal: whom,
      level,
      until,
      word,
      restricted: null,
      stale: false,
      seen: null,
    }));
    data(client.POST("/api/access", { body: { wishes } }))
      .then(
        (done) => {
          tell({ text: done.title, action: { label: SAY.undo, run: undo } });
          void askAllAgain(queries);
          props.onClose();
        },
        (error: unknown) => setProblem(words(error)),
      )
      .finally(() => setBusy(false));
  };
  return (
    <Dialog title={props.title} width={620} onClose={props.onClose}>
      <form
        className="give-dialog"
        onSubmit={(event) => {
          event.preventDefault();
          give();
        }}
      >
        <div className="give">
          <GiveFields typed={typed} single={props.single} first={first} onChange={setTyped} />
        </div>
        <p className={styles.quiet}>
          {props.single
            ? "A document goes to them without its folder, wherever it moves. It stands under Shared with me."
            : "They may do this in the folder and in all below it that is not restricted."}
        </p>
        {problem && <Problem>{problem}</Problem>}
        <div className="acts">
          <Button type="primary" htmlType="submit" loading={busy} disabled={typed.whom === null}>
            Give access
          </Button>
          <Button onClick={props.onClose}>{SAY.cancel}</Button>
        </div>
      </form>
    </Dialog>
  );
}
