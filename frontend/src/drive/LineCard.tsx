import { type ReactNode, useState } from "react";
import { Link, useNavigate } from "react-router";
import { ActButton, MoreButton, moreAt, SeveralActs } from "../acts/ActButtons";
import { NEW_VERSION } from "../acts/documentMenu";
import { RenameForm } from "../acts/RenameForm";
import { useCard, useTrail } from "../api/queries";
import { FileButton } from "../bringing/FileButton";
import { usePutVersion } from "../bringing/newVersion";
import { TrailList } from "../document/TrailList";
import { planningOf } from "../manifest/chosen";
import { SlotText } from "../parts/names/SlotText";
import { ReadingNotes } from "../parts/page/ReadingNotes";
import { PlaceList } from "../places/PlaceList";
import { ButtonLink } from "../ui/ButtonLink";
import { stemOf } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import type { Act, MenuAt } from "../ui/Menu";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { ChosenSums } from "./ChosenSums";
import type { DriveActs } from "./driveKeys";
import type { Line } from "./items";

type Props = {
  /** Whether several that are chosen may be changed here. */
  may: boolean;
  line: Line | null;
  /** What is chosen: one, or several. */
  entries: number[];
  /** How several chosen things are called. */
  several: string;
  acts: DriveActs;
  /** What else can be done. */
  more: Act[];
  renaming: boolean;
  onRenamed: () => void;
  onMenu: (menu: MenuAt) => void;
  onAll: () => void;
  onInvert: () => void;
  onNone: () => void;
  onPattern: (pattern: string) => Promise<void>;
};

/** The chosen document beside the lines: its first page, what may be done with it, its facts, its trail; or of several their sums. */
export function LineCard(props: Props): ReactNode {
  const { line, acts } = props;
  const card = useCard(line?.document ?? null);
  const trail = useTrail(line?.document ?? null);
  if (!line)
    return (
      <div className="card">
        <h2>{props.several} chosen</h2>
        <div className="card-actions">
          <SeveralActs {...props} />
        </div>
        <ChosenSums {...props} />
      </div>
    );
  const may = card.data?.may_file ?? props.may;
  return (
    <div className="card">
      <h2 className="mono card-name">
        {line.pieces ? <SlotText pieces={line.pieces} strokes={{}} ending={`.${line.type}`} /> : line.name}
      </h2>
      {line.misfit && <Misfit line={line} may={may} />}
      <FirstPage key={line.document} line={line} />
      {props.renaming ? (
        <RenameForm
          label="New name"
          entry={line.entry}
          start={stemOf(line.name)}
          ending={line.name.slice(stemOf(line.name).length + 1)}
          onClose={props.onRenamed}
        />
      ) : (
        <div className="card-actions">
          <ButtonLink size="small" to={`/documents/${line.document}`} title="Enter">
            {SAY.open}
          </ButtonLink>
          {may && <ActButton label={SAY.rename} keys="F2" onClick={acts.rename} />}
          {may && <ActButton label={SAY.move} keys="M" onClick={acts.move} />}
          {may && <ActButton label={SAY.pickUp} keys="Ctrl+X" onClick={acts.pickUp} />}
          <MoreButton onMenu={(left, top) => props.onMenu(moreAt(left, top, props.more))} />
        </div>
      )}
      {card.data?.facts
        .filter((fact) => fact.question)
        .map((fact) => (
          <p key={fact.field} className={`card-misfit ${styles.small}`}>
            <span className="signal">
              {fact.label}: {fact.display}? {fact.question}
            </span>{" "}
            <Link to={`/documents/${line.document}`}>Look at it</Link>
          </p>
        ))}
      <ReadingNotes notes={card.data?.notes ?? []} />
      <dl className="card-facts">
        {(card.data?.facts ?? [])
          .filter((fact) => fact.value !== null)
          .map((fact) => (
            <div key={fact.field}>
              <dt className={styles.quiet}>{fact.label}</dt>
              <dd>{fact.display}</dd>
            </div>
          ))}
        {(card.data?.tags.length ?? 0) > 0 && (
          <div>
            <dt className={styles.quiet}>Tags</dt>
            <dd>
              {card.data?.tags.map((tag) => (
                <span key={tag} className="tag">
                  {tag}
                </span>
              ))}
            </dd>
          </div>
        )}
        {(card.data?.places.length ?? 0) > 1 && (
          <div>
            <dt className={styles.quiet}>Places</dt>
            <dd>
              <PlaceList places={card.data?.places ?? []} may={may} />
            </dd>
          </div>
        )}
        <div>
          <dt className={styles.quiet}>Versions</dt>
          <dd>
            {card.data?.versions.length ?? ""} {may && <NewVersion line={line} />}
          </dd>
        </div>
      </dl>
      <h3 className="label">Trail</h3>
      <TrailList lines={trail.data?.lines ?? []} most={6} />
    </div>
  );
}

/** The document's first page, small; a click opens it. Where there is no picture of it, nothing. */
function FirstPage(props: { line: Line }): ReactNode {
  const { line } = props;
  const [none, setNone] = useState(false);
  if (none) return null;
  return (
    <Link to={`/documents/${line.document}`} className="card-page" tabIndex={-1} aria-hidden>
      <img src={`/api/documents/${line.document}/pages/1`} alt="" onError={() => setNone(true)} />
    </Link>
  );
}

/** That a name does not fit the plan, where not, and the way to the name that the plan has for it. */
function Misfit(props: { line: Line; may: boolean }): ReactNode {
  const { line } = props;
  const navigate = useNavigate();
  return (
    <p className={`card-misfit ${styles.small}`}>
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
function NewVersion(props: { line: Line }): ReactNode {
  const putVersion = usePutVersion();
  const [busy, setBusy] = useState(false);
  const bring = (file: File) => {
    setBusy(true);
    void putVersion(props.line, file).finally(() => setBusy(false));
  };
  return (
    <FileButton
      name="New version"
      id={NEW_VERSION}
      type="link"
      size="small"
      disabled={busy}
      onFiles={([file]) => file && bring(file)}
    >
      {busy ? "being sent…" : "New version…"}
    </FileButton>
  );
}
