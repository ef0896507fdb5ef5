import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { count } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import styles from "../ui/text.module.css";
import type { ManifestLine } from "./Ledger";

function Why(props: { why: string | null; gap: Schemas["PlanGap"] | null }): ReactNode {
  const { why, gap } = props;
  return (
    <>
      {why}
      {gap && (
        <>
          {" · "}
          <Link to={`/plan/${gap.area}?kind=${gap.kind}`}>write it</Link>
        </>
      )}
    </>
  );
}

/** What is to be told of one line: why it is left where it is or was not done, with what mends it; or what is noted of it. */
export function LineTold(props: { line: ManifestLine }): ReactNode {
  const { line } = props;
  if (line.why && (line.code === "tried" || (line.state !== "ready" && line.state !== "done")))
    return (
      <p
        className={`${styles.small} ${line.state === "blocked" || line.state === "failed" ? "problem" : styles.quiet}`}
      >
        Line {line.number}: <Why why={line.why} gap={line.gap} />
        {line.trial !== null && (
          <>
            {" · "}
            <Link to={`/manifests/${line.trial}`}>manifest {line.trial}</Link>
          </>
        )}
      </p>
    );
  if (!line.note || line.to_name === null) return null;
  return (
    <p className={`signal ${styles.small}`}>
      Line {line.number}: {line.note}
    </p>
  );
}

const HEADS = { blocked: "Blocked, because", failed: "Failed, because" };
const TOLD = { blocked: "Why lines are blocked", failed: "Why lines failed" };
const WHAT = { blocked: "is blocked", failed: "failed" };
const STATES = ["blocked", "failed"] as const;

type ReasonsProps = {
  of: Schemas["LineReasons"] | undefined;
  /** Shows the lines of a state alone, where they can be. */
  onShow?: (state: keyof typeof HEADS) => void;
};

/** Why lines are blocked or failed, each reason with how many lines it is of, the most frequent first. */
export function Reasons(props: ReasonsProps): ReactNode {
  const { onShow } = props;
  const { reasons, others } = props.of ?? { reasons: [], others: {} };
  return STATES.map((state) => {
    const told = reasons.filter((one) => one.state === state);
    if (!told.length) return null;
    return (
      <section key={state} className={`reasons ${styles.small}`} aria-label={TOLD[state]}>
        <h2 className="label">{HEADS[state]}</h2>
        <ul>
          {told.map((one) => (
            <li key={`${one.why} ${one.gap?.area}`}>
              <b>{count(one.lines)}</b> <Why why={one.why} gap={one.gap} />
            </li>
          ))}
          {(others[state] ?? 0) > 0 && (
            <li className={styles.quiet}>
              <b>{count(others[state] ?? 0)}</b> for other reasons
            </li>
          )}
        </ul>
        {onShow && <LinkButton onClick={() => onShow(state)}>show what {WHAT[state]}</LinkButton>}
      </section>
    );
  });
}
