import { Button } from "antd";
import { type ReactNode, useState } from "react";
import type { Schemas } from "../api/client";
import { pictureOf } from "../parts/page/PageView";
import styles from "../ui/text.module.css";

type Props = { others: Schemas["SlipSummary"][]; onAdd: (arrival: number) => void };

/** Other arrivals whose pages can be added. */
export function AddPages(props: Props): ReactNode {
  const [open, setOpen] = useState(false);
  if (!props.others.length) return null;
  return (
    <div className="add-pages">
      <Button size="small" aria-expanded={open} onClick={() => setOpen(!open)}>
        Add pages of another arrival…
      </Button>
      {open && (
        <ul>
          {props.others.map((other) => (
            <li key={other.id}>
              <Button type="text" className="other-arrival" onClick={() => props.onAdd(other.id)}>
                <img src={pictureOf(other.id, 1)} alt="" loading="lazy" />
                <span>
                  {other.original_name}
                  <span className={`${styles.quiet} ${styles.small}`}> {other.name ?? ""}</span>
                </span>
              </Button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
