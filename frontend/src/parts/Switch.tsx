import type { ReactNode } from "react";

/** Two or more ways to look at something, one of which is on: [value, its words]. */
export function Switch<T extends string | boolean>(props: {
  label: string;
  of: [T, ReactNode][];
  value: T;
  small?: boolean;
  onChange: (value: T) => void;
}): ReactNode {
  return (
    <fieldset className={props.small ? "switch small" : "switch"}>
      <legend className="hidden">{props.label}</legend>
      {props.of.map(([value, words]) => (
        <button
          key={String(value)}
          type="button"
          className="plain"
          aria-pressed={props.value === value}
          onClick={() => props.onChange(value)}
        >
          {words}
        </button>
      ))}
    </fieldset>
  );
}
