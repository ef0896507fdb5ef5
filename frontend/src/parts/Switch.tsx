import type { ReactNode } from "react";

/** Two or more ways to look at something, one of which is on: [value, its words]; ``lead`` stands before them. */
export function Switch<T extends string | number | boolean | null>(props: {
  label: string;
  of: readonly (readonly [T, ReactNode])[];
  value: T;
  lead?: string;
  small?: boolean;
  disabled?: boolean;
  onChange: (value: T) => void;
}): ReactNode {
  return (
    <fieldset className={props.small ? "switch small" : "switch"}>
      <legend className="hidden">{props.label}</legend>
      {props.lead && <span className="quiet">{props.lead} </span>}
      {props.of.map(([value, words]) => (
        <button
          key={String(value)}
          type="button"
          className="plain"
          aria-pressed={props.value === value}
          disabled={props.disabled}
          onClick={() => props.onChange(value)}
        >
          {words}
        </button>
      ))}
    </fieldset>
  );
}
