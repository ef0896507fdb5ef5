import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { MONTHS } from "../ui/format";

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

/** The coverage strip: a bar a month, a dashed outline where something should be and is not. */
export function Coverage(props: { months: Schemas["Month"][] }): ReactNode {
  const bars = barsOf(props.months);
  if (bars.length < 2) return null;
  // beyond a year and a half only the years are named, or no name could be read
  const many = bars.length > 18;
  const most = Math.max(...bars.map((bar) => bar.documents));
  return (
    <figure
      className="coverage"
      aria-label={`Documents by month of issue: ${bars.map((b) => `${b.label} ${b.documents}`).join(", ")}`}
    >
      {bars.map((bar) => (
        <div key={bar.month} title={`${bar.label}: ${bar.documents || "none"}`}>
          <div className="bar-room">
            <div
              className={bar.gap ? "gap" : "bar-fill"}
              style={{ height: bar.gap ? "100%" : `${Math.max((bar.documents / most) * 100, 8)}%` }}
            />
          </div>
          <span>{many ? (bar.month.endsWith("-01") ? bar.month.slice(0, 4) : "") : bar.label}</span>
        </div>
      ))}
    </figure>
  );
}
