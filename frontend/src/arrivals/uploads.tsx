// What is being brought in now: one line a file, by bytes; what broke off is clearly not there, and can be sent again.
import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useCallback, useRef, useState } from "react";
import { keys } from "../api/queries";
import { sendFile } from "../api/upload";
import { words } from "../app/notices";
import { cut, size } from "../parts/format";

type Sending = { id: string; file: File; area: number | null; sent: number; problem: string | null; stop: () => void };

export type Uploads = {
  sending: Sending[];
  add: (files: Iterable<File>, area: number | null) => void;
  again: (id: string) => void;
  drop: (id: string) => void;
};

const AT_ONCE = 3;

export function useUploads(): Uploads {
  const queries = useQueryClient();
  const [sending, setSending] = useState<Sending[]>([]);
  const queue = useRef<Sending[]>([]);
  const running = useRef(0);

  const change = useCallback((id: string, part: Partial<Sending>) => {
    setSending((all) => all.map((one) => (one.id === id ? { ...one, ...part } : one)));
  }, []);

  const pump = useCallback(() => {
    while (running.current < AT_ONCE) {
      const next = queue.current.shift();
      if (!next) return;
      running.current += 1;
      const { done, stop } = sendFile(next.file, next.id, (sent) => change(next.id, { sent }), next.area);
      change(next.id, { stop, problem: null });
      done
        .then(
          () => {
            setSending((all) => all.filter((one) => one.id !== next.id));
            void queries.invalidateQueries({ queryKey: keys.waiting });
          },
          (error: unknown) => change(next.id, { problem: words(error), sent: 0 }),
        )
        .finally(() => {
          running.current -= 1;
          pump();
        });
    }
  }, [change, queries]);

  const add = useCallback(
    (files: Iterable<File>, area: number | null) => {
      const fresh = [...files].map((file) => ({
        id: crypto.randomUUID(),
        file,
        area,
        sent: 0,
        problem: null,
        stop: () => {},
      }));
      setSending((all) => [...all, ...fresh]);
      queue.current.push(...fresh);
      pump();
    },
    [pump],
  );
  const again = useCallback(
    (id: string) => {
      const one = sending.find((s) => s.id === id);
      if (!one) return;
      change(id, { problem: null, sent: 0 });
      queue.current.push(one);
      pump();
    },
    [sending, change, pump],
  );
  const drop = useCallback((id: string) => {
    queue.current = queue.current.filter((one) => one.id !== id);
    setSending((all) => {
      all.find((one) => one.id === id)?.stop();
      return all.filter((one) => one.id !== id);
    });
  }, []);
  return { sending, add, again, drop };
}

export function UploadList(props: { uploads: Uploads }): ReactNode {
  const { sending, again, drop } = props.uploads;
  if (!sending.length) return null;
  return (
    <ul className="uploads" aria-label="Being brought in">
      {sending.map((one) => (
        <li key={one.id} className={one.problem ? "broken" : ""}>
          <div className="upload-name">
            <span title={one.file.name}>{cut(one.file.name, 30)}</span>
            <span className="quiet number">
              {one.problem ? "not brought in" : `${size(one.sent)} of ${size(one.file.size)}`}
            </span>
          </div>
          {one.problem ? (
            <>
              <p role="alert">{one.problem}</p>
              <button type="button" className="link" onClick={() => again(one.id)}>
                Send again
              </button>{" "}
            </>
          ) : (
            <progress value={one.sent} max={Math.max(one.file.size, 1)} aria-label={`${one.file.name}: bytes sent`} />
          )}
          <button type="button" className="link" onClick={() => drop(one.id)}>
            {one.problem ? "Forget it" : "Stop"}
          </button>
        </li>
      ))}
    </ul>
  );
}
