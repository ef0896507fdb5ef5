import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { useDropping } from "../places/dragging";
import { count, moment, several } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import styles from "../ui/text.module.css";
import { barsOf } from "./Coverage";

type Figures = Schemas["FolderFigures"];
const BARS = 12;

/** A folder's line: its name, what lies below it, whether the names there fit, when it last changed. */
export function FolderRow(props: {
  folder: Schemas["FolderOut"];
  path: string;
  /** Undefined while they are asked for. */
  figures: Figures | undefined;
}): ReactNode {
  const { folder, figures } = props;
  const { onto } = useDropping();
  return (
    <span className="folder-line" data-folder={folder.id} {...onto(folder.id, props.path)}>
      <span className="folder-name" title={folder.name}>
        <b>{folder.name}</b> <span className={styles.quiet}>/</span>
        {folder.restricted && <span className="restricted">restricted</span>}
        {folder.tags.map((tag) => (
          <span key={tag} className="tag">
            {tag}
          </span>
        ))}
      </span>
      <span className="number">{folder.below ? several(folder.below, "document") : "empty"}</span>
      <span className={`${styles.quiet} number`}>
        {figures ? figures.folders > 0 && several(figures.folders, "folder") : folder.has_folders && "…"}
      </span>
      <Months months={figures?.months ?? []} />
      <span>{figures && <FitTold figures={figures} />}</span>
      <span className={`${styles.quiet} number`}>{folder.changed_at && moment(folder.changed_at)}</span>
    </span>
  );
}

/** What the columns of folders' lines are, for where these stand alone. */
export function FolderHeads(props: { of: string }): ReactNode {
  return (
    <span className="folder-line" aria-hidden>
      <span>{props.of}</span>
      <span className="number">Documents</span>
      <span className="number">Folders</span>
      <span>Lately, a month</span>
      <span>Names</span>
      <span className="number">Changed</span>
    </span>
  );
}

/** The latest months as bars; what they say stands beside them for who asks. */
function Months(props: { months: Schemas["Month"][] }): ReactNode {
  const bars = barsOf(props.months).slice(-BARS);
  if (bars.length < 2) return <span />;
  const most = Math.max(...bars.map((bar) => bar.documents));
  const told = `${bars[0]?.month} to ${bars.at(-1)?.month}: ${bars.map((bar) => bar.documents).join(", ")} a month`;
  return (
    <span className="month-bars" title={told} role="img" aria-label={told}>
      {bars.map((bar) => (
        <span key={bar.month} style={{ height: `${Math.max((bar.documents / most) * 100, 6)}%` }} />
      ))}
    </span>
  );
}

/** How many names fit, in the fewest words. */
export function FitTold(props: { figures: { fit: number | null; of: number | null } }): ReactNode {
  const { fit, of } = props.figures;
  if (fit === null || !of) return null;
  if (fit === of) return <span className="ok">all fit</span>;
  if (fit * 2 < of) return <span className="signal">only {count(fit)} fit</span>;
  return (
    <>
      all but <b className="signal">{count(of - fit)}</b> fit
    </>
  );
}

/** That there are more folders than are shown. */
export function AllFolders(props: { folders: number; shown: number; most: number; onAll: () => void }): ReactNode {
  const { folders, shown, most } = props;
  return (
    // biome-ignore lint/a11y/useSemanticElements: it stands among the rows of a grid
    // biome-ignore lint/a11y/useFocusableInteractive: its button takes the focus
    <div role="row" className="all-folders">
      {/* biome-ignore lint/a11y/useSemanticElements: see above */}
      {/* biome-ignore lint/a11y/useFocusableInteractive: see above */}
      <span role="gridcell">
        {shown < most ? (
          <LinkButton onClick={props.onAll}>
            Show {folders > most ? `the first ${count(most)} of ${count(folders)}` : `all ${count(folders)}`} folders
          </LinkButton>
        ) : (
          <span className={styles.quiet}>and {count(folders - shown)} more: the tree has them all</span>
        )}
      </span>
    </div>
  );
}
