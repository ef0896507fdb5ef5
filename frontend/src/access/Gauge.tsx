import { Progress } from "antd";
import type { ReactNode } from "react";
import { LEVELS, type Level } from "./wishes";

/** How far a level reaches, of four: read, comment, file, keep. */
export function Gauge(props: { level: Level | null }): ReactNode {
  const at = props.level === null ? 0 : LEVELS.indexOf(props.level) + 1;
  return (
    <span className="gauge">
      <Progress steps={4} size={[22, 5]} percent={at * 25} showInfo={false} aria-hidden strokeColor="var(--ink)" />
      {props.level ?? "nothing"}
    </span>
  );
}
