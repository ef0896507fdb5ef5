import { useInfiniteQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { client, data, type Schemas, Trouble } from "../api/client";
import { keys, useFolder, useFolders } from "../api/queries";
import { Controls } from "../app/controls";
import { type Key, useKeys, useUndoAction } from "../app/keys";
import { useNotices, words } from "../app/notices";
import { planningOf } from "../manifest/chosen";
import { DocGrid } from "../parts/DocGrid";
import { count } from "../parts/format";
import { PatternText, SlotText } from "../parts/SlotText";
import { type Marks, NONE } from "../parts/selection";
import { FolderChooser } from "../places/FolderChooser";
import { done, type Putting, put } from "../places/moving";
import { Coverage } from "./Coverage";
import { columnsOf } from "./columns";
import "./drive.css";
import { FolderActs } from "./FolderActs";
import { LineCard } from "./LineCard";
import { NewFolder } from "./NewFolder";
import { Tree } from "./Tree";

type Line = Schemas["LineOut"];
const PAGE = 200;
// what is put somewhere in one request
const MOST = 500;

export default function DrivePage(): ReactNode {
  const parameters = useParams();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const [query, setQuery] = useSearchParams();
  const top = useFolders(null);
  const folder = parameters.folder ? Number(parameters.folder) : (top.data?.[0]?.id ?? null);
  const below = query.get("below") === "true";
  const sort = query.get("sort") ?? "name";
  const descending = query.get("descending") === "true";
  const [chosen, setChosen] = useState<number | null>(null);
  const [marks, setMarks] = useState<Marks>(NONE);
  const [naming, setNaming] = useState(false);
  const [putting, setPutting] = useState<Putting | null>(null);
  const view = useFolder(folder, below);

  const set = useCallback(
    (changes: Record<string, string>) =>
      setQuery(
        (had) => {
          const next = new URLSearchParams(had);
          for (const [name, value] of Object.entries(changes)) next.set(name, value);
          return next;
        },
        { replace: true },
      ),
    [setQuery],
  );

  const pages = useInfiniteQuery({
    queryKey: keys.lines(folder ?? 0, below, sort, descending),
    enabled: folder !== null,
    initialPageParam: null as string | null,
    queryFn: ({ pageParam }) =>
      data(
        client.GET("/api/folders/{folder}/lines", {
          params: {
            path: { folder: folder ?? 0 },
            query: { below, sort: sort as "name", descending, after: pageParam ?? undefined, limit: PAGE },
          },
        }),
      ),
    getNextPageParam: (page) => page.next ?? null,
  });
  const lines = useMemo(() => pages.data?.pages.flatMap((page) => page.lines) ?? [], [pages.data]);
  const line = lines.find((one) => one.entry === chosen) ?? null;
  // biome-ignore lint/correctness/useExhaustiveDependencies: another folder starts with nothing chosen
  useEffect(() => {
    setChosen(null);
    setMarks(NONE);
  }, [folder, below]);

  const go = useCallback((id: number) => void navigate(`/drive/${id}${below ? "?below=true" : ""}`), [navigate, below]);
  const open = useCallback((one: Line) => void navigate(`/documents/${one.document}`), [navigate]);
  const path = view.data?.path ?? [];
  // a folder that is undone or removed while one is in it leads to the one above it
  const way = useRef<number[]>([]);
  useEffect(() => {
    const last = view.data?.path.at(-1)?.id;
    if (last === folder && view.data) way.current = view.data.path.map((p) => p.id);
    else if (view.error instanceof Trouble && view.error.status === 404 && way.current.at(-1) === folder) {
      way.current = way.current.slice(0, -1);
      const above = way.current.at(-1);
      if (above !== undefined) go(above);
    }
  }, [view.data, view.error, folder, go]);
  const parent = path.length > 1 ? (path.at(-2)?.id ?? null) : null;

  const discard = useCallback(async () => {
    if (!line) return;
    try {
      await data(client.DELETE("/api/entries/{entry}", { params: { path: { entry: line.entry } } }));
      tell({ text: `Discarded ${line.name}. Ctrl+Z brings it back.` });
      await queries.invalidateQueries();
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
  }, [line, tell, queries]);

  // what is chosen: the marked lines, or the one that the card shows
  const entries = useMemo(() => (marks.size ? [...marks] : line ? [line.entry] : []), [marks, line]);
  const beginPutting = useCallback(
    (how: Putting) => {
      if (entries.length <= MOST) setPutting(entries.length ? how : null);
      else tell({ text: `More than ${MOST} at once are moved by a manifest: “Rename or move many”.`, bad: true });
    },
    [entries, tell],
  );
  const putInto = async (to: number, path: string): Promise<string | null> => {
    if (!putting) return null;
    const wrong = await put(putting, entries, to);
    if (wrong) return wrong;
    tell({ text: done(putting, line?.name ?? "", entries.length, path), action: { label: "Undo", run: undo } });
    setPutting(null);
    setMarks(NONE);
    await queries.invalidateQueries();
    return null;
  };

  const screenKeys = useMemo<Key[]>(
    () => [
      {
        keys: "Alt+↑",
        what: "Up one folder",
        match: (e) => e.altKey && e.key === "ArrowUp",
        run: () => parent !== null && go(parent),
      },
      {
        keys: "F2",
        what: "Rename the chosen document",
        match: (e) => e.key === "F2",
        run: () => document.getElementById("rename")?.click(),
      },
      {
        keys: "M",
        what: "Move what is chosen to another folder",
        match: (e) => e.key === "m" && !e.ctrlKey && !e.altKey && !e.metaKey,
        run: () => beginPutting("move"),
      },
      {
        keys: "A",
        what: "File what is chosen in one more folder",
        match: (e) => e.key === "a" && !e.ctrlKey && !e.altKey && !e.metaKey,
        run: () => beginPutting("also"),
      },
      {
        keys: "Delete",
        what: "Discard the chosen document",
        match: (e) => e.key === "Delete",
        run: () => void discard(),
      },
      {
        keys: "Alt+N",
        what: "New folder here",
        match: (e) => e.altKey && e.code === "KeyN",
        run: () => setNaming(true),
      },
      {
        keys: "Alt+B",
        what: "Here, or with all below",
        match: (e) => e.altKey && e.code === "KeyB",
        run: () => set({ below: String(!below) }),
      },
      {
        keys: "Alt+M",
        what: "Rename or move many: what is chosen, or all that is listed here",
        match: (e) => e.altKey && e.code === "KeyM",
        run: () => folder !== null && void navigate(planningOf(folder, below, marks)),
      },
      {
        keys: "Shift+↓ Space",
        what: "Choose several documents (with the mouse: Shift or Ctrl and click)",
        match: () => false,
        run: () => {},
      },
      { keys: "Enter", what: "Open the chosen document", match: () => false, run: () => {} },
    ],
    [parent, go, discard, set, below, folder, navigate, marks, beginPutting],
  );
  useKeys(screenKeys);

  const fits = view.data?.fits ?? [];
  const main = fits[0];
  const fields = useMemo(
    () => [...(main?.pattern ?? "").matchAll(/<([A-Za-z][A-Za-z0-9-]*)/g)].map((m) => m[1] ?? ""),
    [main?.pattern],
  );
  const columns = useMemo(() => columnsOf(fields, main?.strokes ?? {}, below), [fields, main?.strokes, below]);
  const across = useCallback(
    (one: Line): ReactNode | undefined => {
      if (one.pieces && one.kind === main?.kind) return undefined;
      if (one.pieces) return <SlotText pieces={one.pieces} strokes={{}} ending={`.${one.type}`} />;
      return (
        <span className="misfit-name">
          <span className="mono">{one.name}</span>
          {one.misfit && <span className="signal"> — {one.misfit}</span>}
        </span>
      );
    },
    [main?.kind],
  );
  const onSort = useCallback(
    (next: string) => set({ sort: next, descending: String(next === sort ? !descending : next !== "name") }),
    [set, sort, descending],
  );
  const more = pages.hasNextPage && !pages.isFetchingNextPage;
  const total = below ? (view.data?.below ?? 0) : (view.data?.here ?? 0);

  return (
    <Controls>
      <main className={`drive main${line ? "" : " unchosen"}`}>
        <h1 className="hidden">Drive</h1>
        <nav className="tree-pane" aria-label="Folders">
          <Tree current={folder} path={path.map((p) => p.id)} onGo={go} />
          <Link className="to-discards" to="/discards">
            Discards
          </Link>
        </nav>
        <section className="lines-pane" aria-label="Documents">
          {view.error instanceof Trouble ? (
            <div className="empty">
              <h2>{view.error.status === 404 ? "There is no such folder" : "The folder cannot be shown"}</h2>
              <p>{view.error.message}</p>
            </div>
          ) : top.data && top.data.length === 0 && folder === null ? (
            <div className="empty">
              <h2>Nothing here is yours to read yet</h2>
              <p>An administrator makes areas; a keeper of an area grants them to people and groups.</p>
            </div>
          ) : (
            view.data && (
              <>
                <div className="folder-head">
                  <ol className="path" aria-label="Path">
                    {path.map((step, index) => (
                      <li key={step.id}>
                        {index > 0 && <span className="quiet"> / </span>}
                        {index === path.length - 1 ? (
                          <b>{step.name}</b>
                        ) : (
                          <Link to={`/drive/${step.id}${below ? "?below=true" : ""}`}>{step.name}</Link>
                        )}
                      </li>
                    ))}
                    {view.data.closed && <li className="closed">closed here</li>}
                  </ol>
                  <div className="fit-row">
                    <div className="fits">
                      {fits.slice(0, 2).map((fit) => (
                        <div key={fit.kind}>
                          <span className="quiet">
                            {fits.length > 1 ? `${fit.label.toLowerCase()} named as ` : "named as "}
                          </span>
                          <PatternText pattern={fit.pattern} strokes={fit.strokes} />{" "}
                          <span className={fit.fit === fit.of ? "ok nowrap" : "signal nowrap"}>
                            <b>{count(fit.fit)}</b> of {count(fit.of)} fit
                          </span>
                        </div>
                      ))}
                    </div>
                    <div className="switches">
                      <fieldset className="switch">
                        <legend className="hidden">Which documents</legend>
                        <button
                          type="button"
                          className="plain"
                          aria-pressed={!below}
                          onClick={() => set({ below: "false" })}
                        >
                          here {count(view.data.here)}
                        </button>
                        <span className="quiet"> · </span>
                        <button
                          type="button"
                          className="plain"
                          aria-pressed={below}
                          onClick={() => set({ below: "true" })}
                        >
                          with all below {count(view.data.below)}
                        </button>
                      </fieldset>
                      {view.data.may_file && (
                        <>
                          <button type="button" className="link" onClick={() => setNaming(true)}>
                            New folder
                          </button>
                          <Link
                            to={`/manifests/new?folder=${view.data.id}&below=${below}`}
                            onClick={(event) => {
                              // what is chosen is kept when the link is followed
                              if (!marks.size) return;
                              event.preventDefault();
                              void navigate(planningOf(folder ?? 0, below, marks));
                            }}
                          >
                            {marks.size ? `Rename or move ${count(marks.size)} chosen` : "Rename or move many"}
                          </Link>
                        </>
                      )}
                    </div>
                  </div>
                  {naming && <NewFolder parent={view.data.id} onClose={() => setNaming(false)} onMade={go} />}
                  {view.data.may_file && parent !== null && (
                    <FolderActs key={view.data.id} folder={view.data} above={parent} onGo={go} />
                  )}
                  <Coverage months={view.data.months} />
                </div>
                {!below && view.data.folders.length > 0 && (
                  <ul className="subfolders" aria-label="Folders here">
                    {view.data.folders.map((sub) => (
                      <li key={sub.id}>
                        <Link to={`/drive/${sub.id}`}>{sub.name}</Link>{" "}
                        <span className="quiet">{sub.below ? count(sub.below) : "empty"}</span>
                      </li>
                    ))}
                  </ul>
                )}
                {total === 0 && !pages.isPending ? (
                  <div className="empty">
                    <h2>
                      {view.data.folders.length ? "No document lies in this folder itself" : "This folder is empty"}
                    </h2>
                    <p>
                      {view.data.folders.length ? (
                        <button type="button" className="link" onClick={() => set({ below: "true" })}>
                          Show the {count(view.data.below)} below it
                        </button>
                      ) : (
                        "Documents come here when they are filed from Arrivals, or moved here."
                      )}
                    </p>
                  </div>
                ) : (
                  <DocGrid
                    label={`Documents in ${view.data.name}`}
                    lines={lines}
                    columns={columns}
                    id={lineId}
                    across={across}
                    acrossColumns={Math.max(fields.length, 1)}
                    chosen={chosen}
                    onChoose={setChosen}
                    onOpen={open}
                    marks={marks}
                    onMarks={setMarks}
                    sort={sort}
                    descending={descending}
                    onSort={onSort}
                    onEnd={pages.fetchNextPage}
                    more={more}
                    total={total}
                  />
                )}
              </>
            )
          )}
        </section>
        <aside className="card-pane" aria-label="The chosen document">
          <LineCard line={line} several={marks.size} onPut={beginPutting} onDiscard={() => void discard()} />
        </aside>
        {putting && entries.length > 0 && (
          <FolderChooser
            title={`${putting === "move" ? "Move" : "Also file"} ${entries.length === 1 && line ? line.name : `${count(entries.length)} documents`}`}
            verb={putting === "move" ? "Move to" : "Also file in"}
            entries={entries}
            stays={putting === "also"}
            near={folder}
            onChoose={putInto}
            onClose={() => setPutting(null)}
          />
        )}
      </main>
    </Controls>
  );
}

const lineId = (one: Line) => one.entry;
