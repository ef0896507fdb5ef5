import type { DragEvent, ReactNode } from "react";
import { pictureOf } from "../parts/page/PageView";
import styles from "../ui/text.module.css";
import type { Leaf } from "./arrangement";

type Props = {
  leaf: Leaf;
  at: number;
  name: string;
  chosen: boolean;
  /** Whether there are pages of others beside it. */
  among: boolean;
  onChoose: () => void;
  onMove: (from: number, to: number) => void;
};

const KIND = "application/x-waka-leaf";

/** A page as a small picture; it is dragged to another place, or chosen and then acted on by keys and buttons. */
export function LeafView(props: Props): ReactNode {
  const { leaf, at } = props;
  const state = [leaf.blank ? "blank" : "", leaf.out ? "left out" : "", leaf.corners ? "cut by hand" : ""]
    .filter(Boolean)
    .join(", ");
  const drop = (event: DragEvent) => {
    const from = event.dataTransfer.getData(KIND);
    if (from === "") return;
    event.preventDefault();
    event.stopPropagation();
    const box = event.currentTarget.getBoundingClientRect();
    props.onMove(Number(from), event.clientX < box.left + box.width / 2 ? at : at + 1);
  };
  return (
    <button
      type="button"
      className={`leaf${props.chosen ? " chosen" : ""}${leaf.out ? " out" : ""}`}
      aria-current={props.chosen}
      data-leaf={at}
      tabIndex={props.chosen ? 0 : -1}
      draggable
      onClick={props.onChoose}
      onFocus={props.onChoose}
      onDragStart={(event) => event.dataTransfer.setData(KIND, String(at))}
      onDragOver={(event) => event.dataTransfer.types.includes(KIND) && event.preventDefault()}
      onDrop={drop}
    >
      <span className="leaf-sheet">
        <img
          src={pictureOf(leaf.arrival, leaf.page)}
          alt=""
          draggable={false}
          loading="lazy"
          style={{ transform: `rotate(${leaf.turn}deg)` }}
        />
      </span>
      <span className={styles.small}>
        {props.among && <span className={`leaf-name ${styles.quiet}`}>{props.name}</span>}
        <span className={styles.hidden}>Page </span>
        {leaf.page}
        <span className={styles.hidden}>
          {" "}
          of {props.name}
          {leaf.turn > 0 && `, turned by ${leaf.turn} degrees`}
        </span>
        {state && <span className={styles.quiet}> {state}</span>}
      </span>
    </button>
  );
}
