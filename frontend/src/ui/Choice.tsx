import { Segmented } from "antd";
import type { ReactNode } from "react";
import "./choice.css";
import styles from "./text.module.css";

/** Two or more ways to look at something, one of which is on: [value, its words]; ``lead`` stands before them. */
export function Choice<T extends string | number | boolean | null>(props: {
  label: string;
  of: readonly (readonly [T, ReactNode])[];
  value: T;
  lead?: string;
  small?: boolean;
  disabled?: boolean;
  onChange: (value: T) => void;
}): ReactNode {
  return (
    <span className="choose-one">
      {props.lead && <span className={styles.quiet}>{props.lead}</span>}
      <Segmented
        aria-label={props.label}
        size={props.small ? "small" : "middle"}
        disabled={props.disabled}
        // values of the library are text or numbers
        options={props.of.map(([value, words]) => ({ value: String(value), label: words }))}
        value={String(props.value)}
        onChange={(chosen) => {
          const found = props.of.find(([value]) => String(value) === chosen);
          if (found) props.onChange(found[0]);
        }}
      />
    </span>
  );
}
