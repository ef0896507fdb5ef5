import { Button, Input, Select } from "antd";
import { type KeyboardEvent, type ReactNode, useEffect, useRef, useState } from "react";
import { client, data, type Schemas } from "../../api/client";
import { useField, useParties, useVocabulary } from "../../api/queries";
import { day } from "../../ui/format";
import { LinkButton } from "../../ui/LinkButton";
import { useNotices, words } from "../../ui/notices";
import { Problem } from "../../ui/Problem";
import styles from "../../ui/text.module.css";
import { strokeClass } from "../names/SlotText";
import { type FactJson, factValue, typedFact } from "../typing/factText";
import "./facts.css";
import { MOST, matching, useValuesUsed } from "./known";
import { Suggested } from "./Suggested";

type Fact = Schemas["FactOut"];
/** Takes what a person wrote for facts, or takes it back; whether that was kept. */
export type FactEdit = (form: { facts?: Record<string, unknown>; drop?: string[] }) => Promise<boolean>;
type Props = {
  fact: Fact;
  strokes: Record<string, number>;
  focused: boolean;
  problem: string | null;
  /** What stands where no value is. */
  placeholder?: string;
  /** What helps where it is doubtful. */
  help?: ReactNode;
  onFocus: (field: string | null) => void;
  /** Whether what was read still stands behind what a person wrote. */
  drops?: boolean;
  onEdit: FactEdit;
};

/** To the field of a fact. */
export function goToFact(field: string): void {
  document.querySelector<HTMLElement>(`[data-fact="${field}"] input, [data-fact="${field}"] button`)?.focus();
}

/** To the next fact that is doubtful, else to the next field of the slip. */
export function toNextDoubt(from: HTMLElement): void {
  const facts = [...document.querySelectorAll<HTMLElement>("[data-fact]")];
  const at = facts.findIndex((fact) => fact.contains(from));
  const later = facts.slice(at + 1);
  const next = later.find((fact) => fact.hasAttribute("data-doubt")) ?? later[0];
  if (next) next.querySelector<HTMLElement>("input, button")?.focus();
  else document.getElementById("file-it")?.focus();
}

/** Takes what was chosen from a list, and goes to the next doubt when what that brought about is shown. */
function useTaking(id: string, fact: Fact, onEdit: FactEdit): (value: unknown) => void {
  const going = useRef(false);
  const shown = JSON.stringify([fact.value, fact.question, fact.given]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is shown has changed
  useEffect(() => {
    if (!going.current) return;
    going.current = false;
    const from = document.getElementById(id);
    if (from) toNextDoubt(from);
  }, [shown]);
  return (value) => {
    if (fact.given && JSON.stringify(value) === JSON.stringify(fact.value)) {
      // nothing changes by it that one would wait for
      const from = document.getElementById(id);
      if (from) toNextDoubt(from);
      return;
    }
    going.current = true;
    void onEdit({ facts: { [fact.field]: value } }).then((kept) => {
      if (!kept) going.current = false;
    });
  };
}

/** One fact of the slip: its label with its stroke, its value to be edited in place, where it was read. */
export function FactLine(props: Props): ReactNode {
  const { fact } = props;
  const doubtful = fact.question !== null;
  const id = `fact-${fact.field}`;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: it only follows the focus of the field in it
    <div
      className={`fact${doubtful ? " doubtful" : ""}${props.focused ? " focused" : ""}`}
      data-fact={fact.field}
      data-doubt={doubtful ? "" : undefined}
      onFocus={() => props.onFocus(fact.field)}
    >
      <label htmlFor={id}>
        <span className={strokeClass(props.strokes, fact.field)}>{fact.label}</span>
      </label>
      <div className="fact-value">
        <Editor {...props} id={id} />
        {fact.alternatives.length > 0 && !fact.given && (
          <div className="choices">
            {[fact.value, ...fact.alternatives].map((value) => (
              <Button
                key={JSON.stringify(value)}
                size="small"
                onClick={() => void props.onEdit({ facts: { [fact.field]: value } })}
              >
                {fact.editor === "date" ? day(String(value)) : typedFact(fact.editor, value, String(value))}
              </Button>
            ))}
          </div>
        )}
        {doubtful && <div className={`question ${styles.small}`}>{fact.question}</div>}
        {doubtful && props.help}
        {props.problem && <Problem small>{props.problem}</Problem>}
      </div>
      <span className={`fact-source ${styles.quiet} ${styles.small}`} title={fact.source.why}>
        {fact.given && !props.drops ? (
          "by hand"
        ) : fact.given ? (
          <LinkButton onClick={() => void props.onEdit({ drop: [fact.field] })} title="Go back to what was read">
            by you
          </LinkButton>
        ) : fact.source.lesson !== null ? (
          <Learnt lesson={fact.source.lesson} why={fact.source.why} />
        ) : fact.source.kind === "data" ? (
          "data"
        ) : fact.source.box ? (
          `page ${fact.source.box.page}`
        ) : (
          ""
        )}
      </span>
    </div>
  );
}

/** A fact that a correction led to: why, and a way to forget it. */
function Learnt(props: { lesson: number; why: string }): ReactNode {
  const { tell } = useNotices();
  const forget = async () => {
    try {
      await data(client.DELETE("/api/lessons/{lesson}", { params: { path: { lesson: props.lesson } } }));
      tell({ text: "Forgotten. Arrivals are checked again." });
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
  };
  return (
    <LinkButton title={`${props.why}. Click to forget this.`} onClick={() => void forget()}>
      learnt
    </LinkButton>
  );
}

function Editor(props: Props & { id: string }): ReactNode {
  if (props.fact.editor === "kind") return <KindEditor {...props} />;
  if (props.fact.editor === "party") return <PartyEditor {...props} />;
  return <TextEditor {...props} />;
}

/** What is chosen, in words, until all that could be chosen is known. */
const asShown = (value: unknown, fact: Fact) => [{ value: value as never, label: fact.display, search: "" }];

function KindEditor(props: Props & { id: string }): ReactNode {
  const vocabulary = useVocabulary();
  const take = useTaking(props.id, props.fact, props.onEdit);
  return (
    <Select
      id={props.id}
      size="small"
      variant="borderless"
      className="fact-input"
      value={(props.fact.value as string | null) ?? undefined}
      placeholder={props.placeholder ?? "choose a kind"}
      aria-label={props.fact.label}
      showSearch={{ optionFilterProp: "label" }}
      options={
        vocabulary.data?.kinds.map((kind) => ({ value: kind.key, label: kind.label })) ??
        asShown(props.fact.value, props.fact)
      }
      onSelect={take}
    />
  );
}

function PartyEditor(props: Props & { id: string }): ReactNode {
  const parties = useParties();
  const value = props.fact.value as { party: number } | null;
  const [typed, setTyped] = useState("");
  const byCode = (text: string) =>
    parties.data?.parties.find((party) => party.code && party.code.toLowerCase() === text.trim().toLowerCase());
  const take = useTaking(props.id, props.fact, props.onEdit);
  return (
    <Select
      id={props.id}
      size="small"
      variant="borderless"
      className="fact-input"
      value={value?.party}
      placeholder={props.placeholder ?? "name or code"}
      aria-label={props.fact.label}
      showSearch={{
        filterOption: (text, option) => (option?.search ?? "").includes(text.trim().toLowerCase()),
        // whose code it is comes first: Enter takes it
        filterSort: (one, other, { searchValue }) =>
          Number(byCode(searchValue)?.id === other.value) - Number(byCode(searchValue)?.id === one.value),
        onSearch: setTyped,
      }}
      onBlur={() => {
        const party = byCode(typed);
        if (party && party.id !== value?.party) void props.onEdit({ facts: { party: { party: party.id } } });
        setTyped("");
      }}
      notFoundContent={<span className={styles.quiet}>No such party in the register</span>}
      options={
        parties.data?.parties.map((party) => ({
          value: party.id,
          label: party.name,
          search: `${party.name} ${party.short} ${party.code}`.toLowerCase(),
        })) ?? asShown(value?.party, props.fact)
      }
      onSelect={(party: number) => {
        setTyped("");
        take({ party });
      }}
    />
  );
}

/** What stands in the field while it is edited. */
const editText = (fact: Fact): string => typedFact(fact.editor, fact.value, fact.display);

function TextEditor(props: Props & { id: string }): ReactNode {
  const { fact } = props;
  const [text, show] = useState<string | null>(null);
  // as it is at this moment: a field that loses the focus in the same turn keeps what was taken, not what was typed before
  const typed = useRef<string | null>(null);
  const setText = (next: string | null) => {
    typed.current = next;
    show(next);
  };
  const [wrong, setWrong] = useState<string | null>(null);
  const [active, setActive] = useState(false);
  const sent = useRef<string | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a value that came from the server replaces what was typed
  useEffect(() => {
    typed.current = null;
    show(null);
  }, [JSON.stringify(fact.value)]);
  /** Keep what was typed; false where it means no value, which is told and stays to be mended. */
  const keep = (): boolean => {
    const text = typed.current;
    if (text !== null && text === sent.current) return true;
    // what is asked and typed just so is answered
    if (text === null || (text.trim() === editText(fact) && fact.question === null)) {
      setText(null);
      setWrong(null);
      return true;
    }
    let value: FactJson = null;
    try {
      const currency = fact.editor === "money" ? (fact.value as { currency?: string } | null)?.currency : undefined;
      if (text.trim()) value = factValue(fact.editor, text, { currency });
    } catch (error) {
      setWrong(words(error));
      return false;
    }
    setWrong(null);
    // Enter keeps it and then leaves the field, which would keep it again
    sent.current = text;
    void props.onEdit({ facts: { [fact.field]: value } }).then(() => {
      sent.current = null;
    });
    return true;
  };
  const known = useField()(fact.field);
  const used = useValuesUsed(known, active);
  // an arrow key shows what was used before anything is typed: Enter on an empty field goes on, and takes nothing
  const [browsing, setBrowsing] = useState(false);
  const like = text?.trim() ? matching(used, text).filter((one) => one !== text) : browsing ? used.slice(0, MOST) : [];
  const offered = active ? like : [];
  const press = (event: KeyboardEvent<HTMLElement>) => {
    if (event.nativeEvent.isComposing) return;
    if (event.key === "ArrowDown" && known.recurs && !offered.length && !text?.trim()) {
      event.preventDefault();
      setBrowsing(true);
      return;
    }
    // the list of what is there takes it
    if (event.key === "Enter" && offered.length && !event.ctrlKey) return;
    if (event.key === "Enter" && !event.ctrlKey && !event.metaKey) {
      event.preventDefault();
      if (keep()) toNextDoubt(event.currentTarget);
    }
    if (event.key === "Escape" && browsing) {
      setBrowsing(false);
      return;
    }
    if (event.key === "Escape") {
      setText(null);
      setWrong(null);
      event.currentTarget.blur();
    }
  };
  const shown = text ?? (active ? editText(fact) : fact.display);
  const field = {
    id: props.id,
    className: `fact-input${fact.editor === "code" ? " mono" : ""}`,
    placeholder:
      props.placeholder ?? (known.recurs && active && used.length ? "↓ shows those used before" : "not known"),
    status: wrong ? ("error" as const) : ("" as const),
    onFocus: () => setActive(true),
    onBlur: () => {
      setActive(false);
      setBrowsing(false);
      keep();
    },
  };
  return (
    <>
      {known.recurs ? (
        <Suggested
          {...field}
          offered={offered}
          typed={text}
          shown={shown}
          onType={setText}
          onKey={press}
          onTake={(value) => {
            setText(value);
            setBrowsing(false);
            const from = document.getElementById(props.id);
            if (keep() && from) toNextDoubt(from);
          }}
        />
      ) : (
        <Input
          {...field}
          size="small"
          variant="borderless"
          value={shown}
          maxLength={500}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={press}
        />
      )}
      {wrong && <Problem small>{wrong}</Problem>}
    </>
  );
}
