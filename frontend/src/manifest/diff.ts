// What differs between two names or paths, in parts that a person sees as parts: words, numbers, marks.

export type Part = { text: string; changed: boolean };

const PARTS = /[\p{L}\p{M}]+|[0-9]+|[^\p{L}\p{M}0-9]/gu;

/** Both texts in parts; changed are those that the other lacks (the longest common run of parts stays). */
export function diff(before: string, after: string): { before: Part[]; after: Part[] } {
  const a = before.match(PARTS) ?? [];
  const b = after.match(PARTS) ?? [];
  const width = b.length + 1;
  const longest = new Uint16Array((a.length + 1) * width);
  for (let i = a.length - 1; i >= 0; i--)
    for (let j = b.length - 1; j >= 0; j--)
      longest[i * width + j] =
        a[i] === b[j]
          ? (longest[(i + 1) * width + j + 1] ?? 0) + 1
          : Math.max(longest[(i + 1) * width + j] ?? 0, longest[i * width + j + 1] ?? 0);
  const left: Part[] = [];
  const right: Part[] = [];
  let i = 0;
  let j = 0;
  while (i < a.length || j < b.length) {
    const here = a[i];
    const there = b[j];
    if (here !== undefined && here === there) {
      add(left, here, false);
      add(right, here, false);
      i++;
      j++;
    } else if (
      here !== undefined &&
      (there === undefined || (longest[(i + 1) * width + j] ?? 0) >= (longest[i * width + j + 1] ?? 0))
    ) {
      add(left, here, true);
      i++;
    } else if (there !== undefined) {
      add(right, there, true);
      j++;
    }
  }
  return { before: left, after: right };
}

function add(parts: Part[], text: string, changed: boolean): void {
  const last = parts.at(-1);
  if (last && last.changed === changed) last.text += text;
  else parts.push({ text, changed });
}

/** A path below `where`, joined to a name: what one reads as a document's place. Elsewhere it begins with a slash. */
export function placed(place: string | null, name: string | null, where: string | null): string {
  if (name === null) return "";
  const steps = (place ?? "").split(" / ").filter(Boolean);
  const above = (where ?? "").split(" / ").filter(Boolean);
  const inside = above.length > 0 && above.every((step, n) => steps[n] === step);
  const shown = inside ? steps.slice(above.length) : steps;
  return `${above.length && !inside ? "/" : ""}${[...shown, name].join("/")}`;
}

/** The parts before and from a character on. */
export function cutAt(parts: Part[], at: number): [Part[], Part[]] {
  const before: Part[] = [];
  const after: Part[] = [];
  let start = 0;
  for (const part of parts) {
    const cut = Math.min(Math.max(at - start, 0), part.text.length);
    if (cut > 0) before.push({ ...part, text: part.text.slice(0, cut) });
    if (cut < part.text.length) after.push({ ...part, text: part.text.slice(cut) });
    start += part.text.length;
  }
  return [before, after];
}
