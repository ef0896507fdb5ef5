import { Button } from "antd";
import { type KeyboardEvent, type ReactNode, type RefObject, useEffect } from "react";
import type { Schemas } from "../api/client";
import { type Marks, NONE } from "../parts/lines/selection";
import { choosesNoText, useChoosing } from "../parts/lines/useChoosing";
import { CutName } from "../parts/names/CutName";
import { ago } from "../ui/format";
import { Nothing } from "../ui/states";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

type Arrival = Schemas["SlipSummary"];
type Group = { key: string; title: string; arrivals: Arrival[] };

/** Whether one may go on to it: nobody else has it in hand, and it is not put aside. */
export function free(arrival: Schemas["SlipSummary"]): boolean {
  return (!arrival.claimed_by || arrival.claimed_by_me) && !arrival.parked;
}

/** How far an arrival is read: a long scan takes minutes. */
export function howFar(arrival: Schemas["SlipSummary"]): string {
  if (!arrival.pages_left) return "Being read…";
  return `${arrival.page_count - arrival.pages_left} of ${arrival.page_count} pages are read…`;
}

/** The waiting line by what it needs from a person: ready, needs a look, being read, cannot be read. */
export function groupsOf(arrivals: Arrival[]): Group[] {
  const here = arrivals.filter((a) => !a.parked);
  const groups: Group[] = [
    { key: "ready", title: SAY.readyToFile, arrivals: here.filter((a) => a.ready) },
    { key: "look", title: "Needs a look", arrivals: here.filter((a) => !a.ready && a.state === "read") },
    { key: "reading", title: "Being read", arrivals: here.filter((a) => a.state === "reading") },
    { key: "unreadable", title: "Cannot be read", arrivals: here.filter((a) => a.state === "unreadable") },
    { key: "parked", title: SAY.putOff, arrivals: arrivals.filter((a) => a.parked) },
  ];
  return groups.filter((group) => group.arrivals.length > 0);
}

type Props = {
  arrivals: Arrival[];
  chosen: number | null;
  onChoose: (id: number) => void;
  /** Several that are chosen. */
  marks: Marks;
  onMarks: (marks: Marks) => void;
  onSkim: () => void;
  line: RefObject<HTMLDivElement | null>;
};

const idOf = (arrival: Arrival) => arrival.id;

/** What a person has to do with it, or what becomes of it. */
function needs(group: string, arrival: Arrival): ReactNode {
  if (arrival.parked) return `${arrival.parked.until}${arrival.parked.note && `: ${arrival.parked.note}`}`;
  if (group === "ready") return <CutName name={`→ ${arrival.name ?? ""}`} />;
  if (group === "look") return arrival.question;
  return group === "reading" ? howFar(arrival) : arrival.problem;
}

export function WaitingLine(props: Props): ReactNode {
  const groups = groupsOf(props.arrivals);
  const ordered = groups.flatMap((group) => group.arrivals);
  const { chosen, line } = props;
  useEffect(() => {
    if (chosen !== null) document.getElementById(`arrival-${chosen}`)?.scrollIntoView({ block: "nearest" });
  }, [chosen]);
  const { marks, onMarks } = props;
  const choosing = useChoosing({
    lines: ordered,
    id: idOf,
    chosen,
    onChoose: props.onChoose,
    marks,
    onMarks,
    onAll: () => onMarks(new Set(ordered.filter(free).map(idOf))),
    show: () => {},
  });
  const press = (event: KeyboardEvent) => {
    const { at } = choosing;
    const steps = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: ordered.length - 1 };
    if (choosing.press(event, steps)) event.preventDefault();
    else if (event.key === "Escape" && marks.size) onMarks(NONE);
  };
  if (!ordered.length) {
    return (
      <Nothing title="Nothing waits">
        What comes in appears here: drop files anywhere on this screen, or choose them with “Bring in…”. Each is read
        within seconds.
      </Nothing>
    );
  }
  const ready = groups.find((group) => group.key === "ready")?.arrivals.length ?? 0;
  return (
    <>
      {ready > 0 && (
        <Button type="link" size="small" className="skim" title="Ctrl+Shift+Enter" onClick={props.onSkim}>
          File {ready === 1 ? "the one that is" : `the ${ready} that are`} ready…
        </Button>
      )}
      <div
        ref={line}
        className="waiting"
        role="listbox"
        tabIndex={0}
        aria-label="Arrivals"
        aria-multiselectable
        aria-activedescendant={chosen === null ? undefined : `arrival-${chosen}`}
        onKeyDown={press}
      >
        {groups.map((group) => (
          // biome-ignore lint/a11y/useSemanticElements: a group of options inside a listbox has this role (WAI-ARIA 1.2)
          <div key={group.key} role="group" aria-label={group.title} className={`group ${group.key}`}>
            <div className="group-title label">
              <span>{group.title}</span>
              <span>{group.arrivals.length}</span>
            </div>
            {group.arrivals.map((arrival) => (
              // biome-ignore lint/a11y/useKeyWithClickEvents: the listbox takes the keys
              // biome-ignore lint/a11y/useFocusableInteractive: the listbox holds the focus (aria-activedescendant)
              <div
                key={arrival.id}
                id={`arrival-${arrival.id}`}
                role="option"
                aria-selected={marks.size ? marks.has(arrival.id) : arrival.id === chosen}
                className={`arrival${marks.size && arrival.id === chosen ? " at" : ""}`}
                onMouseDown={(event) => choosesNoText(event, "listbox")}
                onClick={(event) => {
                  choosing.click(arrival.id, event);
                  line.current?.focus();
                }}
              >
                <div className="arrival-name one-line" title={arrival.original_name}>
                  <CutName name={arrival.original_name} />
                </div>
                <div className={`arrival-needs ${styles.small}`}>{needs(group.key, arrival)}</div>
                <div className={`${styles.quiet} ${styles.small} arrival-from`}>
                  {arrival.by?.split(" ")[0] ?? arrival.source} · {ago(arrival.arrived_at)}
                  {arrival.claimed_by_me ? (
                    <b> · yours</b>
                  ) : arrival.claimed_by ? (
                    <b> · {arrival.claimed_by} has it</b>
                  ) : null}
                </div>
              </div>
            ))}
          </div>
        ))}
      </div>
    </>
  );
}
