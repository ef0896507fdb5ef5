import { AutoComplete, Checkbox } from "antd";
import { type KeyboardEvent, type ReactNode, useState } from "react";
import { useVocabulary } from "../../api/queries";
import { LinkButton } from "../../ui/LinkButton";
import { PickOne } from "../../ui/PickOne";
import styles from "../../ui/text.module.css";
import { added, changed, moved, type Part, patternOf, without } from "./patternParts";
import { strokeClass } from "./SlotText";

/** A pattern as chips: each slot a button that opens what it holds, the text between them to be typed. */
export function PatternChips(props: {
  id: string;
  parts: Part[];
  strokes: Record<string, number>;
  readOnly?: boolean;
  onChange: (pattern: string) => void;
}): ReactNode {
  const { parts } = props;
  const vocabulary = useVocabulary();
  const fields = (vocabulary.data?.fields ?? []).filter((one) => one.shapes.length > 0);
  const label = (field: string) => fields.find((one) => one.field === field)?.label ?? field;
  const [open, setOpen] = useState<number | null>(null);
  const put = (next: Part[]) => props.onChange(patternOf(next));
  const press = (event: KeyboardEvent, at: number) => {
    const by = event.key === "ArrowLeft" ? -1 : event.key === "ArrowRight" ? 1 : 0;
    if (props.readOnly || (!by && event.key !== "Delete") || (by && !event.altKey)) return;
    event.preventDefault();
    event.stopPropagation();
    const after = by ? moved(parts, at, by) : { parts: without(parts, at), at: Math.max(at - 2, 0) };
    put(after.parts);
    setOpen(null);
    // the focus follows what was moved
    const next = after.at;
    window.setTimeout(() => document.getElementById(`${props.id}-chip-${next}`)?.focus());
  };
  const chosen = open === null ? undefined : parts[open];
  return (
    <div className="chips">
      <div className="chip-row">
        {parts.map((part, at) =>
          "text" in part ? (
            <input
              // biome-ignore lint/suspicious/noArrayIndexKey: parts have no identity but their order
              key={at}
              className="chip-text mono"
              aria-label={`Text ${at + 1}`}
              value={part.text}
              readOnly={props.readOnly}
              size={Math.max(part.text.length, 1)}
              spellCheck={false}
              onChange={(event) => put(changed(parts, at, { text: event.target.value }))}
            />
          ) : (
            <button
              // biome-ignore lint/suspicious/noArrayIndexKey: see above
              key={at}
              id={`${props.id}-chip-${at}`}
              type="button"
              className="chip"
              aria-expanded={open === at}
              title="Enter opens it, Alt+← and Alt+→ move it, Delete takes it out"
              onClick={() => setOpen(open === at ? null : at)}
              onKeyDown={(event) => press(event, at)}
            >
              <span className={strokeClass(props.strokes, part.slot[0]?.field ?? null)}>
                {part.slot.map((choice) => label(choice.field)).join(" or ")}
              </span>
              {part.slot.length === 1 && part.slot[0]?.shape && (
                <small className={styles.quiet}> {part.slot[0].shape}</small>
              )}
              {part.optional && <small className={styles.quiet}> if known</small>}
            </button>
          ),
        )}
        {!props.readOnly && (
          <PickOne
            size="small"
            className="chip-add"
            aria-label="Put in another part"
            placeholder="+ part"
            of={[["/", "a folder step “/”"], ...fields.map((one) => [one.field, one.label] as const)]}
            value={null}
            onChange={(field) => {
              const shape = { party: "short", count: "01" }[field] ?? "";
              if (field === "/") put([...parts, { text: "/" }]);
              else put(added(parts, field, shape));
            }}
          />
        )}
      </div>
      {open !== null && chosen && !("text" in chosen) && !props.readOnly && (
        <div className="chip-editor">
          {chosen.slot.map((choice, n) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: choices have no identity but their order
            <span key={n} className="chip-choice">
              <PickOne
                size="small"
                aria-label={n ? `Or else ${n}` : "What stands here"}
                of={[
                  ...(fields.some((one) => one.field === choice.field) ? [] : [[choice.field, choice.field] as const]),
                  ...fields.map((one) => [one.field, one.label] as const),
                ]}
                value={choice.field}
                onChange={(field) =>
                  put(changed(parts, open, { ...chosen, slot: chosen.slot.with(n, { field, shape: "" }) }))
                }
              />
              <AutoComplete
                size="small"
                className="mono chip-shape"
                aria-label={n ? `Its shape ${n + 1}` : "Its shape"}
                placeholder="as it is"
                maxLength={40}
                popupMatchSelectWidth={false}
                options={(fields.find((one) => one.field === choice.field)?.shapes ?? []).map((shape) => ({
                  value: shape,
                }))}
                value={choice.shape}
                onChange={(shape: string) =>
                  put(changed(parts, open, { ...chosen, slot: chosen.slot.with(n, { ...choice, shape }) }))
                }
              />
            </span>
          ))}
          <Checkbox
            checked={chosen.optional}
            onChange={(event) => put(changed(parts, open, { ...chosen, optional: event.target.checked }))}
          >
            Leave it out if not known
          </Checkbox>
          <LinkButton
            onClick={() => {
              put(without(parts, open));
              setOpen(null);
            }}
          >
            Remove it
          </LinkButton>
        </div>
      )}
    </div>
  );
}
