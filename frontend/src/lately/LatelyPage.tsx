import { useInfiniteQuery } from "@tanstack/react-query";
import { Button, Table } from "antd";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { flipping } from "../document/flip";
import { clock, day } from "../ui/format";
import { Failed, Loading, Nothing } from "../ui/states";
import "../tags/tags.css";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

type Lately = Schemas["LatelyOut"];

/** What one worked on lately, by day: each document once, with the last that was done to it. */
export default function LatelyPage(): ReactNode {
  const pages = useInfiniteQuery({
    queryKey: keys.lately,
    initialPageParam: null as number | null,
    queryFn: ({ pageParam }) =>
      data(client.GET("/api/lately", { params: { query: { before: pageParam ?? undefined } } })),
    getNextPageParam: (page) => page.next ?? null,
  });
  const rows = once(pages.data?.pages.flatMap((page) => page.documents) ?? []);
  const days = [...new Set(rows.map((one) => dayOf(one.at)))];
  return (
    <main className="main tags-page">
      <h1>{SAY.latelyWorkedOn}</h1>
      {pages.isError && !pages.data && <Failed what="The list" error={pages.error} onAgain={pages.refetch} />}
      {pages.isPending && <Loading />}
      {pages.data && rows.length === 0 && (
        <Nothing title="You changed nothing yet" action={<Link to="/arrivals">{SAY.goToArrivals}</Link>}>
          Documents that you file, rename, move or tag are listed here, by day.
        </Nothing>
      )}
      {days.map((one) => (
        <section key={one} aria-label={day(one)}>
          <h2 className="label">{one === dayOf(new Date().toISOString()) ? "Today" : day(one)}</h2>
          <Table
            size="small"
            pagination={false}
            showHeader={false}
            rowKey="document"
            dataSource={rows.filter((row) => dayOf(row.at) === one)}
            columns={[
              { key: "at", className: `nowrap ${styles.quiet}`, width: 76, render: (_, row) => clock(row.at) },
              {
                key: "name",
                rowScope: "row",
                render: (_, row) => (
                  <Link
                    className="mono"
                    to={`/documents/${row.document}`}
                    state={flipping(rows.map((r) => r.document))}
                  >
                    {row.name}
                  </Link>
                ),
              },
              { dataIndex: "path" },
              { dataIndex: "what", className: styles.quiet },
            ]}
          />
        </section>
      ))}
      {pages.hasNextPage && (
        <p>
          <Button onClick={() => void pages.fetchNextPage()}>{SAY.showEarlier}</Button>
        </p>
      )}
    </main>
  );
}

function once(rows: Lately[]): Lately[] {
  const seen = new Set<number>();
  return rows.filter((row) => !seen.has(row.document) && seen.add(row.document));
}

/** The day of a moment, in local time. */
function dayOf(at: string): string {
  const moment = new Date(at);
  const two = (n: number) => String(n).padStart(2, "0");
  return `${moment.getFullYear()}-${two(moment.getMonth() + 1)}-${two(moment.getDate())}`;
}
