import { Button } from "antd";
import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { Dialog } from "../ui/Dialog";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

type Props = { slip: Schemas["SlipOut"]; onChoose: (how: "both" | "version") => void; onClose: () => void };

/** The name is taken: keep both, make it a new version, or stop. Nothing was changed yet. */
export function TakenDialog(props: Props): ReactNode {
  const { slip } = props;
  const name = `${slip.composed.text}.${slip.composed.extension}`;
  const document = slip.taken?.document ?? null;
  return (
    <Dialog title="The name is taken" onClose={props.onClose}>
      <p>
        <span className="mono">{name}</span> is already in{" "}
        {[slip.area?.name, ...slip.steps.map((s) => s.name)].join(" / ")}. Nothing was changed.
      </p>
      {document !== null && (
        <p className={styles.small}>
          <Link to={`/documents/${document}`} target="_blank">
            Look at the one that is there
          </Link>
        </p>
      )}
      <footer className="choices">
        <Button type="primary" onClick={() => props.onChoose("both")}>
          Keep both
        </Button>
        <Button disabled={document === null} onClick={() => props.onChoose("version")}>
          Make it a new version
        </Button>
        <Button onClick={props.onClose}>{SAY.cancel}</Button>
      </footer>
    </Dialog>
  );
}
