import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { type ReactNode, useEffect } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { client, data, isGone } from "../api/client";
import { type FindQuery, keys } from "../api/keys";
import { useFolder, useParties, useVocabulary } from "../api/queries";
import { count } from "../ui/format";
import { useKeys } from "../ui/keys";
import { PickOne } from "../ui/PickOne";
import { Failed, Loading, Nothing } from "../ui/states";
import { HitList } from "./HitList";
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
      {results && results.hits.length > 0 && <HitList key={parameters.toString()} hits={results.hits} />}
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
