import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Table } from "antd";
import type { ReactNode } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { client, data, type Schemas } from "../api/client";
import { askAllAgain, keys } from "../api/keys";
import { PlanNav } from "../parts/plan/PlanNav";
import { Choice } from "../ui/Choice";
import { count, moment, several } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import { useNotices, words } from "../ui/notices";
import { Failed, Loading, Nothing } from "../ui/states";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { DayBars } from "./DayBars";
import "../parts/lines/grid.css";
import "./rules.css";

type Figures = Schemas["RuleFiguresOut"];
type Run = Schemas["RuleRunOut"];
type Outcome = "done" | "asked" | "left" | "no rule" | "failed" | "undone";

const OUTCOMES: readonly (readonly [Outcome | null, string])[] = [
  [null, "all"],
  ["done", "filed or changed"],
  ["asked", "asked"],
  ["failed", "failed"],
  ["undone", "undone"],
  ["no rule", "no rule"],
];
const SAID: Record<string, string> = {
  done: "done",
  asked: "asks",
  left: "left to a person",
  "no rule": "no rule",
  failed: "could not be filed",
  "nothing to do": "nothing to do",
};
const STANDS_OUT: Record<string, string> = {
  fails: "fails",
  "undone often": "undone often",
  idle: "not used for long",
};

/** All that an area's rules did, asked and failed with; the rules that stand out. */
export default function RunsPage(): ReactNode {
  const area = Number(useParams().area);
  const navigate = useNavigate();
  const [query, setQuery] = useSearchParams();
  const rule = query.get("rule");
  const outcome = query.get("outcome") as Outcome | null;
  const areas = useQuery({ queryKey: keys.areas, queryFn: () => data(client.GET("/api/plans")) });
  const figures = useQuery({
    queryKey: keys.ruleFigures(area),
    queryFn: () => data(client.GET("/api/rulebooks/{folder}/figures", { params: { path: { folder: area } } })),
  });
  const narrow = (next: { rule?: string | null; outcome?: Outcome | null }) => {
    const now = { rule, outcome, ...next };
    const kept = Object.entries(now).filter((one): one is [string, string] => Boolean(one[1]));
    setQuery(Object.fromEntries(kept), { replace: true });
  };
  const told = figures.data;
  return (
    <main className="rules-page">
      <header className="rules-top">
        <h1>Runs</h1>
        <Choice
          label="Area"
          of={(areas.data?.areas ?? []).map((one) => [one.id, one.name] as const)}
          value={area}
          onChange={(id) => void navigate(`/plan/${id}/runs`)}
        />
        <PlanNav area={area} />
      </header>
      <div className="runs-body">
        {figures.isError && <Failed what="The figures" error={figures.error} onAgain={figures.refetch} />}
        {!told && !figures.isError && <Loading />}
        {told && told.rules.length === 0 && (
          <Nothing title="No rule yet" action={<Link to={`/plan/${area}/rules`}>Make one</Link>}>
            What rules did, asked and failed with stands here.
          </Nothing>
        )}
        {told && told.rules.length > 0 && (
          <>
            <p>
              In the last 30 days: <b>{count(told.outcomes.done ?? 0)}</b> filed or changed by rules,{" "}
              <b>{count(told.outcomes.asked ?? 0)}</b> asked,{" "}
              <b className={told.outcomes.failed ? "signal" : undefined}>{count(told.outcomes.failed ?? 0)}</b> could
              not be filed, <b>{count(told.outcomes.undone ?? 0)}</b> undone,{" "}
              <b>{count(told.outcomes["no rule"] ?? 0)}</b> fitted no rule.
            </p>
            <Table<Figures>
              size="small"
              className="rule-figures"
              rowKey="rule"
              pagination={false}
              dataSource={told.rules}
              rowClassName={(one) => (one.rule === rule ? "here" : "")}
              columns={[
                {
                  title: "Rule",
                  rowScope: "row",
                  render: (_, one) => (
                    <>
                      <LinkButton
                        aria-pressed={one.rule === rule}
                        onClick={() => narrow({ rule: one.rule === rule ? null : one.rule, outcome: null })}
                      >
                        {one.paused ? <s>{one.rule}</s> : one.rule}
                      </LinkButton>{" "}
                      {!one.there && <span className={`${styles.quiet} ${styles.small}`}>no longer there</span>}
                      {one.paused && <span className={`${styles.quiet} ${styles.small}`}>paused</span>}
                    </>
                  ),
                },
                {
                  title: "Last 30 days",
                  width: 260,
                  render: (_, one) => (
                    <DayBars days={one.days} since={told.since} until={told.until} label={one.rule} />
                  ),
                },
                figure(
                  "Done",
                  (one) => one.done,
                  (one) => narrow({ rule: one.rule, outcome: "done" }),
                ),
                figure(
                  "Asked",
                  (one) => one.asked,
                  (one) => narrow({ rule: one.rule, outcome: "asked" }),
                ),
                figure(
                  "Failed",
                  (one) => one.failed,
                  (one) => narrow({ rule: one.rule, outcome: "failed" }),
                  true,
                ),
                figure(
                  "Undone",
                  (one) => one.undone,
                  (one) => narrow({ rule: one.rule, outcome: "undone" }),
                  true,
                ),
                {
                  title: "Last",
                  width: 140,
                  render: (_, one) => (one.last ? moment(one.last) : <span className={styles.quiet}>never</span>),
                },
                {
                  title: <span className={styles.hidden}>What stands out</span>,
                  width: 140,
                  render: (_, one) =>
                    one.stands_out.map((what) => (
                      <span key={what} className="stands-out">
                        {STANDS_OUT[what]}
                      </span>
                    )),
                },
              ]}
            />
            <div className="runs-head">
              <h2>{rule ? `What “${rule}” did` : "What the rules did"}</h2>
              <Choice
                small
                label="What came of it"
                of={OUTCOMES}
                value={outcome}
                onChange={(next) => narrow({ outcome: next })}
              />
              {rule && <LinkButton onClick={() => narrow({ rule: null })}>All rules</LinkButton>}
            </div>
            <Runs area={area} rule={rule} outcome={outcome} />
          </>
        )}
      </div>
    </main>
  );
}

function figure(
  title: string,
  of: (one: Figures) => number,
  onChoose: (one: Figures) => void,
  bad = false,
): { title: string; width: number; align: "right"; render: (_: unknown, one: Figures) => ReactNode } {
  return {
    title,
    width: 76,
    align: "right",
    render: (_, one) =>
      of(one) ? (
        <LinkButton className={bad ? "signal" : undefined} onClick={() => onChoose(one)}>
          {count(of(one))}
        </LinkButton>
      ) : (
        <span className={styles.quiet}>none</span>
      ),
  };
}

function Runs(props: { area: number; rule: string | null; outcome: Outcome | null }): ReactNode {
  const { area, rule, outcome } = props;
  const queries = useQueryClient();
  const { tell } = useNotices();
  const runs = useInfiniteQuery({
    queryKey: keys.ruleRuns(area, { rule: rule ?? undefined, outcome: outcome ?? undefined }),
    queryFn: ({ pageParam }) =>
      data(
        client.GET("/api/rulebooks/{folder}/runs", {
          params: { path: { folder: area }, query: { rule, outcome, before: pageParam } },
        }),
      ),
    initialPageParam: null as number | null,
    getNextPageParam: (last) => last.next,
  });
  const undo = useMutation({
    mutationFn: (run: Run) =>
      data(
        client.POST("/api/manifests/{manifest}/undo", {
          params: { path: { manifest: run.manifest ?? 0 } },
          body: { lines: null },
        }),
      ),
    onSuccess: (_, run) => tell({ text: `Undone: ${run.name} is as it was; that counts against the rule.` }),
    onError: (error) => tell({ text: words(error), bad: true }),
    onSettled: () => askAllAgain(queries),
  });
  if (runs.isError) return <Failed what="The list" error={runs.error} onAgain={runs.refetch} />;
  const rows = runs.data?.pages.flatMap((page) => page.runs) ?? [];
  if (runs.isSuccess && rows.length === 0) return <p className={styles.quiet}>Nothing of that sort yet.</p>;
  return (
    <>
      <Table<Run>
        size="small"
        rowKey="id"
        pagination={false}
        loading={runs.isPending}
        dataSource={rows}
        columns={[
          { title: "When", width: 130, render: (_, run) => moment(run.at) },
          {
            title: "Document",
            ellipsis: true,
            render: (_, run) => (
              <Link className="mono" to={run.waits ? `/arrivals/${run.document}` : `/documents/${run.document}`}>
                {run.name}
              </Link>
            ),
          },
          { title: "Rules", width: 210, render: (_, run) => run.rules.join(", ") || "–" },
          { title: "At", width: 92, render: (_, run) => run.event },
          {
            title: "What came of it",
            render: (_, run) => (
              <>
                <span className={run.outcome === "done" ? "ok" : run.outcome === "no rule" ? styles.quiet : "signal"}>
                  {run.undone ? "done, then undone" : SAID[run.outcome]}
                </span>
                {run.reasons.map((reason) => (
                  <div key={`${reason.rule} ${reason.line}`} className={styles.small}>
                    “{reason.rule}”{reason.line > 0 && `, line ${reason.line}`}: {reason.why}
                  </div>
                ))}
              </>
            ),
          },
          {
            title: <span className={styles.hidden}>{SAY.undo}</span>,
            width: 80,
            render: (_, run) =>
              run.manifest !== null &&
              !run.undone && (
                <Button size="small" disabled={undo.isPending} onClick={() => undo.mutate(run)}>
                  {SAY.undo}
                </Button>
              ),
          },
        ]}
      />
      {runs.hasNextPage && (
        <p>
          <Button disabled={runs.isFetching} onClick={() => void runs.fetchNextPage()}>
            {SAY.showEarlier} ({several(rows.length, "line")} so far)
          </Button>
        </p>
      )}
    </>
  );
}
