import type { ReactNode } from "react";
import type { Schemas } from "../../api/client";

/** The class that draws a field's stroke; nothing for a field without one. */
export function strokeClass(strokes: Record<string, number>, field: string | null): string {
  const number = field === null ? undefined : strokes[field];
  return number === undefined ? "" : `stroke stroke-${number % 6}`;
}

/** A name in its pieces, each slot with its stroke. */
export function SlotText(props: {
  pieces: Schemas["PieceOut"][];
  strokes: Record<string, number>;
  ending?: string;
}): ReactNode {
  return (
    <span className="mono">
      {props.pieces.map((piece, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: pieces have no identity but their order
        <span key={index} className={strokeClass(props.strokes, piece.field)} title={piece.field ?? undefined}>
          {piece.text}
        </span>
      ))}
      {props.ending}
    </span>
  );
}

/** A pattern as text, each slot with the stroke of its (first) field. */
export function PatternText(props: { pattern: string; strokes: Record<string, number> }): ReactNode {
  const parts = props.pattern.split(/(<[^>]*>\??)/);
  return (
    <span className="mono">
      {parts.map((part, index) => {
        const field = /^<([A-Za-z][A-Za-z0-9-]*)/.exec(part)?.[1] ?? null;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: parts have no identity but their order
          <span key={index} className={strokeClass(props.strokes, field)}>
            {part}
          </span>
        );
      })}
    </span>
  );
}
