import { Button } from "antd";
import { type ReactNode, useState } from "react";
import { Dialog } from "../ui/Dialog";
import { LinkButton } from "../ui/LinkButton";

type Props = { name: string; onPark: (until: string, note: string) => Promise<string | null>; onClose: () => void };

function inDays(days: number): string {
  const day = new Date();
  day.setDate(day.getDate() + days);
  return `${day.getFullYear()}-${String(day.getMonth() + 1).padStart(2, "0")}-${String(day.getDate()).padStart(2, "0")}`;
}

/** Put an arrival aside: a day to come back, and a note of what it waits for. */
export function ParkDialog(props: Props): ReactNode {
  const [until, setUntil] = useState(inDays(7));
  const [note, setNote] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  return (
    <Dialog title="Put aside until a day" onClose={props.onClose}>
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
            <LinkButton key={label} onClick={() => setUntil(inDays(days))}>
              {label}
            </LinkButton>
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
          <Button htmlType="submit" type="primary">
            Put aside
          </Button>
          <Button onClick={props.onClose}>Stop</Button>
        </footer>
      </form>
    </Dialog>
  );
}
