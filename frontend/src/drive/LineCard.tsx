import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { client, data, type Schemas } from "../api/client";
import { useCard, useTrail } from "../api/queries";
import { useUndoAction } from "../app/keys";
import { useNotices, words } from "../app/notices";
import { TrailList } from "../document/TrailList";
import type { Putting } from "../places/moving";
import { PlaceList } from "../places/PlaceList";

type Props = {
  line: Schemas["LineOut"] | null;
  /** How many are chosen besides. */
  several: number;
  onPut: (how: Putting) => void;
  onDiscard: () => void;
};

/** The chosen document beside the lines: what may be done with it, its facts, its trail. */
export function LineCard(props: Props): ReactNode {
  const { line } = props;
  const card = useCard(line?.document ?? null);
  const trail = useTrail(line?.document ?? null);
  const [renaming, setRenaming] = useState(false);
  if (!line)
    return props.several ? (
      <div className="card">
        <h2>{props.several} chosen</h2>
        <PutButtons onPut={props.onPut} may />
      </div>
    ) : (
      <p className="quiet card-none">Choose a document to see its facts and its trail.</p>
    );
  // until it is known, the server says so
  const may = card.data?.may_file ?? true;
  return (
    <div className="card">
      <h2 className="mono card-name">{line.name}</h2>
      {renaming ? (
        <Rename line={line} onClose={() => setRenaming(false)} />
      ) : (
        <div className="card-actions">
          <Link className="button" to={`/documents/${line.document}`}>
            Open <kbd>Enter</kbd>
          </Link>
          <button type="button" id="rename" className="button" disabled={!may} onClick={() => setRenaming(true)}>
            Rename <kbd>F2</kbd>
          </button>
          <PutButtons onPut={props.onPut} may={may} />
          <a className="button" href={`/api/documents/${line.document}/content?download=true`}>
            Download
          </a>
          <button type="button" className="button" disabled={!may} onClick={props.onDiscard}>
            Discard
          </button>
        </div>
      )}
      <dl className="card-facts">
        {(card.data?.facts ?? []).map((fact) => (
          <div key={fact.field}>
            <dt className="quiet">{fact.label}</dt>
            <dd>{fact.display}</dd>
          </div>
        ))}
        {(card.data?.places.length ?? 0) > 1 && (
          <div>
            <dt className="quiet">Places</dt>
            <dd>
              <PlaceList places={card.data?.places ?? []} may={may} />
            </dd>
          </div>
        )}
        <div>
          <dt className="quiet">Versions</dt>
          <dd>{card.data?.versions.length ?? ""}</dd>
        </div>
      </dl>
      {(card.data?.tags.length ?? 0) > 0 && (
        <p>
          {card.data?.tags.map((tag) => (
            <span key={tag} className="tag">
              {tag}
            </span>
          ))}
        </p>
      )}
      <h3 className="label">Trail</h3>
      <TrailList lines={trail.data?.lines ?? []} most={6} />
    </div>
  );
}

/** Move what is chosen, or file it in one more folder. */
function PutButtons(props: { onPut: (how: Putting) => void; may: boolean }): ReactNode {
  return (
    <>
      <button type="button" className="button" disabled={!props.may} onClick={() => props.onPut("move")}>
        Move… <kbd>M</kbd>
      </button>
      <button type="button" className="button" disabled={!props.may} onClick={() => props.onPut("also")}>
        Also file… <kbd>A</kbd>
      </button>
    </>
  );
}

function Rename(props: { line: Schemas["LineOut"]; onClose: () => void }): ReactNode {
  const { line } = props;
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const dot = line.name.lastIndexOf(".");
  const stem = dot > 0 ? line.name.slice(0, dot) : line.name;
  const [text, setText] = useState(stem);
  const [problem, setProblem] = useState<string | null>(null);
  const keep = async () => {
    if (text.trim() === stem) {
      props.onClose();
      return;
    }
    try {
      await data(
        client.PATCH("/api/entries/{entry}", {
          params: { path: { entry: line.entry } },
          body: { name: text, parent: null },
        }),
      );
      tell({ text: `Renamed ${line.name}`, action: { label: "Undo", run: undo } });
      props.onClose();
      await queries.invalidateQueries();
    } catch (error) {
      setProblem(words(error));
    }
  };
  return (
    <form
      className="rename"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <label className="label" htmlFor="rename-field">
        New name
      </label>
      <input
        id="rename-field"
        className="text-input mono"
        // biome-ignore lint/a11y/noAutofocus: the person just asked to rename
        autoFocus
        value={text}
        maxLength={250}
        onFocus={(event) => event.target.select()}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => event.key === "Escape" && props.onClose()}
      />
      {problem && (
        <p className="problem small" role="alert">
          {problem}
        </p>
      )}
      <div className="card-actions">
        <button type="submit" className="button primary">
          Rename
        </button>
        <button type="button" className="button" onClick={props.onClose}>
          Leave it
        </button>
      </div>
    </form>
  );
}
