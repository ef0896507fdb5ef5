import { Button } from "antd";
import { type DragEvent, type KeyboardEvent, type ReactNode, useEffect, useRef, useState } from "react";
import type { Schemas } from "../api/client";
import { LinkButton } from "../ui/LinkButton";
import styles from "../ui/text.module.css";
import { RuleEditor } from "./RuleEditor";
import { Sentence } from "./Sentence";
import type { Rule } from "./tree";

type Props = {
  rules: Rule[];
  wrong: string[];
  words: Schemas["RuleWords"] | undefined;
  keeps: boolean;
  chosen: number | null;
  figures: Schemas["RuleFiguresOut"][];
  changed: (rule: Rule) => boolean;
  onChoose: (index: number) => void;
  onChange: (rules: Rule[], chosen: number) => void;
  onRuns: (rule: string) => void;
};

/** The rules as sentences, in their order; the chosen one in fields. Alt+↑↓ or dragging moves one. */
export function RuleList(props: Props): ReactNode {
  const { rules, chosen, onChange } = props;
  const [dragged, setDragged] = useState<number | null>(null);
  const box = useRef<HTMLOListElement>(null);
  const move = (from: number, to: number) => {
    const rule = rules[from];
    if (!rule || to < 0 || to >= rules.length || from === to) return;
    onChange(rules.toSpliced(from, 1).toSpliced(to, 0, rule), to);
  };
  // the chosen rule has the focus once it has moved
  const moved = useRef(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: after each move
  useEffect(() => {
    if (!moved.current) return;
    moved.current = false;
    box.current?.querySelector<HTMLElement>('[aria-current="true"]')?.focus();
  }, [chosen, rules]);
  const press = (event: KeyboardEvent, index: number) => {
    const step = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (step !== undefined && event.altKey && props.keeps) {
      event.preventDefault();
      moved.current = true;
      move(index, index + step);
      return;
    }
    if (event.target !== event.currentTarget) return;
    if (step !== undefined) {
      event.preventDefault();
      box.current?.querySelectorAll<HTMLElement>("[data-rule]")[index + step]?.focus();
    } else if (event.key === "Enter") {
      event.preventDefault();
      props.onChoose(index);
    }
  };
  const drop = (event: DragEvent, index: number) => {
    event.preventDefault();
    if (dragged !== null) move(dragged, index);
    setDragged(null);
  };
  return (
    <ol className="rules" ref={box} aria-label="Rules, asked from the top">
      {rules.map((rule, index) => {
        const open = index === chosen;
        const told = props.figures.find((one) => one.rule === rule.name);
        const change = (next: Rule) => onChange(rules.with(index, next), index);
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: while it is edited a rule has no other identity
          <li key={index} onDragOver={(e) => dragged !== null && e.preventDefault()} onDrop={(e) => drop(e, index)}>
            <article
              data-rule={index}
              // biome-ignore lint/a11y/noNoninteractiveTabindex: it is walked by keys
              tabIndex={0}
              aria-current={open}
              aria-label={`Rule ${index + 1}: ${rule.name}`}
              className={open ? "rule open" : "rule"}
              onKeyDown={(event) => press(event, index)}
              onClick={() => !open && props.onChoose(index)}
            >
              <header>
                {/* biome-ignore lint/a11y/noStaticElementInteractions: keys move it too */}
                <span
                  className="number"
                  draggable={props.keeps}
                  title={props.keeps ? "Drag to move it, or Alt+↑ and Alt+↓" : undefined}
                  onDragStart={() => setDragged(index)}
                  onDragEnd={() => setDragged(null)}
                >
                  {index + 1}
                </span>
                {rule.paused ? <s>{rule.name}</s> : <b>{rule.name}</b>}{" "}
                <span className={`of ${styles.quiet} ${styles.small}`}>
                  {[rule.owner, rule.on.join(", ")].filter(Boolean).join(" · ")}
                </span>
                {props.changed(rule) && <span className="changed">changed</span>}
                <span className="spring" />
                <Outstanding told={told} onRuns={() => props.onRuns(rule.name)} />
                {props.keeps && (
                  <LinkButton onClick={() => change({ ...rule, paused: !rule.paused })}>
                    {rule.paused ? "Go on with it" : "Pause"}
                  </LinkButton>
                )}
              </header>
              {rule.purpose && !open && <p className={`${styles.quiet} ${styles.small}`}>{rule.purpose}</p>}
              {open && props.keeps && props.words ? (
                <>
                  <RuleEditor rule={rule} words={props.words} onChange={change} />
                  {props.wrong.length > 0 && (
                    <p className={`signal ${styles.small}`} role="status">
                      Not complete yet: {props.wrong.join("; ")}.
                    </p>
                  )}
                  <p className="rule-acts">
                    <Button size="small" disabled={index === 0} onClick={() => move(index, index - 1)}>
                      Move up <kbd>Alt+↑</kbd>
                    </Button>
                    <Button size="small" disabled={index === rules.length - 1} onClick={() => move(index, index + 1)}>
                      Move down <kbd>Alt+↓</kbd>
                    </Button>
                    <Button size="small" onClick={() => onChange(rules.toSpliced(index, 1), Math.max(0, index - 1))}>
                      Remove the rule
                    </Button>
                  </p>
                </>
              ) : (
                <Sentence rule={rule} />
              )}
            </article>
          </li>
        );
      })}
    </ol>
  );
}

const OUTSTANDING: Record<string, (told: Schemas["RuleFiguresOut"]) => string> = {
  fails: (told) => `${told.failed} could not be filed`,
  "undone often": (told) => `${told.undone} of ${told.done} undone`,
  idle: () => "not used for long",
};

function Outstanding(props: { told: Schemas["RuleFiguresOut"] | undefined; onRuns: () => void }): ReactNode {
  const { told } = props;
  const first = told?.stands_out[0];
  const says = first && OUTSTANDING[first];
  return told && says ? (
    <LinkButton className="signal" onClick={props.onRuns}>
      {says(told)}
    </LinkButton>
  ) : null;
}
