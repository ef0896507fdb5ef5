import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { dragging, useDropping } from "../places/dragging";
import { count, moment } from "../ui/format";
import styles from "../ui/text.module.css";
import { type FolderDoing, folderOf } from "./folderDoing";
import { wayTo } from "./useLines";

/** The folders in the folder that one looks at: opened, dragged, dropped on. */
export function SubFolders(props: { folder: Schemas["FolderViewOut"]; pages: boolean; doing: FolderDoing }): ReactNode {
  const { folder, doing } = props;
  const { onto } = useDropping();
  const above = folder.path.map((step) => step.name).join(" / ");
  return (
    <ul className="subfolders" aria-label="Folders here">
      {folder.folders.map((sub) => {
        const held = folderOf(sub);
        return (
          <li
            key={sub.id}
            {...onto(sub.id, `${above} / ${sub.name}`)}
            {...dragging(() => held && { entries: [held.entry], name: `the folder ${sub.name}`, folder: sub.id })}
            onContextMenu={(event) => {
              if (!held) return;
              event.preventDefault();
              doing.menu(held, event.clientX, event.clientY);
            }}
          >
            <Link
              to={wayTo(sub.id, false, props.pages)}
              draggable={false}
              onKeyDown={(event) => {
                if (!held || !(event.key === "ContextMenu" || (event.shiftKey && event.key === "F10"))) return;
                event.preventDefault();
                const at = event.currentTarget.getBoundingClientRect();
                doing.menu(held, at.left, at.bottom);
              }}
            >
              {sub.name}
            </Link>{" "}
            <span className={styles.quiet}>
              {sub.below ? count(sub.below) : "empty"}
              {sub.below > 0 && sub.changed_at && (
                <span className={styles.small} title={`Last changed ${moment(sub.changed_at)}`}>
                  {" "}
                  · {moment(sub.changed_at)}
                </span>
              )}
            </span>
            {sub.tags.map((tag) => (
              <span key={tag} className="tag">
                {tag}
              </span>
            ))}
          </li>
        );
      })}
    </ul>
  );
}
