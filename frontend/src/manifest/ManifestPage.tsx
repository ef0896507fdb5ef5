import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, InputNumber } from "antd";
import { type ReactNode, useCallback, useEffect, useMemo, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { client, data, isGone, type Schemas } from "../api/client";
import { askAllAgain, keys } from "../api/keys";
import { type Marks, NONE } from "../parts/lines/selection";
import { forget } from "../parts/typing/drafts";
import { Choice } from "../ui/Choice";
import { count, moment, several, size } from "../ui/format";
import { type Key, useKeys } from "../ui/keys";
import { useNotices, words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import { Sides } from "../ui/Sides";
import { Failed, Loading } from "../ui/states";
import { BUSY, useEnding } from "./ending";
import { Lacking, readBy } from "./Lacking";
import { Ledger, type ManifestLine, StateBar } from "./Ledger";
import { type Edit, LineEditor, LinesEditor } from "./LineEditor";
import { Choices, Made } from "./MadeFrom";
import { Progress } from "./Progress";
import { LineTold, Reasons } from "./Reasons";
import { SumsTable } from "./SumsTable";
import "../parts/beside.css";
import "./manifest.css";
import styles from "../ui/text.module.css";

type Manifest = Schemas["ManifestOut"];
const PAGE = 300;
/** So many pages are asked for again and again. */
const FEW = 3;
const NO_LINES: ManifestLine[] = [];
const FILTERS = [
  [null, "all lines"],
  ["ready", "ready"],
  ["done", "done"],
  ["undone", "undone"],
  ["blocked", "blocked"],
  ["right", "already right"],
  ["left out", "left out"],
  ["failed", "failed"],
  ["not done", "not done"],
  ["folders", "folders made and removed"],
] as const;

export const STATE_WORDS: Record<string, string> = {
  planned: "is being planned",
  checked: "draft, not run yet",
  queued: "waits to be run",
  running: "runs",
  done: "done",
  "partly done": "done in part",
  stopped: "stopped",
  failed: "failed",
  undoing: "is being undone",
  undone: "undone",
  "partly undone": "undone in part",
};

export default function ManifestPage(): ReactNode {
  const id = Number(useParams().manifest);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { tell } = useNotices();
  const [filter, setFilter] = useState<(typeof FILTERS)[number][0]>(null);
  const [chosen, setChosen] = useState<ManifestLine | null>(null);
  const [marks, setMarks] = useState<Marks>(NONE);
  const [partial, setPartial] = useState(false);
  const [tries, setTries] = useState(1);
  const [busy, setBusy] = useState(false);
  const manifest = useQuery({
    queryKey: keys.manifest(id),
    queryFn: () => data(client.GET("/api/manifests/{manifest}", { params: { path: { manifest: id } } })),
    refetchInterval: (query) => (BUSY.includes(query.state.data?.state ?? "") ? 700 : false),
  });
  const told = manifest.data;
  const begun = useEnding(told);
  const pages = useInfiniteQuery({
    queryKey: keys.manifestLines(id, `${filter} ${told?.state}`),
    enabled: told !== undefined,
    initialPageParam: -1,
    queryFn: ({ pageParam }) =>
      data(
        client.GET("/api/manifests/{manifest}/lines", {
          params: { path: { manifest: id }, query: { after: pageParam, state: filter ?? undefined, limit: PAGE } },
        }),
      ),
    getNextPageParam: (page) => page.next ?? null,
    // lines of a run in parts are done one chunk after another; who scrolled far down sees that at the end
    refetchInterval: (query) =>
      told?.state === "running" && told.partial && (query.state.data?.pages.length ?? 0) <= FEW ? 2000 : false,
  });
  const show = (state: typeof filter) => {
    setFilter(state);
    setMarks(NONE);
  };
  const anyLeft = Boolean(told?.counts.blocked || told?.counts.failed);
  const reasons = useQuery({
    queryKey: keys.manifestReasons(id, told?.state),
    enabled: anyLeft,
    queryFn: () => data(client.GET("/api/manifests/{manifest}/reasons", { params: { path: { manifest: id } } })),
  });
  const lines = useMemo(() => pages.data?.pages.flatMap((page) => page.lines) ?? [], [pages.data]);
  // a plan that is checked again may have its lines elsewhere: what is chosen is the document's
  const line =
    lines.find((one) => one.line === chosen?.line && one.entry === chosen.entry) ??
    lines.find((one) => one.entry !== null && one.entry === chosen?.entry) ??
    null;
  const read = useMemo(() => readBy(told?.way ?? null), [told?.way]);
  const picked = marks.size ? lines.filter((one) => marks.has(one.line)) : line ? [line] : [];
  const undoable = picked.filter((one) => one.state === "done");
  const editable = picked.filter((one) => one.entry !== null && (one.kind === "place" || one.kind === "absorb"));

  const act = useCallback(
    async (what: () => Promise<string | null>) => {
      setBusy(true);
      try {
        const text = await what();
        if (text) tell({ text });
      } catch (error) {
        tell({ text: words(error), bad: true });
      } finally {
        setBusy(false);
        setMarks(NONE);
        await askAllAgain(queries);
      }
    },
    [queries, tell],
  );
  const path = useMemo(() => ({ params: { path: { manifest: id } } }), [id]);
  const check = useCallback(
    (edit: Edit) =>
      act(async () => {
        const body = { taken: null, edits: {}, targets: {}, forget: [], ...edit };
        await data(client.POST("/api/manifests/{manifest}/check", { ...path, body }));
        return null;
      }),
    [act, path],
  );
  const ready = told?.counts.ready ?? 0;
  const stands = told?.counts.done ?? 0;
  const plan = told?.state === "checked" && told.mine;
  useEffect(() => {
    // names typed for lines of a plan that ran, or was dropped, are of no use any more
    if (told && told.state !== "checked" && told.state !== "planned") forget(`manifest ${id}`);
  }, [told, id]);
  // what a run in parts that was stopped, or broke off, did not come to
  const rest = told?.mine && told.state === "partly done" ? (told.counts["not done"] ?? 0) : 0;
  const run = useCallback(
    (inParts: boolean) =>
      act(async () => {
        const done = await data(client.POST("/api/manifests/{manifest}/run", { ...path, body: { partial: inParts } }));
        if (done.state === "queued") {
          begun();
          return "It runs now; it goes on when this page is closed.";
        }
        return done.state === "done"
          ? `Done: ${several(ready, "line")}. Ctrl+Z undoes it.`
          : "Done in part; see what failed.";
      }),
    [act, path, ready, begun],
  );
  const attempt = () =>
    act(async () => {
      await data(client.POST("/api/manifests/{manifest}/try", { ...path, body: { count: Math.min(tries, ready) } }));
      return `Tried on ${count(Math.min(tries, ready))}. Look at them; Ctrl+Z undoes the trial.`;
    });
  const undo = (chosenLines: number[] | null) =>
    act(async () => {
      const done = await data(client.POST("/api/manifests/{manifest}/undo", { ...path, body: { lines: chosenLines } }));
      if (done.queued) {
        begun();
        return "It is being undone; it goes on when this page is closed.";
      }
      return done.left_out.length
        ? `Undone but for ${count(done.left_out.length)}: ${done.left_out[0]}`
        : `Undone: ${several(chosenLines?.length ?? stands, "line")}.`;
    });
  const screenKeys: Key[] = [
    {
      keys: "Ctrl+Enter",
      what: "Run the manifest",
      match: (e) => e.ctrlKey && e.key === "Enter",
      run: () => plan && ready > 0 && !busy && void run(partial),
    },
    {
      keys: "Shift+↓ Ctrl+↓ Space",
      what: "Choose several lines (with the mouse: Shift or Ctrl and click)",
      match: () => false,
      run: () => {},
    },
  ];
  useKeys(screenKeys);

  if (manifest.isError && (!told || isGone(manifest.error)))
    return (
      <main className="main">
        <Failed what="The manifest" error={manifest.error} onAgain={manifest.refetch}>
          <Link to="/manifests">All manifests</Link>
        </Failed>
      </main>
    );
  if (!told)
    return (
      <main className="main">
        <Loading />
      </main>
    );
  const folders = (told.counts["make folder"] ?? 0) + (told.counts["remove folder"] ?? 0);
  const total = Object.values(told.counts).reduce((sum, n) => sum + n, 0) - folders;
  return (
    <main className="manifest">
      <Sides
        name="manifest"
        end={{
          width: [330, 270],
          content: (
            <aside className="way-pane" aria-label="What it was made from">
              {plan && !told.tried && editable.length > 1 && (
                <LinesEditor lines={editable} busy={busy} onEdit={check} />
              )}
              {plan && !told.tried && editable.length === 1 && editable[0] ? (
                <LineEditor
                  key={editable[0].entry}
                  line={editable[0]}
                  typedAt={`manifest ${id}`}
                  busy={busy}
                  onEdit={check}
                />
              ) : (
                picked.length === 1 && picked[0] && <LineTold line={picked[0]} />
              )}
              {plan && (
                <Choices
                  manifest={told}
                  partial={partial}
                  onPartial={setPartial}
                  onTaken={(taken) => check({ taken })}
                />
              )}
              {anyLeft && <Reasons of={reasons.data} onShow={show} />}
              <Made manifest={told} />
              <SumsTable manifest={id} state={told.state} />
            </aside>
          ),
        }}
      >
        <section className="ledger-pane" aria-label="Lines of the manifest">
          <div className="ledger-head">
            <h1>
              Manifest {told.id} <span className="thin">{told.title}</span>
            </h1>
            <span className={`${styles.quiet} nowrap`}>{toldState(told)}</span>
          </div>
          <div className="ledger-sum">
            {told.state !== "planned" && <StateBar counts={told.counts} />}
            {told.problem && <Problem>{told.problem}</Problem>}
            {BUSY.includes(told.state) && <Progress manifest={told} />}
            <Choice
              label="Show"
              lead="Show"
              small
              of={FILTERS.filter(
                ([state]) => state === null || told.counts[state] || (state === "folders" && folders > 0),
              )}
              value={filter}
              onChange={show}
            />
          </div>
          <Ledger
            lines={lines}
            where={told.where}
            total={filter === "folders" ? folders : filter ? (told.counts[filter] ?? 0) : total}
            more={pages.hasNextPage && !pages.isFetchingNextPage}
            chosen={line?.line ?? null}
            onChoose={(at) => setChosen(lines.find((one) => one.line === at) ?? null)}
            marks={marks}
            onMarks={plan || told.can_undo ? setMarks : undefined}
            onOpen={(one: ManifestLine) => one.document && void navigate(`/documents/${one.document}`)}
            onEnd={() => void pages.fetchNextPage()}
          />
          {plan && !told.tried && (
            <Lacking lines={filter === "blocked" ? lines : NO_LINES} read={read} onFilled={() => void check({})} />
          )}
          <footer className="ledger-foot">
            {plan && (
              <>
                <Button type="primary" disabled={busy || !ready} onClick={() => void run(partial)}>
                  Run {several(ready, "line")}
                </Button>
                <Button disabled={busy || !ready} onClick={() => void attempt()}>
                  Try the first {tries === 1 ? "line only" : count(Math.min(tries, ready))}
                </Button>
                <label className={`${styles.small} ${styles.quiet}`}>
                  how many{" "}
                  <InputNumber<number>
                    className="tries"
                    size="small"
                    aria-label="how many"
                    min={1}
                    max={300}
                    value={tries}
                    onChange={(many) => setTries(many ?? 1)}
                  />
                </label>
                <span className="spread" />
                {told.tried ? (
                  <Button disabled={busy} onClick={() => void undo(null)}>
                    Undo the trial
                  </Button>
                ) : (
                  <Button disabled={busy} onClick={() => void check({})}>
                    Check again
                  </Button>
                )}
                <Button
                  disabled={busy}
                  onClick={() =>
                    void act(async () => {
                      await data(client.DELETE("/api/manifests/{manifest}", path));
                      return "The draft is deleted.";
                    })
                  }
                >
                  Delete this draft
                </Button>
              </>
            )}
            {BUSY.includes(told.state) && told.mine && (
              <Button
                disabled={busy}
                onClick={() =>
                  void act(async () => {
                    await data(client.POST("/api/manifests/{manifest}/stop", path));
                    return told.partial && told.state === "running"
                      ? "It stops after the lines in work."
                      : "It is rolled back.";
                  })
                }
              >
                Stop it
              </Button>
            )}
            {rest > 0 && (
              <Button type="primary" disabled={busy} onClick={() => void run(true)}>
                Continue with the {rest === 1 ? "line that is" : `${count(rest)} lines that are`} left
              </Button>
            )}
            {told.can_undo && !plan && (
              <>
                <Button type={rest > 0 ? "default" : "primary"} disabled={busy} onClick={() => void undo(null)}>
                  Undo{" "}
                  {told.state === "partly undone"
                    ? `the ${several(stands, "line")} left`
                    : `all ${several(stands, "line")}`}
                </Button>
                <Button disabled={busy || !undoable.length} onClick={() => void undo(undoable.map((one) => one.line))}>
                  Undo the {undoable.length > 1 ? `${count(undoable.length)} chosen lines` : "chosen line"}
                </Button>
              </>
            )}
            {told.why_not && !BUSY.includes(told.state) && (
              <span className={`${styles.quiet} ${styles.small}`}>It cannot be undone: {told.why_not}.</span>
            )}
          </footer>
        </section>
      </Sides>
    </main>
  );
}

function toldState(manifest: Manifest): string {
  const when = manifest.ran_at ?? manifest.at;
  const bytes = manifest.bytes ? ` · ${size(manifest.bytes)}` : "";
  return `${manifest.by ?? "Waka"}, ${moment(when)} · ${STATE_WORDS[manifest.state] ?? manifest.state}${bytes}`;
}
