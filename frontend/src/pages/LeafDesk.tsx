import { Button } from "antd";
import { type ReactNode, useState } from "react";
import { pictureOf } from "../parts/page/PageView";
import styles from "../ui/text.module.css";
import type { Corners, Leaf } from "./arrangement";
import { CornerEditor } from "./CornerEditor";

type Props = {
  leaf: Leaf;
  name: string;
  first: boolean;
  last: boolean;
  onCut: () => void;
  onTurn: (by: 90 | -90) => void;
  onOut: () => void;
  onMove: (by: -1 | 1) => void;
  onCorners: (corners: Corners | null) => void;
};

const WHOLE: Corners = [
  [0, 0],
  [1, 0],
  [1, 1],
  [0, 1],
];

/** The chosen page, large, with what can be done to it. */
export function LeafDesk(props: Props): ReactNode {
  const { leaf } = props;
  const [cutting, setCutting] = useState(false);
  const corners = leaf.corners ?? leaf.sheet ?? WHOLE;
  return (
    <div className="leaf-desk">
      <div className="leaf-large">
        {cutting && leaf.photo ? (
          <CornerEditor arrival={leaf.arrival} page={leaf.page} corners={corners} onChange={props.onCorners} />
        ) : (
          <img
            src={pictureOf(leaf.arrival, leaf.page)}
            alt={`Page ${leaf.page} of ${props.name}`}
            className={leaf.turn % 180 ? "lain" : ""}
            style={{ transform: `rotate(${leaf.turn}deg)` }}
          />
        )}
      </div>
      <p className={`${styles.small} ${styles.quiet}`}>
        Page {leaf.page} of {props.name}
        {leaf.corners && " · cut by hand"}
      </p>
      <div className="leaf-buttons">
        <Button size="small" disabled={props.first} onClick={props.onCut} aria-pressed={leaf.begins}>
          {leaf.begins && !props.first ? "Remove the cut" : "Cut before it"} <kbd>C</kbd>
        </Button>
        <Button size="small" onClick={() => props.onTurn(-90)}>
          ↺<span className={styles.hidden}> Turn left</span>
        </Button>
        <Button size="small" onClick={() => props.onTurn(90)}>
          ↻<span className={styles.hidden}> Turn right</span> <kbd>T</kbd>
        </Button>
        <Button size="small" onClick={props.onOut}>
          {leaf.out ? "Take it in" : "Leave it out"} <kbd>Del</kbd>
        </Button>
        <Button size="small" disabled={props.first} onClick={() => props.onMove(-1)}>
          Earlier
        </Button>
        <Button size="small" disabled={props.last} onClick={() => props.onMove(1)}>
          Later
        </Button>
        {leaf.photo && (
          <Button size="small" aria-pressed={cutting} onClick={() => setCutting(!cutting)}>
            Corners
          </Button>
        )}
        {leaf.photo && cutting && (
          <>
            <Button size="small" disabled={!leaf.corners} onClick={() => props.onCorners(null)}>
              As proposed
            </Button>
            <Button size="small" onClick={() => props.onCorners(WHOLE)}>
              Whole photo
            </Button>
          </>
        )}
      </div>
    </div>
  );
}
