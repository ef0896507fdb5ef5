import { Button } from "antd";
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { count, money, size } from "../ui/format";
import styles from "../ui/text.module.css";

type Group = Schemas["GroupOut"];
type Props = { groups: Group[]; chosen: string | null; onChoose: (value: string | null) => void };

/** What the amounts of several documents add up to, by currency. */
export function amounts(told: Schemas["AmountOut"][]): string {
  return told.map((one) => `${money(one.total)} ${one.currency}`).join(", ");
}

/** The documents in groups, with counts and sums; one of them shows its lines, or all. */
export function Groups(props: Props): ReactNode {
  return (
    <ul className="groups" aria-label="Groups">
      <li>
        <Button type="text" aria-pressed={props.chosen === null} onClick={() => props.onChoose(null)}>
          <span>All</span>
          <b className="number">{count(props.groups.reduce((sum, one) => sum + one.documents, 0))}</b>
        </Button>
      </li>
      {props.groups.map((one) => (
        <li key={one.value}>
          <Button
            type="text"
            aria-pressed={props.chosen === one.value}
            title={[size(one.bytes), amounts(one.amounts)].filter(Boolean).join(", ")}
            onClick={() => props.onChoose(one.value)}
          >
            <span>{one.label}</span>
            <b className="number">{count(one.documents)}</b>
            {one.amounts.length > 0 && <span className={`${styles.quiet} number`}>{amounts(one.amounts)}</span>}
          </Button>
        </li>
      ))}
    </ul>
  );
}
