import type { ReactNode } from "react";
import type { Schemas } from "../api/client";

/** Who will see what is put somewhere besides those who do, and who no longer: one sentence or two, or nothing. */
export function SightTold(props: { sight: Schemas["SightOut"] | null }): ReactNode {
  const { gain, lose } = props.sight ?? { gain: [], lose: [] };
  return (
    <>
      {gain.length > 0 && (
        <>
          <b>{gain.join(", ")}</b> will also see it.
        </>
      )}
      {gain.length > 0 && lose.length > 0 && " "}
      {lose.length > 0 && (
        <>
          <b>{lose.join(", ")}</b> will no longer see it.
        </>
      )}
    </>
  );
}

/** Whether there is anything to tell. */
export function changesSight(sight: Schemas["SightOut"] | null): boolean {
  return sight !== null && sight.gain.length + sight.lose.length > 0;
}
