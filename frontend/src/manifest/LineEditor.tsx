import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { count, several } from "../parts/format";
import type { ManifestLine } from "./Ledger";

/** One line of a plan: its new name by hand, or left out, or as the plan has it. */
export function LineEditor(props: {
  line: ManifestLine;
  busy: boolean;
  onEdit: (body: Schemas["ReplanForm"]) => Promise<void>;
}): ReactNode {
  const { line, busy, onEdit } = props;
  const [name, setName] = useState(line.to_name ?? line.from_name ?? "");
  const entry = line.entry ?? 0;
  const edit = (to: string | null) => void onEdit({ taken: null, edits: { [String(entry)]: to }, forget: [] });
  return (
    <form
      className="line-editor"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim() && !busy) edit(name.trim());
      }}
    >
      <label className="label" htmlFor="line-name">
        Line {line.line + 1}: new name
      </label>
      <input
        id="line-name"
        className="text-input mono"
        value={name}
        maxLength={255}
        spellCheck={false}
        onChange={(event) => setName(event.target.value)}
      />
      <div className="line-actions">
        <button type="submit" className="button" disabled={busy || !name.trim() || name === line.to_name}>
          Take this name
        </button>
        <button type="button" className="button" disabled={busy || line.code === "left out"} onClick={() => edit(null)}>
          Leave it out
        </button>
        <button
          type="button"
          className="link"
          disabled={busy}
          onClick={() => void onEdit({ taken: null, edits: {}, forget: [entry] })}
        >
          as planned
        </button>
      </div>
      {line.holder !== null && line.document !== null && (
        <div className="pair">
          <Sheet document={line.document} label="this one" />
          <Sheet document={line.holder} label="has the name" />
        </div>
      )}
      {line.why && line.state !== "ready" && <p className="problem small">{line.why}</p>}
    </form>
  );
}

/** So many lines are edited at once. */
const MOST = 2000;

/** Several lines of a plan: all of them left out, or again as the plan has them. */
export function LinesEditor(props: {
  lines: ManifestLine[];
  busy: boolean;
  onEdit: (body: Schemas["ReplanForm"]) => Promise<void>;
}): ReactNode {
  const { lines, busy, onEdit } = props;
  const entries = lines.flatMap((line) => (line.entry === null ? [] : [line.entry]));
  const out = lines.every((line) => line.code === "left out");
  const many = entries.length > MOST;
  return (
    <section className="line-editor" aria-label="The chosen lines">
      <h2 className="label">{several(lines.length, "line")} chosen</h2>
      <div className="line-actions">
        <button
          type="button"
          className="button"
          disabled={busy || out || many}
          onClick={() =>
            void onEdit({ taken: null, edits: Object.fromEntries(entries.map((entry) => [entry, null])), forget: [] })
          }
        >
          Leave them out
        </button>
        <button
          type="button"
          className="link"
          disabled={busy || many}
          onClick={() => void onEdit({ taken: null, edits: {}, forget: entries })}
        >
          as planned
        </button>
      </div>
      {many && <p className="problem small">At most {count(MOST)} lines at once; choose fewer.</p>}
    </section>
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
        <span className="quiet small">no page to show</span>
      )}
      <span className="small">{props.label}</span>
    </Link>
  );
}
