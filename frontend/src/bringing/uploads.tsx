// What is being brought in now: one line a file, by bytes; what broke off is clearly not there, and can be sent again.
import { useQueryClient } from "@tanstack/react-query";
import { createContext, type ReactNode, useCallback, useContext, useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { keys } from "../api/keys";
import { sendFile } from "../api/upload";
import { cut, size } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import { words } from "../ui/notices";
import { Share } from "../ui/Share";
import styles from "../ui/text.module.css";
import type { Dropped } from "./dropped";

type Sending = Dropped & { id: string; area: number | null; sent: number; problem: string | null; stop: () => void };

export type Uploads = {
  sending: Sending[];
  total: { files: number; done: number; bytes: number; sent: number };
  add: (files: Iterable<Dropped>, area: number | null) => void;
  again: (id: string) => void;
  drop: (id: string) => void;
};

const AT_ONCE = 3;
const SHOWN = 6;

function bytesOf(files: Dropped[]): number {
  return files.reduce((sum, one) => sum + one.file.size, 0);
}

const Context = createContext<Uploads | null>(null);

/** What is brought in goes on while one walks through the screens. */
export function UploadsProvider(props: { children: ReactNode }): ReactNode {
  const uploads = useSending();
  // a file that is dropped beside everything does not take one away from here
  useEffect(() => {
    const keep = (event: DragEvent) => {
      if (!event.dataTransfer?.types.includes("Files")) return;
      if (event.type === "dragover" && !event.defaultPrevented) event.dataTransfer.dropEffect = "none";
      event.preventDefault();
    };
    window.addEventListener("dragover", keep);
    window.addEventListener("drop", keep);
    return () => {
      window.removeEventListener("dragover", keep);
      window.removeEventListener("drop", keep);
    };
  }, []);
  return <Context value={uploads}>{props.children}</Context>;
}

export function useUploads(): Uploads {
  const uploads = useContext(Context);
  if (!uploads) throw new Error("useUploads stands inside an UploadsProvider");
  return uploads;
}

/** How far it is, where the list of it is not shown. */
export function UploadNote(): ReactNode {
  const { sending, total } = useUploads();
  const broken = sending.filter((one) => one.problem).length;
  if (!sending.length) return null;
  return (
    <Link to="/arrivals" className={`upload-note ${styles.small} nowrap`}>
      {broken ? (
        <b>{broken === 1 ? "1 file was not brought in" : `${broken} files were not brought in`}</b>
      ) : (
        `Bringing in ${total.done + 1} of ${total.files}`
      )}
    </Link>
  );
}

function useSending(): Uploads {
  const queries = useQueryClient();
  const [sending, setSending] = useState<Sending[]>([]);
  const queue = useRef<Sending[]>([]);
  const running = useRef(0);
  const [added, setTotal] = useState({ files: 0, bytes: 0 });
  // a new lot begins when nothing is under way
  useEffect(() => {
    if (!sending.length) setTotal({ files: 0, bytes: 0 });
  }, [sending.length]);
  const left = bytesOf(sending) - sending.reduce((sum, one) => sum + one.sent, 0);
  const total = { ...added, done: added.files - sending.length, sent: added.bytes - left };

  const change = useCallback((id: string, part: Partial<Sending>) => {
    setSending((all) => all.map((one) => (one.id === id ? { ...one, ...part } : one)));
  }, []);

  // one question after many files, however fast they come in
  const asking = useRef(0);
  const seeSoon = useCallback(() => {
    window.clearTimeout(asking.current);
    const now = queue.current.length === 0 && running.current <= 1;
    asking.current = window.setTimeout(
      () => void queries.invalidateQueries({ queryKey: keys.waiting }),
      now ? 0 : 1500,
    );
  }, [queries]);

  const pump = useCallback(() => {
    while (running.current < AT_ONCE) {
      const next = queue.current.shift();
      if (!next) return;
      running.current += 1;
      const { done, stop } = sendFile(next.file, next.id, (sent) => change(next.id, { sent }), next.area, next.folder);
      change(next.id, { stop, problem: null });
      done
        .then(
          () => {
            setSending((all) => all.filter((one) => one.id !== next.id));
            seeSoon();
          },
          (error: unknown) => change(next.id, { problem: words(error), sent: 0 }),
        )
        .finally(() => {
          running.current -= 1;
          pump();
        });
    }
  }, [change, seeSoon]);

  const add = useCallback(
    (files: Iterable<Dropped>, area: number | null) => {
      const fresh = [...files].map((dropped) => ({
        ...dropped,
        id: crypto.randomUUID(),
        area,
        sent: 0,
        problem: null,
        stop: () => {},
      }));
      setSending((all) => [...all, ...fresh]);
      setTotal((had) => ({ files: had.files + fresh.length, bytes: had.bytes + bytesOf(fresh) }));
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
  return { sending, total, add, again, drop };
}

/** All that is under way, with what became of it. */
export function UploadList(): ReactNode {
  const { sending, total, again, drop } = useUploads();
  if (!sending.length) return null;
  return (
    <ul className="uploads" aria-label="Being brought in">
      {total.files > 1 && (
        <li>
          <div className="upload-name">
            <b>
              {total.done} of {total.files} brought in
            </b>
            <span className={`${styles.quiet} number`}>
              {size(total.sent)} of {size(total.bytes)}
            </span>
          </div>
          <Share done={total.sent} of={total.bytes} label="All together: bytes sent" />
        </li>
      )}
      {/* of many, those under way and those in trouble are shown one by one */}
      {sending
        .filter((one, index) => one.problem || index < SHOWN)
        .map((one) => (
          <li key={one.id} className={one.problem ? "broken" : ""}>
            <div className="upload-name">
              <span title={one.file.name}>{cut(one.file.name, 30)}</span>
              <span className={`${styles.quiet} number`}>
                {one.problem ? "not brought in" : `${size(one.sent)} of ${size(one.file.size)}`}
              </span>
            </div>
            {one.problem ? (
              <>
                <p role="alert">{one.problem}</p>
                <LinkButton onClick={() => again(one.id)}>Send again</LinkButton>{" "}
              </>
            ) : (
              <Share done={one.sent} of={one.file.size} label={`${one.file.name}: bytes sent`} />
            )}
            <LinkButton onClick={() => drop(one.id)}>{one.problem ? "Remove from the list" : "Stop"}</LinkButton>
          </li>
        ))}
    </ul>
  );
}
