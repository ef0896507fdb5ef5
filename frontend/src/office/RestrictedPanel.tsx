import { useQuery } from "@tanstack/react-query";
import { Button, Form, Input, Table } from "antd";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { useAct } from "../accounts/useAct";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { Dialog } from "../ui/Dialog";
import { moment } from "../ui/format";
import { Failed, Loading } from "../ui/states";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

type Folder = Schemas["RestrictedFolder"];

/** The restricted folders, without names: administrators do not read them, but may take access, which is told to the keepers. */
export function RestrictedPanel(): ReactNode {
  const { busy, act } = useAct();
  const [taking, setTaking] = useState<Folder | null>(null);
  const folders = useQuery({
    queryKey: keys.restrictedFolders,
    queryFn: () => data(client.GET("/api/access/restricted")),
  });
  if (folders.isError && !folders.data)
    return <Failed what="The list of restricted folders" error={folders.error} onAgain={folders.refetch} />;
  if (!folders.data) return <Loading rows={5} />;
  const take = async ({ reason }: { reason: string }) => {
    if (!taking) return;
    const done = await act(
      () => data(client.POST("/api/access/take", { body: { folder: taking.id, reason } })),
      "You keep it until the end of tomorrow. Its keepers are told.",
    );
    if (done) setTaking(null);
  };
  return (
    <>
      <p className={styles.quiet}>
        Administrators read all that is not restricted. A restricted folder stands here without its name. Take access
        where the office needs it: you say why, it ends after tomorrow, and its keepers are told.
      </p>
      <Table<Folder>
        size="small"
        rowKey="id"
        pagination={folders.data.folders.length > 100 ? { pageSize: 100, showSizeChanger: false } : false}
        dataSource={folders.data.folders}
        locale={{ emptyText: "No folder is restricted." }}
        columns={[
          { title: "In", render: (_, one) => one.area ?? "an area of its own" },
          { title: "Kept by", render: (_, one) => one.keepers.join(", ") || <span className="signal">nobody</span> },
          {
            title: "Restricted",
            render: (_, one) => [one.by && `by ${one.by}`, one.at && moment(one.at)].filter(Boolean).join(", "),
          },
          {
            title: "",
            align: "right",
            render: (_, one) =>
              one.mine ? (
                <Link to={`/drive/${one.id}`}>{SAY.open}</Link>
              ) : (
                <Button size="small" onClick={() => setTaking(one)}>
                  Take access…
                </Button>
              ),
          },
        ]}
      />
      {taking && (
        <Dialog title="Take access" width={480} onClose={() => setTaking(null)}>
          <Form layout="vertical" requiredMark={false} onFinish={take}>
            <p>
              {taking.keepers.length ? `${taking.keepers.join(", ")} will read this at once` : "Nobody keeps it now"}.
              It stays in the trail, whatever is undone.
            </p>
            <Form.Item name="reason" label="Why" rules={[{ required: true, whitespace: true, message: "Say why." }]}>
              <Input maxLength={500} autoFocus />
            </Form.Item>
            <div className="acts">
              <Button type="primary" htmlType="submit" loading={busy}>
                Take access until tomorrow
              </Button>
              <Button onClick={() => setTaking(null)}>{SAY.cancel}</Button>
            </div>
          </Form>
        </Dialog>
      )}
    </>
  );
}
