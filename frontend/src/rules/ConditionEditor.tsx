import { Button, Dropdown } from "antd";
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { PickOne } from "../ui/PickOne";
import { BARE, type Condition, type Group, grouped, groupOf, isTest, joinedBy, NEW_TEST, type Test } from "./tree";
import { ValueField } from "./ValueField";

type Props = {
  condition: Condition;
  words: Schemas["RuleWords"];
  /** Where it stands, for who hears the screen: "condition 2". */
  at: string;
  /** What it becomes; null: it goes. */
  onChange: (condition: Condition | null) => void;
};

const GROUPS: readonly (readonly [Group, string])[] = [
  ["all", "and"],
  ["any", "or"],
];

/** A condition in fields: tests on lines, joined by one word; brackets where another word joins. */
export function ConditionEditor(props: Props & { outermost?: boolean }): ReactNode {
  const { condition, onChange } = props;
  const group = groupOf(condition);
  if (group === null) return <OnePart {...props} />;
  const parts = "all" in condition ? condition.all : "any" in condition ? condition.any : [];
  const change = (index: number, next: Condition | null) =>
    onChange(grouped(group, next ? parts.with(index, next) : parts.toSpliced(index, 1)));
  return (
    <div className={props.outermost ? "group" : "group bracket"}>
      {parts.map((part, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: parts have no identity but their order
        <div key={index} className="joined">
          {index === 0 ? (
            <span className="word">{props.outermost ? "When" : "("}</span>
          ) : (
            <PickOne
              size="small"
              className="word"
              aria-label={`${props.at}: joined by`}
              of={GROUPS}
              value={group}
              onChange={(word) => onChange(word === "all" ? { all: parts } : { any: parts })}
            />
          )}
          <ConditionEditor
            condition={part}
            words={props.words}
            at={`${props.at}.${index + 1}`}
            onChange={(next) => change(index, next)}
          />
        </div>
      ))}
      {!props.outermost && <span className="word">)</span>}
    </div>
  );
}

function OnePart(props: Props): ReactNode {
  const { condition, onChange } = props;
  const acts = {
    items: [
      { key: "any", label: "or another here", onClick: () => onChange(joinedBy("any", condition, NEW_TEST)) },
      { key: "all", label: "and another here", onClick: () => onChange(joinedBy("all", condition, NEW_TEST)) },
      "not" in condition
        ? { key: "not", label: "without “not”", onClick: () => onChange(condition.not) }
        : { key: "not", label: "not so", onClick: () => onChange({ not: condition }) },
      { key: "gone", label: "Remove", onClick: () => onChange(null) },
    ],
  };
  return (
    <span className="one-part">
      {"not" in condition ? (
        <>
          not{" "}
          <ConditionEditor {...props} condition={condition.not} onChange={(next) => onChange(next && { not: next })} />
        </>
      ) : (
        isTest(condition) && <TestEditor {...props} test={condition} />
      )}
      <Dropdown menu={acts} trigger={["click"]}>
        <Button type="text" size="small" aria-label={`More about ${props.at}`}>
          …
        </Button>
      </Dropdown>
    </span>
  );
}

function TestEditor(props: Omit<Props, "condition"> & { test: Test }): ReactNode {
  const { test, words, onChange, at } = props;
  const subject = words.subjects.find((one) => one.name === test.subject);
  if (!subject) return null;
  return (
    <>
      <PickOne
        size="small"
        aria-label={`${at}: about`}
        of={words.subjects.map((one) => [one.name, one.name] as const)}
        value={test.subject}
        onChange={(name) => {
          const tests = words.subjects.find((one) => one.name === name)?.tests ?? [];
          const kept = tests.includes(test.test) && BARE.includes(test.test);
          const first = tests.find((one) => !BARE.includes(one)) ?? "is known";
          onChange({ subject: name, test: kept ? test.test : first, values: [] });
        }}
      />
      <PickOne
        size="small"
        aria-label={`${at}: test`}
        of={subject.tests.map((one) => [one, one] as const)}
        value={test.test}
        onChange={(next) => onChange({ ...test, test: next, values: BARE.includes(next) ? [] : test.values })}
      />
      {!BARE.includes(test.test) && (
        <ValueField
          label={`${at}: value`}
          subject={subject}
          test={test.test}
          values={test.values}
          kinds={words.kinds}
          onChange={(values) => onChange({ ...test, values })}
        />
      )}
    </>
  );
}
