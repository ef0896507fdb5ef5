import { useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { ReadingNotes } from "../parts/page/ReadingNotes";
import { LinkButton } from "../ui/LinkButton";
import { words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import styles from "../ui/text.module.css";
import type { Edit } from "./edits";
import { likeBefore } from "./sameAsBefore";

type Slip = Schemas["SlipOut"];
type Props = {
  slip: Slip;
  held: boolean;
  onEdit: Edit;
  onVersion: (document: number) => void;
  onArrange: () => void;
};

/** What there is to say and to offer about an arrival besides its facts: where it came from, what it may be, where it may go. */
export function Offers(props: Props): ReactNode {
  const { slip, held } = props;
  const like = likeBefore(slip);
  return (
    <>
      {slip.mail && <div className="note">Came with the mail “{slip.mail}”.</div>}
      {slip.parked && (
        <div className="note">
          Put off until {slip.parked.until}
          {slip.parked.note && `: ${slip.parked.note}`}
        </div>
      )}
      <ReadingNotes notes={slip.notes} />
      {slip.made_from.length > 0 && (
        <div className="note">
          Made of{" "}
          {slip.made_from.map((from, n) => (
            <span key={from.arrival}>
              {n > 0 && ", "}
              {from.pages.includes("-") || from.pages.includes(",") ? "pages" : "page"} {from.pages} of{" "}
              <a href={`/api/documents/${from.arrival}/content`} target="_blank" rel="noreferrer">
                {from.name}
              </a>
            </span>
          ))}
          .
        </div>
      )}
      {slip.stack > 1 && (
        <div className="ask">
          <b>{slip.stack} documents seem to be in it.</b>{" "}
          <LinkButton disabled={held} onClick={props.onArrange}>
            Split it
          </LinkButton>{" "}
          <kbd>F9</kbd>{" "}
          <LinkButton disabled={held} onClick={() => void props.onEdit({ whole: true })}>
            It is one
          </LinkButton>
        </div>
      )}
      {slip.locked && <Unlock slip={slip} />}
      {slip.versions.map((version) => (
        <div className="ask" key={version.document}>
          It may be a new version of <Link to={`/documents/${version.document}`}>{version.name}</Link> in {version.path}
          .{" "}
          <LinkButton disabled={held} onClick={() => props.onVersion(version.document)}>
            Make it a new version
          </LinkButton>
        </div>
      ))}
      {slip.brought && !slip.composed.edited && (
        <div className="note">
          It was brought in for a folder.{" "}
          <LinkButton disabled={held} onClick={() => void props.onEdit({ name: slip.original_name })}>
            Keep its own name
          </LinkButton>
        </div>
      )}
      {like && (
        <div className="note">
          <LinkButton id="same-as-before" onClick={() => void props.onEdit(like)}>
            Same as the one before
          </LinkButton>{" "}
          <kbd>F7</kbd>
        </div>
      )}
    </>
  );
}

/** Other places, one click each: the folder that it was brought in for, and those that documents like it went to. */
export function LikePlaces(props: { slip: Slip; onEdit: Edit }): ReactNode {
  const { places } = props.slip;
  const told: [string, typeof places][] = [
    ["It was brought in for", places.filter((place) => !place.count)],
    ["Others like it went to", places.filter((place) => place.count)],
  ];
  return told.map(
    ([words, some]) =>
      some.length > 0 && (
        <div key={words} className={`${styles.small} like-places`}>
          <span className={styles.quiet}>{words}</span>
          {some.map((place) => (
            <LinkButton
              key={place.path}
              title={place.count ? `${place.count} of the latest of this party and kind are there` : undefined}
              onClick={() => void props.onEdit({ area: place.area, place: place.place })}
            >
              {place.path} {place.count ? `(${place.count})` : ""}
            </LinkButton>
          ))}
        </div>
      ),
  );
}

function Unlock(props: { slip: Slip }): ReactNode {
  const [password, setPassword] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const queries = useQueryClient();
  const open = async () => {
    setBusy(true);
    setProblem(null);
    try {
      await data(
        client.POST("/api/arrivals/{arrival}/unlock", {
          params: { path: { arrival: props.slip.id } },
          body: { password },
        }),
      );
      await queries.invalidateQueries({ queryKey: keys.slip(props.slip.id) });
      await queries.invalidateQueries({ queryKey: keys.waiting });
    } catch (error) {
      setProblem(words(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <form
      className="ask unlock"
      onSubmit={(event) => {
        event.preventDefault();
        void open();
      }}
    >
      <label>
        Its password (used once, never stored)
        <Input
          type="password"
          autoComplete="off"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
      </label>
      <Button htmlType="submit" size="small" disabled={busy || password === ""}>
        {busy ? "Reading…" : "Open it"}
      </Button>
      {problem && <Problem small>{problem}</Problem>}
    </form>
  );
}
