import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { type DragEvent, lazy, type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { client, data, isGone, type Schemas, Trouble } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { useSlip, useWaiting, withoutArrival } from "../api/queries";
import { droppedFiles } from "../bringing/dropped";
import { useUploads } from "../bringing/uploads";
import { type Marks, NONE } from "../parts/lines/selection";
import { type Mark, PageView, pictureOf } from "../parts/page/PageView";
import { several } from "../ui/format";
import { inText, useKeys, useUndoAction } from "../ui/keys";
import { Later } from "../ui/Later";
import { useNotices, words } from "../ui/notices";
import { Sides } from "../ui/Sides";
import { Failed, Loading } from "../ui/states";
import { usePhone } from "../ui/window";
import { Arranging } from "./Arranging";
import "./arrivals.css";
import { goToFact } from "../parts/facts/FactLine";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { benchKeys } from "./benchKeys";
import { editsDone } from "./edits";
import { LinePane } from "./LinePane";
import { NoPage } from "./NoPage";
import { usePutAway } from "./putAway";
import { ReadyStrip } from "./ReadyStrip";
import { useRuleOffer } from "./ruleOffer";
import { SeveralPanel } from "./SeveralPanel";
import { SlipPanel } from "./SlipPanel";
import { remember } from "./sameAsBefore";
import { TakenDialog } from "./TakenDialog";
import { free, groupsOf } from "./WaitingLine";

const ParkDialog = lazy(() => import("./ParkDialog"));

type Taken = "stop" | "both" | "version";

export default function ArrivalsPage(): ReactNode {
  const parameters = useParams();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const uploads = useUploads();
  const waiting = useWaiting();
  const { arrivals } = waiting;
  const ordered = useMemo(() => groupsOf(arrivals).flatMap((group) => group.arrivals), [arrivals]);
  const asked = parameters.arrival ? Number(parameters.arrival) : null;
  const chosen = asked ?? ordered.find(free)?.id ?? null;
  const slip = useSlip(chosen);
  const [marks, setMarks] = useState<Marks>(NONE);
  const [focus, setFocus] = useState<string | null>(null);
  const [page, setPage] = useState(1);
  const [painted, setPainted] = useState<number | null>(null);
  const [busy, setBusy] = useState(false);
  const [taken, setTaken] = useState(false);
  const [parking, setParking] = useState(false);
  const [arranging, setArranging] = useState(false);
  const [skimming, setSkimming] = useState(false);
  const [dropping, setDropping] = useState(false);
  const line = useRef<HTMLDivElement>(null);
  const phone = usePhone();
  const current = slip.data;

  const choose = useCallback(
    (id: number | null) => {
      // an answer that comes when the person has gone on to another screen does not fetch them back
      if (window.location.pathname.startsWith("/arrivals"))
        void navigate(id === null ? "/arrivals" : `/arrivals/${id}`, { replace: true });
    },
    [navigate],
  );

  // what was filed by somebody else meanwhile is no longer here; an answer of before, when it is asked anew, tells nothing
  useEffect(() => {
    if (asked === null || slip.isFetching || !isGone(slip.error)) return;
    tell({ text: "The arrival does not wait any more: somebody has filed it, or taken it away.", yields: true });
    choose(null);
  }, [asked, slip.isFetching, slip.error, choose, tell]);

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

  const offerRule = useRuleOffer();
  const file = useCallback(
    async (how: Taken = "stop", versionOf: number | null = null, placeOf: number | null = null) => {
      if (!current || busy || painted !== current.id) return;
      if (current.taken && how === "stop" && versionOf === null && placeOf === null) {
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
        const [needed] =
          fresh.composed.text === null && versionOf === null && placeOf === null ? fresh.composed.missing : [];
        if (needed) {
          // the slip says what it is
          goToFact(needed);
          return;
        }
        await data(
          client.POST("/api/arrivals/{arrival}/file", {
            params: { path: { arrival: current.id } },
            body: { revision: fresh.revision, taken: how, version_of: versionOf, place_of: placeOf },
          }),
        );
        const name = `${fresh.composed.text}.${fresh.composed.extension}`;
        const place = [fresh.area?.name, ...fresh.steps.map((s) => s.name)].join(" / ");
        remember(fresh);
        const text =
          versionOf === null ? `Filed ${name} in ${place}` : `Filed ${current.original_name} as a new version`;
        const told = { text, action: { label: SAY.undo, run: undo } };
        tell(told);
        void offerRule(fresh, told);
        setTaken(false);
        const at = ordered.findIndex((a) => a.id === current.id);
        // the next skips what others have in hand
        const next = ordered.slice(at + 1).find(free) ?? ordered.slice(0, at).reverse().find(free);
        queries.setQueryData(keys.waiting, (had: Parameters<typeof withoutArrival>[0]) =>
          withoutArrival(had, current.id),
        );
        choose(next && next.id !== current.id ? next.id : null);
        void queries.invalidateQueries({ queryKey: keys.waiting });
        void askAgain(queries, "drive", "manifests");
        line.current?.focus();
      } catch (error) {
        if (error instanceof Trouble && error.code === "taken") setTaken(true);
        else tell({ text: words(error), bad: true });
        void queries.invalidateQueries({ queryKey: keys.slip(current.id) });
      } finally {
        setBusy(false);
      }
    },
    [current, busy, painted, queries, tell, undo, offerRule, ordered, choose],
  );

  const putAwayThem = usePutAway();
  const putAway = useCallback(
    async (those: Schemas["SlipSummary"][]) => {
      const ids = those.map((one) => one.id);
      if (!(await putAwayThem(those))) return;
      const at = ordered.findIndex((a) => a.id === ids[0]);
      setMarks(NONE);
      choose(ordered.slice(at + 1).find((one) => free(one) && !ids.includes(one.id))?.id ?? null);
    },
    [ordered, putAwayThem, choose],
  );

  const park = useCallback(
    async (until: string | null, note: string): Promise<string | null> => {
      if (!current) return null;
      const path = { params: { path: { arrival: current.id } } };
      try {
        if (until === null) await data(client.DELETE("/api/arrivals/{arrival}/parked", path));
        else await data(client.PUT("/api/arrivals/{arrival}/parked", { ...path, body: { until, note } }));
        setParking(false);
        const at = ordered.findIndex((a) => a.id === current.id);
        await queries.invalidateQueries({ queryKey: keys.waiting });
        // what was put aside is asked for anew when one comes back to it, not now: that would take it in hand again
        void queries.invalidateQueries({ queryKey: keys.slip(current.id), refetchType: "none" });
        if (until === null) await queries.invalidateQueries({ queryKey: keys.slip(current.id) });
        else choose(ordered.slice(at + 1).find(free)?.id ?? null);
        return null;
      } catch (error) {
        return words(error);
      }
    },
    [current, ordered, queries, choose],
  );

  const takeOver = useCallback(async () => {
    if (!current) return;
    try {
      const got = await data(
        client.POST("/api/arrivals/{arrival}/claim", {
          params: { path: { arrival: current.id } },
          body: { take: true },
        }),
      );
      queries.setQueryData(keys.slip(current.id), got);
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
  }, [current, queries, tell]);

  const chosenOnes = useMemo(() => ordered.filter((one) => marks.has(one.id)), [ordered, marks]);
  const screenKeys = useMemo(
    () =>
      benchKeys({
        file: () => (chosenOnes.length > 1 ? document.getElementById("file-several")?.click() : void file()),
        step,
        skim: () => setSkimming(true),
        // of several that are chosen, nothing is done to just the one where the keys are
        park: () => chosenOnes.length < 2 && setParking(true),
        arrange: () => chosenOnes.length < 2 && setArranging(true),
        enter: () => {
          if (chosenOnes.length > 1) goToFact("kind");
          else if (current?.ready) void file();
          else
            document.querySelector<HTMLElement>("[data-doubt] input, [data-doubt] button, [data-fact] input")?.focus();
        },
        inLine: () => document.activeElement === line.current,
        turn: (by) => setPage((p) => Math.min(Math.max(p + by, 1), Math.max(current?.pages.length ?? 1, 1))),
      }),
    [file, step, current, chosenOnes.length],
  );
  useKeys(screenKeys);

  const onPage: Mark[] = (current?.facts ?? []).flatMap((fact) =>
    fact.source.box && fact.editor !== "kind" && !fact.given
      ? [{ field: fact.field, label: fact.label.toLowerCase(), box: fact.source.box }]
      : [],
  );
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setDropping(false);
    droppedFiles(event.dataTransfer).then(
      (files) => uploads.add(files, null),
      (error: unknown) => tell({ text: words(error), bad: true }),
    );
  };
  // without a field in focus, the first doubtful fact is what the eye should see
  const looked = focus ?? current?.facts.find((fact) => fact.question !== null && fact.source.box)?.field ?? null;
  const focused =
    current?.facts.find((fact) => fact.field === (looked ?? "")) ??
    current?.facts.find((fact) => fact.source.box && fact.editor !== "kind");

  return (
    <main
      className={`bench main${dropping ? " dropping" : ""}`}
      onDragOver={(event) => {
        event.preventDefault();
        setDropping(true);
      }}
      onDragLeave={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setDropping(false);
      }}
      onDrop={drop}
    >
      <h1 className={styles.hidden}>Arrivals</h1>
      <Sides
        name="arrivals"
        onPhone={asked === null ? ["start"] : ["middle", "end"]}
        start={{
          width: [292, 240],
          content: (
            <LinePane
              waiting={waiting}
              chosen={chosen}
              onChoose={choose}
              marks={marks}
              onMarks={setMarks}
              onSkim={() => setSkimming(true)}
              line={line}
            />
          ),
        }}
        end={{
          width: [366, 320],
          content: (
            <section className="slip-pane" aria-label="Filing slip">
              {phone && (
                <p className="back-to-list">
                  <Link to="/arrivals">‹ All that waits</Link>
                </p>
              )}
              {chosenOnes.length > 1 ? (
                <SeveralPanel
                  key={[...marks].sort().join()}
                  arrivals={chosenOnes}
                  areas={current?.areas ?? []}
                  onDone={() => setMarks(NONE)}
                  onPutAway={() => void putAway(chosenOnes)}
                />
              ) : null}
              {current && chosenOnes.length < 2 && (
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
                  onPlaceOf={(document) => void file("stop", null, document)}
                  onVersion={(document) => void file("stop", document)}
                  onPark={() => (current.parked ? void park(null, "") : setParking(true))}
                  onArrange={() => setArranging(true)}
                  onPutAway={() => void putAway(ordered.filter((one) => one.id === current.id))}
                  onTakeOver={() => void takeOver()}
                />
              )}
              {slip.isError && !current && !isGone(slip.error) && (
                <Failed what="The arrival" error={slip.error} onAgain={slip.refetch} />
              )}
              {slip.isPending && chosen !== null && <Loading />}
            </section>
          ),
        }}
      >
        <section className="page-pane" aria-label="The page">
          {current ? (
            current.pages.length ? (
              <PageView
                document={current.id}
                pages={current.pages}
                marks={onPage}
                strokes={current.strokes}
                focus={looked}
                page={page}
                onPage={setPage}
                onPainted={() => setPainted(current.id)}
                onMark={goToFact}
                tools={
                  <>
                    <span className={`${styles.quiet} nowrap`}>
                      {several(current.facts.filter((f) => f.value !== null && !f.given).length, "fact")} read
                    </span>
                    {current.joinable && (
                      <Button size="small" onClick={() => setArranging(true)}>
                        Pages… <kbd>F9</kbd>
                      </Button>
                    )}
                  </>
                }
              />
            ) : (
              <NoPage slip={current} />
            )
          ) : (
            <div className={`well-empty ${styles.quiet}`}>
              {arrivals.length > 0 && !slip.isFetching && "Choose an arrival."}
            </div>
          )}
        </section>
      </Sides>
      {taken && current && (
        <TakenDialog slip={current} onChoose={(how) => void file(how)} onClose={() => setTaken(false)} />
      )}
      {parking && current && (
        <Later onClose={() => setParking(false)}>
          <ParkDialog name={current.original_name} onPark={park} onClose={() => setParking(false)} />
        </Later>
      )}
      {arranging && current?.joinable && (
        <Arranging
          arrival={current.id}
          others={arrivals.filter((a) => a.id !== current.id && a.joinable && a.state !== "reading" && free(a))}
          onClose={() => setArranging(false)}
          onMade={choose}
        />
      )}
      {skimming && arrivals.some((a) => a.ready && free(a)) && (
        <ReadyStrip
          arrivals={arrivals.filter((a) => a.ready && free(a))}
          onClose={() => setSkimming(false)}
          onFiled={() => {
            setSkimming(false);
            choose(null);
          }}
        />
      )}
    </main>
  );
}
