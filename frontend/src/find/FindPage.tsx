import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { type KeyboardEvent, type ReactNode, useEffect, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { client, data, isGone, type Schemas } from "../api/client";
import { type FindQuery, keys } from "../api/keys";
import { useFolder, useParties, useVocabulary } from "../api/queries";
import { flipping } from "../document/flip";
import { asksForMenu } from "../parts/lines/useChoosing";
import { count, day } from "../ui/format";
import { useKeys } from "../ui/keys";
import { useCopyLink } from "../ui/link";
import { Menu, type MenuAt } from "../ui/Menu";
import { PickOne } from "../ui/PickOne";
import { Failed, Loading, Nothing } from "../ui/states";
import { hitActs } from "./hitMenu";
import { namesOf } from "./names";
import "./find.css";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

export default function FindPage(): ReactNode {
  const [parameters, setParameters] = useSearchParams();
  const navigate = useNavigate();
  const vocabulary = useVocabulary();
  const parties = useParties();
  const query: FindQuery = {
    q: parameters.get("q") ?? "",
    kind: parameters.get("kind") || undefined,
    party: Number(parameters.get("party")) || undefined,
    year: Number(parameters.get("year")) || undefined,
    tag: parameters.get("tag") || undefined,
    below: Number(parameters.get("in")) || undefined,
    names: namesOf(parameters),
  };
  const { q, below, ...filters } = query;
  const tags = useQuery({ queryKey: keys.tags, queryFn: () => data(client.GET("/api/tags")) });
  const filtered = Object.values(filters).filter(Boolean).length;
  const empty = !q.trim() && !filtered;
  const only = q.trim() || filtered !== 1 ? null : query.tag ? "tag" : (query.names ?? null);
  const found = useQuery({
    queryKey: keys.find(query),
    queryFn: ({ signal }) => data(client.GET("/api/find", { params: { query }, signal })),
    placeholderData: keepPreviousData,
    enabled: !empty,
  });
  useEffect(() => {
    if (empty) document.getElementById("find-box")?.focus();
  }, [empty]);
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(parameters);
    if (value) next.set(name, value);
    else next.delete(name);
    setParameters(next, { replace: true });
  };
  useKeys([
    {
      keys: "Alt+M",
      what: "Rename or move many: all that is found",
      anywhere: true,
      match: (e) => e.altKey && e.code === "KeyM",
      run: () => !empty && void navigate(`/manifests/new?${parameters}`),
    },
  ]);
  const press = (event: KeyboardEvent) => {
    if (event.key !== "ArrowDown" && event.key !== "ArrowUp") return;
    const hits = [...document.querySelectorAll<HTMLElement>("[data-hit]")];
    const at = hits.indexOf(document.activeElement as HTMLElement);
    const next = event.key === "ArrowDown" ? hits[at + 1] : hits[at - 1];
    event.preventDefault();
    if (next) next.focus();
    else if (event.key === "ArrowUp") document.getElementById("find-box")?.focus();
  };
  const copyLink = useCopyLink();
  const [menu, setMenu] = useState<MenuAt | null>(null);
  const openMenu = (hit: Schemas["HitOut"], left: number, top: number) =>
    setMenu({ left, top, title: hit.name, acts: hitActs(hit, navigate, copyLink) });
  const years = Array.from({ length: 12 }, (_, n) => new Date().getFullYear() - n);
  const results = empty ? undefined : found.data;
  return (
    <main className="find main">
      <h1 className={styles.hidden}>Find</h1>
      <div className="find-filters">
        <Filter name="Kind" of={vocabulary.data?.kinds.map((one) => [one.key, one.label])} is={query.kind} set={set} />
        <Filter name="Party" of={parties.data?.parties.map((one) => [one.id, one.name])} is={query.party} set={set} />
        <Filter name="Year" of={years.map((year) => [year, String(year)])} is={query.year} set={set} />
        <Filter name="Tag" of={tags.data?.tags.map((one) => [one.tag, one.tag])} is={query.tag} set={set} />
        <Filter
          name="Names"
          of={[
            ["empty", SAY.meaningless],
            ["shared", SAY.repeated],
          ]}
          is={query.names}
          set={set}
        />
        {below && <Below folder={below} onAway={() => set("in", "")} />}
        <span className={styles.quiet} role="status">
          {results &&
            (results.total === 0
              ? "Nothing found"
              : `${count(results.total)}${results.capped ? " or more" : ""} found${results.total > results.hits.length ? `, the newest ${results.hits.length} shown` : ""}`)}
        </span>
        {results && results.total > 0 && <Link to={`/manifests/new?${parameters}`}>Rename or move them</Link>}
      </div>
      {found.isError && !results && !empty && (
        <Failed
          what={isGone(found.error) ? "The folder to look in" : "What you look for"}
          error={found.error}
          onAgain={found.refetch}
        />
      )}
      {!empty && found.isPending && <Loading />}
      {empty && (
        <Nothing title="Find a record by what you remember of it">
          Words that stand in it, a part of its name, who sent it (name or code), its kind, a year or month as 2026-03.
          Every word has to be met; each result says by what.
        </Nothing>
      )}
      {results && results.total === 0 && (
        <Nothing title={NOTHING[only ?? "any"]}>
          {only !== "empty" &&
            only !== "shared" &&
            "Take a word or a filter away, or write a part of a word: “toll” finds Tollgate Timber."}
        </Nothing>
      )}
      {query.tag && <TaggedFolders tag={query.tag} />}
      <ol className="hits" onKeyDown={press}>
        {results?.hits.map((hit) => (
          <Hit key={hit.document} hit={hit} among={results.hits} onMenu={(left, top) => openMenu(hit, left, top)} />
        ))}
      </ol>
      {menu && <Menu at={menu} onClose={() => setMenu(null)} />}
    </main>
  );
}

const NOTHING = {
  tag: "No document that you may read bears this tag",
  empty: "Every name says something of who, what or when",
  shared: "No two documents have the same name",
  any: "Nothing that you may read meets all of that",
};

/** One thing that a record must be; its name in the address is that on the screen. */
function Filter<T extends string | number>(props: {
  name: string;
  of: (readonly [T, string])[] | undefined;
  is: T | undefined;
  set: (name: string, value: string) => void;
}): ReactNode {
  const { name, set } = props;
  return (
    <span className="find-filter">
      {name}{" "}
      <PickOne
        size="small"
        aria-label={name}
        none="any"
        of={props.of ?? []}
        value={props.is ?? null}
        onChange={(value) => set(name.toLowerCase(), String(value))}
        onNone={() => set(name.toLowerCase(), "")}
      />
    </span>
  );
}

/** The folder below which is looked. */
function Below(props: { folder: number; onAway: () => void }): ReactNode {
  const folder = useFolder(props.folder, false);
  const told = folder.error ? "a folder that is not there" : folder.data?.path.map((step) => step.name).join(" / ");
  return (
    <span className="tag nowrap">
      in {told}{" "}
      <Button type="text" size="small" aria-label="Look in the whole drive" onClick={props.onAway}>
        ×
      </Button>
    </span>
  );
}

/** Folders that bear the tag themselves; what lies in them need not. */
function TaggedFolders(props: { tag: string }): ReactNode {
  const found = useQuery({
    queryKey: keys.taggedFolders(props.tag),
    queryFn: () => data(client.GET("/api/tags/folders", { params: { query: { tag: props.tag } } })),
  });
  if (!found.data?.folders.length) return null;
  return (
    <p className="tagged-folders">
      <span className="label">Folders with the tag</span>{" "}
      {found.data.folders.map((one) => (
        <Link key={one.folder} to={`/drive/${one.folder}`}>
          {one.path}
        </Link>
      ))}
    </p>
  );
}

const WHY: Record<string, string> = { kind: "kind", party: "party", issued: "issued", name: "name" };

function why(reason: Schemas["ReasonOut"]): string {
  if (reason.kind === "empty") return "its name is meaningless";
  if (reason.kind === "shared") return `${count(Number(reason.text))} documents have this name`;
  return `${WHY[reason.kind]}: ${reason.text}`;
}

function Hit(props: {
  hit: Schemas["HitOut"];
  among: Schemas["HitOut"][];
  onMenu: (left: number, top: number) => void;
}): ReactNode {
  const { hit } = props;
  const inName = hit.reasons.filter((reason) => reason.kind === "name").map((reason) => reason.text);
  return (
    <li
      className="hit"
      onContextMenu={(event) => {
        event.preventDefault();
        props.onMenu(event.clientX, event.clientY);
      }}
      onKeyDown={(event) => {
        if (!asksForMenu(event)) return;
        event.preventDefault();
        const at = event.currentTarget.getBoundingClientRect();
        props.onMenu(at.left + 40, at.top + 24);
      }}
    >
      <Link
        to={`/documents/${hit.document}`}
        data-hit
        className="mono hit-name"
        state={flipping(props.among.map((one) => one.document))}
      >
        <Marked text={hit.name} words={inName} />
      </Link>
      <span className="hit-facts">
        {hit.party}
        {hit.issued && (
          <span className={styles.quiet}>
            {hit.party && " · "}
            {day(hit.issued)}
          </span>
        )}
      </span>
      {hit.folder === null ? (
        <span className={`hit-place ${styles.quiet} ${styles.small}`}>given to you by itself</span>
      ) : (
        <Link className={`hit-place ${styles.quiet} ${styles.small}`} to={`/drive/${hit.folder}`}>
          {hit.path}
        </Link>
      )}
      <span className={`${styles.small} hit-why`}>
        {hit.reasons
          .filter((reason) => reason.kind !== "inside" && reason.kind !== "name")
          .map((reason) => (
            <span key={reason.kind + reason.text} className="tag">
              {why(reason)}
            </span>
          ))}
        {hit.snippet && (
          <span className={styles.quiet}>
            … <Snippet text={hit.snippet} /> …
          </span>
        )}
      </span>
    </li>
  );
}

/** The parts of `text` that are one of `words`, marked. */
export function Marked(props: { text: string; words: string[] }): ReactNode {
  const found = props.words.filter(Boolean).map((word) => word.replace(/[.*+?^${}()|[\]\\]/g, "\\$&"));
  if (!found.length) return props.text;
  const parts = props.text.split(new RegExp(`(${found.join("|")})`, "i"));
  // biome-ignore lint/suspicious/noArrayIndexKey: parts have no identity but their order
  return parts.map((part, index) => (index % 2 ? <mark key={index}>{part}</mark> : part));
}

function Snippet(props: { text: string }): ReactNode {
  const parts = props.text.split(/⟦(.*?)⟧/);
  // biome-ignore lint/suspicious/noArrayIndexKey: parts have no identity but their order
  return parts.map((part, index) => (index % 2 ? <mark key={index}>{part}</mark> : part));
}
