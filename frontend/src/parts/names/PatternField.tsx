import { Input } from "antd";
import { type ReactNode, useState } from "react";
import { LinkButton } from "../../ui/LinkButton";
import { Problem } from "../../ui/Problem";
import { PatternChips } from "./PatternChips";
import "./pattern.css";
import { partsOf } from "./patternParts";
import { PatternText } from "./SlotText";

/** A pattern as text to type, with its slots' strokes below it, or as chips; what is wrong is told at its place. */
export function PatternField(props: {
  id: string;
  label: string;
  value: string;
  strokes: Record<string, number>;
  onChange: (value: string) => void;
  problem?: { text: string; at: number | null } | null;
  placeholder?: string;
  readOnly?: boolean;
}): ReactNode {
  const { problem, value } = props;
  const [asChips, setAsChips] = useState(false);
  const parts = asChips ? partsOf(value) : null;
  return (
    <div className="pattern-field">
      <div className="pattern-head">
        <label className="label" id={`${props.id}-label`} htmlFor={props.id}>
          {props.label}
        </label>
        <LinkButton aria-pressed={asChips} aria-describedby={`${props.id}-label`} onClick={() => setAsChips(!asChips)}>
          {asChips ? "as text" : "as chips"}
        </LinkButton>
      </div>
      {parts && (
        <PatternChips
          id={props.id}
          parts={parts}
          strokes={props.strokes}
          readOnly={props.readOnly}
          onChange={props.onChange}
        />
      )}
      <Input
        id={props.id}
        hidden={parts !== null}
        className="mono"
        status={problem ? "error" : undefined}
        value={value}
        maxLength={300}
        spellCheck={false}
        autoComplete="off"
        placeholder={props.placeholder}
        readOnly={props.readOnly}
        aria-invalid={problem ? true : undefined}
        aria-describedby={problem ? `${props.id}-problem` : undefined}
        onChange={(event) => props.onChange(event.target.value)}
      />
      {problem ? (
        <Problem small id={`${props.id}-problem`}>
          {problem.at !== null && value && (
            <div className="mono where" aria-hidden>
              {value.slice(0, problem.at)}
              <mark>{value.slice(problem.at, problem.at + 1) || " "}</mark>
              {value.slice(problem.at + 1)}
            </div>
          )}
          {problem.text}
        </Problem>
      ) : (
        value &&
        !parts && (
          <div className="drawn">
            <PatternText pattern={value} strokes={props.strokes} />
          </div>
        )
      )}
    </div>
  );
}

/** A stroke for each field of some patterns, in the order in which they first stand there. */
export function strokesOf(...patterns: string[]): Record<string, number> {
  const strokes: Record<string, number> = {};
  for (const pattern of patterns)
    for (const match of pattern.matchAll(/[<|]\s*([A-Za-z][A-Za-z0-9-]*)/g)) {
      const field = match[1] ?? "";
      strokes[field] ??= Object.keys(strokes).length;
    }
  return strokes;
}
