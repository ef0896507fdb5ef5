import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { count, size } from "../ui/format";
import { Share } from "../ui/Share";

/** How far the planning, the run or the undo of a manifest is. */
export function Progress(props: { manifest: Schemas["ManifestOut"] }): ReactNode {
  const { manifest } = props;
  if (manifest.state === "planned")
    return <p role="status">Every name and place is being worked out; it goes on when this page is closed.</p>;
  if (manifest.state === "undoing")
    return (
      <p role="status">
        Its {count(manifest.lines)} lines are being undone in one step
        {manifest.phase ? `: ${manifest.phase}` : ""}…
      </p>
    );
  if (!manifest.partial)
    return (
      <p role="status">
        {manifest.state === "queued"
          ? "It waits for the worker."
          : `All its ${count(manifest.lines)} lines${manifest.bytes === null ? "" : ` (${size(manifest.bytes)})`} in one step${manifest.phase ? `: ${manifest.phase}` : ""}…`}
      </p>
    );
  return (
    <div role="status" className="share">
      <Share done={manifest.progress} of={manifest.lines} label="Lines done" width={160} /> {count(manifest.progress)}{" "}
      of {count(manifest.lines)} lines
      {manifest.bytes === null ? "" : `, ${size(manifest.progress_bytes)} of ${size(manifest.bytes)}`}
    </div>
  );
}
