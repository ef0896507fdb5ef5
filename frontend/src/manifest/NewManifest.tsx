import { keepPreviousData, type UseQueryResult, useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { type ReactNode, useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { client, data, isGone, type Schemas, Trouble } from "../api/client";
import { keys } from "../api/keys";
import { useFolder, useParties } from "../api/queries";
import { NAMES } from "../find/names";
import { ButtonLink } from "../ui/ButtonLink";
import { Choice } from "../ui/Choice";
import { count } from "../ui/format";
import { type Key, useKeys } from "../ui/keys";
import { LinkButton } from "../ui/LinkButton";
import { useNotices, words } from "../ui/notices";
import { Sides } from "../ui/Sides";
import { Failed, Loading, Nothing } from "../ui/states";
import { type Chosen, chosenOf, NOTHING, orderOf, type Way, wayOf } from "./chosen";
import { Lacking, readBy } from "./Lacking";
import { Ledger, type ManifestLine, StateBar } from "./Ledger";
import { LineTold, Reasons } from "./Reasons";
import { WayPanel } from "./WayPanel";
import "../parts/beside.css";
import "./manifest.css";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

const TYPING_MS = 120;

/** A value that follows another when it has been still for a moment. */
function useSettled<T>(value: T): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = window.setTimeout(() => setSettled(value), TYPING_MS);
    return () => window.clearTimeout(timer);
  }, [value]);
  return settled;
}

/** What a search asked for, in words, for the screen and for the manifest's title. */
function useSearchWords(target: Chosen | null): { told: string; title: string } | null {
  const parties = useParties();
  const search = target?.search;
  const party = parties.data?.parties.find((one) => one.id === search?.party)?.name;
  const below = useFolder(search?.below ?? null, false).data?.path.map((step) => step.name);
  const where = below ? ` in ${below.join(" / ")}` : "";
  return useMemo(() => {
    if (!search) return null;
    const names = search.names && NAMES[search.names];
    const asked = [search.words && `“${search.words}”`, party, search.kind, search.year, search.tag, names]
      .filter(Boolean)
      .join(", ");
    return { told: `what is found by ${asked}${where}`, title: `Rename what is found by ${asked}${where}` };
  }, [search, party, where]);
}

/** Planning a manifest for a folder, some documents or a search: the way on the right, what it would do on the real list at once. */
export default function NewManifest(): ReactNode {
  const [query, setQuery] = useSearchParams();
  const navigate = useNavigate();
  const { tell } = useNotices();
  const target = useMemo(() => chosenOf(query), [query]);
  const folder = Number(query.get("folder")) || null;
  const below = query.get("below") === "true";
  const view = useFolder(folder, below);
  const searched = useSearchWords(target);
  const [way, setWay] = useState<Way>(() => wayOf(query));
  const [chosen, setChosen] = useState<number | null>(null);
  const [busy, setBusy] = useState(false);
  const [order, setOrder] = useState(() => orderOf(query));
  const settled = useSettled(way);
  const body = useMemo<Schemas["PlanForm"]>(
    () => ({ chosen: { ...(target ?? NOTHING), order }, way: settled, taken: "stop", title: searched?.title ?? null }),
    [target, settled, searched, order],
  );
  const preview = useQuery({
    queryKey: keys.preview(body),
    enabled: target !== null,
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () => data(client.POST("/api/manifests/preview", { body })),
  });
  const wrong = preview.error instanceof Trouble ? preview.error : null;
  // a pattern in the middle of being typed is often none: what the last good one did stays in sight
  const good = useRef(preview.data);
  if (preview.data) good.current = preview.data;
  const lines = good.current?.lines ?? [];
  const read = useMemo(() => readBy(settled), [settled]);
  const line = lines.find((one) => one.line === chosen);
  const counts = good.current?.counts ?? {};
  const ready = counts.ready ?? 0;
  const where = view.data?.path.map((step) => step.name).join(" / ") ?? "";
  // what is blocked may be kept and mended there; where all names are right already there is nothing to keep
  const nothing = !good.current?.more && Object.entries(counts).every(([state, n]) => state === "right" || !n);
  const canPlan = !busy && !wrong && lines.length > 0 && !nothing && settled === way;

  const takeBelow = (all: boolean) => {
    const next = new URLSearchParams(query);
    next.set("below", String(all));
    setQuery(next, { replace: true });
  };
  const plan = async () => {
    if (!canPlan) return;
    setBusy(true);
    try {
      const made = await data(client.POST("/api/manifests", { body }));
      await navigate(`/manifests/${made.id}`);
    } catch (error) {
      tell({ text: words(error), bad: true });
      setBusy(false);
    }
  };
  const screenKeys: Key[] = [
    {
      keys: "Ctrl+Enter",
      what: "Save this plan",
      anywhere: true,
      match: (e) => e.ctrlKey && e.key === "Enter",
      run: () => void plan(),
    },
  ];
  useKeys(screenKeys);

  if (target === null)
    return (
      <main className="main">
        <Nothing title="Choose documents first" action={<Link to="/drive">{SAY.goToDrive}</Link>}>
          Open the folder whose documents are to be renamed or moved (or choose some of them), then “Rename or move
          many”; or <Link to="/find">find</Link> them.
        </Nothing>
      </main>
    );
  if (view.isError && (!view.data || isGone(view.error)))
    return (
      <main className="main">
        <Failed what="The folder" error={view.error} onAgain={view.refetch}>
          <Link to="/drive">{SAY.goToDrive}</Link>
        </Failed>
      </main>
    );
  return (
    <main className="manifest">
      <Sides
        name="manifest"
        end={{
          width: [330, 270],
          content: (
            <aside className="way-pane" aria-label="What is to happen">
              <WayPanel
                way={way}
                chosen={body.chosen}
                wrong={wrong}
                onChange={setWay}
                onOrder={setOrder}
                told={
                  <>
                    {line && <LineTold line={line} />}
                    <Reasons of={good.current?.reasons} />
                  </>
                }
              />
            </aside>
          ),
        }}
      >
        <section className="ledger-pane" aria-label="What it would do">
          <div className="ledger-head">
            <h1>
              {SAY.renameMany}{" "}
              {searched ? (
                <span className={`${styles.quiet} thin`}>{searched.told}</span>
              ) : (
                <>
                  <span className={`${styles.quiet} thin`}>in</span> <b>{where}</b>
                </>
              )}
            </h1>
            {target.entries && target.entries.length > 0 && (
              <span className={styles.quiet}>{count(target.entries.length)} chosen</span>
            )}
            {target.folder !== null && (
              <Choice
                label="Which documents"
                of={[
                  [false, `here ${count(view.data?.here ?? 0)}`],
                  [true, `with all below ${count(view.data?.below ?? 0)}`],
                ]}
                value={below}
                onChange={takeBelow}
              />
            )}
          </div>
          <div className="ledger-sum">
            <StateBar counts={counts} />
            {good.current?.more && (
              <p className={`${styles.small} ${styles.quiet}`}>
                The first {count(5000)} documents are shown; the plan takes all.
              </p>
            )}
          </div>
          {wrong && (
            <p className={wrong.code === "pattern" ? `state-note ${styles.quiet} ${styles.small}` : "problem"}>
              {wrong.code === "pattern"
                ? "The pattern cannot be used yet. These lines are as the last one had them."
                : wrong.message}
            </p>
          )}
          {lines.length ? (
            <Ledger
              lines={lines}
              where={where}
              total={lines.length}
              more={false}
              chosen={chosen}
              onChoose={setChosen}
              onOpen={(line: ManifestLine) => line.document && void navigate(`/documents/${line.document}`)}
              onEnd={() => {}}
            />
          ) : (
            <NoLines
              preview={preview}
              searched={target.folder === null}
              below={below ? 0 : (view.data?.below ?? 0)}
              onBelow={() => takeBelow(true)}
            />
          )}
          <Lacking lines={lines} read={read} onFilled={() => void preview.refetch()} />
          <footer className="ledger-foot">
            <Button type={ready > 0 ? "primary" : "default"} disabled={!canPlan} onClick={() => void plan()}>
              {ready > 0 || !counts.blocked
                ? `Save this plan: ${count(ready)} ready`
                : `Save this plan with ${count(counts.blocked)} to mend`}
            </Button>
            <span className={`${styles.quiet} ${styles.small}`}>
              {nothing && lines.length > 0
                ? "Nothing would change: write how the names shall read, or take an edit."
                : "Nothing changes yet. The manifest can be checked, tried and run."}
            </span>
            <span className="spread" />
            <ButtonLink to={target.search ? `/find?${query}` : `/drive/${folder}?below=${below}`}>Cancel</ButtonLink>
          </footer>
        </section>
      </Sides>
    </main>
  );
}

/** Where no document would be renamed or moved: why, and what to do. */
function NoLines(props: {
  preview: UseQueryResult<unknown>;
  searched: boolean;
  /** How many there are in the folders below, which were left out. */
  below: number;
  onBelow: () => void;
}): ReactNode {
  const { preview, below } = props;
  if (preview.isPending) return <Loading />;
  if (preview.error instanceof Trouble && preview.error.status < 500 && preview.error.status > 0)
    return <Nothing title="The pattern cannot be used yet">Write the patterns on the right.</Nothing>;
  if (preview.isError) return <Failed what="What it would do" error={preview.error} onAgain={preview.refetch} />;
  return (
    <Nothing
      title="No document to rename or move"
      action={below > 0 && <LinkButton onClick={props.onBelow}>Take the {count(below)} below it</LinkButton>}
    >
      {props.searched
        ? "None of what was chosen is there any more, or yours to read."
        : below > 0
          ? "There is none in this folder itself."
          : "There is none in this folder, nor below it."}
    </Nothing>
  );
}
