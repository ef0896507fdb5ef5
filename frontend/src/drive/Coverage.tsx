import { Button } from "antd";
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { MONTHS } from "../ui/format";
import styles from "../ui/text.module.css";

const MOST = 24;

export type Bar = { month: string; documents: number; label: string; gap: boolean };

/** Every month between the first and the last, at most the last MOST; a month with nothing between others is a gap. */
export function barsOf(months: Schemas["Month"][]): Bar[] {
  const first = months[0];
  const last = months.at(-1);
  if (!first || !last) return [];
  const held = new Map(months.map((m) => [m.month, m.documents]));
  const bars: Bar[] = [];
  let [year, month] = first.month.split("-").map(Number) as [number, number];
  while (`${year}-${String(month).padStart(2, "0")}` <= last.month) {
    const key = `${year}-${String(month).padStart(2, "0")}`;
    const documents = held.get(key) ?? 0;
    bars.push({
      month: key,
      documents,
      label: `${MONTHS[month - 1]}${month === 1 || bars.length === 0 ? ` ${year}` : ""}`,
      gap: documents === 0,
    });
    month += 1;
    if (month > 12) {
      month = 1;
      year += 1;
    }
  }
  return bars.slice(-MOST);
}

type Props = {
  months: Schemas["Month"][];
  /** The month that the lines are narrowed to. */
  chosen: string | null;
  /** What sort of group the months are of; null for all documents. */
  of: string | null;
  onMonth: (month: string | null) => void;
};

/** The coverage strip: a bar a month, a dashed outline where something should be and is not; a click shows one month, again all. */
export function Coverage(props: Props): ReactNode {
  const { chosen } = props;
  const bars = barsOf(props.months);
  if (bars.length < 2) return null;
  const most = Math.max(...bars.map((bar) => bar.documents));
  return (
    <figure className="coverage">
      <figcaption className={styles.small}>
        <b>Documents a month</b>{" "}
        <span className={styles.quiet}>
          {props.of ? `of the chosen ${props.of}, ` : ""}by date of issue. A click shows one month
          {chosen ? ", again all" : ""}.
        </span>
      </figcaption>
      <div className="coverage-bars">
        {bars.map((bar, index) => (
          <Button
            key={bar.month}
            type="text"
            aria-pressed={chosen === bar.month}
            disabled={bar.gap}
            onClick={() => props.onMonth(chosen === bar.month ? null : bar.month)}
          >
            <span className={styles.hidden}>{`${bar.label}: ${bar.documents || "none"}`}</span>
            <span className="bar-room" aria-hidden>
              <span className="bar-count">{bar.documents || ""}</span>
              <span
                className={bar.gap ? "gap" : "bar-fill"}
                style={{ height: bar.gap ? "40%" : `${Math.max((bar.documents / most) * 62, 8)}%` }}
              />
            </span>
            <span aria-hidden>{MONTHS[Number(bar.month.slice(5)) - 1]?.[0]}</span>
            <span aria-hidden>{index === 0 || bar.month.endsWith("-01") ? bar.month.slice(0, 4) : ""}</span>
          </Button>
        ))}
      </div>
    </figure>
  );
}
