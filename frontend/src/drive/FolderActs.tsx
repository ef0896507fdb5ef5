import type { ReactNode } from "react";
import type { Folder, FolderDoing } from "./folderDoing";

/** What is done to the folder itself that one looks at; more of it is in its menu. */
export function FolderActs(props: { folder: Folder; doing: FolderDoing }): ReactNode {
  const { folder, doing } = props;
  return (
    <div className="folder-acts small">
      <span className="quiet">This folder:</span>{" "}
      <button type="button" className="link" onClick={() => doing.begin("rename", folder)}>
        rename
      </button>{" "}
      <button type="button" className="link" onClick={() => doing.begin("move", folder)}>
        move…
      </button>{" "}
      {folder.empty && (
        <button type="button" className="link" onClick={() => doing.discard(folder)}>
          remove
        </button>
      )}{" "}
      <button
        type="button"
        className="link"
        aria-haspopup="menu"
        onClick={(event) => {
          const at = event.currentTarget.getBoundingClientRect();
          doing.menu(folder, at.left, at.bottom + 4);
        }}
      >
        more…
      </button>
    </div>
  );
}
