import type { ReactNode } from "react";
import "./cutName.css";

// as wide as cutName.css says; the number that tells one scan from the next, and the ending
const TAIL = 14;

/** A name that is cut in its middle where there is no room: names mostly differ at their ends. */
export function CutName(props: { name: string }): ReactNode {
  const { name } = props;
  if (name.length <= TAIL + 4) return <span className="mono">{name}</span>;
  return (
    // screen readers hear one name: two boxes beside each other they would read as two words
    <span className="cut-name mono" title={name} role="img" aria-label={name}>
      <span className="cut-head">{name.slice(0, -TAIL)}</span>
      <span>{name.slice(-TAIL)}</span>
    </span>
  );
}
