import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { count } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";

/** What stands where a folder has no lines: what belongs there, or where to look. */
export function Nothing(props: { folder: Schemas["FolderViewOut"]; onBelow: () => void }): ReactNode {
  const { folder } = props;
  const deeper = folder.folders.length > 0;
  return (
    <div className="empty">
      <h2>{deeper ? "No documents directly here" : "This folder is empty"}</h2>
      <p>
        {deeper ? (
          <LinkButton onClick={props.onBelow}>Show the {count(folder.below)} below it</LinkButton>
        ) : (
          "Documents come here when they are filed from Arrivals, or moved here."
        )}
      </p>
    </div>
  );
}
