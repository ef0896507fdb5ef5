import { Button } from "antd";
import type { ReactNode } from "react";
import type { Act, MenuAt } from "../ui/Menu";
import { SAY } from "../ui/wording";
import "./acts.css";
import type { DocumentActs } from "./documentKeys";

/** A button of what can be done; its key stands in the tooltip. */
export function ActButton(props: { label: string; keys: string; onClick: () => void }): ReactNode {
  return (
    <Button size="small" title={props.keys} onClick={props.onClick}>
      {props.label}
    </Button>
  );
}

/** Opens the menu of what else can be done; it stands below the button. */
export function MoreButton(props: { onMenu: (left: number, top: number) => void }): ReactNode {
  return (
    <Button
      size="small"
      id="card-more"
      title="Period (.)"
      aria-haspopup="menu"
      onClick={(event) => {
        const at = event.currentTarget.getBoundingClientRect();
        props.onMenu(at.left, at.bottom + 2);
      }}
    >
      More…
    </Button>
  );
}

/** What is done most with several documents that are chosen, and the menu of the rest. */
export function SeveralActs(props: {
  may: boolean;
  acts: DocumentActs;
  more: Act[];
  onMenu: (menu: MenuAt) => void;
}): ReactNode {
  const { may, acts } = props;
  return (
    <>
      {may && <ActButton label={SAY.move} keys="M" onClick={acts.move} />}
      {may && <ActButton label={SAY.pickUp} keys="Ctrl+X" onClick={acts.pickUp} />}
      {may && <ActButton label={SAY.tags} keys="T" onClick={acts.tag} />}
      <ActButton label={SAY.copy} keys="C" onClick={acts.copy} />
      <MoreButton onMenu={(left, top) => props.onMenu(moreAt(left, top, props.more))} />
    </>
  );
}

/** The menu of what does not stand as a button. */
export const moreAt = (left: number, top: number, acts: Act[]): MenuAt => ({
  left,
  top,
  title: "More of what can be done",
  acts,
});
