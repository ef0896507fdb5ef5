import { type ReactNode, useState } from "react";
import { Link, useNavigate } from "react-router";
import type { Schemas } from "../api/client";
import { useCard, useTrail } from "../api/queries";
import { FileButton } from "../bringing/FileButton";
import { usePutVersion } from "../bringing/newVersion";
import { TrailList } from "../document/TrailList";
import { planningOf } from "../manifest/chosen";
import { count } from "../parts/format";
import { ReadingNotes } from "../parts/ReadingNotes";
import { PlaceList } from "../places/PlaceList";
import { ChosenSums } from "./ChosenSums";
import type { DriveActs } from "./driveKeys";
import { RenameForm } from "./RenameForm";

type Props = {
  line: Schemas["LineOut"] | null;
  /** What is chosen: one, or several. */
  entries: number[];
  acts: DriveActs;
  onAll: () => void;
  onInvert: () => void;
  onNone: () => void;
  onPattern: (pattern: string) => Promise<void>;
};

/** The chosen document beside the lines: what may be done with it, its facts, its trail. */
export function LineCard(props: Props): ReactNode {
  const { line } = props;
  const card = useCard(line?.document ?? null);
  const trail = useTrail(line?.document ?? null);
  const [renaming, setRenaming] = useState(false);
  if (props.entries.length > 1 || !line)
    return props.entries.length ? (
      <div className="card">
        <h2>{count(props.entries.length)} chosen</h2>
        <div className="card-actions">
          <PutButtons acts={props.acts} may />
        </div>
        <ChosenSums {...props} />
      </div>
    ) : (
      <p className="quiet card-none">Choose a document to see its facts and its trail.</p>
    );
  // until it is known, the server says so
  const may = card.data?.may_file ?? true;
  return (
    <div className="card">
      <h2 className="mono card-name">{line.name}</h2>
      {line.misfit && <Misfit line={line} may={may} />}
      {renaming ? (
        <RenameForm
          label="New name"
          entry={line.entry}
          called={line.name}
          start={stem(line.name)}
          onClose={() => setRenaming(false)}
        />
      ) : (
        <div className="card-actions">
          <Link className="button" to={`/documents/${line.document}`}>
            Open <kbd>Enter</kbd>
          </Link>
          <button type="button" id="rename" className="button" disabled={!may} onClick={() => setRenaming(true)}>
            Rename <kbd>F2</kbd>
          </button>
          <PutButtons acts={props.acts} may={may} single />
          <a className="button" href={`/api/documents/${line.document}/content?download=true`}>
            Download
          </a>
        </div>
      )}
      <ReadingNotes notes={card.data?.notes ?? []} />
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
          <dd>
            {card.data?.versions.length ?? ""} {may && <NewVersion line={line} />}
          </dd>
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

/** That a name does not fit the plan, where not, and the way to the name that the plan has for it. */
function Misfit(props: { line: Schemas["LineOut"]; may: boolean }): ReactNode {
  const { line } = props;
  const navigate = useNavigate();
  return (
    <p className="card-misfit small">
      <span className="signal">Its name does not fit the plan: {line.misfit}.</span>
      {props.may && (
        <>
          {" "}
          <button
            type="button"
            className="link"
            onClick={() => void navigate(`${planningOf(line.folder, false, new Set([line.entry]))}&do=plan`)}
          >
            Name it by the plan
          </button>
        </>
      )}
    </p>
  );
}

/** Another content put on the document, chosen from the disk. */
function NewVersion(props: { line: Schemas["LineOut"] }): ReactNode {
  const putVersion = usePutVersion();
  const [busy, setBusy] = useState(false);
  const bring = (file: File) => {
    setBusy(true);
    void putVersion(props.line, file).finally(() => setBusy(false));
  };
  return (
    <FileButton name="New version" id="act-version" className="link small" disabled={busy} onFile={bring}>
      {busy ? "being sent…" : "New version…"}
    </FileButton>
  );
}

/** What is done with all that is chosen. */
function PutButtons(props: { acts: DriveActs; may: boolean; single?: boolean }): ReactNode {
  const { acts, may } = props;
  return (
    <>
      <button type="button" id="act-move" className="button" disabled={!may} onClick={acts.move}>
        Move… <kbd>M</kbd>
      </button>
      <button type="button" id="act-also" className="button" disabled={!may} onClick={acts.also}>
        Also file… <kbd>A</kbd>
      </button>
      <button type="button" id="act-copy" className="button" onClick={acts.copy}>
        Copy… <kbd>C</kbd>
      </button>
      <button type="button" id="act-pick" className="button" disabled={!may} onClick={acts.pickUp}>
        Pick up <kbd>Ctrl+X</kbd>
      </button>
      <button type="button" id="act-tag" className="button" disabled={!may} onClick={acts.tag}>
        Tags… <kbd>T</kbd>
      </button>
      {props.single && (
        <button type="button" id="act-next" className="button" onClick={acts.next}>
          Next one… <kbd>N</kbd>
        </button>
      )}
      <button type="button" id="act-discard" className="button" disabled={!may} onClick={acts.discard}>
        Discard
      </button>
    </>
  );
}

/** A document's name without its extension. */
function stem(name: string): string {
  const dot = name.lastIndexOf(".");
  return dot > 0 ? name.slice(0, dot) : name;
}
