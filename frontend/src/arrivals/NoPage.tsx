import type { ReactNode } from "react";
import type { Schemas } from "../api/client";

/** What stands where a page would, of an arrival that has none. */
export function NoPage(props: { slip: Schemas["SlipOut"] }): ReactNode {
  const { slip } = props;
  return (
    <div className="well-empty">
      <div>
        <p>
          <b>{slip.state === "reading" ? "It is being read." : "It cannot be shown here."}</b>
        </p>
        {slip.problem && <p>{slip.problem}</p>}
        <p>
          <a href={`/api/documents/${slip.id}/content?download=true`}>Download {slip.original_name}</a>
        </p>
      </div>
    </div>
  );
}
