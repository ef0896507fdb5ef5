import { Input, Select } from "antd";
import { type KeyboardEvent, type ReactNode, useRef, useState } from "react";
import type { Schemas } from "../api/client";
import { useField } from "../api/queries";
import { useFoldersLike } from "../parts/facts/known";
import { Suggested } from "../parts/facts/Suggested";
import { SlotText, strokeClass } from "../parts/names/SlotText";
import { LinkButton } from "../ui/LinkButton";
import { Problem } from "../ui/Problem";
import styles from "../ui/text.module.css";
import type { Edit } from "./edits";

type Props = { slip: Schemas["SlipOut"]; onEdit: Edit; problem: string | null };

/** The composed name with its strokes; F2 or a click makes a field of it. */
export function NameLine(props: Props): ReactNode {
  const { slip } = props;
  const { composed } = slip;
  const known = useField();
  const [text, setText] = useState<string | null>(null);
  const keep = () => {
    if (text !== null && text !== (composed.text ?? "")) void props.onEdit({ name: text });
    setText(null);
  };
  return (
    <div className="slip-part">
      <div className="label">
        Name
        {composed.edited && <LinkButton onClick={() => void props.onEdit({ name: "" })}>as the plan has it</LinkButton>}
      </div>
      {text !== null ? (
        <Input
          autoFocus
          className="mono"
          aria-label="Name"
          value={text}
          maxLength={4000}
          suffix={`.${composed.extension}`}
          onChange={(event) => setText(event.target.value)}
          onBlur={keep}
          onKeyDown={fieldKeys(keep, () => setText(null))}
        />
      ) : (
        <button
          type="button"
          id="slip-name"
          className="plain composed"
          title="Edit the name (F2)"
          onClick={() => setText(composed.text ?? "")}
        >
          {composed.text === null ? (
            <span className={styles.quiet}>
              {composed.refused ??
                `Still needed: ${composed.missing.map((field) => known(field).label.toLowerCase()).join(", ")}`}
            </span>
          ) : (
            <SlotText
              pieces={composed.pieces}
              strokes={slip.strokes}
              ending={composed.extension ? `.${composed.extension}` : ""}
            />
          )}
        </button>
      )}
      {composed.misfit && <div className={`${styles.quiet} ${styles.small}`}>Not by the plan: {composed.misfit}.</div>}
      {slip.taken && (
        <div className={`signal ${styles.small}`}>“{slip.taken.name}” is taken there; you will be asked.</div>
      )}
      {props.problem && <Problem small>{props.problem}</Problem>}
    </div>
  );
}

/** The place: area and folders, what exists already and what will be made; F4 or a click makes a field of it. */
export function PlaceLine(props: Props): ReactNode {
  const { slip } = props;
  const [text, show] = useState<string | null>(null);
  // as it is at this moment: a field that goes in the same turn keeps what was taken, not what was typed before
  const typed = useRef<string | null>(null);
  const setText = (next: string | null) => {
    typed.current = next;
    show(next);
  };
  const keep = () => {
    const place = typed.current;
    setText(null);
    if (place !== null && place !== slip.steps.map((s) => s.name).join("/")) void props.onEdit({ place });
  };
  const there = useFoldersLike(slip.area?.name ?? "", text).filter((one) => one !== text);
  const fresh = slip.steps.filter((s) => !s.exists).length;
  return (
    <div className="slip-part">
      <div className="label">
        Place
        {slip.place_edited && (
          <LinkButton onClick={() => void props.onEdit({ place: "" })}>as the plan has it</LinkButton>
        )}
      </div>
      <div className="place">
        {slip.areas.length > 1 ? (
          <Select
            size="small"
            variant="borderless"
            popupMatchSelectWidth={false}
            aria-label="Area"
            value={slip.area?.id}
            options={slip.areas.map((area) => ({ value: area.id, label: area.name }))}
            onChange={(area: number) => void props.onEdit({ area })}
          />
        ) : (
          <span>{slip.area?.name}</span>
        )}
        {text !== null ? (
          <Suggested
            autoFocus
            className="place-field"
            aria-label="Place"
            offered={there}
            typed={text}
            shown={text}
            onType={setText}
            onBlur={keep}
            onKey={fieldKeys(
              () => !there.length && keep(),
              () => setText(null),
            )}
            onTake={(place) => {
              setText(place);
              keep();
            }}
          />
        ) : (
          <button
            type="button"
            id="slip-place"
            className="plain"
            title="Edit the place (F4)"
            onClick={() => setText(slip.steps.map((s) => s.name).join("/"))}
          >
            {slip.steps.map((step, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: the levels of a place have no identity but their order
              <span key={index}>
                {" / "}
                {step.pieces.length === 1 && step.pieces[0]?.field ? (
                  <span className={strokeClass(slip.strokes, step.pieces[0].field)}>{step.name}</span>
                ) : (
                  step.name
                )}
              </span>
            ))}
            {slip.steps.length === 0 && " / (the area itself)"}
          </button>
        )}
        <span className={`${styles.quiet} ${styles.small} nowrap`}>
          {fresh ? `— makes ${fresh} folder${fresh > 1 ? "s" : ""}` : `— ${slip.there} there now`}
        </span>
      </div>
      {slip.place_problem && <div className={`signal ${styles.small}`}>{slip.place_problem}</div>}
      {slip.reason && <div className={`reason ${styles.quiet} ${styles.small}`}>{slip.reason}</div>}
      {props.problem && <Problem small>{props.problem}</Problem>}
    </div>
  );
}

function fieldKeys(keep: () => void, leave: () => void) {
  return (event: KeyboardEvent) => {
    if (event.nativeEvent.isComposing) return;
    if (event.key === "Enter" && !event.ctrlKey && !event.metaKey) {
      event.preventDefault();
      keep();
    }
    if (event.key === "Escape") leave();
  };
}
