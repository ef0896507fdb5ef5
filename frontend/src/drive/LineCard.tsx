import { Button } from "antd";
import { type ReactNode, useState } from "react";
import { useNavigate } from "react-router";
import type { Schemas } from "../api/client";
import { useCard, useTrail } from "../api/queries";
import { FileButton } from "../bringing/FileButton";
import { usePutVersion } from "../bringing/newVersion";
import { TrailList } from "../document/TrailList";
import { planningOf } from "../manifest/chosen";
import { ReadingNotes } from "../parts/page/ReadingNotes";
import { PlaceList } from "../places/PlaceList";
import { ButtonLink } from "../ui/ButtonLink";
import { count } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import { SAY } from "../ui/wording";
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
          start={stem(line.name)}
          ending={line.name.slice(stem(line.name).length + 1)}
          onClose={() => setRenaming(false)}
        />
      ) : (
        <div className="card-actions">
          <ButtonLink size="small" to={`/documents/${line.document}`}>
            {SAY.open} <kbd>Enter</kbd>
          </ButtonLink>
          <Button size="small" id="rename" disabled={!may} onClick={() => setRenaming(true)}>
            {SAY.rename} <kbd>F2</kbd>
          </Button>
          <PutButtons acts={props.acts} may={may} single />
          <Button size="small" href={`/api/documents/${line.document}/content?download=true`}>
            {SAY.download}
          </Button>
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
          <LinkButton onClick={() => void navigate(`${planningOf(line.folder, false, new Set([line.entry]))}&do=plan`)}>
            Name it by the plan
          </LinkButton>
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
    <FileButton
      name="New version"
      id="act-version"
      type="link"
      size="small"
      disabled={busy}
      onFiles={([file]) => file && bring(file)}
    >
      {busy ? "being sent…" : "New version…"}
    </FileButton>
  );
}

/** What is done with all that is chosen. */
function PutButtons(props: { acts: DriveActs; may: boolean; single?: boolean }): ReactNode {
  const { acts, may } = props;
  return (
    <>
      <Button size="small" id="act-move" disabled={!may} onClick={acts.move}>
        {SAY.move} <kbd>M</kbd>
      </Button>
      <Button size="small" id="act-also" disabled={!may} onClick={acts.also}>
        {SAY.alsoFile} <kbd>A</kbd>
      </Button>
      <Button size="small" id="act-copy" onClick={acts.copy}>
        {SAY.copy} <kbd>C</kbd>
      </Button>
      <Button size="small" id="act-pick" disabled={!may} onClick={acts.pickUp}>
        {SAY.pickUp} <kbd>Ctrl+X</kbd>
      </Button>
      <Button size="small" id="act-tag" disabled={!may} onClick={acts.tag}>
        {SAY.tags} <kbd>T</kbd>
      </Button>
      {props.single && (
        <Button size="small" id="act-next" onClick={acts.next}>
          {SAY.nextInSeries} <kbd>N</kbd>
        </Button>
      )}
      <Button size="small" id="act-discard" disabled={!may} onClick={acts.discard}>
        {SAY.discard}
      </Button>
    </>
  );
}

/** A document's name without its extension. */
function stem(name: string): string {
  const dot = name.lastIndexOf(".");
  return dot > 0 ? name.slice(0, dot) : name;
}
