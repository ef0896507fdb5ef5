import { type ReactNode, useCallback, useMemo } from "react";
import type { Schemas } from "../api/client";
import { type Column, DocGrid } from "../parts/lines/DocGrid";
import type { Marks } from "../parts/lines/selection";
import { count, several } from "../ui/format";
import styles from "../ui/text.module.css";
import { cutAt, diff, type Part, placed } from "./diff";

export type ManifestLine = Schemas["ManifestLineOut"];

/** So many characters at the end of a name are always shown. */
const TAIL = 12;
/** Days, numbers and marks are not longer: they stay whole as long as there is anything else to cut. */
const LONG = 7;
const lineId = (line: ManifestLine) => line.line;
const nothing = () => {};

/** The lines of a manifest, planned or kept: from → to with only the changed parts marked, and what is with each. */
export function Ledger(props: {
  lines: ManifestLine[];
  where: string | null;
  total: number;
  more: boolean;
  chosen: number | null;
  onChoose: (line: number) => void;
  /** Several lines that are chosen, by their numbers; without `onMarks` only one is. */
  marks?: Marks;
  onMarks?: (marks: Marks) => void;
  onOpen: (line: ManifestLine) => void;
  onEnd: () => void;
}): ReactNode {
  const { where } = props;
  const columns = useMemo<Column<ManifestLine>[]>(
    () => [
      { key: "number", label: "#", width: "46px", right: true, cell: (line) => count(line.number) },
      {
        key: "from",
        label: "From",
        width: "minmax(150px, 1fr)",
        cell: (line) => <Told line={line} where={where} side="before" />,
      },
      {
        key: "arrow",
        label: <span className={styles.hidden}>becomes</span>,
        width: "16px",
        cell: (line) => (
          <span className={styles.quiet} aria-hidden>
            {line.state === "right" ? "=" : "→"}
          </span>
        ),
      },
      {
        key: "to",
        label: "To",
        width: "minmax(150px, 1fr)",
        cell: (line) => <Told line={line} where={where} side="after" />,
      },
      { key: "state", label: "State", width: "minmax(104px, 0.42fr)", cell: (line) => <State line={line} /> },
    ],
    [where],
  );
  const across = useCallback((): undefined => undefined, []);
  return (
    <DocGrid
      label="Lines"
      lines={props.lines}
      columns={columns}
      id={lineId}
      across={across}
      acrossColumns={1}
      chosen={props.chosen}
      onChoose={props.onChoose}
      marks={props.marks}
      onMarks={props.onMarks}
      onOpen={props.onOpen}
      sort=""
      descending={false}
      onSort={nothing}
      onEnd={props.onEnd}
      more={props.more}
      total={props.total}
      rowClass={rowClass}
    />
  );
}

const rowClass = (line: ManifestLine) => (line.state === "blocked" || line.state === "failed" ? "blocked" : line.state);

/** Whether the reason stands where the new name would: there is none, and there is more room. */
const whyInstead = (line: ManifestLine) =>
  line.kind === "place" && line.to_name === null && line.why !== null && /^(blocked|failed)$/.test(line.state);

function Told(props: { line: ManifestLine; where: string | null; side: "before" | "after" }): ReactNode {
  const { line, where, side } = props;
  if (line.kind === "make folder")
    return side === "before" ? (
      <span className={styles.quiet}>new folder</span>
    ) : (
      <span className="mono">{placed(line.to_place, line.to_name, where)}/</span>
    );
  if (line.kind === "remove folder")
    return side === "before" ? (
      <span className="mono">{placed(line.from_place, line.from_name, where)}/</span>
    ) : (
      <span className={styles.quiet}>removed where it is empty then</span>
    );
  const before = placed(line.from_place, line.from_name, where);
  if (side === "after" && line.state === "right") return <span className={styles.quiet}>the same</span>;
  if (side === "after" && whyInstead(line))
    return (
      <span className="bad" title={line.why ?? undefined}>
        {line.why}
      </span>
    );
  if (side === "after" && line.to_name === null)
    return (
      <span className={styles.quiet}>{line.kind === "place" ? "left where it is" : (line.note ?? line.kind)}</span>
    );
  if (line.to_name === null || line.state === "right")
    return <Parts parts={[{ text: before, changed: false }]} side="before" />;
  if (line.from_place !== line.to_place)
    return <Parts parts={diff(before, placed(line.to_place, line.to_name, where))[side]} side={side} moved />;
  // only the name changes: the folders are told once
  const parts = diff(line.from_name ?? "", line.to_name)[side];
  const folders = { text: before.slice(0, before.length - (line.from_name ?? "").length), changed: false };
  return <Parts parts={side === "before" && folders.text ? [folders, ...parts] : parts} side={side} />;
}

/** Folders of so many characters, as many as are left of longer ones, give no way. */
const SHORT = { before: 10, after: 17 };

/** Folders give way before the name does: its end is what tells documents apart. */
function Parts(props: { parts: Part[]; side: "before" | "after"; moved?: boolean }): ReactNode {
  const text = props.parts.map((part) => part.text).join("");
  const length = text.lastIndexOf("/") + 1;
  const [folders, last] = cutAt(props.parts, length);
  // what gives way is what does not differ, then the middle: the end tells documents apart
  const [head, tail] = cutAt(last, Math.max(text.length - length - TAIL, 0));
  return (
    <span className={`mono path-name${props.moved ? ` moved ${props.side}` : ""}`} title={text}>
      {folders.length > 0 && (
        <span className={length > (props.moved ? SHORT[props.side] : 0) ? "folders" : "folders short"}>
          <bdi dir="ltr">{marked(folders, props.side)}</bdi>
        </span>
      )}
      {head.map((part, n) => (
        <span
          // biome-ignore lint/suspicious/noArrayIndexKey: parts have no identity but their order
          key={n}
          className={part.text.length > LONG ? (part.changed ? "differs" : "same") : "brief"}
        >
          {marked([part], props.side)}
        </span>
      ))}
      <span className="tail">{marked(tail, props.side)}</span>
    </span>
  );
}

function marked(parts: Part[], side: "before" | "after"): ReactNode {
  return parts.map((part, n) => {
    // biome-ignore lint/suspicious/noArrayIndexKey: parts have no identity but their order
    if (!part.changed) return <span key={n}>{part.text}</span>;
    // biome-ignore lint/suspicious/noArrayIndexKey: see above
    return side === "before" ? <del key={n}>{part.text}</del> : <ins key={n}>{part.text}</ins>;
  });
}

function State(props: { line: ManifestLine }): ReactNode {
  const { line } = props;
  if (line.state === "ready" || line.state === "done")
    return (
      <span className={line.note ? "signal" : "ok"} title={line.note ?? undefined}>
        {line.state}
        {line.note ? ` · ${line.note}` : ""}
      </span>
    );
  if (line.state === "right") return <span className={styles.quiet}>already right</span>;
  if (line.state === "not done" || line.state === "undone") return <span className={styles.quiet}>{line.state}</span>;
  if (whyInstead(line)) return <span className="bad">{line.state}</span>;
  const class_ = line.state === "left out" ? styles.quiet : "bad";
  return (
    <span className={class_} title={line.why ?? undefined}>
      {line.state === "failed" || (line.state === "left out" && line.code !== "left out")
        ? `${line.state}: ${line.why ?? ""}`
        : line.why}
    </span>
  );
}

const STATES = ["done", "ready", "undone", "right", "left out", "not done", "blocked", "failed"] as const;

/** One bar for what is done, ready, already right, left out and blocked; with the numbers in words below it. */
export function StateBar(props: { counts: Record<string, number> }): ReactNode {
  const { counts } = props;
  const total = STATES.reduce((sum, state) => sum + (counts[state] ?? 0), 0);
  const told = STATES.filter((state) => counts[state]).map((state) => (
    <span key={state} className={`nowrap ${state === "blocked" || state === "failed" ? "bad" : ""}`}>
      <b>{count(counts[state] ?? 0)}</b> {state === "right" ? "already right" : state}
    </span>
  ));
  const makes = counts["make folder"] ?? 0;
  const removes = counts["remove folder"] ?? 0;
  return (
    <>
      <div className="state-bar" aria-hidden>
        {STATES.map((state) => (
          <div
            key={state}
            className={`part ${state === "ready" && counts.done ? "to-do" : state.replace(" ", "-")}`}
            style={{ flexGrow: counts[state] ?? 0 }}
          />
        ))}
      </div>
      <p className="state-words">
        {told.length
          ? told.flatMap((one, n) => (n ? [<span key={`dot-${STATES[n]}`}> · </span>, one] : [one]))
          : "no lines"}
        {total > 0 && <span className={styles.quiet}> · {several(total, "line")}</span>}
        {makes > 0 && <span className={styles.quiet}> · makes {several(makes, "folder")}</span>}
        {removes > 0 && <span className={styles.quiet}> · removes up to {count(removes)} emptied</span>}
      </p>
    </>
  );
}
