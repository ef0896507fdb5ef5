import { type ReactNode, useState } from "react";
import type { Schemas } from "../api/client";
import { pictureOf } from "../parts/PageView";

type Props = { others: Schemas["SlipSummary"][]; onAdd: (arrival: number) => void };

/** Other arrivals whose pages can be added. */
export function AddPages(props: Props): ReactNode {
  const [open, setOpen] = useState(false);
  if (!props.others.length) return null;
  return (
    <div className="add-pages">
      <button type="button" className="button small" aria-expanded={open} onClick={() => setOpen(!open)}>
        Add pages of another arrival…
      </button>
      {open && (
        <ul>
          {props.others.map((other) => (
            <li key={other.id}>
              <button type="button" className="plain" onClick={() => props.onAdd(other.id)}>
                <img src={pictureOf(other.id, 1)} alt="" loading="lazy" />
                <span>
                  {other.original_name}
                  <span className="quiet small"> {other.name ?? ""}</span>
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
