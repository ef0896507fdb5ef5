import { useQueryClient } from "@tanstack/react-query";
import { AutoComplete, Button, Input, Table } from "antd";
import { type ClipboardEvent, type Dispatch, type ReactNode, type SetStateAction, useMemo, useState } from "react";
import { Link } from "react-router";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { useField, useParties, useVocabulary } from "../api/queries";
import { fieldsOf } from "../parts/names/patternParts";
import { type Editor, factValue } from "../parts/typing/factText";
import { useTyped } from "../parts/typing/typed";
import { count, day, readingsOfDay, several } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import { useNotices, words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import type { ManifestLine } from "./Ledger";

const SHOWN = 60;
const HINTS: Partial<Record<Editor, string>> = { date: "2026-03-18", party: "name or code", person: "Ada Fenn" };
/** By document and field. */
type Typed = Record<string, string>;

/** The fields that a way reads from the names themselves. */
export function readBy(way: Schemas["WayForm"] | null): string[] {
  return way?.do === "rewrite" ? fieldsOf(way.reads) : [];
}

/**
 * The facts that new names and places need and that are not known: typed or pasted from a table, then planned anew.
 * What is `read` from the names themselves is not asked for: a fact would not take its place.
 */
export function Lacking(props: { lines: ManifestLine[]; read: string[]; onFilled: () => void }): ReactNode {
  // what is typed outlives the table: other lines, or another pattern, may ask for none of it for a moment; so may one
  // who looks at a document first
  const [typed, setTyped] = useTyped<Typed>({}, "lacking facts");
  const lacking = useMemo(
    () =>
      props.lines
        .filter((line) => line.document && line.missing.length)
        .map((line) => ({ ...line, missing: line.missing.filter((field) => !props.read.includes(field)) }))
        .filter((line) => line.missing.length),
    [props.lines, props.read],
  );
  return lacking.length ? <Facts lacking={lacking} typed={typed} onType={setTyped} onFilled={props.onFilled} /> : null;
}

const startsWith = (word: unknown, text: string) => String(word).toLowerCase().startsWith(text.trim().toLowerCase());
const key = (line: ManifestLine, field: string) => `${line.document} ${field}`;

function Facts(props: {
  lacking: ManifestLine[];
  typed: Typed;
  onType: Dispatch<SetStateAction<Typed>>;
  onFilled: () => void;
}): ReactNode {
  const { lacking, typed, onType } = props;
  const fields = useMemo(() => [...new Set(lacking.flatMap((line) => line.missing))], [lacking]);
  const [problems, setProblems] = useState<Record<string, string>>({});
  const [busy, setBusy] = useState(false);
  const parties = useParties();
  const vocabulary = useVocabulary();
  const known = useField();
  const [looked, setLooked] = useState<ManifestLine | null>(null);
  const queries = useQueryClient();
  const { tell } = useNotices();
  const save = async () => {
    setBusy(true);
    const left = { ...typed };
    const wrong: Record<string, string> = {};
    let saved = 0;
    for (const line of lacking)
      for (const field of line.missing) {
        const text = typed[key(line, field)]?.trim();
        if (!text || line.document === null) continue;
        try {
          const body = { field, value: factValue(known(field).editor, text, { parties: parties.data?.parties }) };
          await data(
            client.PATCH("/api/documents/{document}/facts", { params: { path: { document: line.document } }, body }),
          );
          saved++;
          delete left[key(line, field)];
        } catch (error) {
          wrong[key(line, field)] = words(error);
        }
      }
    onType(left);
    setProblems(wrong);
    setBusy(false);
    if (!saved) return;
    tell({
      text: `${several(saved, "fact")} saved. Ctrl+Z takes ${saved === 1 ? "it back" : "them back one by one"}.`,
    });
    await queries.invalidateQueries({ queryKey: keys.cards });
    props.onFilled();
  };

  const paste = (event: ClipboardEvent, row: number, column: number) => {
    const table = event.clipboardData
      .getData("text/plain")
      .replace(/\r?\n$/, "")
      .split(/\r?\n/)
      .map((one) => one.split("\t"));
    if (table.length < 2 && (table[0]?.length ?? 0) < 2) return;
    event.preventDefault();
    const pasted: Typed = {};
    let nowhere = 0;
    table.forEach((cells, down) => {
      cells.forEach((text, right) => {
        const line = lacking[row + down];
        const field = fields[column + right];
        if (line && field && line.missing.includes(field)) pasted[key(line, field)] = text.trim();
        else if (text.trim()) nowhere++;
      });
    });
    onType((had) => ({ ...had, ...pasted }));
    if (nowhere)
      tell({
        text: `${several(nowhere, "pasted cell")} left out: no field for ${nowhere === 1 ? "it" : "them"} here.`,
      });
  };

  const options: Options = {
    kind: vocabulary.data?.kinds.map((kind) => ({ value: kind.key })),
    party: parties.data?.parties.map((party) => ({ value: party.name })),
  };
  // before that it is not known how a field is typed
  if (!vocabulary.data) return null;
  return (
    <section className="lacking" aria-label="Facts that are lacking">
      <h2 className="label">
        {lacking.length === 1 ? "1 document lacks" : `${count(lacking.length)} documents lack`} facts
        {lacking.length > SHOWN ? `; the first ${SHOWN} are here` : ""}
      </h2>
      <div className="lacking-body">
        <Table
          className="lacking-table"
          size="small"
          pagination={false}
          rowKey={(line) => line.document ?? line.line}
          dataSource={lacking.slice(0, SHOWN)}
          columns={[
            {
              key: "document",
              title: "Document",
              rowScope: "row",
              className: "mono",
              render: (_, line) => (
                <>
                  <LinkButton aria-pressed={looked?.document === line.document} onClick={() => setLooked(line)}>
                    {line.from_name}
                  </LinkButton>
                  {line.from_place && <div className={`${styles.quiet} ${styles.small}`}>{line.from_place}</div>}
                </>
              ),
            },
            ...fields.map((field, column) => ({
              key: field,
              title: known(field).label,
              render: (_: unknown, line: ManifestLine, row: number) => {
                const id = key(line, field);
                return line.missing.includes(field) ? (
                  <>
                    <AutoComplete
                      aria-label={`${known(field).label} of ${line.from_name}`}
                      {...offered(known(field).editor, typed[id] ?? "", options)}
                      status={problems[id] ? "error" : undefined}
                      value={typed[id] ?? ""}
                      onChange={(text: string) => onType((had) => ({ ...had, [id]: text }))}
                    >
                      <Input
                        size="small"
                        placeholder={HINTS[known(field).editor] ?? ""}
                        onPaste={(event) => paste(event, row, column)}
                        onFocus={() => setLooked(line)}
                      />
                    </AutoComplete>
                    {problems[id] && <Problem small>{problems[id]}</Problem>}
                  </>
                ) : null;
              },
            })),
          ]}
        />
        {looked && <PageBeside key={looked.document} line={looked} onClose={() => setLooked(null)} />}
      </div>
      <Button
        disabled={busy || !lacking.some((line) => line.missing.some((field) => typed[key(line, field)]?.trim()))}
        onClick={() => void save()}
      >
        Save these facts
      </Button>
    </section>
  );
}

type Options = Partial<Record<Editor, { value: string; label?: string }[]>>;

/** What is offered below a field: what is there, or both days that a date can mean. */
function offered(editor: Editor, typed: string, options: Options) {
  if (editor !== "date")
    return {
      options: options[editor],
      showSearch: { filterOption: (text: string, option?: { value: string }) => startsWith(option?.value, text) },
    };
  const days = readingsOfDay(typed);
  return { options: days.length > 1 ? days.map((value) => ({ value, label: day(value) })) : [], showSearch: false };
}

/** The page of the document whose facts are being typed, beside them. */
function PageBeside(props: { line: ManifestLine; onClose: () => void }): ReactNode {
  const { line } = props;
  const [none, setNone] = useState(false);
  return (
    <aside className="lacking-page" aria-label={`Page of ${line.from_name}`}>
      <p className={styles.small}>
        <Link to={`/documents/${line.document}`}>Open it</Link>
        <LinkButton onClick={props.onClose}>{SAY.close}</LinkButton>
      </p>
      {none ? (
        <p className={`${styles.quiet} ${styles.small}`}>It has no page to show.</p>
      ) : (
        <img
          src={`/api/documents/${line.document}/pages/1`}
          alt={`First page of ${line.from_name}`}
          onError={() => setNone(true)}
        />
      )}
    </aside>
  );
}
