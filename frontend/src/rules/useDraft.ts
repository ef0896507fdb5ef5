// The draft of an area's rulebook: its text is what counts; sentences are another view of it, and each follows the other.
import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { useTyped } from "../parts/typing/typed";
import { words } from "../ui/notices";
import type { Rule } from "./tree";

type Checked = Schemas["CheckedOut"];
const PAUSE_MS = 300;

export type Draft = {
  text: string;
  changed: boolean;
  /** The text as it stood at the last pause, and what was found in it. */
  settled: string;
  checked: Checked | undefined;
  /** Why the text could not be looked at: it is too long, or Waka does not answer. */
  problem: string | null;
  /** Rules as they are edited in sentences, and what is still wrong with them; null while they say what the text says. */
  edited: { rules: Rule[]; wrong: string[] } | null;
  rules: Rule[];
  type: (text: string) => void;
  edit: (rules: Rule[]) => void;
  drop: () => void;
  keptAs: (text: string) => void;
};

/** Where what is typed over an area's rules is remembered. */
export const rulesPlace = (area: number) => `rules ${area}`;

export function useDraft(kept: Schemas["RulebookOut"]): Draft {
  const [text, setText, keptAs] = useTyped(kept.text, kept.keeps ? rulesPlace(kept.area) : undefined);
  const [settled, setSettled] = useState(text);
  const [edited, setEdited] = useState<Draft["edited"]>(null);
  const asked = useRef(0);
  useEffect(() => {
    const timer = window.setTimeout(() => setSettled(text), PAUSE_MS);
    return () => window.clearTimeout(timer);
  }, [text]);
  const found = useQuery({
    queryKey: keys.checkedRules(kept.area, settled),
    enabled: settled !== kept.text,
    retry: false,
    queryFn: () =>
      data(
        client.POST("/api/rulebooks/{folder}/check", {
          params: { path: { folder: kept.area } },
          body: { text: settled },
        }),
      ),
  });
  const checked = settled === kept.text ? kept.checked : found.data;
  // what was right last stays in sight while a text with errors is typed
  const [right, setRight] = useState<Checked>(kept.checked);
  if (checked?.rules && checked !== right) setRight(checked);
  const ends = right.ends;

  const edit = useCallback(
    (rules: Rule[]) => {
      const number = ++asked.current;
      setEdited((had) => ({ rules, wrong: had?.wrong ?? [] }));
      window.setTimeout(async () => {
        if (number !== asked.current) return;
        const printed = await data(
          client.POST("/api/rulebooks/{folder}/print", {
            params: { path: { folder: kept.area } },
            body: { rules: rules as unknown as Record<string, unknown>[], ends },
          }),
        ).catch((error: unknown) => words(error));
        if (number !== asked.current) return;
        if (typeof printed === "string" || printed.text === null) {
          const wrong =
            typeof printed === "string" ? [printed] : printed.errors.map((one) => `expected ${one.expected}`);
          setEdited({ rules, wrong });
          return;
        }
        setText(printed.text);
        setSettled(printed.text);
        setRight(printed);
        setEdited(null);
      }, PAUSE_MS);
    },
    [kept.area, ends, setText],
  );
  const type = (next: string) => {
    asked.current++;
    setEdited(null);
    setText(next);
  };
  return {
    text,
    changed: text !== kept.text || edited !== null,
    settled,
    checked,
    problem: found.isError && settled !== kept.text ? words(found.error) : null,
    edited,
    rules: edited?.rules ?? right.rules ?? [],
    type,
    edit,
    drop: () => type(kept.text),
    keptAs,
  };
}
