import type { ReactNode } from "react";
import { Link } from "react-router";
import { LinkButton } from "../ui/LinkButton";
import styles from "../ui/text.module.css";
import type { Folder, FolderDoing } from "./folderDoing";

/** What is done to the folder itself that one looks at; more of it is in its menu. */
export function FolderActs(props: { folder: Folder; area: boolean; doing: FolderDoing }): ReactNode {
  const { folder, doing } = props;
  // areas are renamed and put in order under Office
  const may = folder.mayFile && !props.area;
  return (
    <div className={`folder-acts ${styles.small}`}>
      <span className={styles.quiet}>This folder:</span>{" "}
      {may && <LinkButton onClick={() => doing.begin("rename", folder)}>rename</LinkButton>}{" "}
      {may && <LinkButton onClick={() => doing.begin("move", folder)}>move…</LinkButton>}{" "}
      <Link to={`/readers/folder/${folder.id}`}>who reads this</Link>{" "}
      {may && folder.empty && <LinkButton onClick={() => doing.discard(folder)}>remove</LinkButton>}{" "}
      <LinkButton
        aria-haspopup="menu"
        onClick={(event) => {
          const at = event.currentTarget.getBoundingClientRect();
          doing.menu(folder, at.left, at.bottom + 4);
        }}
      >
        more…
      </LinkButton>
    </div>
  );
}
