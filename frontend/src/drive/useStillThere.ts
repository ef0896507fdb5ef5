import { type Dispatch, type SetStateAction, useEffect, useRef } from "react";

type Marks = ReadonlySet<number>;

/** What was dragged, moved or discarded, by whomever, is not chosen any more: *Delete* would act out of sight. */
export function useStillThere(
  asked: object,
  lines: { entry: number }[] | undefined,
  setMarks: Dispatch<SetStateAction<Marks>>,
): void {
  const before = useRef<{ asked: object; entries: Set<number> } | null>(null);
  useEffect(() => {
    if (!lines) return;
    const here = new Set(lines.map((one) => one.entry));
    // lines of another folder, or in another order, are as many as were asked for so far
    const had = before.current?.asked === asked ? before.current.entries : new Set<number>();
    const gone = new Set([...had].filter((entry) => !here.has(entry)));
    before.current = { asked, entries: here };
    if (gone.size) setMarks((marks) => new Set([...marks].filter((entry) => !gone.has(entry))));
  }, [asked, lines, setMarks]);
}
