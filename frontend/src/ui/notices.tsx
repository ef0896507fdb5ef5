// One notice at the foot: what was done (with Undo), or what went wrong. Told to screen readers too.
// It stands below the page, not over it: no button is ever behind it.
import { Alert, Button, Space } from "antd";
import { createContext, type ReactNode, useCallback, useContext, useMemo, useRef, useState } from "react";
import "./notices.css";
import { SAY } from "./wording";

export type Notice = {
  text: string;
  bad?: boolean;
  action?: { label: string; run: () => void };
  /** What one may go on with, besides. */
  more?: { label: string; run: () => void };
  /** Gives way to what was told just now: what it tells may be that one's own doing. */
  yields?: boolean;
};
type Tell = { tell: (notice: Notice) => void; clear: () => void };

const Context = createContext<Tell>({ tell: () => {}, clear: () => {} });
const SHOWN_MS = 9000;
const JUST_NOW_MS = 4000;

export function NoticeProvider(props: { children: ReactNode }): ReactNode {
  const [notice, setNotice] = useState<Notice | null>(null);
  const timer = useRef<number>(0);
  const clear = useCallback(() => setNotice(null), []);
  const told = useRef(Number.NEGATIVE_INFINITY);
  const tell = useCallback((next: Notice) => {
    if (next.yields && performance.now() - told.current < JUST_NOW_MS) return;
    told.current = performance.now();
    window.clearTimeout(timer.current);
    setNotice(next);
    // what went wrong stays until it was closed
    if (!next.bad) timer.current = window.setTimeout(() => setNotice(null), SHOWN_MS);
  }, []);
  const value = useMemo(() => ({ tell, clear }), [tell, clear]);
  return (
    <Context value={value}>
      <div className="page">{props.children}</div>
      <div className="notices" role="status" aria-live="polite">
        {notice && (
          <Alert
            className={`notice${notice.bad ? " bad" : ""}`}
            // the status around it tells it
            role="presentation"
            banner
            showIcon={false}
            type={notice.bad ? "error" : "info"}
            title={notice.text}
            action={
              <Space size={6}>
                {[notice.action, notice.more].map(
                  (one) =>
                    one && (
                      <Button
                        key={one.label}
                        size="small"
                        onClick={() => {
                          clear();
                          one.run();
                        }}
                      >
                        {one.label}
                      </Button>
                    ),
                )}
                <Button size="small" type="text" onClick={clear}>
                  {SAY.close}
                </Button>
              </Space>
            }
          />
        )}
      </div>
    </Context>
  );
}

export function useNotices(): Tell {
  return useContext(Context);
}

/** The words of anything that was thrown. */
export function words(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
