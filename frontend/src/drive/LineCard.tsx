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
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { ChosenSums } from "./ChosenSums";
import type { DriveActs } from "./driveKeys";
import { RenameForm } from "./RenameForm";

type Props = {
  /** Whether several that are chosen may be changed here. */
  may: boolean;
  /** Whether access to them may be given. */
  keeps: boolean;
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
          <PutButtons acts={props.acts} may={props.may} keeps={props.keeps} />
        </div>
        <ChosenSums {...props} />
      </div>
    ) : (
      <p className={`${styles.quiet} card-none`}>Choose a document to see its facts and its trail.</p>
    );
  const may = card.data?.may_file ?? props.may;
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
          {may && (
            <Button size="small" id="rename" onClick={() => setRenaming(true)}>
              {SAY.rename} <kbd>F2</kbd>
            </Button>
          )}
          <PutButtons acts={props.acts} may={may} keeps={card.data?.keeps ?? props.keeps} single />
          <Button size="small" href={`/api/documents/${line.document}/content?download=true`}>
            {SAY.download}
          </Button>
        </div>
      )}
      <ReadingNotes notes={card.data?.notes ?? []} />
      <dl className="card-facts">
        {(card.data?.facts ?? []).map((fact) => (
          <div key={fact.field}>
            <dt className={styles.quiet}>{fact.label}</dt>
            <dd>{fact.display}</dd>
          </div>
        ))}
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
function PutButtons(props: { acts: DriveActs; may: boolean; keeps: boolean; single?: boolean }): ReactNode {
  const { acts, may, keeps, single } = props;
  const all: [id: string, label: string, key: string | null, run: () => void, offered: boolean][] = [
    ["move", SAY.move, "M", acts.move, may],
    ["also", SAY.alsoFile, "A", acts.also, may],
    ["copy", SAY.copy, "C", acts.copy, true],
    ["pick", SAY.pickUp, "Ctrl+X", acts.pickUp, may],
    ["tag", SAY.tags, "T", acts.tag, may],
    ["next", SAY.nextInSeries, "N", acts.next, may && single === true],
    ["give", SAY.give, "G", acts.give, keeps],
    ["readers", SAY.whoReads, "W", acts.readers, single === true],
    ["link", SAY.copyLink, "L", acts.link, single === true],
    ["rules", SAY.askRules, null, acts.ask, may],
    ["discard", SAY.discard, null, acts.discard, may],
  ];
  return all.map(
    ([id, label, key, run, offered]) =>
      offered && (
        <Button size="small" key={id} id={`act-${id}`} onClick={run}>
          {label} {key && <kbd>{key}</kbd>}
        </Button>
      ),
  );
}

/** A document's name without its extension. */
function stem(name: string): string {
  const dot = name.lastIndexOf(".");
  return dot > 0 ? name.slice(0, dot) : name;
}
