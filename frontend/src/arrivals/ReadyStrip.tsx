import { useQueryClient } from "@tanstack/react-query";
import { Button, Checkbox } from "antd";
import { type KeyboardEvent, type ReactNode, useRef, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { askAllAgain } from "../api/keys";
import { pictureOf } from "../parts/page/PageView";
import { Dialog } from "../ui/Dialog";
import { useUndoAction } from "../ui/keys";
import { useNotices, words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

type Arrival = Schemas["SlipSummary"];
type Props = { arrivals: Arrival[]; onClose: () => void; onFiled: () => void };

/** Skim what is ready, page beside name and place; take some out; file the rest as one manifest. */
export function ReadyStrip(props: Props): ReactNode {
  const dialog = useRef<HTMLDivElement>(null);
  const [shown] = useState(props.arrivals);
  const [out, setOut] = useState<ReadonlySet<number>>(new Set());
  const [busy, setBusy] = useState(false);
  const [left, setLeft] = useState<Schemas["LeftOut"][]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const chosen = shown.filter((arrival) => !out.has(arrival.id));
  const toggle = (id: number) =>
    setOut((had) => {
      const next = new Set(had);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  const file = async () => {
    if (busy || !chosen.length) return;
    setBusy(true);
    setProblem(null);
    try {
      const got = await data(
        client.POST("/api/arrivals/file", {
          body: { arrivals: chosen.map((arrival) => ({ arrival: arrival.id, revision: arrival.revision })) },
        }),
      );
      if (got.filed.length)
        tell({
          text: `Filed ${got.filed.length} arrival${got.filed.length > 1 ? "s" : ""}`,
          action: { label: SAY.undo, run: undo },
        });
      void askAllAgain(queries);
      if (got.left.length) setLeft(got.left);
      else props.onFiled();
    } catch (error) {
      setProblem(words(error));
    } finally {
      setBusy(false);
    }
  };
  const move = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (event.key === "Enter" && !(event.target instanceof HTMLButtonElement)) {
      event.preventDefault();
      void file();
    }
    if (step === undefined) return;
    const boxes = [...(dialog.current?.querySelectorAll<HTMLInputElement>("input[type=checkbox]") ?? [])];
    const at = boxes.indexOf(document.activeElement as HTMLInputElement);
    boxes[Math.min(Math.max(at + step, 0), boxes.length - 1)]?.focus();
    event.preventDefault();
  };
  return (
    <Dialog
      title={SAY.readyToFile}
      className="ready-strip"
      width={1180}
      body={dialog}
      onKeyDown={move}
      onClose={props.onClose}
    >
      <div>
        <p className={`${styles.quiet} ${styles.small}`}>
          Leave out what you doubt. <kbd>←</kbd> <kbd>→</kbd> go, <kbd>Space</kbd> leaves out, <kbd>Enter</kbd> files.
        </p>
      </div>
      {left.length > 0 ? (
        <div role="alert">
          <p>These still wait:</p>
          <ul>
            {left.map((one) => (
              <li key={one.name}>
                <b>{one.name}</b>: {one.why}
              </li>
            ))}
          </ul>
        </div>
      ) : (
        <ul className="ready-cards">
          {shown.map((arrival, at) => (
            <li key={arrival.id} className={out.has(arrival.id) ? "out" : ""}>
              <Checkbox
                autoFocus={at === 0}
                checked={!out.has(arrival.id)}
                onChange={() => toggle(arrival.id)}
                aria-label={`File ${arrival.name} in ${arrival.place}`}
              >
                <img src={pictureOf(arrival.id, 1)} alt="" loading="lazy" />
                <span className="mono ready-name">{arrival.name}</span>
                <span className={`${styles.quiet} ${styles.small}`}>{arrival.place}</span>
              </Checkbox>
            </li>
          ))}
        </ul>
      )}
      {problem && <Problem>{problem}</Problem>}
      <footer className="choices">
        {left.length > 0 ? (
          <Button type="primary" onClick={props.onFiled}>
            Go on
          </Button>
        ) : (
          <>
            <Button type="primary" disabled={busy || !chosen.length} onClick={() => void file()}>
              File {chosen.length === 1 ? "it" : `these ${chosen.length}`}
            </Button>
            <Button onClick={props.onClose}>{SAY.cancel}</Button>
          </>
        )}
      </footer>
    </Dialog>
  );
}
