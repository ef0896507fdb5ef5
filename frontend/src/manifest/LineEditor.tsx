import { Button, Input } from "antd";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { useTyped } from "../parts/typing/typed";
import { FolderChooser } from "../places/FolderChooser";
import { count, several } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import { Problem } from "../ui/Problem";
import styles from "../ui/text.module.css";
import type { ManifestLine } from "./Ledger";
import { LineTold } from "./Reasons";

/** What one changes of a plan, and it is checked again. */
export type Edit = Partial<Schemas["ReplanForm"]>;

/** One line of a plan: its new name or folder by hand, or left out, or as the plan has it. */
export function LineEditor(props: {
  line: ManifestLine;
  /** Where what is typed is remembered until it is taken. */
  typedAt: string;
  busy: boolean;
  onEdit: (edit: Edit) => Promise<void>;
}): ReactNode {
  const { line, busy, onEdit } = props;
  const entry = line.entry ?? 0;
  const [name, setName] = useTyped(line.to_name ?? line.from_name ?? "", `${props.typedAt}/line ${entry}`);
  const edit = (to: string | null) => void onEdit({ edits: { [String(entry)]: to } });
  return (
    <form
      className="line-editor"
      onSubmit={(event) => {
        event.preventDefault();
        const tidy = name.trim();
        setName(tidy);
        if (tidy && !busy) edit(tidy);
      }}
    >
      <label className="label" htmlFor="line-name">
        Line {line.number}: new name
      </label>
      <Input
        id="line-name"
        className="mono"
        value={name}
        maxLength={4000}
        spellCheck={false}
        onChange={(event) => setName(event.target.value)}
      />
      <div className="line-actions">
        <Button htmlType="submit" disabled={busy || !name.trim() || name === line.to_name}>
          Use this name
        </Button>
        <Button disabled={busy || line.code === "left out"} onClick={() => edit(null)}>
          Leave it out
        </Button>
        <ToFolder entries={[entry]} name={line.from_name ?? ""} busy={busy} onEdit={onEdit} />
        <LinkButton disabled={busy} onClick={() => void onEdit({ forget: [entry] })}>
          as planned
        </LinkButton>
      </div>
      {line.holder !== null && line.document !== null && (
        <div className="pair">
          <Sheet document={line.document} label="this one" />
          <Sheet document={line.holder} label="has the name" />
        </div>
      )}
      <LineTold line={line} />
    </form>
  );
}

/** So many lines are edited at once. */
const MOST = 2000;

/** Several lines of a plan: all of them left out, to one folder, or again as the plan has them. */
export function LinesEditor(props: {
  lines: ManifestLine[];
  busy: boolean;
  onEdit: (edit: Edit) => Promise<void>;
}): ReactNode {
  const { lines, busy, onEdit } = props;
  const entries = lines.flatMap((line) => (line.entry === null ? [] : [line.entry]));
  const out = lines.every((line) => line.code === "left out");
  const many = entries.length > MOST;
  return (
    <section className="line-editor" aria-label="The chosen lines">
      <h2 className="label">{several(lines.length, "line")} chosen</h2>
      <div className="line-actions">
        <Button
          disabled={busy || out || many}
          onClick={() => void onEdit({ edits: Object.fromEntries(entries.map((entry) => [entry, null])) })}
        >
          Leave out these lines
        </Button>
        <ToFolder entries={entries} name={several(lines.length, "line")} busy={busy || many} onEdit={onEdit} />
        <LinkButton disabled={busy || many} onClick={() => void onEdit({ forget: entries })}>
          as planned
        </LinkButton>
      </div>
      {many && <Problem small>At most {count(MOST)} lines at once; choose fewer.</Problem>}
    </section>
  );
}

/** A folder for lines, chosen by hand: they go there with the names that they have in the plan. */
function ToFolder(props: {
  entries: number[];
  name: string;
  busy: boolean;
  onEdit: (edit: Edit) => Promise<void>;
}): ReactNode {
  const { entries, name } = props;
  const [choosing, setChoosing] = useState(false);
  return (
    <>
      <Button disabled={props.busy} onClick={() => setChoosing(true)}>
        To another folder…
      </Button>
      {choosing && (
        <FolderChooser
          title={`Where the plan puts ${name}`}
          verb="Put in"
          entries={entries}
          stays={false}
          near={null}
          onChoose={async (folder) => {
            setChoosing(false);
            await props.onEdit({ targets: Object.fromEntries(entries.map((entry) => [entry, folder])) });
            return null;
          }}
          onClose={() => setChoosing(false)}
        />
      )}
    </>
  );
}

/** A document's first page, small, that leads to it. */
function Sheet(props: { document: number; label: string }): ReactNode {
  const [shown, setShown] = useState(true);
  return (
    <Link to={`/documents/${props.document}`} target="_blank" className="sheet">
      {shown ? (
        <img
          src={`/api/documents/${props.document}/pages/1`}
          alt={`First page: ${props.label}`}
          onError={() => setShown(false)}
        />
      ) : (
        <span className={`${styles.quiet} ${styles.small}`}>no page to show</span>
      )}
      <span className={styles.small}>{props.label}</span>
    </Link>
  );
}
