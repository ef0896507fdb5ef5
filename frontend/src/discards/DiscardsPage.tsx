import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Space, Table } from "antd";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { client, data, type Schemas, Trouble } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { FolderChooser } from "../places/FolderChooser";
import { moment, several } from "../ui/format";
import { useUndoAction } from "../ui/keys";
import { LinkButton } from "../ui/LinkButton";
import { useNotices, words } from "../ui/notices";
import { Failed, Loading, Nothing } from "../ui/states";
import { PutAway } from "./PutAway";
import "./discards.css";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

type Discard = Schemas["DiscardOut"];

/** What was discarded, by whom and from where; each is brought back to its place, or to another. */
export default function DiscardsPage(): ReactNode {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const [choosing, setChoosing] = useState<Discard | null>(null);
  const [clash, setClash] = useState<{ one: Discard; folder: number | null; told: string } | null>(null);
  const pages = useInfiniteQuery({
    queryKey: keys.discards,
    initialPageParam: null as string | null,
    queryFn: ({ pageParam }) =>
      data(client.GET("/api/discards", { params: { query: { before: pageParam ?? undefined } } })),
    getNextPageParam: (page) => page.next ?? null,
  });
  const rows = pages.data?.pages.flatMap((page) => page.discards) ?? [];

  const restore = async (
    one: Discard,
    folder: number | null,
    taken: "stop" | "both" = "stop",
  ): Promise<string | null> => {
    try {
      await data(
        client.POST("/api/discards/{entry}/restore", {
          params: { path: { entry: one.entry } },
          body: { folder, taken },
        }),
      );
      tell({ text: `Restored ${one.name}`, action: { label: SAY.undo, run: undo } });
      setChoosing(null);
      setClash(null);
      await askAgain(queries, "drive", "manifests");
      return null;
    } catch (error) {
      if (error instanceof Trouble && error.code === "taken") {
        setChoosing(null);
        setClash({ one, folder, told: error.message });
        return null;
      }
      return words(error);
    }
  };
  const folders =
    useQuery({ queryKey: keys.discardedFolders, queryFn: () => data(client.GET("/api/discards/folders")) }).data
      ?.folders ?? [];
  const whole = async (one: Schemas["DiscardedFolderOut"]) => {
    try {
      const params = { path: { manifest: one.manifest } };
      await data(client.POST("/api/discards/folders/{manifest}/restore", { params }));
      tell({ text: `Restored the folder ${one.name}`, action: { label: SAY.undo, run: undo } });
      await askAgain(queries, "drive", "manifests");
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
  };
  const back = (one: Discard) => void restore(one, null).then((wrong) => wrong && tell({ text: wrong, bad: true }));

  return (
    <main className="main discards">
      <h1>Discards</h1>
      <p className={styles.quiet}>What was discarded is kept here, whole, until it is brought back.</p>
      {clash && (
        <div className="ask" role="alert">
          {clash.told}{" "}
          <LinkButton onClick={() => void restore(clash.one, clash.folder, "both")}>
            Keep both, this one with a number
          </LinkButton>{" "}
          <LinkButton onClick={() => setChoosing(clash.one)}>Choose another place</LinkButton>
        </div>
      )}
      <PutAway />
      {folders.length > 0 && (
        <section aria-label="Folders that were discarded whole">
          <h2 className="label">Folders</h2>
          <Table
            size="small"
            pagination={false}
            showHeader={false}
            rowKey="manifest"
            dataSource={folders}
            columns={[
              {
                key: "name",
                render: (_, one) => (
                  <>
                    <b>{one.name}</b> <span className={styles.quiet}>{several(one.documents, "document")}</span>
                  </>
                ),
              },
              { dataIndex: "path" },
              { key: "at", className: "nowrap", render: (_, one) => moment(one.at) },
              { dataIndex: "by", className: "nowrap" },
              {
                key: "act",
                className: "nowrap",
                render: (_, one) => (
                  <Button size="small" onClick={() => void whole(one)}>
                    Restore the whole folder<span className={styles.hidden}> {one.name}</span>
                  </Button>
                ),
              },
            ]}
          />
          <h2 className="label documents-label">Documents</h2>
        </section>
      )}
      {pages.isError && !pages.data ? (
        <Failed what="The list of discards" error={pages.error} onAgain={pages.refetch} />
      ) : pages.isPending ? (
        <Loading />
      ) : rows.length === 0 && folders.length === 0 ? (
        <Nothing title="Nothing is discarded" action={<Link to="/drive">{SAY.goToDrive}</Link>}>
          Documents that are discarded in the drive come here, with who did it and from where.
        </Nothing>
      ) : (
        <Table
          size="small"
          pagination={false}
          rowKey="entry"
          dataSource={rows}
          columns={[
            { title: "Name", dataIndex: "name", className: "mono" },
            {
              title: "From",
              render: (_, one) => one.path ?? <span className="signal">a folder that is gone</span>,
            },
            { title: "Discarded", className: "nowrap", render: (_, one) => moment(one.at) },
            { title: "By", dataIndex: "by", className: "nowrap" },
            {
              title: <span className={styles.hidden}>Bring back</span>,
              key: "act",
              className: "nowrap",
              render: (_, one) => (
                <Space size={6}>
                  {one.path !== null && (
                    <Button size="small" onClick={() => back(one)}>
                      {SAY.restore}
                      <span className={styles.hidden}> {one.name}</span>
                    </Button>
                  )}
                  <Button size="small" onClick={() => setChoosing(one)}>
                    Restore to…<span className={styles.hidden}> {one.name}</span>
                  </Button>
                </Space>
              ),
            },
          ]}
        />
      )}
      {pages.hasNextPage && (
        <p>
          <Button onClick={() => void pages.fetchNextPage()}>{SAY.showEarlier}</Button>
        </p>
      )}
      {choosing && (
        <FolderChooser
          title={`Restore ${choosing.name}`}
          verb="Restore to"
          entries={[]}
          stays={false}
          near={null}
          onChoose={(folder) => restore(choosing, folder)}
          onClose={() => setChoosing(null)}
        />
      )}
    </main>
  );
}
