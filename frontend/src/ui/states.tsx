// What a screen or a part of it shows while it has nothing to show: it loads, nothing is there, or it could not be had.
import { Alert, Button, Empty, Skeleton } from "antd";
import type { ReactNode } from "react";
import { isGone, Trouble } from "../api/client";
import { words } from "./notices";
import "./states.css";
import { SAY } from "./wording";

/** What is still asked for: as many lines as will probably stand there, so that nothing jumps when it comes. */
export function Loading(props: { rows?: number }): ReactNode {
  return (
    <div className="loading" role="status" aria-label="Loading">
      <Skeleton title={false} paragraph={{ rows: props.rows ?? 8, width: "100%" }} />
    </div>
  );
}

/** Where nothing is: what belongs there, and the one thing to do about it. */
export function Nothing(props: { title: string; action?: ReactNode; children?: ReactNode }): ReactNode {
  return (
    <Empty
      className="nothing"
      description={
        <>
          <h2>{props.title}</h2>
          {props.children && <p>{props.children}</p>}
        </>
      }
    >
      {props.action}
    </Empty>
  );
}

type Failing = {
  /** What could not be had, as the subject of a sentence: "The folder". */
  what: string;
  error: unknown;
  onAgain: () => unknown;
  /** A way out, where trying again does not help. */
  children?: ReactNode;
};

/** What could not be had: what, why, and what to do. What is gone, or not one's own to see, is not tried again. */
export function Failed(props: Failing): ReactNode {
  const { what, error } = props;
  const refused = error instanceof Trouble && error.status >= 400 && error.status < 500;
  const gone = isGone(error);
  return (
    <Alert
      className="failed"
      type={gone ? "info" : "error"}
      title={gone ? `${what} is not there, or not yours to see` : `${what} cannot be shown`}
      description={
        <>
          {!gone && <p>{words(error)}</p>}
          {props.children && <p>{props.children}</p>}
        </>
      }
      action={refused ? undefined : <Button onClick={() => void props.onAgain()}>{SAY.tryAgain}</Button>}
    />
  );
}
