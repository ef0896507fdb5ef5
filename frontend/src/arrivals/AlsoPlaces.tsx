import { type ReactNode, useState } from "react";
import type { Schemas } from "../api/client";
import { FolderChooser } from "../places/FolderChooser";
import { LinkButton } from "../ui/LinkButton";
import styles from "../ui/text.module.css";
import type { Edit } from "./edits";

type Props = { slip: Schemas["SlipOut"]; onEdit: Edit };

/** Further folders that it shall be filed in, under the same name. */
export function AlsoPlaces(props: Props): ReactNode {
  const { slip } = props;
  const [choosing, setChoosing] = useState(false);
  const folders = slip.also.map((place) => place.folder);
  return (
    <div className="also-line">
      {slip.also.length > 0 && <span className={styles.quiet}>Also in</span>}
      {slip.also.map((place) => (
        <span key={place.folder}>
          {place.path}{" "}
          <LinkButton
            aria-label={`Not in ${place.path}`}
            onClick={() => void props.onEdit({ also: folders.filter((folder) => folder !== place.folder) })}
          >
            ×
          </LinkButton>
        </span>
      ))}
      <LinkButton id="also-place" onClick={() => setChoosing(true)}>
        {slip.also.length ? "File in another folder too…" : "File in another folder too…"}
      </LinkButton>
      {choosing && (
        <FolderChooser
          title={`A second place for ${slip.original_name}`}
          verb="Also file in"
          entries={[]}
          stays
          near={slip.area?.id ?? null}
          onChoose={async (folder) => {
            const kept = await props.onEdit({ also: [...folders, folder] });
            if (kept) setChoosing(false);
            return kept ? null : "It was not saved; the slip says why.";
          }}
          onClose={() => setChoosing(false)}
        />
      )}
    </div>
  );
}
