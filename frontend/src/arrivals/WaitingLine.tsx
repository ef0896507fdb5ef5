import { Button } from "antd";
import { type KeyboardEvent, type ReactNode, type RefObject, useEffect } from "react";
import type { Schemas } from "../api/client";
import { CutName } from "../parts/names/CutName";
import { ago, cut } from "../ui/format";
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
  onSkim: () => void;
  line: RefObject<HTMLDivElement | null>;
};

export function WaitingLine(props: Props): ReactNode {
  const groups = groupsOf(props.arrivals);
  const ordered = groups.flatMap((group) => group.arrivals);
  const { chosen, line } = props;
  useEffect(() => {
    if (chosen !== null) document.getElementById(`arrival-${chosen}`)?.scrollIntoView({ block: "nearest" });
  }, [chosen]);
  const press = (event: KeyboardEvent) => {
    const at = ordered.findIndex((a) => a.id === chosen);
    const to = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: ordered.length - 1 }[event.key];
    if (to === undefined || event.altKey || event.ctrlKey) return;
    event.preventDefault();
    const next = ordered[Math.min(Math.max(to, 0), ordered.length - 1)];
    if (next) props.onChoose(next.id);
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
                aria-selected={arrival.id === chosen}
                className="arrival"
                onClick={() => {
                  props.onChoose(arrival.id);
                  line.current?.focus();
                }}
              >
                {group.key === "ready" ? (
                  <div className="arrival-name one-line">
                    <CutName name={arrival.name ?? ""} />
                  </div>
                ) : (
                  <div className="arrival-name">
                    {arrival.parked
                      ? `${arrival.parked.until}${arrival.parked.note && `: ${arrival.parked.note}`}`
                      : group.key === "look"
                        ? arrival.question
                        : group.key === "reading"
                          ? howFar(arrival)
                          : arrival.problem}
                  </div>
                )}
                <div className={`${styles.quiet} ${styles.small} arrival-from`}>
                  {cut(arrival.original_name, 24)} · {arrival.by?.split(" ")[0] ?? arrival.source} ·{" "}
                  {ago(arrival.arrived_at)}
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
