import type { ReactNode } from "react";
import styles from "../../ui/text.module.css";

/** Stands beside what has something typed that is not saved yet. */
export function Unkept(): ReactNode {
  return <span className={`signal ${styles.small} nowrap`}> · not saved yet</span>;
}
