import { Breadcrumb, Checkbox } from "antd";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { useDropping } from "../places/dragging";
import { Choice } from "../ui/Choice";
import { clock, count, moment } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import { PickOne } from "../ui/PickOne";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { Coverage } from "./Coverage";
import { COLUMNS } from "./columns";
import { Fits } from "./Fits";
import { Hints } from "./Hints";
import { GROUPS, type GroupBy, wayTo } from "./useLines";

type Props = {
  folder: Schemas["FolderViewOut"];
  below: boolean;
  pages: boolean;
  by: GroupBy | null;
  columns: string[];
  chosen: number;
  planning: string;
  onSet: (changes: Record<string, string | null>) => void;
  onColumns: (columns: string[]) => void;
  onNewFolder: () => void;
  onMany: () => void;
  children: ReactNode;
};

/** What stands above a folder's lines: where one is, how many names fit, what is shown and how. */
export function FolderHead(props: Props): ReactNode {
  const { folder, below, onSet } = props;
  const { path } = folder;
  const { onto } = useDropping();
  return (
    <div className="folder-head">
      <div className="path-row">
        <Breadcrumb
          className="path"
          aria-label="Path"
          separator=" / "
          items={path.map((step, index) => ({
            key: step.id,
            title: (
              <span {...onto(step.id, stepsTo(path, index))}>
                {index === path.length - 1 ? (
                  <b aria-current="page">{step.name}</b>
                ) : (
                  <Link to={wayTo(step.id, below, props.pages)} draggable={false}>
                    {step.name}
                  </Link>
                )}
              </span>
            ),
          }))}
        />
        {folder.restricted && <span className="restricted">restricted</span>}
        {folder.tags.map((tag) => (
          <Link key={tag} to={`/find?tag=${encodeURIComponent(tag)}`} className="tag">
            {tag}
          </Link>
        ))}
        {folder.changed_at && (
          <span
            className={`${styles.quiet} ${styles.small} nowrap`}
            title={`${moment(folder.changed_at)}, ${clock(folder.changed_at)}`}
          >
            last changed {moment(folder.changed_at)}
          </span>
        )}
        <div className="switches">
          <Choice
            label="Which documents"
            of={[
              [false, `here ${count(folder.here)}`],
              [true, `with all below ${count(folder.below)}`],
            ]}
            value={below}
            onChange={(value) => onSet({ below: String(value) })}
          />
          {folder.may_file && (
            <>
              <LinkButton onClick={props.onNewFolder}>{SAY.newFolder}</LinkButton>
              <Link
                to={props.planning}
                onClick={(event) => {
                  // what is chosen is kept when the link is followed
                  if (!props.chosen) return;
                  event.preventDefault();
                  props.onMany();
                }}
              >
                {props.chosen ? `Rename or move ${count(props.chosen)} chosen` : SAY.renameMany}
              </Link>
            </>
          )}
        </div>
      </div>
      <Fits fits={folder.fits} />
      {props.children}
      <Hints folder={folder} />
      <Coverage months={folder.months} />
      <Shown {...props} />
    </div>
  );
}

function stepsTo(path: Schemas["AreaOut"][], index: number): string {
  return path
    .slice(0, index + 1)
    .map((step) => step.name)
    .join(" / ");
}

/** How the documents are shown: as lines or pages, in groups, with which columns. */
function Shown(props: Props): ReactNode {
  const { by, columns, onSet } = props;
  const [choosing, setChoosing] = useState(false);
  return (
    <div className={`shown ${styles.small}`}>
      <Choice
        label="View"
        of={[
          [false, "lines"],
          [true, "pages"],
        ]}
        value={props.pages}
        onChange={(pages) => onSet({ view: pages ? "pages" : null })}
      />
      <span>
        <span className={styles.quiet}>in groups by </span>
        <PickOne
          size="small"
          aria-label="in groups by"
          none="none"
          of={GROUPS.map((one) => [one, one] as const)}
          value={by}
          onChange={(one) => onSet({ by: one, group: null })}
          onNone={() => onSet({ by: null, group: null })}
        />
      </span>
      {!props.pages && (
        <LinkButton aria-expanded={choosing} onClick={() => setChoosing(!choosing)}>
          columns
        </LinkButton>
      )}
      <Link to={`/find?in=${props.folder.id}`}>find in this folder</Link>
      <span className={`${styles.quiet} nowrap`}>
        <Link to={`/find?in=${props.folder.id}&names=empty`}>{SAY.meaningless}</Link> ·{" "}
        <Link to={`/find?in=${props.folder.id}&names=shared`}>{SAY.repeated}</Link>
      </span>
      {choosing && !props.pages && (
        <fieldset className="columns">
          <legend className={styles.hidden}>Columns</legend>
          {COLUMNS.map((one) => (
            <Checkbox
              key={one.key}
              checked={columns.includes(one.key)}
              onChange={(event) =>
                props.onColumns(
                  COLUMNS.map((c) => c.key).filter((key) =>
                    key === one.key ? event.target.checked : columns.includes(key),
                  ),
                )
              }
            >
              {one.label}
            </Checkbox>
          ))}
        </fieldset>
      )}
    </div>
  );
}
