import type { ReactNode } from "react";
import type { Schemas } from "../../api/client";
import styles from "../../ui/text.module.css";
import "../lines/grid.css";
import "./reasons.css";

const SIGNAL = ["not known"];

/** What rules said of a document, rule by rule, with the tests that settled each; what they ask stands first. */
export function Reasons(props: { decision: Schemas["DecisionOut"] }): ReactNode {
  const { decision } = props;
  return (
    <>
      {decision.asks.map((ask) => (
        <p key={`${ask.rule} ${ask.line}`} className="signal">
          “{ask.rule}”, line {ask.line}: {ask.why}
        </p>
      ))}
      <table className={`reasons ${styles.small}`}>
        <tbody>
          {decision.asked.map((one, index) => (
            <tr key={one.rule} className={one.outcome === "applied" ? "applied" : undefined}>
              <td>{index + 1}</td>
              <th scope="row">{one.rule}</th>
              <td className={SIGNAL.includes(one.outcome) ? "signal nowrap" : "nowrap"}>{one.outcome}</td>
              <td>{one.because.map((because) => because.words).join("; ")}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
