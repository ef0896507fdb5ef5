import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { lineActs } from "../acts/documentMenu";
import { useField, useFigures, useFolder, useFolders } from "../api/queries";
import { useFileDrops } from "../bringing/fileDrops";
import { flipping } from "../document/flip";
import { DocGrid } from "../parts/lines/DocGrid";
import { type Marks, NONE } from "../parts/lines/selection";
import { dragging } from "../places/dragging";
import { count } from "../ui/format";
import { Menu, type MenuAt } from "../ui/Menu";
import { useNotices, words } from "../ui/notices";
import { Sides } from "../ui/Sides";
import { Failed } from "../ui/states";
import { useNarrow } from "../ui/window";
import { Beside } from "./Beside";
import { acrossOf, columnsOf, keepColumns, keptColumns } from "./columns";
import "./drive.css";
import styles from "../ui/text.module.css";
import { useDriveKeys } from "./driveKeys";
import { FolderHead } from "./FolderHead";
import { FolderHeads, FolderRow } from "./FolderRow";
import { FolderState, NoLines } from "./FolderState";
import { selfOf, useFolderDoing } from "./folderDoing";
import { Groups } from "./Groups";
import { type Item, isFolder, itemId, type Line, nameOf, thingsOf } from "./items";
import { NewFolder } from "./NewFolder";
import { PagesGrid } from "./PagesGrid";
import { SubFolders } from "./SubFolders";
import { TreePane } from "./TreePane";
import { useDriveActs } from "./useDriveActs";
import { type Asked, allEntries, GROUPS, type Sort, useGroups, useLines, useMonths, wayTo } from "./useLines";
import { useShownFolders } from "./useShownFolders";
import { useStillThere } from "./useStillThere";
import { useWayUp } from "./useWayUp";

export default function DrivePage(): ReactNode {
  const parameters = useParams();
  const navigate = useNavigate();
  const { tell } = useNotices();
  const [query, setQuery] = useSearchParams();
  const top = useFolders(null);
  const folder = parameters.folder ? Number(parameters.folder) : null;
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
  const [menu, setMenu] = useState<MenuAt | { left: number; top: number; item: Item; many: boolean } | null>(null);
  const [shownColumns, setShownColumns] = useState(keptColumns);
  const view = useFolder(folder, below);
  // of a folder that has none itself, many means those below
  const all = below || view.data?.here === 0;
  const { pages, lines } = useLines(asked);
  const groups = useGroups(asked);
  const months = useMonths(asked, view.data?.months);
  const inside = folder === null ? top.data : view.data?.folders;
  const figures = useFigures(folder, (inside?.length ?? 0) > 0);
  const { subs, above, foot } = useShownFolders(inside, asked);
  const items = useMemo<Item[]>(() => [...above, ...lines], [above, lines]);
  const one = items.find((item) => item.entry === chosen) ?? null;
  useStillThere(asked, pages.data && items, setMarks);

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
    (item: Item) =>
      isFolder(item)
        ? go(item.sub.id)
        : void navigate(`/documents/${item.document}`, { state: flipping(lines.map((l) => l.document)) }),
    [navigate, go, lines],
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
  const self = folder !== null && view.data ? selfOf(view.data) : null;

  // what is chosen: the marked lines, or the one that the card shows
  const entries = useMemo(() => (marks.size ? [...marks] : one ? [one.entry] : []), [marks, one]);
  const { may_file: may = false, keeps = false } = (folder !== null && view.data) || {};
  const screen = useMemo(
    () => ({
      up: () => (parent !== null ? go(parent) : folder !== null && void navigate("/drive")),
      below: () => set({ below: String(!below) }),
      view: () => set({ view: inPages ? null : "pages" }),
      bring: () => document.getElementById("bring-files")?.click(),
      name: () => setNaming(true),
    }),
    [parent, folder, go, navigate, set, below, inPages],
  );
  const { acts, renaming, endRenaming, node } = useDriveActs({
    folder,
    self,
    area: parent === null,
    // until it is known, one is let through: the server says what it refuses
    may: folder !== null && (view.data?.may_file ?? true),
    below,
    all,
    items,
    entries,
    marks,
    onMarks: setMarks,
    doing,
    screen,
  });
  useDriveKeys(acts);

  const choose = useCallback(
    async (pattern: string | null, invert = false) => {
      const every = await allEntries(asked, pattern);
      const next = invert ? every.filter((entry) => !entries.includes(entry)) : every;
      if (pattern !== null) tell({ text: next.length ? `${count(next.length)} chosen` : "No name here is like that" });
      setMarks(new Set(next));
    },
    [asked, entries, tell],
  );
  const chooseAll = useCallback(
    () => void choose(null).catch((error: unknown) => tell({ text: words(error), bad: true })),
    [choose, tell],
  );

  const openMenu = useCallback(
    (item: Item, left: number, top: number) => {
      const many = marks.has(item.entry) && marks.size > 1;
      if (!many) {
        setMarks(NONE);
        setChosen(item.entry);
        if (isFolder(item)) return doing.menu(item.held, left, top);
      }
      setMenu({ left, top, item, many });
    },
    [marks, doing],
  );
  // what is done is done with what is chosen by the time the menu shows
  const menuAt: MenuAt | null =
    menu &&
    ("acts" in menu
      ? menu
      : {
          ...menu,
          title: menu.many ? (thingsOf(entries, items).told ?? "") : nameOf(menu.item),
          acts: lineActs(
            menu.item as Line,
            { many: menu.many, may, keeps, folder, brings: true },
            acts,
            () => open(menu.item),
            go,
          ),
        });
  const latest = useRef({ marks, items });
  latest.current = { marks, items };
  const drag = useCallback(
    (entry: number) =>
      dragging(() => {
        const now = latest.current;
        return thingsOf(now.marks.has(entry) ? [...now.marks] : [entry], now.items);
      }),
    [],
  );
  const documentOf = useCallback((entry: number) => {
    const item = latest.current.items.find((held) => held.entry === entry);
    return item && !isFolder(item) ? item : null;
  }, []);
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
  const way = path.map((step) => step.name).join(" / ");
  const across = useMemo(() => {
    const told = acrossOf(main?.kind);
    return (item: Item) =>
      isFolder(item) ? (
        <FolderRow
          folder={item.sub}
          path={way ? `${way} / ${item.sub.name}` : item.sub.name}
          figures={figures.data?.get(item.sub.id)}
        />
      ) : (
        told(item)
      );
  }, [main?.kind, figures.data, way]);
  const onSort = useCallback(
    (next: string) =>
      set({
        sort: next,
        descending: String(next === sort ? !descending : ["size", "filed", "issued", "amount"].includes(next)),
      }),
    [set, sort, descending],
  );
  // in a narrow window the card comes when something is chosen
  const card = !useNarrow() || entries.length > 0;
  const more = pages.hasNextPage && !pages.isFetchingNextPage;
  const inGroup = groups.data?.groups.find((held) => held.value === group);
  const total = inGroup?.documents ?? (below ? (view.data?.below ?? 0) : (view.data?.here ?? 0));
  const name = folder === null ? "the drive" : (view.data?.name ?? "the folder");
  const listed = {
    chosen,
    marks,
    more,
    drag,
    onChoose: setChosen,
    onMarks: setMarks,
    onAll: chooseAll,
    onOpen: open,
    onMenu: openMenu,
  };
  const grid = (
    <DocGrid<Item>
      {...listed}
      label={folder === null ? "Areas" : `Documents in ${name}`}
      lines={items}
      columns={columns}
      id={itemId}
      across={across}
      acrossColumns={Math.max(fields.length, 1)}
      above={{ lines: above.length, foot }}
      headless={folder === null || (total === 0 && !pages.isPending)}
      sort={sort}
      descending={descending}
      onSort={onSort}
      onEnd={pages.fetchNextPage}
      total={total + above.length}
      loading={folder !== null && pages.isPending}
      rowClass={rowClass}
    />
  );

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
                  <Beside
                    view={folder === null ? null : (view.data ?? null)}
                    self={self}
                    areas={top.data ?? []}
                    figures={figures.data}
                    one={one}
                    entries={entries}
                    items={items}
                    may={may}
                    keeps={keeps}
                    acts={acts}
                    doing={doing}
                    renaming={renaming !== null}
                    onRenamed={endRenaming}
                    onGo={go}
                    onMenu={setMenu}
                    onAll={chooseAll}
                    onInvert={() => void choose(null, true)}
                    onNone={() => setMarks(NONE)}
                    onPattern={choose}
                  />
                ),
              }
            : undefined
        }
      >
        <section
          className="lines-pane"
          aria-label="Documents"
          onContextMenu={(event) => {
            // beside the lines: what can be done with the folder itself
            if (!self || !(event.target as Element).matches(".lines-pane, .grid, .pages-grid, .nothing, .folder-head"))
              return;
            event.preventDefault();
            doing.menu(self, event.clientX, event.clientY);
          }}
        >
          {folder === null && top.data?.length ? (
            <>
              <div className="front-head">
                <h2>All areas</h2>
                <FolderHeads of="Area" />
              </div>
              {grid}
            </>
          ) : (
            <FolderState areas={top} view={view}>
              {(shown) => (
                <>
                  <FolderHead
                    folder={shown}
                    self={self}
                    doing={doing}
                    months={months}
                    below={below}
                    pages={inPages}
                    by={by}
                    group={group}
                    columns={shownColumns}
                    chosen={marks.size}
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
                  </FolderHead>
                  {groups.data && by && (
                    <Groups groups={groups.data.groups} chosen={group} onChoose={(value) => set({ group: value })} />
                  )}
                  {inPages && subs.length > 0 && <SubFolders folder={shown} pages doing={doing} />}
                  {pages.isError && !pages.data ? (
                    <Failed what="What lies here" error={pages.error} onAgain={pages.refetch} />
                  ) : inPages && total > 0 ? (
                    <PagesGrid {...listed} label={`Documents in ${name}`} lines={lines} onEnd={pages.fetchNextPage} />
                  ) : (
                    <>
                      {!inPages && (total > 0 || subs.length > 0 || pages.isPending) && grid}
                      {total === 0 && !pages.isPending && (
                        <NoLines folder={shown} onBelow={() => set({ below: "true" })} />
                      )}
                    </>
                  )}
                </>
              )}
            </FolderState>
          )}
        </section>
      </Sides>
      {drops.note}
      {doing.node}
      {node}
      {menuAt && <Menu at={menuAt} onClose={() => setMenu(null)} />}
    </main>
  );
}

/** A name that does not fit its own kind's pattern; others that are told across fit theirs. */
const rowClass = (item: Item) => (isFolder(item) ? "folder" : item.misfit ? "misfit" : "");
