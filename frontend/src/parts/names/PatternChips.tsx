import { type KeyboardEvent, type ReactNode, useState } from "react";
import { useVocabulary } from "../../api/queries";
import { LinkButton } from "../../ui/LinkButton";
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
              {part.slot.length === 1 && part.slot[0]?.shape && <small className="quiet"> {part.slot[0].shape}</small>}
              {part.optional && <small className="quiet"> if known</small>}
            </button>
          ),
        )}
        {!props.readOnly && (
          <select
            className="chip-add"
            aria-label="Put in another part"
            value=""
            onChange={(event) => {
              const field = event.target.value;
              const shape = { party: "short", count: "01" }[field] ?? "";
              if (field === "/") put([...parts, { text: "/" }]);
              else put(added(parts, field, shape));
            }}
          >
            <option value="">+ part</option>
            <option value="/">a folder step “/”</option>
            {fields.map((one) => (
              <option key={one.field} value={one.field}>
                {one.label}
              </option>
            ))}
          </select>
        )}
      </div>
      {open !== null && chosen && !("text" in chosen) && !props.readOnly && (
        <div className="chip-editor">
          {chosen.slot.map((choice, n) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: choices have no identity but their order
            <span key={n} className="chip-choice">
              <select
                aria-label={n ? `Or else ${n}` : "What stands here"}
                value={choice.field}
                onChange={(event) =>
                  put(
                    changed(parts, open, {
                      ...chosen,
                      slot: chosen.slot.with(n, { field: event.target.value, shape: "" }),
                    }),
                  )
                }
              >
                {!fields.some((one) => one.field === choice.field) && (
                  <option value={choice.field}>{choice.field}</option>
                )}
                {fields.map((one) => (
                  <option key={one.field} value={one.field}>
                    {one.label}
                  </option>
                ))}
              </select>
              <input
                className="mono"
                aria-label={n ? `Its shape ${n + 1}` : "Its shape"}
                list={`${props.id}-shapes-${n}`}
                value={choice.shape}
                placeholder="as it is"
                maxLength={40}
                size={11}
                onChange={(event) =>
                  put(
                    changed(parts, open, {
                      ...chosen,
                      slot: chosen.slot.with(n, { ...choice, shape: event.target.value }),
                    }),
                  )
                }
              />
              <datalist id={`${props.id}-shapes-${n}`}>
                {fields
                  .find((one) => one.field === choice.field)
                  ?.shapes.map((shape) => (
                    <option key={shape} value={shape} />
                  ))}
              </datalist>
            </span>
          ))}
          <label className="check">
            <input
              type="checkbox"
              checked={chosen.optional}
              onChange={(event) => put(changed(parts, open, { ...chosen, optional: event.target.checked }))}
            />
            leave it out where it is not known
          </label>
          <LinkButton
            onClick={() => {
              put(without(parts, open));
              setOpen(null);
            }}
          >
            take it out
          </LinkButton>
        </div>
      )}
    </div>
  );
}
