// Hand-made: the library draws no charts, and a chart library for thirty small bars would be more code to load than these lines.
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";

const HEIGHT = 22;
const WIDTH = 8;

/** What a rule did by day: done below, asked hatched on it, failed on top; a day without any is a dot. */
export function DayBars(props: {
  days: Schemas["RuleDayOut"][];
  since: string;
  until: string;
  label: string;
}): ReactNode {
  const first = Date.parse(props.since);
  const length = Math.round((Date.parse(props.until) - first) / 86_400_000) + 1;
  const byDay = new Map(props.days.map((day) => [Math.round((Date.parse(day.day) - first) / 86_400_000), day]));
  const most = Math.max(1, ...props.days.map((day) => day.done + day.asked + day.failed));
  const says = props.days.map((day) => `${day.day}: ${day.done} done, ${day.asked} asked, ${day.failed} failed`);
  return (
    <svg
      className="day-bars"
      width={length * WIDTH}
      height={HEIGHT}
      role="img"
      aria-label={`${props.label} by day: ${says.join("; ") || "nothing"}`}
    >
      {Array.from({ length }, (_, at) => {
        const day = byDay.get(at);
        const x = at * WIDTH;
        // biome-ignore lint/suspicious/noArrayIndexKey: the day is its place
        if (!day) return <rect key={at} className="none" x={x + 2} y={HEIGHT - 2} width={2} height={1} />;
        const tall = (part: number) => (part / most) * (HEIGHT - 2);
        const [done, asked, failed] = [tall(day.done), tall(day.asked), tall(day.failed)];
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: the day is its place
          <g key={at}>
            <title>{`${day.day}: ${day.done} done, ${day.asked} asked, ${day.failed} failed, ${day.undone} undone`}</title>
            <rect className="done" x={x} y={HEIGHT - done} width={WIDTH - 2} height={done} />
            <rect className="asked" x={x} y={HEIGHT - done - asked} width={WIDTH - 2} height={asked} />
            <rect className="failed" x={x} y={HEIGHT - done - asked - failed} width={WIDTH - 2} height={failed} />
          </g>
        );
      })}
    </svg>
  );
}
