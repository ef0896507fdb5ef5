import { type ReactNode, useState } from "react";
import { useModal } from "../parts/useModal";

type Props = { name: string; onPark: (until: string, note: string) => Promise<string | null>; onClose: () => void };

function inDays(days: number): string {
  const day = new Date();
  day.setDate(day.getDate() + days);
  return `${day.getFullYear()}-${String(day.getMonth() + 1).padStart(2, "0")}-${String(day.getDate()).padStart(2, "0")}`;
}

/** Put an arrival aside: a day to come back, and a note of what it waits for. */
export function ParkDialog(props: Props): ReactNode {
  const dialog = useModal();
  const [until, setUntil] = useState(inDays(7));
  const [note, setNote] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  return (
    <dialog ref={dialog} className="help" onClose={props.onClose} aria-labelledby="park-title">
      <h2 id="park-title">Put aside until a day</h2>
      <p className="small quiet">{props.name} waits under “Put aside” until then; everybody sees the note.</p>
      <form
        className="park"
        onSubmit={(event) => {
          event.preventDefault();
          void props.onPark(until, note).then(setProblem);
        }}
      >
        <label>
          Come back on
          <input
            type="date"
            className="field"
            value={until}
            min={inDays(1)}
            required
            onChange={(event) => setUntil(event.target.value)}
          />
        </label>
        <div className="row">
          {(
            [
              ["Tomorrow", 1],
              ["In a week", 7],
              ["In a month", 30],
            ] as const
          ).map(([label, days]) => (
            <button key={label} type="button" className="link" onClick={() => setUntil(inDays(days))}>
              {label}
            </button>
          ))}
        </div>
        <label>
          What it waits for
          <input
            type="text"
            className="field"
            value={note}
            maxLength={300}
            onChange={(event) => setNote(event.target.value)}
          />
        </label>
        {problem && (
          <p className="problem small" role="alert">
            {problem}
          </p>
        )}
        <footer className="choices">
          <button type="submit" className="button primary">
            Put aside
          </button>
          <button type="button" className="button" onClick={props.onClose}>
            Stop
          </button>
        </footer>
      </form>
    </dialog>
  );
}
