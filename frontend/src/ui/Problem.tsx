import { Alert } from "antd";
import type { ReactNode } from "react";
import styles from "./text.module.css";

/** What went wrong, beside what it is about; told to screen readers at once. */
export function Problem(props: { children: ReactNode; small?: boolean; id?: string }): ReactNode {
  return (
    <Alert
      type="error"
      id={props.id}
      className={props.small ? `problem ${styles.small}` : "problem"}
      title={props.children}
    />
  );
}
