import type { ReactNode } from "react";
import "./readingNotes.css";

/** What a person should know of how a document was read: what was left out above all. */
export function ReadingNotes(props: { notes: string[] }): ReactNode {
  if (props.notes.length === 0) return null;
  return (
    <ul className="reading-notes" aria-label="Notes of its reading">
      {props.notes.map((note) => (
        <li key={note}>{note}</li>
      ))}
    </ul>
  );
}
