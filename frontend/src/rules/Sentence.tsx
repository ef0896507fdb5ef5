import type { ReactNode } from "react";
import { strokesOf } from "../parts/names/PatternField";
import { PatternText } from "../parts/names/SlotText";
import styles from "../ui/text.module.css";
import { type Action, BETWEEN, type Condition, DOES, isTest, type Rule } from "./tree";

/** A rule as a sentence to read. */
export function Sentence(props: { rule: Rule }): ReactNode {
  const { rule } = props;
  if (rule.paused)
    return (
      <p className="sentence">
        <b>Paused</b>
        {typeof rule.paused === "string" ? `: ${rule.paused}` : "."}
      </p>
    );
  const strokes = strokesOf(...rule.actions.map((action) => action.pattern ?? ""));
  return (
    <p className="sentence">
      {rule.when ? (
        <>
          When <Said condition={rule.when as Condition} outermost />,{" "}
        </>
      ) : (
        "Always "
      )}
      {rule.actions.map((action, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: actions have no identity but their order
        <span key={index}>
          {index > 0 && (index === rule.actions.length - 1 && !rule.go_on ? " and " : ", ")}
          <Does action={action} strokes={strokes} />
        </span>
      ))}
      {rule.go_on ? ", then go on to the next rule." : "."}
    </p>
  );
}

/** A value as it stands in a sentence. */
function Part(props: { children: ReactNode }): ReactNode {
  return <span className="part">{props.children}</span>;
}

function Said(props: { condition: Condition; outermost?: boolean }): ReactNode {
  const { condition, outermost } = props;
  if (isTest(condition)) {
    const word = condition.test === BETWEEN ? " and " : " or ";
    return (
      <>
        <Part>{condition.subject}</Part> {condition.test}
        {condition.values.length > 0 && (
          <>
            {" "}
            <Part>{condition.values.join(word)}</Part>
          </>
        )}
      </>
    );
  }
  if ("not" in condition)
    return (
      <>
        not <Said condition={condition.not} />
      </>
    );
  const all = "all" in condition;
  const parts = all ? condition.all : condition.any;
  return (
    <>
      {!outermost && "("}
      {parts.map((part, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: parts have no identity but their order
        <span key={index}>
          {index > 0 && (all ? " and " : " or ")}
          <Said condition={part} />
        </span>
      ))}
      {!outermost && ")"}
    </>
  );
}

function Does(props: { action: Action; strokes: Record<string, number> }): ReactNode {
  const { action } = props;
  const says = DOES[action.do] ?? action.do;
  if (action.do === "set")
    return (
      <>
        set <Part>{action.field}</Part> to <Part>{action.value}</Part>
      </>
    );
  if (action.do === "clear")
    return (
      <>
        clear <Part>{action.field}</Part>
      </>
    );
  if (action.do === "ask")
    return (
      <>
        ask <Part>“{action.words}”</Part>
      </>
    );
  if (action.tags)
    return (
      <>
        {says} <Part>{action.tags.join(", ")}</Part>
      </>
    );
  if (action.pattern !== null && action.pattern !== undefined)
    return (
      <>
        {says}{" "}
        <Part>
          <PatternText pattern={action.pattern} strokes={props.strokes} />
        </Part>
      </>
    );
  return <span className={styles.quiet}>{says}</span>;
}
