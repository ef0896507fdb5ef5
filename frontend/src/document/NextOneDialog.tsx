// The next one of a series: a copy with other facts, called and placed by the plan as one types.

import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { type ReactNode, useDeferredValue, useState } from "react";
import { useNavigate } from "react-router";
import { client, data } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { useField, useParties } from "../api/queries";
import { useUndoAction } from "../ui/keys";
import { useNotices, words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import "./document.css";
import { forget } from "../parts/typing/drafts";
import { type FactJson, factValue, typedFact } from "../parts/typing/factText";
import { useTyped } from "../parts/typing/typed";
import { Dialog } from "../ui/Dialog";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

export function NextOneDialog(props: { document: number; name: string; onClose: () => void }): ReactNode {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const parties = useParties();
  const known = useField();
  // a session that ends, or reload, takes nothing of it; who leaves the dialog leaves it
  const typedAt = `next after ${props.document}`;
  const [typed, setTyped] = useTyped<Record<string, string>>({}, typedAt);
  const close = () => {
    forget(typedAt);
    props.onClose();
  };
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const path = { document: props.document };
  const problems: Record<string, string> = {};
  const facts: Record<string, FactJson> = {};
  for (const [field, text] of Object.entries(typed)) {
    if (!text.trim()) continue;
    try {
      facts[field] = factValue(known(field).editor, text, { parties: parties.data?.parties });
    } catch (error) {
      problems[field] = words(error);
    }
  }
  const asked = useDeferredValue(JSON.stringify(facts));
  const seen = useQuery({
    queryKey: keys.next(props.document, asked),
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () =>
      data(
        client.POST("/api/documents/{document}/next/preview", { params: { path }, body: { facts: JSON.parse(asked) } }),
      ),
  });
  const told = seen.data;
  const changed = Object.keys(facts).length > 0;
  const settled = asked === JSON.stringify(facts) && !seen.isPlaceholderData;
  const can = !busy && changed && settled && told?.name != null && Object.keys(problems).length === 0;
  const make = async () => {
    if (!can) return;
    setBusy(true);
    try {
      const made = await data(client.POST("/api/documents/{document}/next", { params: { path }, body: { facts } }));
      tell({ text: `Made ${told?.name} in ${told?.place}`, action: { label: SAY.undo, run: undo } });
      close();
      await askAgain(queries, "drive", "manifests");
      void navigate(`/documents/${made.document}`);
    } catch (error) {
      setProblem(words(error));
      setBusy(false);
    }
  };
  return (
    <Dialog title={<>Copy {props.name} as the next in its series</>} className="next-one" width={520} onClose={close}>
      <p className={`${styles.quiet} ${styles.small}`}>
        A copy of its newest version; write what is different in the copy.
      </p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void make();
        }}
      >
        {told?.facts.map((fact, index) => (
          <p key={fact.field} className="next-fact">
            <label htmlFor={`next-${fact.field}`}>{fact.label}</label>
            <Input
              id={`next-${fact.field}`}
              className="mono"
              autoFocus={index === 0}
              maxLength={200}
              value={typed[fact.field] ?? typedFact(fact.editor, fact.value, fact.display)}
              onFocus={(event) => event.target.select()}
              onChange={(event) => setTyped({ ...typed, [fact.field]: event.target.value })}
            />
            {problems[fact.field] && <span className={`problem ${styles.small}`}>{problems[fact.field]}</span>}
          </p>
        ))}
        <p aria-live="polite">
          {told?.name ? (
            <>
              <span className="label">It will be</span>
              <br />
              <b className="mono">{told.name}</b>
              <br />
              <span className={`${styles.quiet} ${styles.small}`}>
                in {told.place}
                {told.marked && "; the name is taken, so it gets a mark"}
              </span>
            </>
          ) : (
            <span className={`problem ${styles.small}`}>{told?.why}</span>
          )}
        </p>
        {(problem ?? (seen.error ? words(seen.error) : null)) && (
          <Problem small>{problem ?? words(seen.error)}</Problem>
        )}
        <footer>
          <Button onClick={close}>{SAY.cancel}</Button>
          <Button htmlType="submit" type="primary" disabled={!can}>
            Make the copy <kbd>Enter</kbd>
          </Button>
        </footer>
      </form>
    </Dialog>
  );
}
