import { useQueryClient } from "@tanstack/react-query";
import { Button, Input, Select } from "antd";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { askAllAgain, keys } from "../api/keys";
import { useField, useVocabulary, useWaiting } from "../api/queries";
import { FactLine } from "../parts/facts/FactLine";
import { type FactJson, typedFact } from "../parts/typing/factText";
import { day, several } from "../ui/format";
import { useUndoAction } from "../ui/keys";
import { useNotices, words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { afterEdits, editsDone } from "./edits";
import { free } from "./WaitingLine";

type Arrival = Schemas["SlipSummary"];
type Written = Partial<Pick<Schemas["SeveralSlipsForm"], "facts" | "tags" | "area" | "place">>;
/** What several papers mostly have in common; a reference or an amount is each one's own. */
const SHARED = ["kind", "party", "person", "course", "task", "attempt", "issued", "subject"];

/** Several arrivals at once: what is written here is written on each of their slips; then those that are ready are filed. */
export function SeveralPanel(props: {
  arrivals: Arrival[];
  areas: Schemas["AreaOut"][];
  onDone: () => void;
  onPutAway: () => void;
}): ReactNode {
  const { arrivals, areas } = props;
  const queries = useQueryClient();
  const known = useField();
  const vocabulary = useVocabulary();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const waiting = useWaiting();
  const [written, setWritten] = useState<Written>({ facts: {} });
  const [problem, setProblem] = useState<string | null>(null);
  const [left, setLeft] = useState<Schemas["LeftOut"][]>([]);
  const [busy, setBusy] = useState(false);
  const ready = arrivals.filter((one) => one.ready && free(one));
  const write = (form: Partial<Written>) =>
    afterEdits(async () => {
      setProblem(null);
      try {
        const got = await data(
          client.PATCH("/api/arrivals", {
            body: {
              arrivals: arrivals.map((one) => one.id),
              facts: form.facts ?? {},
              tags: form.tags ?? null,
              area: form.area ?? null,
              place: form.place ?? null,
            },
          }),
        );
        setLeft(got.left);
        setWritten((had) => ({ ...had, ...form, facts: { ...had.facts, ...form.facts } }));
        await queries.invalidateQueries({ queryKey: keys.waiting });
        for (const one of arrivals) void queries.invalidateQueries({ queryKey: keys.slip(one.id) });
        return true;
      } catch (error) {
        setProblem(words(error));
        return false;
      }
    });
  const file = async () => {
    if (busy) return;
    setBusy(true);
    try {
      if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
      await editsDone();
      const now = (await waiting.refetch()).data?.pages.flatMap((page) => page.arrivals) ?? [];
      const chosen = new Set(arrivals.map((one) => one.id));
      const those = now.filter((one) => chosen.has(one.id) && one.ready && free(one));
      if (!those.length) {
        setProblem("None of them is ready yet: each line says what it needs.");
        return;
      }
      const got = await data(
        client.POST("/api/arrivals/file", {
          body: { arrivals: those.map((one) => ({ arrival: one.id, revision: one.revision })) },
        }),
      );
      if (got.filed.length)
        tell({ text: `Filed ${several(got.filed.length, "arrival")}`, action: { label: SAY.undo, run: undo } });
      setLeft(got.left);
      await askAllAgain(queries);
      if (!got.left.length && those.length === arrivals.length) props.onDone();
    } catch (error) {
      setProblem(words(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <div className="slip">
      <div className="slip-body">
        <h2>{several(arrivals.length, "arrival")} chosen</h2>
        <p className={`${styles.quiet} ${styles.small}`}>
          What you write here is written on each of their slips. What you leave stays as each has it.
        </p>
        {SHARED.map((field) => (
          <FactLine
            key={field}
            fact={shared(known(field), (written.facts?.[field] ?? null) as FactJson, vocabulary.data?.kinds)}
            strokes={{}}
            focused={false}
            placeholder="as each has it"
            problem={null}
            onFocus={() => {}}
            onEdit={(form) => write({ facts: form.facts ?? {} })}
          />
        ))}
        <div className="fact">
          <label htmlFor="several-tags">Tags</label>
          <div className="fact-value">
            <Select
              id="several-tags"
              mode="tags"
              size="small"
              variant="borderless"
              className="fact-input"
              suffixIcon={null}
              aria-label="Tags of all of them"
              placeholder="as each has them"
              tokenSeparators={[","]}
              value={written.tags ?? []}
              onChange={(tags: string[]) => void write({ tags })}
            />
          </div>
        </div>
        <Place areas={areas} onWrite={write} />
        {problem && <Problem>{problem}</Problem>}
        {left.length > 0 && (
          <div className="ask">
            <b>{several(left.length, "arrival")} stayed as before:</b>
            <ul>
              {left.map((one) => (
                <li key={one.name}>
                  {one.name}: {one.why}
                </li>
              ))}
            </ul>
          </div>
        )}
      </div>
      <div className="slip-foot">
        <div className="slip-buttons">
          <Button
            type={ready.length ? "primary" : "default"}
            id="file-several"
            disabled={busy}
            onClick={() => void file()}
          >
            {ready.length === 0
              ? "File them"
              : `File ${ready.length === arrivals.length ? "all" : `the ${ready.length} that are ready`}`}{" "}
            <kbd>Ctrl+Enter</kbd>
          </Button>
          <Button onClick={props.onPutAway}>{SAY.notARecord}</Button>
        </div>
      </div>
    </div>
  );
}

/** A field that has no value in common, or the one that was just written on all. */
export function shared(
  field: Schemas["FieldOut"],
  value: FactJson,
  kinds: Schemas["Vocabulary"]["kinds"] | undefined,
): Schemas["FactOut"] {
  const { editor } = field;
  let display = typedFact(editor, value, "");
  if (editor === "kind") display = kinds?.find((one) => one.key === value)?.label ?? "";
  else if (editor === "date" && value !== null) display = day(String(value));
  return {
    field: field.field,
    label: field.label,
    editor,
    value,
    display,
    source: { kind: "person", why: "", box: null, text: "", lesson: null },
    sure: true,
    given: false,
    repeats: false,
    alternatives: [],
    question: null,
  };
}

/** The area and the folder below it that all of them go to. */
function Place(props: {
  areas: Schemas["AreaOut"][];
  onWrite: (form: Partial<Written>) => Promise<boolean>;
}): ReactNode {
  const [place, setPlace] = useState("");
  const keep = () => {
    if (place.trim()) void props.onWrite({ place });
  };
  return (
    <>
      <div className="fact">
        <label htmlFor="several-area">Area</label>
        <div className="fact-value">
          <Select
            id="several-area"
            size="small"
            variant="borderless"
            className="fact-input"
            aria-label="Area of all of them"
            placeholder="as each has it"
            options={props.areas.map((area) => ({ value: area.id, label: area.name }))}
            onChange={(area: number) => void props.onWrite({ area })}
          />
        </div>
      </div>
      <div className="fact">
        <label htmlFor="several-place">Place</label>
        <div className="fact-value">
          <Input
            id="several-place"
            size="small"
            variant="borderless"
            className="fact-input"
            placeholder="as the plan has it; or a folder, as Letters/2026"
            maxLength={900}
            value={place}
            onChange={(event) => setPlace(event.target.value)}
            onBlur={keep}
            onPressEnter={keep}
          />
        </div>
      </div>
    </>
  );
}
