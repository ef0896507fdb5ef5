import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { client, data } from "../../api/client";
import { keys } from "../../api/keys";
import { moment } from "../../ui/format";
import styles from "../../ui/text.module.css";
import { Reasons } from "./Reasons";

const DID: Record<string, string> = {
  arrival: "Filed",
  change: "Changed, after somebody changed it,",
  hand: "Changed",
};
const OTHER: Record<string, string> = {
  asked: "asked about it",
  failed: "could not file it",
  left: "left it to a person",
};

/** Which rule did what with a document, by which tests, and why the others did not; nothing where no rule had to do with it. */
export function WhyRules(props: { document: number }): ReactNode {
  const { document } = props;
  const got = useQuery({
    queryKey: keys.why(document),
    queryFn: () => data(client.GET("/api/documents/{document}/why", { params: { path: { document } } })),
  });
  const why = got.data?.why;
  if (!why) return null;
  const rules = why.rules.map((rule) => `“${rule}”`).join(", ");
  const of = why.area_name ? ` of ${why.area_name}` : "";
  const did = DID[why.event] ?? "Changed";
  return (
    <section aria-label="Why">
      <h2 className="label">Why</h2>
      <p>
        {why.outcome === "done"
          ? `${did} by ${why.rules.length > 1 ? "rules" : "rule"} ${rules}${of}, revision ${why.revision}`
          : `Rule ${rules}${of}, revision ${why.revision}, ${OTHER[why.outcome] ?? ""}`}
        <span className={styles.quiet}>, {moment(why.at)}</span>
        {why.undone && <b>. It was undone.</b>}
      </p>
      {why.reasons.map((reason) => (
        <p key={`${reason.rule} ${reason.line}`} className="signal">
          {reason.line > 0 && `Line ${reason.line}: `}
          {reason.why}
        </p>
      ))}
      {why.decision && (
        <details>
          <summary>Why, rule by rule</summary>
          <Reasons decision={{ ...why.decision, asks: [] }} />
        </details>
      )}
      {why.area !== null && (
        <p className={styles.small}>
          <Link to={`/plan/${why.area}/rules`}>See the rules</Link>
        </p>
      )}
    </section>
  );
}
