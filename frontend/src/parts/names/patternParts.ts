// A pattern as its parts: slots with their choices, and the text between them. Written back it is the same pattern.
export type Choice = { field: string; shape: string };
export type Part = { slot: Choice[]; optional: boolean } | { text: string };

/** The parts of a pattern; null where it is not well formed, so that only its text can be edited. */
export function partsOf(pattern: string): Part[] | null {
  const parts: Part[] = [];
  for (const piece of pattern.split(/(<[^<>]*>\??)/)) {
    if (!piece) continue;
    const slot = /^<([^<>]*)>(\?)?$/.exec(piece);
    if (!slot) {
      if (/[<>|?]/.test(piece)) return null;
      parts.push({ text: piece });
      continue;
    }
    const choices = (slot[1] ?? "").split("|").map((choice) => {
      const [, field = "", shape = ""] = /^\s*(\S*)\s*(.*?)\s*$/.exec(choice) ?? [];
      return { field, shape };
    });
    if (choices.some((choice) => !choice.field)) return null;
    parts.push({ slot: choices, optional: slot[2] === "?" });
  }
  return parts;
}

/** The fields that a pattern has; none where it is not well formed. */
export function fieldsOf(pattern: string): string[] {
  const slots = partsOf(pattern)?.flatMap((part) => ("slot" in part ? part.slot : [])) ?? [];
  return [...new Set(slots.map((choice) => choice.field))];
}

/** The pattern that the parts make. */
export function patternOf(parts: Part[]): string {
  return parts
    .map((part) =>
      "text" in part
        ? part.text
        : `<${part.slot.map(({ field, shape }) => (shape ? `${field} ${shape}` : field)).join("|")}>${part.optional ? "?" : ""}`,
    )
    .join("");
}

/** The parts with one changed. A text that is emptied goes. */
export function changed(parts: Part[], at: number, part: Part): Part[] {
  const gone = "text" in part && !part.text;
  return gone ? parts.toSpliced(at, 1) : parts.with(at, part);
}

/** A slot changes places with the slot before or after it, the text between stays; and where it is then. */
export function moved(parts: Part[], at: number, by: -1 | 1): { parts: Part[]; at: number } {
  let to = at + by;
  while (parts[to] && "text" in (parts[to] as Part)) to += by;
  const [slot, other] = [parts[at], parts[to]];
  return slot && other ? { parts: parts.with(at, other).with(to, slot), at: to } : { parts, at };
}

/** The parts without a slot; the marks and spaces before it (where it is the first, after it) go along. */
export function without(parts: Part[], at: number): Part[] {
  const near = parts[at - 1] && "text" in (parts[at - 1] as Part) ? at - 1 : at + 1;
  const beside = parts[near];
  const next = [...parts];
  if (beside && "text" in beside) {
    const marks = near < at ? /[^\p{L}\p{N}/]*$/u : /^[^\p{L}\p{N}/]*/u;
    next[near] = { text: beside.text.replace(marks, "") };
  }
  next.splice(at, 1);
  const out: Part[] = [];
  for (const part of next) {
    const last = out.at(-1);
    if ("text" in part && last && "text" in last) out[out.length - 1] = { text: last.text + part.text };
    else if (!("text" in part) || part.text) out.push(part);
  }
  return out;
}

/** A slot of `field` put at the end, parted by a separator from a slot before it. */
export function added(parts: Part[], field: string, shape: string): Part[] {
  const last = parts.at(-1);
  const between: Part[] = last && !("text" in last) ? [{ text: "_" }] : [];
  return [...parts, ...between, { slot: [{ field, shape }], optional: false }];
}
