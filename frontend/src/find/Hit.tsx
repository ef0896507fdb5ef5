import { Checkbox } from "antd";
import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { flipping } from "../document/flip";
import { asksForMenu, type Held } from "../parts/lines/useChoosing";
import { count, day } from "../ui/format";
import styles from "../ui/text.module.css";

const WHY: Record<string, string> = { kind: "kind", party: "party", issued: "issued", name: "name" };

function why(reason: Schemas["ReasonOut"]): string {
  if (reason.kind === "empty") return "its name is meaningless";
  if (reason.kind === "shared") return `${count(Number(reason.text))} documents have this name`;
  return `${WHY[reason.kind]}: ${reason.text}`;
}

/** One result: its name, where it lies, and by what it was found. */
export function Hit(props: {
  hit: Schemas["HitOut"];
  among: Schemas["HitOut"][];
  marked: boolean;
  onFocus: () => void;
  onMark: (held: Held) => void;
  onCheck: () => void;
  onMenu: (left: number, top: number) => void;
}): ReactNode {
  const { hit, marked } = props;
  const inName = hit.reasons.filter((reason) => reason.kind === "name").map((reason) => reason.text);
  return (
    // biome-ignore lint/a11y/useFocusableInteractive: the link in it holds the focus
    // biome-ignore lint/a11y/useSemanticElements: rows of results that can be chosen are no table
    <div
      role="row"
      className={`hit${marked ? " marked" : ""}`}
      aria-selected={marked}
      // with a key held the focus goes there when it is chosen, not before
      onMouseDown={(event) => (event.ctrlKey || event.metaKey || event.shiftKey) && event.preventDefault()}
      onClick={(event) => {
        const more = event.ctrlKey || event.metaKey || event.shiftKey;
        // by itself a link is followed; with a key held it is chosen as a line is
        if (!more && (event.target as Element).closest("a, label")) return;
        event.preventDefault();
        props.onMark(event);
      }}
      onContextMenu={(event) => {
        event.preventDefault();
        props.onMenu(event.clientX, event.clientY);
      }}
      onKeyDown={(event) => {
        if (!asksForMenu(event)) return;
        event.preventDefault();
        const at = event.currentTarget.getBoundingClientRect();
        props.onMenu(at.left + 40, at.top + 24);
      }}
    >
      {/* biome-ignore lint/a11y/useFocusableInteractive: what is in it holds the focus */}
      {/* biome-ignore lint/a11y/useSemanticElements: as above */}
      <div role="gridcell" className="hit-told">
        <Checkbox
          className="hit-mark"
          tabIndex={-1}
          aria-label={`Choose ${hit.name}`}
          checked={marked}
          onChange={props.onCheck}
        />
        <Link
          to={`/documents/${hit.document}`}
          data-hit={hit.document}
          className="mono hit-name"
          state={flipping(props.among.map((one) => one.document))}
          onFocus={props.onFocus}
        >
          <Marked text={hit.name} words={inName} />
        </Link>
        <span className="hit-facts">
          {hit.party}
          {hit.issued && (
            <span className={styles.quiet}>
              {hit.party && " · "}
              {day(hit.issued)}
            </span>
          )}
        </span>
        {hit.folder === null ? (
          <span className={`hit-place ${styles.quiet} ${styles.small}`}>given to you by itself</span>
        ) : (
          <Link className={`hit-place ${styles.quiet} ${styles.small}`} to={`/drive/${hit.folder}`}>
            {hit.path}
          </Link>
        )}
        <span className={`${styles.small} hit-why`}>
          {hit.reasons
            .filter((reason) => reason.kind !== "inside" && reason.kind !== "name")
            .map((reason) => (
              <span key={reason.kind + reason.text} className="tag">
                {why(reason)}
              </span>
            ))}
          {hit.snippet && (
            <span className={styles.quiet}>
              … <Snippet text={hit.snippet} /> …
            </span>
          )}
        </span>
      </div>
    </div>
  );
}

/** The parts of `text` that are one of `words`, marked. */
export function Marked(props: { text: string; words: string[] }): ReactNode {
  const found = props.words.filter(Boolean).map((word) => word.replace(/[.*+?^${}()|[\]\\]/g, "\\$&"));
  if (!found.length) return props.text;
  const parts = props.text.split(new RegExp(`(${found.join("|")})`, "i"));
  // biome-ignore lint/suspicious/noArrayIndexKey: parts have no identity but their order
  return parts.map((part, index) => (index % 2 ? <mark key={index}>{part}</mark> : part));
}

function Snippet(props: { text: string }): ReactNode {
  const parts = props.text.split(/⟦(.*?)⟧/);
  // biome-ignore lint/suspicious/noArrayIndexKey: parts have no identity but their order
  return parts.map((part, index) => (index % 2 ? <mark key={index}>{part}</mark> : part));
}
