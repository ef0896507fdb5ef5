// One notice at the foot: what was done (with Undo), or what went wrong. Told to screen readers too.
import { createContext, type ReactNode, useCallback, useContext, useMemo, useRef, useState } from "react";
import "./notices.css";

export type Notice = { text: string; bad?: boolean; action?: { label: string; run: () => void } };
type Tell = { tell: (notice: Notice) => void; clear: () => void };

const Context = createContext<Tell>({ tell: () => {}, clear: () => {} });
const SHOWN_MS = 9000;

export function NoticeProvider(props: { children: ReactNode }): ReactNode {
  const [notice, setNotice] = useState<Notice | null>(null);
  const timer = useRef<number>(0);
  const clear = useCallback(() => setNotice(null), []);
  const tell = useCallback((next: Notice) => {
    window.clearTimeout(timer.current);
    setNotice(next);
    // what went wrong stays until it was closed
    if (!next.bad) timer.current = window.setTimeout(() => setNotice(null), SHOWN_MS);
  }, []);
  const value = useMemo(() => ({ tell, clear }), [tell, clear]);
  return (
    <Context value={value}>
      {props.children}
      <div role="status" aria-live="polite">
        {notice && (
          <div className={`notice${notice.bad ? " bad" : ""}`}>
            <span>{notice.text}</span>
            {notice.action && (
              <button
                type="button"
                onClick={() => {
                  clear();
                  notice.action?.run();
                }}
              >
                {notice.action.label}
              </button>
            )}
            <button type="button" onClick={clear}>
              Close
            </button>
          </div>
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
