import { Breadcrumb, Button } from "antd";
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
import { BringIn } from "./BringIn";
import { Coverage } from "./Coverage";
import { FitsTold } from "./Fits";
import type { Folder, FolderDoing } from "./folderDoing";
import { Hints } from "./Hints";
import { LookMenu } from "./LookMenu";
import { GROUPS, type GroupBy, wayTo } from "./useLines";

type Props = {
  folder: Schemas["FolderViewOut"];
  self: Folder | null;
  doing: FolderDoing;
  /** The documents shown, by month. */
  months: Schemas["Month"][];
  below: boolean;
  pages: boolean;
  by: GroupBy | null;
  group: string | null;
  columns: string[];
  chosen: number;
  onSet: (changes: Record<string, string | null>) => void;
  onColumns: (columns: string[]) => void;
  onNewFolder: () => void;
  onMany: () => void;
  children: ReactNode;
};

/** What stands above a folder's lines: where one is and what to do there; how many names fit, what is shown and how. */
export function FolderHead(props: Props): ReactNode {
  const { folder, below, onSet, by } = props;
  const [patterns, setPatterns] = useState(false);
  return (
    <div className="folder-head">
      <div className="head-row">
        <Path {...props} />
        {folder.restricted && <span className="restricted">restricted</span>}
        {folder.tags.map((tag) => (
          <Link key={tag} to={`/find?tag=${encodeURIComponent(tag)}`} className="tag">
            {tag}
          </Link>
        ))}
        <Choice
          small
          label="Which documents"
          of={[
            [false, `here ${count(folder.here)}`],
            [true, `with all below ${count(folder.below)}`],
          ]}
          value={below}
          onChange={(value) => onSet({ below: String(value) })}
        />
        {folder.may_file && (
          <div className="head-acts">
            <Button size="small" title="Alt+N" onClick={props.onNewFolder}>
              {SAY.newFolder}
            </Button>
            <BringIn folder={folder.id} />
            <Button size="small" title="Alt+M" onClick={props.onMany}>
              {props.chosen ? `Rename or move ${count(props.chosen)} chosen` : SAY.renameMany}
            </Button>
          </div>
        )}
      </div>
      <div className={`head-row ${styles.small}`}>
        <FitsTold fits={folder.fits} open={patterns} onOpen={setPatterns} />
        {folder.changed_at && (
          <span
            className={`${styles.quiet} nowrap`}
            title={`${moment(folder.changed_at)}, ${clock(folder.changed_at)}`}
          >
            last changed {moment(folder.changed_at)}
          </span>
        )}
        <span className="head-view">
          <span className="nowrap">
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
          <Choice
            small
            label="View"
            of={[
              [false, "lines"],
              [true, "pages"],
            ]}
            value={props.pages}
            onChange={(pages) => onSet({ view: pages ? "pages" : null })}
          />
          <LookMenu folder={folder} columns={props.pages ? null : props.columns} onColumns={props.onColumns} />
        </span>
      </div>
      {props.children}
      <Hints folder={folder} />
      <Coverage
        months={props.months}
        chosen={by === "month" ? props.group : null}
        of={by && by !== "month" && props.group !== null ? by : null}
        onMonth={(month) => onSet(month === null ? { by: null, group: null } : { by: "month", group: month })}
      />
    </div>
  );
}

/** The way to the folder; its own step opens its menu. */
function Path(props: Props): ReactNode {
  const { folder, self, doing, below, pages } = props;
  const { path } = folder;
  const { onto } = useDropping();
  return (
    <Breadcrumb
      className="path"
      aria-label="Path"
      separator=" / "
      items={path.map((step, index) => ({
        key: step.id,
        title: (
          // biome-ignore lint/a11y/noStaticElementInteractions: its link takes the keys; the menu is the tree's, too
          <span
            {...onto(step.id, stepsTo(path, index))}
            onContextMenu={(event) => {
              event.preventDefault();
              doing.menuOf(step.id, event.clientX, event.clientY);
            }}
          >
            {index < path.length - 1 ? (
              <Link to={wayTo(step.id, below, pages)} draggable={false}>
                {step.name}
              </Link>
            ) : self ? (
              <LinkButton
                className="path-own"
                aria-current="page"
                aria-haspopup="menu"
                title="What can be done with this folder"
                onClick={(event) => {
                  const at = event.currentTarget.getBoundingClientRect();
                  doing.menu(self, at.left, at.bottom + 4);
                }}
              >
                {step.name}
              </LinkButton>
            ) : (
              <b aria-current="page">{step.name}</b>
            )}
          </span>
        ),
      }))}
    />
  );
}

function stepsTo(path: Schemas["AreaOut"][], index: number): string {
  return path
    .slice(0, index + 1)
    .map((step) => step.name)
    .join(" / ");
}
