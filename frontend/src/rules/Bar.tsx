// Hand-made: the library's progress bar has no hatched and no empty parts, and the three tell by form, not by colour alone.
import type { ReactNode } from "react";

type Sort = "files" | "asks" | "no rule";
const CLASSES: Record<Sort, string> = { files: "files", asks: "asks", "no rule": "none" };

/** A whole in parts: filed (full), asking (hatched), no rule (empty). */
export function Bar(props: { of: number; parts: readonly (readonly [Sort, number])[] }): ReactNode {
  return (
    <div className="trial-bar" aria-hidden>
      {props.of > 0 &&
        props.parts.map(([sort, count]) => <span key={sort} className={CLASSES[sort]} style={{ flexGrow: count }} />)}
    </div>
  );
}
