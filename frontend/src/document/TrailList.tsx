import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { moment } from "../ui/format";
import "./trail.css";
import styles from "../ui/text.module.css";

/** What happened to a document, the newest first. */
export function TrailList(props: { lines: Schemas["TrailLine"][]; most?: number }): ReactNode {
  const shown = props.lines.slice(0, props.most ?? props.lines.length);
  return (
    <ol className="trail">
      {shown.map((line, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: lines of a trail have no identity but their order
        <li key={index}>
          <span className={styles.quiet}>{moment(line.at)}</span> {line.what}
          {line.by && <span className={styles.quiet}>, {line.by}</span>}
        </li>
      ))}
      {shown.length < props.lines.length && (
        <li className={styles.quiet}>{props.lines.length - shown.length} more in the document</li>
      )}
    </ol>
  );
}
