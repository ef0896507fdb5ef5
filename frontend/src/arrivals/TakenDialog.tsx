import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { useModal } from "../parts/useModal";

type Props = { slip: Schemas["SlipOut"]; onChoose: (how: "both" | "version") => void; onClose: () => void };

/** The name is taken: keep both, make it a new version, or stop. Nothing was changed yet. */
export function TakenDialog(props: Props): ReactNode {
  const dialog = useModal();
  const { slip } = props;
  const name = `${slip.composed.text}.${slip.composed.extension}`;
  const document = slip.taken?.document ?? null;
  return (
    <dialog ref={dialog} className="help" onClose={props.onClose} aria-labelledby="taken-title">
      <h2 id="taken-title">The name is taken</h2>
      <p>
        <span className="mono">{name}</span> stands already in{" "}
        {[slip.area?.name, ...slip.steps.map((s) => s.name)].join(" / ")}. Nothing was changed.
      </p>
      {document !== null && (
        <p className="small">
          <Link to={`/documents/${document}`} target="_blank">
            Look at the one that is there
          </Link>
        </p>
      )}
      <footer className="choices">
        <button type="button" className="button primary" onClick={() => props.onChoose("both")}>
          Keep both
        </button>
        <button type="button" className="button" disabled={document === null} onClick={() => props.onChoose("version")}>
          Make it a new version
        </button>
        <button type="button" className="button" onClick={props.onClose}>
          Stop
        </button>
      </footer>
    </dialog>
  );
}
