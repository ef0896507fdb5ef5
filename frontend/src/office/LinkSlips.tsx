import { Button, Typography } from "antd";
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { moment, several } from "../ui/format";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

const COPY = { icon: ["Copy the link", "Copied"], tooltips: false as const };
export type Slip = { id: number; name: string; login: string; link: Schemas["LinkOut"] };

/** Links that were made just now, one slip each: they are shown this once, to be copied or printed. */
export function LinkSlips(props: { slips: Slip[]; onClose: () => void }): ReactNode {
  const { slips } = props;
  return (
    <section className="slips" aria-label="New links">
      <p role="status">
        <b>{several(slips.length, "link")}</b> made. {slips.length === 1 ? "It is" : "They are"} shown only now. Whoever
        opens one chooses a password, once.
      </p>
      {slips.map((slip) => (
        <div key={slip.id} className="shown-once">
          <span>
            <b>{slip.name}</b> <span className={styles.quiet}>logs in as {slip.login}</span>
          </span>
          <span className="mono">{slip.link.address}</span>
          <Typography.Text copyable={{ ...COPY, text: slip.link.address }} />
          <span className={`${styles.small} ${styles.quiet}`}>Good once, until {moment(slip.link.ends_at)}.</span>
        </div>
      ))}
      <div className="acts">
        <Button onClick={() => window.print()}>Print {slips.length === 1 ? "the slip" : "the slips"}</Button>
        <Button onClick={props.onClose}>{SAY.close}</Button>
      </div>
    </section>
  );
}
