import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { client, data, type Schemas } from "../api/client";
import { askAgain } from "../api/keys";
import { useField, useFolder, useFolders } from "../api/queries";
import { useFileDrops } from "../bringing/fileDrops";
import { flipping } from "../document/flip";
import { NextOneDialog } from "../document/NextOneDialog";
import { useHandActs } from "../hand/useHand";
import { planningOf } from "../manifest/chosen";
import { DocGrid } from "../parts/lines/DocGrid";
import { type Marks, NONE } from "../parts/lines/selection";
import { dragging } from "../places/dragging";
import { FolderChooser } from "../places/FolderChooser";
import { called, type Putting, type Things, usePut, VERBS } from "../places/moving";
import { stays } from "../places/sight";
import { count } from "../ui/format";
import { useUndoAction } from "../ui/keys";
import { Menu, type MenuAt } from "../ui/Menu";
import { useNotices, words } from "../ui/notices";
import { Sides } from "../ui/Sides";
import { Failed } from "../ui/states";
import { useNarrow } from "../ui/window";
import { acrossOf, columnsOf, keepColumns, keptColumns } from "./columns";
import "./drive.css";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { useDriveKeys } from "./driveKeys";
import { FolderActs } from "./FolderActs";
import { FolderHead } from "./FolderHead";
import { FolderState, NoLines } from "./FolderState";
import { selfOf, useFolderDoing } from "./folderDoing";
import { Groups } from "./Groups";
import { LineCard } from "./LineCard";
import { lineActs } from "./lineMenu";
import { NewFolder } from "./NewFolder";
import { PagesGrid } from "./PagesGrid";
import { SubFolders } from "./SubFolders";
import { TagDialog } from "./TagDialog";
import { TreePane } from "./TreePane";
import { useAccessActs } from "./useAccessActs";
import { type Asked, allEntries, GROUPS, type Sort, useGroups, useLines, wayTo } from "./useLines";
import { useStillThere } from "./useStillThere";
import { useWayUp } from "./useWayUp";

type Line = Schemas["LineOut"];
// what is put somewhere in one request
const MOST = 500;
const READS_ONLY = "You may read this folder, but not change what is in it. Ask a keeper of the area.";

export default function DrivePage(): ReactNode {
  const parameters = useParams();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const put = usePut();
  const { pickUp } = useHandActs();
  const [query, setQuery] = useSearchParams();
  const top = useFolders(null);
  const folder = parameters.folder ? Number(parameters.folder) : (top.data?.[0]?.id ?? null);
  const below = query.get("below") === "true";
  const inPages = query.get("view") === "pages";
  const sort = (query.get("sort") ?? "name") as Sort;
  const descending = query.get("descending") === "true";
  const by = GROUPS.find((one) => one === query.get("by")) ?? null;
  const group = query.get("group");
  const asked = useMemo<Asked>(
    () => ({ folder, below, sort, descending, by, group }),
    [folder, below, sort, descending, by, group],
  );
  const [chosen, setChosen] = useState<number | null>(null);
  const [marks, setMarks] = useState<Marks>(NONE);
  const [naming, setNaming] = useState(false);
  const [putting, setPutting] = useState<Putting | null>(null);
  const [tagging, setTagging] = useState(false);
  const [makingNext, setMakingNext] = useState(false);
  const [menu, setMenu] = useState<MenuAt | null>(null);
  const [shownColumns, setShownColumns] = useState(keptColumns);
  const view = useFolder(folder, below);
  // of a folder that has none itself, many means those below
  const all = below || view.data?.here === 0;
  const { pages, lines } = useLines(asked);
  const groups = useGroups(asked);
  const line = lines.find((one) => one.entry === chosen) ?? null;
  useStillThere(asked, pages.data && lines, setMarks);

  const set = useCallback(
    (changes: Record<string, string | null>) =>
      setQuery(
        (had) => {
          const next = new URLSearchParams(had);
          for (const [name, value] of Object.entries(changes)) {
            if (value === null) next.delete(name);
            else next.set(name, value);
          }
          return next;
        },
        { replace: true },
      ),
    [setQuery],
  );
  // biome-ignore lint/correctness/useExhaustiveDependencies: other documents start with nothing chosen
  useEffect(() => {
    setChosen(null);
    setMarks(NONE);
  }, [folder, below, by, group]);

  const go = useCallback((id: number) => void navigate(wayTo(id, below, inPages)), [navigate, below, inPages]);
  const open = useCallback(
    (one: Line) => void navigate(`/documents/${one.document}`, { state: flipping(lines.map((l) => l.document)) }),
    [navigate, lines],
  );
  const path = view.data?.path ?? [];
  useWayUp(folder, view, go);
  const parent = path.length > 1 ? (path.at(-2)?.id ?? null) : null;

  const newIn = useCallback(
    (id: number) => {
      if (id !== folder) go(id);
      setNaming(true);
    },
    [go, folder],
  );
  const doing = useFolderDoing(folder, go, newIn, parent);
  const self = view.data ? selfOf(view.data) : null;

  // what is chosen: the marked lines, or the one that the card shows
  const entries = useMemo(() => (marks.size ? [...marks] : line ? [line.entry] : []), [marks, line]);
  const things = useMemo<Things>(
    () => ({ entries, name: lines.find((one) => one.entry === entries[0])?.name ?? "" }),
    [entries, lines],
  );
  const { may_file: may = false, keeps = false } = view.data ?? {};
  // in folders below one may have more rights: a key is let through there, and the server says what it refuses
  const changes = may || below;
  const few = useCallback(
    (then: () => void, onlyReads = false) => {
      if (!onlyReads && !changes) tell({ text: READS_ONLY, bad: true });
      else if (entries.length > MOST)
        tell({ text: `More than ${MOST} at once are moved by a manifest: “Rename or move many”.`, bad: true });
      else if (entries.length) then();
    },
    [entries, tell, changes],
  );
  const discard = useCallback(async () => {
    try {
      await data(client.POST("/api/entries/discard", { body: { entries } }));
      tell({ text: `Discarded ${called(things)}. Ctrl+Z brings it back.`, action: { label: SAY.undo, run: undo } });
      setMarks(NONE);
      await askAgain(queries, "drive", "manifests");
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
  }, [entries, things, tell, queries, undo]);
  const choose = useCallback(
    async (pattern: string | null, invert = false) => {
      const all = await allEntries(asked, pattern);
      const next = invert ? all.filter((entry) => !entries.includes(entry)) : all;
      if (pattern !== null) tell({ text: next.length ? `${count(next.length)} chosen` : "No name here is like that" });
      setMarks(new Set(next));
    },
    [asked, entries, tell],
  );
  const chooseAll = useCallback(
    () => void choose(null).catch((error: unknown) => tell({ text: words(error), bad: true })),
    [choose, tell],
  );

  const { acts: reading, node: access } = useAccessActs({ line, entries, called: called(things), folder: self, doing });
  const acts = useMemo(
    () => ({
      ...reading,
      up: () => parent !== null && go(parent),
      discard: () => few(() => void discard()),
      move: () => few(() => setPutting("move")),
      also: () => few(() => setPutting("also")),
      copy: () => few(() => setPutting("copy"), true),
      tag: () => few(() => setTagging(true)),
      next: () => line !== null && marks.size === 0 && few(() => setMakingNext(true)),
      pickUp: () => few(() => void pickUp(entries).then(() => setMarks(NONE))),
      newFolder: () => (may ? setNaming(true) : tell({ text: READS_ONLY, bad: true })),
      below: () => set({ below: String(!below) }),
      many: () => folder !== null && void navigate(planningOf(folder, all, marks)),
      view: () => set({ view: inPages ? null : "pages" }),
    }),
    [
      reading,
      parent,
      go,
      few,
      may,
      tell,
      discard,
      entries,
      line,
      pickUp,
      set,
      below,
      all,
      folder,
      navigate,
      marks,
      inPages,
    ],
  );
  useDriveKeys(acts);

  const openMenu = useCallback(
    (one: Line, left: number, top: number) => {
      const many = marks.has(one.entry) && marks.size > 1;
      if (!many) {
        setMarks(NONE);
        setChosen(one.entry);
      }
      setMenu({
        left,
        top,
        title: many ? `${marks.size} documents` : one.name,
        acts: lineActs(one, { many, may, keeps, folder }, open, go),
      });
    },
    [marks, open, may, keeps, go, folder],
  );
  // the rows stay as they are while what is chosen changes
  const held = useRef({ marks, lines, things });
  held.current = { marks, lines, things };
  const drag = useCallback(
    (entry: number) =>
      dragging(() => {
        const now = held.current;
        if (now.marks.has(entry)) return now.things;
        return { entries: [entry], name: now.lines.find((one) => one.entry === entry)?.name ?? "" };
      }),
    [],
  );

  const documentOf = useCallback((entry: number) => held.current.lines.find((one) => one.entry === entry) ?? null, []);
  const drops = useFileDrops(folder, documentOf);

  const main = view.data?.fits[0];
  const fields = useMemo(
    () => [...(main?.pattern ?? "").matchAll(/<([A-Za-z][A-Za-z0-9-]*)/g)].map((m) => m[1] ?? ""),
    [main?.pattern],
  );
  const known = useField();
  const columns = useMemo(
    () => columnsOf(fields, main?.strokes ?? {}, below, shownColumns, known),
    [fields, main?.strokes, below, shownColumns, known],
  );
  const across = useMemo(() => acrossOf(main?.kind), [main?.kind]);
  const onSort = useCallback(
    (next: string) =>
      set({
        sort: next,
        descending: String(next === sort ? !descending : ["size", "filed", "issued", "amount"].includes(next)),
      }),
    [set, sort, descending],
  );
  // in a narrow window the card comes when something is chosen
  const card = !useNarrow() || line !== null || marks.size > 0;
  const more = pages.hasNextPage && !pages.isFetchingNextPage;
  const inGroup = groups.data?.groups.find((one) => one.value === group);
  const total = inGroup?.documents ?? (below ? (view.data?.below ?? 0) : (view.data?.here ?? 0));
  const listed = { label: `Documents in ${view.data?.name ?? "the folder"}`, lines, chosen, marks, more, drag };

  return (
    <main className="drive main" {...drops.handlers}>
      <h1 className={styles.hidden}>Drive</h1>
      <Sides
        name="drive"
        start={{
          width: [226, 200],
          content: <TreePane current={folder} path={path.map((p) => p.id)} onGo={go} doing={doing} />,
        }}
        end={
          card
            ? {
                width: [250, 216],
                content: (
                  <aside className="card-pane" aria-label="The chosen document">
                    <LineCard
                      may={may}
                      keeps={keeps}
                      line={line}
                      entries={entries}
                      acts={acts}
                      onAll={chooseAll}
                      onInvert={() => void choose(null, true)}
                      onNone={() => setMarks(NONE)}
                      onPattern={choose}
                    />
                  </aside>
                ),
              }
            : undefined
        }
      >
        <section className="lines-pane" aria-label="Documents">
          <FolderState areas={top} view={view}>
            {(shown) => (
              <>
                <FolderHead
                  folder={shown}
                  below={below}
                  pages={inPages}
                  by={by}
                  columns={shownColumns}
                  chosen={marks.size}
                  planning={planningOf(shown.id, all, NONE)}
                  onSet={set}
                  onColumns={(next) => {
                    setShownColumns(next);
                    keepColumns(next);
                  }}
                  onNewFolder={acts.newFolder}
                  onMany={acts.many}
                >
                  {naming && folder !== null && (
                    <NewFolder parent={folder} onClose={() => setNaming(false)} onMade={go} />
                  )}
                  {self && <FolderActs folder={self} area={parent === null} doing={doing} />}
                </FolderHead>
                {!below && shown.folders.length > 0 && <SubFolders folder={shown} pages={inPages} doing={doing} />}
                {groups.data && by && (
                  <Groups groups={groups.data.groups} chosen={group} onChoose={(value) => set({ group: value })} />
                )}
                {pages.isError && !pages.data ? (
                  <Failed what="What lies here" error={pages.error} onAgain={pages.refetch} />
                ) : total === 0 && !pages.isPending ? (
                  <NoLines folder={shown} onBelow={() => set({ below: "true" })} />
                ) : inPages ? (
                  <PagesGrid
                    {...listed}
                    onChoose={setChosen}
                    onMarks={setMarks}
                    onAll={chooseAll}
                    onOpen={open}
                    onMenu={openMenu}
                    onEnd={pages.fetchNextPage}
                  />
                ) : (
                  <DocGrid
                    {...listed}
                    columns={columns}
                    id={lineId}
                    across={across}
                    acrossColumns={Math.max(fields.length, 1)}
                    onChoose={setChosen}
                    onOpen={open}
                    onMarks={setMarks}
                    onAll={chooseAll}
                    onMenu={openMenu}
                    sort={sort}
                    descending={descending}
                    onSort={onSort}
                    onEnd={pages.fetchNextPage}
                    total={total}
                    loading={pages.isPending}
                    rowClass={rowClass}
                  />
                )}
              </>
            )}
          </FolderState>
        </section>
      </Sides>
      {putting && entries.length > 0 && (
        <FolderChooser
          title={`${VERBS[putting].replace(/ (to|in)$/, "")} ${entries.length === 1 ? things.name : `${count(entries.length)} documents`}`}
          verb={VERBS[putting]}
          entries={entries}
          stays={stays(putting)}
          near={folder}
          onChoose={async (to, where) => {
            const wrong = await put(putting, things, to, where);
            if (wrong) return wrong;
            setPutting(null);
            setMarks(NONE);
            return null;
          }}
          onClose={() => setPutting(null)}
        />
      )}
      {tagging && <TagDialog things={things} had={[]} onClose={() => setTagging(false)} />}
      {makingNext && line && (
        <NextOneDialog document={line.document} name={line.name} onClose={() => setMakingNext(false)} />
      )}
      {drops.note}
      {doing.node}
      {access}
      {menu && <Menu at={menu} onClose={() => setMenu(null)} />}
    </main>
  );
}

const lineId = (one: Line) => one.entry;
/** A name that does not fit its own kind's pattern; others that are told across fit theirs. */
const rowClass = (one: Line) => (one.misfit ? "misfit" : "");
