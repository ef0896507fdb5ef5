import type { ReactNode } from "react";
import { ActButton, MoreButton } from "../acts/ActButtons";
import type { Schemas } from "../api/client";
import { day, moment, several } from "../ui/format";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { FitTold } from "./FolderRow";
import type { Folder, FolderDoing } from "./folderDoing";

/** A folder beside the lines: the chosen one, or, where nothing is chosen, the one that one looks at. */
export function FolderCard(props: {
  folder: Folder;
  /** Areas are renamed and put in order under Office. */
  area: boolean;
  figures: { folders: number; fit: number | null; of: number | null; months: Schemas["Month"][] | null } | undefined;
  changed: string | null | undefined;
  doing: FolderDoing;
  onOpen?: () => void;
  onPickUp: () => void;
}): ReactNode {
  const { folder, figures, doing } = props;
  const may = folder.mayFile && !props.area;
  const months = figures?.months ?? [];
  return (
    <div className="card">
      <h2>{folder.name} /</h2>
      {!props.onOpen && <p className={`${styles.quiet} ${styles.small}`}>The folder that you look at.</p>}
      <div className="card-actions">
        {props.onOpen && <ActButton label={SAY.open} keys="Enter" onClick={props.onOpen} />}
        {may && <ActButton label={SAY.rename} keys="F2" onClick={() => doing.begin("rename", folder)} />}
        {may && <ActButton label={SAY.move} keys="M" onClick={() => doing.begin("move", folder)} />}
        {may && props.onOpen && <ActButton label={SAY.pickUp} keys="Ctrl+X" onClick={props.onPickUp} />}
        <MoreButton onMenu={(left, top) => doing.menu(folder, left, top)} />
      </div>
      <dl className="card-facts">
        <Fact label="Below it">{folder.below ? several(folder.below, "document") : "no documents"}</Fact>
        {figures && figures.folders > 0 && (
          <Fact label={props.onOpen ? "Folders" : "Folders here"}>{several(figures.folders, "folder")}</Fact>
        )}
        {figures && (figures.of ?? 0) > 0 && (
          <Fact label="Names">
            <FitTold figures={figures} />
          </Fact>
        )}
        {months.length > 0 && (
          <Fact label="Issued">
            {[...new Set([months[0]?.month, months.at(-1)?.month])]
              .map((one) => day(`${one}-01`).slice(2))
              .join(" to ")}
          </Fact>
        )}
        {props.changed && <Fact label="Changed">{moment(props.changed)}</Fact>}
        {folder.tags.length > 0 && (
          <Fact label="Tags">
            {folder.tags.map((tag) => (
              <span key={tag} className="tag">
                {tag}
              </span>
            ))}
          </Fact>
        )}
      </dl>
    </div>
  );
}

function Fact(props: { label: string; children: ReactNode }): ReactNode {
  return (
    <div>
      <dt className={styles.quiet}>{props.label}</dt>
      <dd>{props.children}</dd>
    </div>
  );
}
