import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { Reasons } from "../parts/reasons/Reasons";
import styles from "../ui/text.module.css";

/** What the area's rules say of an arrival: what they ask, why one could not file it, what else they do; and why. */
export function SlipRules(props: { rules: NonNullable<Schemas["SlipOut"]["rules"]> }): ReactNode {
  const { rules } = props;
  return (
    <>
      {rules.failed && (
        <div className="ask">
          Rule “{rules.failed.rule}”, line {rules.failed.line}: {rules.failed.why}
        </div>
      )}
      {rules.asks.map((ask) => (
        <div className="ask" key={`${ask.rule} ${ask.line}`}>
          Rule “{ask.rule}”, line {ask.line}: {ask.why}
        </div>
      ))}
      {rules.left && <div className="ask">A rule leaves it to a person.</div>}
      {rules.also.map((path) => (
        <p key={path} className={styles.small}>
          A rule files it in {path.replaceAll("/", " / ")} too.
        </p>
      ))}
      <details className={styles.small}>
        <summary>
          {rules.applied.length
            ? `By ${rules.applied.length > 1 ? "rules" : "rule"} ${rules.applied.map((one) => `“${one}”`).join(", ")}`
            : "No rule applies"}
        </summary>
        <Reasons decision={{ ...rules.decision, asks: [] }} />
      </details>
    </>
  );
}
