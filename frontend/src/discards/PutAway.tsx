import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Table } from "antd";
import type { ReactNode } from "react";
import { client, data, type Schemas } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { CutName } from "../parts/names/CutName";
import { moment } from "../ui/format";
import { useUndoAction } from "../ui/keys";
import { useNotices, words } from "../ui/notices";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

type One = Schemas["PutAwayOut"];

/** Arrivals that somebody said are no records: looked at, and brought back to what waits. */
export function PutAway(): ReactNode {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const all =
    useQuery({ queryKey: keys.putAway, queryFn: () => data(client.GET("/api/arrivals/put-away")) }).data?.arrivals ??
    [];
  const back = async (one: One) => {
    try {
      await data(client.POST("/api/arrivals/{arrival}/back", { params: { path: { arrival: one.id } } }));
      tell({ text: `${one.name} waits in Arrivals again`, action: { label: SAY.undo, run: undo } });
      await Promise.all([
        askAgain(queries, "drive", "manifests"),
        queries.invalidateQueries({ queryKey: keys.waiting }),
      ]);
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
  };
  if (!all.length) return null;
  return (
    <section aria-label="Arrivals that are not records">
      <h2 className="label">Not records</h2>
      <Table<One>
        size="small"
        pagination={false}
        rowKey="id"
        dataSource={all}
        columns={[
          {
            title: "Came in as",
            key: "name",
            ellipsis: true,
            render: (_, one) => (
              <a href={`/api/documents/${one.id}/content`} target="_blank" rel="noreferrer" title="Look at it">
                <CutName name={one.name} />
              </a>
            ),
          },
          { title: "Arrived", key: "arrived", className: "nowrap", render: (_, one) => moment(one.arrived_at) },
          { title: "Put away", key: "at", className: "nowrap", render: (_, one) => moment(one.at) },
          { title: "By", dataIndex: "by", className: "nowrap" },
          {
            title: <span className={styles.hidden}>What to do</span>,
            key: "act",
            className: "nowrap",
            render: (_, one) => (
              <Button size="small" onClick={() => void back(one)}>
                Bring back<span className={styles.hidden}> {one.name}</span>
              </Button>
            ),
          },
        ]}
      />
    </section>
  );
}
