import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { type FormEvent, type KeyboardEvent, type ReactNode, useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { client, data, isGone, type Schemas, Trouble } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { forget, isUnkept } from "../parts/typing/drafts";
import { same, useTyped } from "../parts/typing/typed";
import { moment, several } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import { type Notice, useNotices, words } from "../ui/notices";
import { PickOne } from "../ui/PickOne";
import { Problem } from "../ui/Problem";
import { Failed } from "../ui/states";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { Merge } from "./Merge";

export type Draft = Schemas["PartyCardForm"];
export const EMPTY: Draft = { name: "", short: "", code: "", aliases: [], numbers: [], area: null };

type Props = {
  party: number | null;
  draft: Draft | null;
  register: Schemas["RegisterOut"];
  onDone: (party: number) => void;
  onLeave: () => void;
};

/** A register entry as a form: a new one, or one that is there with its history. */
export function CardEditor(props: Props): ReactNode {
  const entry = useQuery({
    queryKey: keys.party(props.party ?? 0),
    enabled: props.party !== null,
    queryFn: () => data(client.GET("/api/register/{party}", { params: { path: { party: props.party ?? 0 } } })),
  });
  // an entry that was merged into another is that one, also for who kept its address; parted from it, it is its own again
  const { party, onDone } = props;
  const { tell } = useNotices();
  const now = entry.isFetching ? party : (entry.data?.card.id ?? party);
  const into = entry.data?.card.name;
  useEffect(() => {
    if (now === null || party === null || now === party) return;
    if (isUnkept(cardPlace(party)))
      tell({ text: `It was merged into ${into}. What you typed is there again when that is taken back.`, bad: true });
    onDone(now);
  }, [now, party, into, tell, onDone]);
  if (props.draft) return <Form {...props} start={props.draft} entry={null} />;
  if (entry.isError && (!entry.data || isGone(entry.error)))
    return <Failed what="The card" error={entry.error} onAgain={entry.refetch} />;
  if (!entry.data)
    return (
      <p className={styles.quiet}>
        Choose a party to see what it is known by: the names and numbers that stand on its papers, the short name that
        stands in the names of documents.
      </p>
    );
  const told = entry.data;
  return <Form key={told.card.id} {...props} start={told.card} entry={told} />;
}

/** Where what is typed into cards is remembered: a party's, and those of new entries. */
export const cardPlace = (party: number) => `party ${party}`;
export const NEW_CARD = "new party";

const lines = (text: string) =>
  text
    .split("\n")
    .map((line) => line.trim())
    .filter(Boolean);

function Form(props: Props & { start: Draft; entry: Schemas["EntryOut"] | null }): ReactNode {
  const { start, entry, register } = props;
  const queries = useQueryClient();
  const { tell } = useNotices();
  const card = entry?.card ?? null;
  const mayWrite = card === null || card.changes;
  const typedAt = card ? cardPlace(card.id) : `${NEW_CARD}/${start.name}`;
  const at = (field: keyof Draft) => (mayWrite ? `${typedAt}/${field}` : undefined);
  const [name, setName, nameKept] = useTyped(start.name, at("name"));
  const [short, setShort, shortKept] = useTyped(start.short, at("short"));
  const [code, setCode, codeKept] = useTyped(start.code, at("code"));
  const [aliases, setAliases, aliasesKept] = useTyped((start.aliases ?? []).join("\n"), at("aliases"));
  const [numbers, setNumbers, numbersKept] = useTyped((start.numbers ?? []).join("\n"), at("numbers"));
  const [area, setArea, areaKept] = useTyped(start.area, at("area"));
  const navigate = useNavigate();
  const [refused, setRefused] = useState<{ trouble: Trouble; of: Draft } | null>(null);
  const [busy, setBusy] = useState(false);
  const body: Draft = { name, short, code, aliases: lines(aliases), numbers: lines(numbers), area };
  const shown: Draft = {
    name: start.name,
    short: start.short,
    code: start.code,
    aliases: start.aliases,
    numbers: start.numbers,
    area: start.area,
  };
  const typed = !same(body, shown);
  const changed = card === null || card.removed || typed;
  const adopt = (as: Schemas["PartyCardOut"]) => {
    nameKept(as.name);
    shortKept(as.short);
    codeKept(as.code);
    aliasesKept(as.aliases.join("\n"));
    numbersKept(as.numbers.join("\n"));
    areaKept(as.area);
  };
  // what was refused is told until one writes something else there
  const where = refused?.trouble.field as keyof Draft | undefined;
  const wrong = refused && where && same(refused.of[where], body[where]) ? refused.trouble : null;
  const told = (name: keyof Draft) => ({
    id: `card-${name}`,
    "aria-invalid": wrong?.field === name || undefined,
    "aria-describedby": wrong?.field === name ? `card-${name}-problem` : undefined,
  });
  const field = (name: keyof Draft, label: string, value: string, onChange: (value: string) => void): Field => ({
    ...told(name),
    label,
    value,
    onChange,
    readOnly: !mayWrite,
  });
  const problem = (name: keyof Draft) =>
    wrong?.field === name && (
      <Problem small id={`card-${name}-problem`}>
        {wrong.message}
      </Problem>
    );

  const act = async (what: () => Promise<string | Notice>) => {
    setBusy(true);
    setRefused(null);
    try {
      const done = await what();
      tell(typeof done === "string" ? { text: done } : done);
      // what is done next is done to the entry as it is then
      await askAgain(queries, "register", "arrivals", "drive");
    } catch (error) {
      if (error instanceof Trouble && error.field && error.field in body) {
        setRefused({ trouble: error, of: body });
        document.getElementById(`card-${error.field}`)?.focus();
      } else tell({ text: words(error), bad: true });
      // what one mends at once is taken at once
      void askAgain(queries, "register", "arrivals", "drive");
    }
    setBusy(false);
  };
  const path = { params: { path: { party: card?.id ?? 0 } } };
  const keep = (event: FormEvent | KeyboardEvent) => {
    event.preventDefault();
    if (!changed || busy || !name.trim()) return;
    void act(async () => {
      if (!card) {
        const made = await data(client.POST("/api/register", { body }));
        forget(typedAt);
        props.onDone(made.card.id);
        return `Added ${made.card.name}. Arrivals are checked again for it.`;
      }
      const kept = await data(
        client.PUT("/api/register/{party}", { ...path, body: { ...body, revision: card.revision } }),
      );
      adopt(kept.card);
      const named = kept.card.short !== card.short || kept.card.name !== card.name || kept.card.code !== card.code;
      if (!named || !kept.card.documents) return "Saved.";
      const follow = () => void navigate(`/manifests/new?party=${kept.card.id}&do=plan`);
      return {
        text: `Saved. The names of ${several(kept.card.documents, "document")} may still show the old one.`,
        action: { label: "Rename them", run: follow },
      };
    });
  };
  const remove = () =>
    act(async () => {
      const query = { revision: card?.revision ?? 0 };
      await data(client.DELETE("/api/register/{party}", { params: { path: { party: card?.id ?? 0 }, query } }));
      return `Removed ${name} from the register. Its documents stay as they are; “Restore” brings it back.`;
    });
  return (
    <>
      <form
        className="card-editor"
        onSubmit={keep}
        onKeyDown={(event) => event.key === "Enter" && (event.ctrlKey || event.metaKey) && keep(event)}
      >
        <h2>{card ? card.name : "New party"}</h2>
        {card?.removed && <p className={`signal ${styles.small}`}>It was removed: it is no longer offered or found.</p>}
        <Text {...field("name", "Full name", name, setName)} most={120} />
        {problem("name")}
        <div className="card-pair">
          <Text {...field("short", "Short name, for names", short, setShort)} most={40} mono />
          <Text {...field("code", "Code, to type", code, setCode)} most={12} mono />
        </div>
        {problem("short")}
        {problem("code")}
        <Lines {...field("aliases", "Also called (one a line)", aliases, setAliases)} />
        {problem("aliases")}
        <Lines {...field("numbers", "Tax and account numbers (one a line)", numbers, setNumbers)} />
        {problem("numbers")}
        <label className="label" htmlFor="card-area">
          Whose entry
        </label>
        <PickOne
          {...told("area")}
          none={register.common || area === null ? "all areas" : undefined}
          of={register.areas
            .filter((one) => one.id === area || register.enter.some((mine) => mine.id === one.id))
            .map((one) => [one.id, `${one.name} only`] as const)}
          value={area}
          disabled={!mayWrite}
          onChange={setArea}
          onNone={() => setArea(null)}
        />
        {problem("area")}
        {mayWrite ? (
          <div className="line-actions">
            <Button htmlType="submit" type="primary" disabled={!changed || busy || !name.trim()}>
              {card ? (card.removed ? SAY.restore : SAY.save) : "Add"} <kbd>Ctrl+Enter</kbd>
            </Button>
            {card && typed && (
              <Button disabled={busy} onClick={() => adopt(card)}>
                {SAY.reset}
              </Button>
            )}
            {!card && (
              <Button
                onClick={() => {
                  forget(typedAt);
                  props.onLeave();
                }}
              >
                {SAY.cancel}
              </Button>
            )}
          </div>
        ) : (
          <p className={`${styles.small} ${styles.quiet}`}>Only keepers change it.</p>
        )}
      </form>
      {card && card.documents > 0 && (
        <p className={styles.small}>
          {several(card.documents, "document")} {card.documents === 1 ? "is" : "are"} of it:{" "}
          <Link to={`/find?party=${card.id}`}>see them</Link>
          {" · "}
          <Link to={`/manifests/new?party=${card.id}&do=plan`}>Rename them by the plan</Link>
        </p>
      )}
      {card?.changes && !card.removed && (
        <div className="card-more">
          <Merge card={card} parties={register.parties} busy={busy} act={act} onDone={props.onDone} />
          <LinkButton disabled={busy} onClick={() => void remove()}>
            Remove from the register
          </LinkButton>
        </div>
      )}
      {entry && <History entry={entry} act={act} busy={busy} />}
    </>
  );
}

function History(props: {
  entry: Schemas["EntryOut"];
  busy: boolean;
  act: (what: () => Promise<string>) => Promise<void>;
}): ReactNode {
  const { entry, busy, act } = props;
  const card = entry.card;
  const path = { params: { path: { party: card.id } } };
  const part = (party: number, name: string) =>
    act(async () => {
      await data(client.POST("/api/register/{party}/part", { ...path, body: { revision: card.revision, party } }));
      return `${name} is an entry of its own again.`;
    });
  const forget = (lesson: number) =>
    act(async () => {
      await data(client.DELETE("/api/lessons/{lesson}", { params: { path: { lesson } } }));
      return "Forgotten. Arrivals are checked again.";
    });
  const back = (to: number) =>
    act(async () => {
      await data(client.POST("/api/register/{party}/back", { ...path, body: { revision: card.revision, to } }));
      return `As in revision ${to} again.`;
    });
  return (
    <section className="card-history" aria-label="History">
      {entry.merged.length > 0 && (
        <>
          <h3 className="label">Merged into it</h3>
          <ul>
            {entry.merged.map((one) => (
              <li key={one.id}>
                {one.name} <span className={`${styles.quiet} nowrap`}>{moment(one.at)}</span> {one.by}{" "}
                {card.changes && (
                  <LinkButton disabled={busy} onClick={() => void part(one.id, one.name)}>
                    Take the merge back
                  </LinkButton>
                )}
              </li>
            ))}
          </ul>
        </>
      )}
      {entry.lessons.length > 0 && (
        <>
          <h3 className="label">What corrections taught</h3>
          <ul>
            {entry.lessons.map((one) => (
              <li key={one.id}>
                {one.field} of {one.kind.toLowerCase()}s stands{" "}
                {one.beside ? `beside “${one.beside}”` : "where it was corrected"}
                <span className={styles.quiet}>
                  {" "}
                  {one.by}, {moment(one.at)}; right {one.right} times since, wrong {one.wrong}
                </span>{" "}
                <LinkButton disabled={busy} onClick={() => void forget(one.id)}>
                  forget<span className={styles.hidden}> what was learnt of {one.field}</span>
                </LinkButton>
              </li>
            ))}
          </ul>
        </>
      )}
      <h3 className="label">Revisions</h3>
      <ul>
        {entry.revisions.map((one) => (
          <li key={one.revision}>
            <b>{one.revision}</b> <span className={`${styles.quiet} nowrap`}>{moment(one.at)}</span>{" "}
            {one.by ?? "set up"} <span className={styles.quiet}>{one.what}</span>{" "}
            {card.changes && one.revision !== card.revision && (
              <LinkButton disabled={busy} onClick={() => void back(one.revision)}>
                Restore it
              </LinkButton>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

type Field = {
  id: string;
  label: string;
  value: string;
  onChange: (value: string) => void;
  readOnly: boolean;
  "aria-invalid": true | undefined;
  "aria-describedby": string | undefined;
};

function Text(props: Field & { most: number; mono?: boolean }): ReactNode {
  return (
    <div className="card-field">
      <label className="label" htmlFor={props.id}>
        {props.label}
      </label>
      <Input
        id={props.id}
        className={props.mono ? "mono" : undefined}
        value={props.value}
        maxLength={props.most}
        readOnly={props.readOnly}
        aria-invalid={props["aria-invalid"]}
        aria-describedby={props["aria-describedby"]}
        spellCheck={false}
        autoComplete="off"
        onChange={(event) => props.onChange(event.target.value)}
      />
    </div>
  );
}

function Lines(props: Field): ReactNode {
  return (
    <div className="card-field">
      <label className="label" htmlFor={props.id}>
        {props.label}
      </label>
      <Input.TextArea
        id={props.id}
        rows={Math.min(Math.max(props.value.split("\n").length, 2), 6)}
        value={props.value}
        readOnly={props.readOnly}
        aria-invalid={props["aria-invalid"]}
        aria-describedby={props["aria-describedby"]}
        spellCheck={false}
        onChange={(event) => props.onChange(event.target.value)}
        onBlur={() => props.readOnly || props.onChange(lines(props.value).join("\n"))}
      />
    </div>
  );
}
