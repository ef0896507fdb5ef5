import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Table } from "antd";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { client, data, type Schemas } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { Choice } from "../ui/Choice";
import { count, moment } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import { useNotices, words } from "../ui/notices";
import { Failed, Loading, Nothing } from "../ui/states";
import { STATE_WORDS } from "./ManifestPage";
import "../parts/lines/grid.css";
import "../parts/beside.css";
import "./manifest.css";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

const LIVE = ["planned", "queued", "running", "undoing"];
const TROUBLED = ["failed", "partly done", "partly undone", "stopped"];

/** Every manifest that one may see, the newest first: what runs, what failed, what was done, what is planned. */
export default function ManifestList(): ReactNode {
  const [which, setWhich] = useState<"all" | "mine" | "runs">("all");
  const pages = useInfiniteQuery({
    queryKey: keys.manifests(which),
    initialPageParam: null as number | null,
    queryFn: ({ pageParam }) =>
      data(
        client.GET("/api/manifests", {
          params: {
            query: {
              mine: which === "mine" || undefined,
              runs: which === "runs" || undefined,
              before: pageParam ?? undefined,
            },
          },
        }),
      ),
    getNextPageParam: (page) => page.next ?? null,
    refetchInterval: (query) =>
      query.state.data?.pages.some((page) => page.manifests.some((one) => LIVE.includes(one.state))) ? 1500 : false,
  });
  const list = pages.data?.pages.flatMap((page) => page.manifests) ?? [];
  return (
    <main className="manifest-list">
      <div className="ledger-head">
        <h1>Manifests</h1>
        <Choice
          label="Which"
          of={[
            ["all", "All"],
            ["mine", "Mine"],
            ["runs", "Long or unfinished"],
          ]}
          value={which}
          onChange={setWhich}
        />
      </div>
      <FailedReadings />
      <p className={`${styles.quiet} ${styles.small}`}>
        Every change of the drive is a manifest. To rename or move many documents, open their folder in{" "}
        <Link to="/drive">Drive</Link> and choose “Rename or move many”.
      </p>
      {pages.isError && !pages.data ? (
        <Failed what="The list of manifests" error={pages.error} onAgain={pages.refetch} />
      ) : pages.isPending ? (
        <Loading />
      ) : list.length === 0 ? (
        <Nothing
          title={which === "runs" ? "Nothing is under way" : "No manifest yet"}
          action={<Link to="/drive">{SAY.goToDrive}</Link>}
        >
          {which === "runs"
            ? "What is long, planned, runs, failed or was done in part is listed here."
            : "What is filed, renamed, moved or planned from now on is listed here."}
        </Nothing>
      ) : (
        <Table
          className="manifests"
          size="small"
          pagination={false}
          rowKey="id"
          dataSource={list}
          columns={[
            { title: "#", dataIndex: "id", align: "right" },
            { title: "What", render: (_, one) => <Link to={`/manifests/${one.id}`}>{one.title}</Link> },
            { title: "Lines", align: "right", render: (_, one) => count(one.lines) },
            { title: "State", render: (_, one) => <State of={one} /> },
            { title: "Who", render: (_, one) => (one.mine ? "me" : one.by) },
            { title: "When", className: `nowrap ${styles.quiet}`, render: (_, one) => moment(one.ran_at ?? one.at) },
          ]}
        />
      )}
      {pages.hasNextPage && <Button onClick={() => void pages.fetchNextPage()}>Show older ones</Button>}
    </main>
  );
}

function State(props: { of: Schemas["ManifestList"]["manifests"][number] }): ReactNode {
  const { of } = props;
  const live = LIVE.includes(of.state);
  const look = TROUBLED.includes(of.state) ? "signal" : of.state === "checked" || live ? "" : styles.quiet;
  return (
    <span className={look}>
      {STATE_WORDS[of.state] ?? of.state}
      {live && of.partial && ` ${count(of.progress)} of ${count(of.lines)}`}
      {of.problem && <span className={styles.small}>: {of.problem}</span>}
    </span>
  );
}

/** Arrivals whose reading failed: what, where from, why, and what can be done. */
function FailedReadings(): ReactNode {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const failed = useQuery({ queryKey: keys.failedReadings, queryFn: () => data(client.GET("/api/readings/failed")) });
  const readings = failed.data?.readings ?? [];
  if (!readings.length) return null;
  const again = async (job: number) => {
    try {
      await data(client.POST("/api/readings/{job}/again", { params: { path: { job } } }));
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
    await askAgain(queries, "arrivals");
  };
  return (
    <section className="failed-readings" aria-label="Readings that failed">
      <h2 className="label">Reading failed</h2>
      <ul>
        {readings.map((one) => (
          <li key={`${one.job} ${one.document}`}>
            <Link to={`/arrivals/${one.document}`} className="mono">
              {one.name}
            </Link>{" "}
            <span className={styles.quiet}>
              by {one.source}
              {one.area && ` for ${one.area}`}:
            </span>{" "}
            {one.why}{" "}
            {one.again ? (
              <span className={styles.quiet}>It is tried again by itself.</span>
            ) : (
              <LinkButton onClick={() => void again(one.job)}>read it again</LinkButton>
            )}{" "}
            <span className={styles.quiet}>or file it with its facts typed.</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
