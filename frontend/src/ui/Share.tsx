import { Progress } from "antd";
import type { ReactNode } from "react";

/** How much of a whole is done, as a bar. `label` says of what, for screen readers. */
export function Share(props: { done: number; of: number; label: string; width?: number }): ReactNode {
  const percent = Math.min((props.done / Math.max(props.of, 1)) * 100, 100);
  return (
    <Progress
      aria-label={props.label}
      percent={Math.round(percent * 10) / 10}
      showInfo={false}
      size={props.width ? [props.width, 6] : { height: 6 }}
      status="normal"
    />
  );
}
