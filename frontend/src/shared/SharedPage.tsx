import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Table } from "antd";
import type { ReactNode } from "react";
import { Link, useSearchParams } from "react-router";
import { client, data, type Schemas } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { Choice } from "../ui/Choice";
import { day, moment } from "../ui/format";
import { useUndoAction } from "../ui/keys";
import { useNotices, words } from "../ui/notices";
import { Failed, Loading, Nothing } from "../ui/states";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import "../ui/acts.css";
import "../access/access.css";

type Shared = Schemas["SharedOut"];

/** What others gave to me, and what I gave to others, below the areas: the newest first, new ones marked until seen. */
export default function SharedPage(): ReactNode {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const [query, setQuery] = useSearchParams();
  const byMe = query.get("by") === "me";
  const shared = useQuery({
    queryKey: keys.shared(byMe),
    queryFn: () => (byMe ? data(client.GET("/api/shared/by-me")) : data(client.GET("/api/shared/with-me"))),
  });
  const rows = shared.data?.shared ?? [];
  const fresh = byMe ? [] : rows.filter((one) => one.fresh).map((one) => one.id);
  const see = (grants: number[]) =>
    grants.length > 0 &&
    void data(client.POST("/api/shared/seen", { body: { grants } })).then(() => askAgain(queries, "drive"));
  const take = (one: Shared) =>
    data(
      client.POST("/api/access", {
        body: {
          wishes: [
            {
              folder: one.folder,
              document: one.document,
              entry: null,
              principal: one.principal,
              level: null,
              until: null,
              word: "",
              restricted: null,
              stale: false,
              seen: null,
            },
          ],
        },
      }),
    ).then(
      (done) => {
        tell({ text: done.title, action: { label: SAY.undo, run: undo } });
        void askAgain(queries, "drive");
      },
      (error: unknown) => tell({ text: words(error), bad: true }),
    );
  return (
    <main className="shared-page">
      <div className="acts">
        <h1>Shared</h1>
        <Choice
          label="Shared with me, or by me"
          of={[
            [false, "with me"],
            [true, "by me"],
          ]}
          value={byMe}
          onChange={(mine) => setQuery(mine ? { by: "me" } : {}, { replace: true })}
        />
        {fresh.length > 0 && <Button onClick={() => see(fresh)}>Mark all as seen</Button>}
      </div>
      {shared.isError && !shared.data && <Failed what="What is shared" error={shared.error} onAgain={shared.refetch} />}
      {!shared.data && !shared.isError && <Loading rows={6} />}
      {shared.data && !rows.length && (
        <Nothing title={byMe ? "You gave nothing yet" : "Nothing was shared with you yet"}>
          {byMe
            ? "Press G on a document or folder that you keep, and name whom to give it to."
            : "A document or folder that somebody gives to you, or to a group that you are in, stands here."}
        </Nothing>
      )}
      {rows.length > 0 && (
        <Table<Shared>
          size="small"
          rowKey="id"
          pagination={rows.length > 200 ? { pageSize: 200, showSizeChanger: false } : false}
          dataSource={rows}
          columns={[
            {
              title: "What",
              rowScope: "row",
              render: (_, one) => (
                <span className={one.fresh && !byMe ? "fresh" : ""}>
                  <Link
                    to={one.folder !== null ? `/drive/${one.folder}` : `/documents/${one.document}`}
                    onClick={() => !byMe && one.fresh && see([one.id])}
                  >
                    {one.name}
                    {one.folder !== null && " /"}
                  </Link>
                  {one.fresh && !byMe && <span className="signal"> new</span>}
                </span>
              ),
            },
            { title: "Where", render: (_, one) => <span className={styles.quiet}>{one.path}</span> },
            byMe
              ? { title: "To", render: (_, one) => one.whom }
              : {
                  title: "By",
                  render: (_, one) => (
                    <>
                      {one.given_by ?? "Waka"}
                      {one.whom_kind === "group" && <span className={styles.quiet}> to {one.whom}</span>}
                    </>
                  ),
                },
            { title: "On", className: "nowrap", render: (_, one) => moment(one.given_at) },
            {
              title: "May",
              className: "nowrap",
              render: (_, one) => `${one.level}${one.until ? ` until ${day(one.until)}` : ""}`,
            },
            { title: "Word", dataIndex: "word" },
            ...(byMe
              ? [
                  {
                    title: "",
                    className: "nowrap",
                    render: (_: unknown, one: Shared) => (
                      <Button size="small" onClick={() => void take(one)}>
                        Take away<span className={styles.hidden}> {one.name}</span>
                      </Button>
                    ),
                  },
                ]
              : []),
          ]}
        />
      )}
    </main>
  );
}
