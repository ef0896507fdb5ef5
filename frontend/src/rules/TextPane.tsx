import { Input } from "antd";
import type { TextAreaRef } from "antd/es/input/TextArea";
import { type ReactNode, useRef } from "react";
import type { Schemas } from "../api/client";
import { LinkButton } from "../ui/LinkButton";
import { Problem } from "../ui/Problem";
import styles from "../ui/text.module.css";
import type { Draft } from "./useDraft";

/** The rulebook as text, with the numbers of its lines, and all that is wrong with it. */
export function TextPane(props: {
  draft: Draft;
  keeps: boolean;
  /** The lines of the chosen rule: first and last. */
  chosen: readonly [number, number] | null;
  onLine: (line: number) => void;
}): ReactNode {
  const { draft } = props;
  const box = useRef<TextAreaRef>(null);
  const lines = draft.text.split("\n");
  const errors = draft.settled === draft.text ? (draft.checked?.errors ?? []) : [];
  const warnings = draft.settled === draft.text ? (draft.checked?.warnings ?? []) : [];
  const wrong = new Set(errors.map((error) => error.line));
  const goTo = (error: Schemas["TextErrorOut"]) => {
    const area = box.current?.resizableTextArea?.textArea;
    if (!area) return;
    const before = lines.slice(0, error.line - 1).reduce((sum, line) => sum + line.length + 1, 0);
    const at = before + [...(lines[error.line - 1] ?? "")].slice(0, error.column - 1).join("").length;
    area.focus();
    area.setSelectionRange(at, at + error.length);
  };
  const tell = () => {
    const area = box.current?.resizableTextArea?.textArea;
    if (area) props.onLine(area.value.slice(0, area.selectionStart).split("\n").length);
  };
  return (
    <section className="rules-text" aria-label="The rules as text">
      <div className="rules-head">
        <h2>As text</h2>
        <span className={errors.length || draft.problem ? "signal" : "ok"} role="status">
          {draft.problem
            ? "not looked at"
            : draft.settled !== draft.text || !draft.checked
              ? "…"
              : errors.length
                ? `${errors.length} ${errors.length === 1 ? "error" : "errors"}`
                : "no errors"}
        </span>
        <span className="spring" />
        {draft.checked?.text && draft.checked.text !== draft.text && (
          <LinkButton onClick={() => draft.type(draft.checked?.text ?? draft.text)}>Tidy</LinkButton>
        )}
      </div>
      <div className="rules-scroll">
        <ol className="line-numbers mono" aria-hidden>
          {lines.map((_, index) => {
            const number = index + 1;
            const [first, last] = props.chosen ?? [0, 0];
            const mark = `${number >= first && number <= last ? "chosen" : ""}${wrong.has(number) ? " wrong" : ""}`;
            return (
              <li key={number} className={mark}>
                {number}
              </li>
            );
          })}
        </ol>
        <Input.TextArea
          ref={box}
          className="mono"
          aria-label="Text of the rules"
          value={draft.text}
          readOnly={!props.keeps}
          spellCheck={false}
          rows={lines.length}
          wrap="off"
          onChange={(event) => draft.type(event.target.value)}
          onKeyUp={tell}
          onClick={tell}
        />
      </div>
      {draft.problem && <Problem small>{draft.problem}</Problem>}
      {(errors.length > 0 || warnings.length > 0) && (
        <ul className={`rules-errors ${styles.small}`} aria-label="What is wrong with the text">
          {errors.map((error) => (
            <li key={`${error.line} ${error.column}`} className="signal">
              <LinkButton onClick={() => goTo(error)}>line {error.line}</LinkButton> expected {error.expected}
              {error.mend && `; ${error.mend}`}
            </li>
          ))}
          {warnings.map((warning) => (
            <li key={`${warning.line} ${warning.words}`}>
              line {warning.line}: {warning.words}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
