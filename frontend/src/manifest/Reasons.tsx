import { type ReactNode, useMemo } from "react";
import { Link } from "react-router";
import { count } from "../parts/format";
import type { ManifestLine } from "./Ledger";

const SHOWN = 5;
/** Where a name does not fit is its own matter; that it does not is all of theirs. */
const PLACE = / at character \d+$/;

function Why(props: { line: ManifestLine; told?: string }): ReactNode {
  const { why, gap } = props.line;
  return (
    <>
      {props.told ?? why}
      {gap && (
        <>
          {" · "}
          <Link to={`/plan/${gap.area}?kind=${gap.kind}`}>write it</Link>
        </>
      )}
    </>
  );
}

/** What is to be told of one line: why it is left where it is or was not done, with what mends it; or what is noted of it. */
export function LineTold(props: { line: ManifestLine }): ReactNode {
  const { line } = props;
  if (line.why && line.state !== "ready")
    return (
      <p className="problem small">
        Line {line.number}: <Why line={line} />
      </p>
    );
  if (!line.note || line.to_name === null) return null;
  return (
    <p className="signal small">
      Line {line.number}: {line.note}
    </p>
  );
}

/** The reasons why lines are blocked, the most frequent first. */
export function Reasons(props: { lines: ManifestLine[] }): ReactNode {
  const { lines } = props;
  const reasons = useMemo(() => {
    const found = new Map<string, { told: string; line: ManifestLine; lines: number }>();
    for (const line of lines) {
      if (line.state !== "blocked" || !line.why) continue;
      const told = line.why.replace(PLACE, "");
      const same = found.get(told);
      if (same) same.lines++;
      else found.set(told, { told, line, lines: 1 });
    }
    return [...found.values()].sort((a, b) => b.lines - a.lines);
  }, [lines]);
  if (!reasons.length) return null;
  const others = reasons.slice(SHOWN).reduce((sum, one) => sum + one.lines, 0);
  return (
    <section className="reasons small" aria-label="Why lines are blocked">
      <h2 className="label">Blocked, because</h2>
      <ul>
        {reasons.slice(0, SHOWN).map((one) => (
          <li key={one.told}>
            <b>{count(one.lines)}</b> <Why line={one.line} told={one.told} />
          </li>
        ))}
        {others > 0 && (
          <li className="quiet">
            <b>{count(others)}</b> for other reasons
          </li>
        )}
      </ul>
    </section>
  );
}
