import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
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
