import { Button, Checkbox, Input, Select } from "antd";
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { PickOne } from "../ui/PickOne";
import styles from "../ui/text.module.css";
import { ConditionEditor } from "./ConditionEditor";
import { type Action, type Condition, DOES, joinedBy, NEW_TEST, newAction, type Rule } from "./tree";

const EVENTS = ["arrival", "change", "hand", "daily 06:30"];
/** Once in a rule; the others may come again. */
const ONCE = ["name", "place", "archive", "ask", "leave"];

/** The chosen rule in fields: a sentence built from parts. */
export function RuleEditor(props: {
  rule: Rule;
  words: Schemas["RuleWords"];
  onChange: (rule: Rule) => void;
}): ReactNode {
  const { rule, words } = props;
  const change = (part: Partial<Rule>) => props.onChange({ ...rule, ...part });
  const when = rule.when as Condition | null;
  const others = Object.entries(DOES).filter(
    ([kind]) => !(ONCE.includes(kind) && rule.actions.some((action) => action.do === kind)),
  );
  return (
    <div className="rule-editor">
      <label>
        Name{" "}
        <Input
          size="small"
          value={rule.name}
          maxLength={100}
          onChange={(event) => change({ name: event.target.value })}
        />
      </label>
      <label>
        Owner{" "}
        <Input
          size="small"
          placeholder="who answers for it"
          value={rule.owner ?? ""}
          maxLength={100}
          onChange={(event) => change({ owner: event.target.value || null })}
        />
      </label>
      <label>
        Purpose{" "}
        <Input
          size="small"
          placeholder="what it is for"
          value={rule.purpose ?? ""}
          maxLength={200}
          onChange={(event) => change({ purpose: event.target.value || null })}
        />
      </label>
      <label htmlFor="rule-on">
        On{" "}
        <Select
          id="rule-on"
          mode="tags"
          size="small"
          className="values"
          value={rule.on}
          options={[...new Set([...EVENTS, ...rule.on])].map((value) => ({ value, label: value }))}
          onChange={(on: string[]) => change({ on: on.length ? on : ["arrival"] })}
        />
      </label>
      <div className="conditions">
        {when ? (
          <>
            {!("all" in when || "any" in when) && <span className="word">When</span>}
            <ConditionEditor
              outermost
              condition={when}
              words={words}
              at="Condition"
              onChange={(next) => change({ when: next as Rule["when"] })}
            />
          </>
        ) : (
          <span className={styles.quiet}>Always</span>
        )}
      </div>
      <ul className="actions">
        {rule.actions.map((action, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: actions have no identity but their order
          <li key={index}>
            <ActionEditor
              action={action}
              words={words}
              onChange={(next) =>
                change({ actions: next ? rule.actions.with(index, next) : rule.actions.toSpliced(index, 1) })
              }
            />
          </li>
        ))}
        <li>
          <Checkbox checked={rule.go_on} onChange={(event) => change({ go_on: event.target.checked })}>
            then go on to the next rule
          </Checkbox>
        </li>
      </ul>
      <p className="more-parts">
        <Button size="small" onClick={() => change({ when: joinedBy("all", when, NEW_TEST) as Rule["when"] })}>
          {when ? "and…" : "when…"}
        </Button>
        {when && (
          <Button size="small" onClick={() => change({ when: joinedBy("any", when, NEW_TEST) as Rule["when"] })}>
            or…
          </Button>
        )}
        <PickOne
          size="small"
          aria-label="Do also"
          placeholder="do also…"
          of={others}
          value={null}
          onChange={(kind) => change({ actions: [...rule.actions, newAction(kind)] })}
        />
      </p>
    </div>
  );
}

function ActionEditor(props: {
  action: Action;
  words: Schemas["RuleWords"];
  onChange: (action: Action | null) => void;
}): ReactNode {
  const { action, onChange } = props;
  const says = DOES[action.do] ?? action.do;
  const facts = props.words.subjects.filter((one) => one.fact).map((one) => [one.name, one.name] as const);
  const text = (value: string | null | undefined, key: "pattern" | "value" | "words", mono = false) => (
    <Input
      size="small"
      className={mono ? "mono pattern" : "pattern"}
      aria-label={says}
      value={value ?? ""}
      maxLength={300}
      spellCheck={false}
      onChange={(event) => onChange({ ...action, [key]: event.target.value })}
    />
  );
  return (
    <span className="one-part">
      {says}
      {(action.do === "set" || action.do === "clear") && (
        <PickOne
          size="small"
          aria-label={`${says}: which fact`}
          of={facts}
          value={action.field ?? null}
          onChange={(field) => onChange({ ...action, field })}
        />
      )}
      {action.do === "set" && <>to {text(action.value, "value")}</>}
      {action.do === "ask" && text(action.words, "words")}
      {typeof action.pattern === "string" && text(action.pattern, "pattern", true)}
      {action.tags && (
        <Select
          mode="tags"
          size="small"
          className="values"
          aria-label={says}
          open={false}
          suffixIcon={null}
          placeholder="a tag"
          value={action.tags}
          onChange={(tags: string[]) => onChange({ ...action, tags })}
        />
      )}
      <Button type="text" size="small" aria-label={`Remove: ${says}`} onClick={() => onChange(null)}>
        ×
      </Button>
    </span>
  );
}
