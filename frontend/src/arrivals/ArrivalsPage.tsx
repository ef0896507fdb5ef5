import { useQueryClient } from "@tanstack/react-query";
import { type DragEvent, type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { client, data, type Schemas, Trouble } from "../api/client";
import { keys, useSlip, useWaiting } from "../api/queries";
import { Controls } from "../app/controls";
import { inText, type Key, useKeys, useUndoAction } from "../app/keys";
import { useNotices, words } from "../app/notices";
import { type Mark, PageView, pictureOf } from "../parts/PageView";
import "./arrivals.css";
import { editsDone } from "./edits";
import { SlipPanel } from "./SlipPanel";
import { TakenDialog } from "./TakenDialog";
import { UploadList, useUploads } from "./uploads";
import { groupsOf, WaitingLine } from "./WaitingLine";

type Taken = "stop" | "both" | "version";

export default function ArrivalsPage(): ReactNode {
  const parameters = useParams();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const uploads = useUploads();
  const waiting = useWaiting();
  const arrivals = useMemo(() => waiting.data?.arrivals ?? [], [waiting.data]);
  const ordered = useMemo(() => groupsOf(arrivals).flatMap((group) => group.arrivals), [arrivals]);
  const asked = parameters.arrival ? Number(parameters.arrival) : null;
  const chosen = asked ?? ordered.find((a) => !a.claimed_by || a.claimed_by_me)?.id ?? null;
  const slip = useSlip(chosen);
  const [focus, setFocus] = useState<string | null>(null);
  const [page, setPage] = useState(1);
  const [painted, setPainted] = useState<number | null>(null);
  const [busy, setBusy] = useState(false);
  const [taken, setTaken] = useState(false);
  const [dropping, setDropping] = useState(false);
  const chooser = useRef<HTMLInputElement>(null);
  const line = useRef<HTMLDivElement>(null);
  const current = slip.data;

  const choose = useCallback(
    (id: number | null) => {
      // an answer that comes when the person has gone on to another screen does not fetch them back
      if (window.location.pathname.startsWith("/arrivals"))
        void navigate(id === null ? "/arrivals" : `/arrivals/${id}`, { replace: true });
    },
    [navigate],
  );

  // what was filed by somebody else meanwhile is no longer here
  useEffect(() => {
    if (asked !== null && slip.error instanceof Trouble && slip.error.status === 404) choose(null);
  }, [asked, slip.error, choose]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: another arrival starts at its first page
  useEffect(() => {
    setPage(1);
    setFocus(null);
  }, [chosen]);

  // nothing files before its page was painted; what has no page has nothing to wait for
  useEffect(() => {
    if (current && current.pages.length === 0) setPainted(current.id);
  }, [current]);

  // the next page's picture is fetched ahead
  useEffect(() => {
    const next = ordered[ordered.findIndex((a) => a.id === chosen) + 1];
    if (next && next.state === "read") new Image().src = pictureOf(next.id, 1);
  }, [ordered, chosen]);

  const step = useCallback(
    (by: number) => {
      const at = ordered.findIndex((a) => a.id === chosen);
      const next = ordered[Math.min(Math.max(at + by, 0), ordered.length - 1)];
      if (next) choose(next.id);
    },
    [ordered, chosen, choose],
  );

  const file = useCallback(
    async (how: Taken = "stop") => {
      if (!current || busy || painted !== current.id) return;
      if (current.taken && how === "stop") {
        setTaken(true);
        return;
      }
      setBusy(true);
      try {
        // an edit in progress is kept first
        if (document.activeElement instanceof HTMLElement && inText(document.activeElement))
          document.activeElement.blur();
        await editsDone();
        const fresh = queries.getQueryData<Schemas["SlipOut"]>(keys.slip(current.id)) ?? current;
        await data(
          client.POST("/api/arrivals/{arrival}/file", {
            params: { path: { arrival: current.id } },
            body: { revision: fresh.revision, taken: how },
          }),
        );
        const name = `${fresh.composed.text}.${fresh.composed.extension}`;
        const place = [fresh.area?.name, ...fresh.steps.map((s) => s.name)].join(" / ");
        tell({ text: `Filed ${name} in ${place}`, action: { label: "Undo", run: undo } });
        setTaken(false);
        const at = ordered.findIndex((a) => a.id === current.id);
        const next = ordered[at + 1] ?? ordered[at - 1];
        queries.setQueryData<Schemas["Waiting"]>(keys.waiting, (had) =>
          had ? { arrivals: had.arrivals.filter((a) => a.id !== current.id) } : had,
        );
        choose(next && next.id !== current.id ? next.id : null);
        void queries.invalidateQueries({
          predicate: (q) => ["waiting", "folder", "folders", "lines", "find"].includes(String(q.queryKey[0])),
        });
        line.current?.focus();
      } catch (error) {
        if (error instanceof Trouble && error.code === "taken") setTaken(true);
        else tell({ text: words(error), bad: true });
        void queries.invalidateQueries({ queryKey: keys.slip(current.id) });
      } finally {
        setBusy(false);
      }
    },
    [current, busy, painted, queries, tell, undo, ordered, choose],
  );

  const putAway = useCallback(async () => {
    if (!current) return;
    try {
      await data(client.DELETE("/api/arrivals/{arrival}", { params: { path: { arrival: current.id } } }));
      const back = async () => {
        await data(client.POST("/api/arrivals/{arrival}/back", { params: { path: { arrival: current.id } } }));
        await queries.invalidateQueries({ queryKey: keys.waiting });
        choose(current.id);
      };
      tell({
        text: `Put away ${current.original_name}`,
        action: {
          label: "Bring back",
          run: () => back().catch((error: unknown) => tell({ text: words(error), bad: true })),
        },
      });
      choose(null);
      await queries.invalidateQueries({ queryKey: keys.waiting });
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
  }, [current, queries, tell, choose]);

  const takeOver = useCallback(async () => {
    if (!current) return;
    try {
      const got = await data(
        client.GET("/api/arrivals/{arrival}", { params: { path: { arrival: current.id }, query: { take: true } } }),
      );
      queries.setQueryData(keys.slip(current.id), got);
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
  }, [current, queries, tell]);

  const screenKeys = useMemo<Key[]>(
    () => [
      {
        keys: "Ctrl+Enter",
        what: "File it, from anywhere",
        anywhere: true,
        match: (e) => (e.ctrlKey || e.metaKey) && e.key === "Enter",
        run: () => void file(),
      },
      {
        keys: "Alt+↓ Alt+↑",
        what: "Next and previous arrival",
        anywhere: true,
        match: (e) => e.altKey && (e.key === "ArrowDown" || e.key === "ArrowUp"),
        run: (e) => step(e.key === "ArrowDown" ? 1 : -1),
      },
      {
        keys: "F2",
        what: "Edit the name",
        anywhere: true,
        match: (e) => e.key === "F2",
        run: () => document.getElementById("slip-name")?.click(),
      },
      {
        keys: "F4",
        what: "Edit the place",
        anywhere: true,
        match: (e) => e.key === "F4" && !e.altKey,
        run: () => document.getElementById("slip-place")?.click(),
      },
      {
        keys: "Enter",
        what: "In the waiting line: file it when nothing is doubtful; in a field: to the next doubtful fact",
        match: (e) => e.key === "Enter" && !e.ctrlKey && document.activeElement === line.current,
        run: () => {
          if (current?.ready) void file();
          else
            document.querySelector<HTMLElement>("[data-doubt] input, [data-doubt] button, [data-fact] input")?.focus();
        },
      },
      {
        keys: "Page ↓ Page ↑",
        what: "Turn the page",
        match: (e) => e.key === "PageDown" || e.key === "PageUp",
        run: (e) =>
          setPage((p) =>
            Math.min(Math.max(p + (e.key === "PageDown" ? 1 : -1), 1), Math.max(current?.pages.length ?? 1, 1)),
          ),
      },
    ],
    [file, step, current],
  );
  useKeys(screenKeys);

  const marks: Mark[] = (current?.facts ?? []).flatMap((fact) =>
    fact.source.box && fact.field !== "kind" && !fact.given
      ? [{ field: fact.field, label: fact.label.toLowerCase(), box: fact.source.box }]
      : [],
  );
  const bring = (files: FileList | null) => {
    if (files?.length) uploads.add(files, null);
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setDropping(false);
    bring(event.dataTransfer.files);
  };
  // without a field in focus, the first doubtful fact is what the eye should see
  const looked = focus ?? current?.facts.find((fact) => fact.question !== null && fact.source.box)?.field ?? null;
  const focused =
    current?.facts.find((fact) => fact.field === (looked ?? "")) ??
    current?.facts.find((fact) => fact.source.box && fact.field !== "kind");

  return (
    <Controls>
      <main
        className={`bench main${dropping ? " dropping" : ""}`}
        onDragOver={(event) => {
          event.preventDefault();
          setDropping(true);
        }}
        onDragLeave={(event) => {
          if (event.currentTarget === event.target) setDropping(false);
        }}
        onDrop={drop}
      >
        <h1 className="hidden">Arrivals</h1>
        <section className="line-pane" aria-label="Waiting">
          <div className="bring">
            <button type="button" className="button small" onClick={() => chooser.current?.click()}>
              Bring in…
            </button>
            <span className="quiet small">or drop files anywhere here</span>
            <input
              ref={chooser}
              type="file"
              multiple
              hidden
              aria-label="Choose files to bring in"
              onChange={(event) => {
                bring(event.target.files);
                event.target.value = "";
              }}
            />
          </div>
          <UploadList uploads={uploads} />
          <WaitingLine arrivals={arrivals} chosen={chosen} onChoose={choose} line={line} />
        </section>
        <section className="page-pane" aria-label="The page">
          {current ? (
            current.pages.length ? (
              <PageView
                document={current.id}
                pages={current.pages}
                marks={marks}
                strokes={current.strokes}
                focus={looked}
                page={page}
                onPage={setPage}
                onPainted={() => setPainted(current.id)}
                onMark={(field) =>
                  document
                    .querySelector<HTMLElement>(`[data-fact="${field}"] input, [data-fact="${field}"] button`)
                    ?.focus()
                }
                tools={
                  <span className="quiet nowrap">
                    <b>{current.facts.filter((f) => f.source.kind === "page").length} facts</b> read
                  </span>
                }
              />
            ) : (
              <NoPage slip={current} />
            )
          ) : (
            <div className="well-empty quiet">
              {waiting.isPending ? "" : arrivals.length ? "Choose an arrival." : ""}
            </div>
          )}
        </section>
        <section className="slip-pane" aria-label="Filing slip">
          {current && (
            <SlipPanel
              key={current.id}
              slip={current}
              focus={focus}
              focused={focused}
              onFocus={(field) => {
                setFocus(field);
                const box = current.facts.find((fact) => fact.field === field)?.source.box;
                if (box) setPage(box.page);
              }}
              busy={busy || painted !== current.id}
              onFile={() => void file()}
              onPutAway={() => void putAway()}
              onTakeOver={() => void takeOver()}
            />
          )}
          {slip.error && !(slip.error instanceof Trouble && slip.error.status === 404) && (
            <p className="problem">{words(slip.error)}</p>
          )}
        </section>
        {taken && current && (
          <TakenDialog slip={current} onChoose={(how) => void file(how)} onClose={() => setTaken(false)} />
        )}
      </main>
    </Controls>
  );
}

function NoPage(props: { slip: Schemas["SlipOut"] }): ReactNode {
  const { slip } = props;
  return (
    <div className="well-empty">
      <div>
        <p>
          <b>{slip.state === "reading" ? "It is being read." : "It cannot be shown here."}</b>
        </p>
        {slip.problem && <p>{slip.problem}</p>}
        <p>
          <a href={`/api/documents/${slip.id}/content?download=true`}>Download {slip.original_name}</a>
        </p>
      </div>
    </div>
  );
}
