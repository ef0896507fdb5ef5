import type { ReactNode } from "react";
import { LinkButton } from "../ui/LinkButton";
import styles from "../ui/text.module.css";
import type { Folder, FolderDoing } from "./folderDoing";

/** What is done to the folder itself that one looks at; more of it is in its menu. */
export function FolderActs(props: { folder: Folder; doing: FolderDoing }): ReactNode {
  const { folder, doing } = props;
  return (
    <div className={`folder-acts ${styles.small}`}>
      <span className={styles.quiet}>This folder:</span>{" "}
      <LinkButton onClick={() => doing.begin("rename", folder)}>rename</LinkButton>{" "}
      <LinkButton onClick={() => doing.begin("move", folder)}>move…</LinkButton>{" "}
      {folder.empty && <LinkButton onClick={() => doing.discard(folder)}>remove</LinkButton>}{" "}
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
