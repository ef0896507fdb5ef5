import type { ReactNode } from "react";

/** Stands beside what has something typed that is not saved yet. */
export function Unkept(): ReactNode {
  return <span className="signal small nowrap"> · not saved yet</span>;
}
