import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input, Popconfirm, Space, Table } from "antd";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { client, data, type Schemas } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { count, several } from "../ui/format";
import { useUndoAction } from "../ui/keys";
import { useNotices, words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import { Failed, Loading, Nothing } from "../ui/states";
import "./tags.css";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

type Tag = Schemas["TagOut"];

/** All tags with how many documents bear each: looked through, renamed, merged, removed. */
export default function TagsPage(): ReactNode {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const [renaming, setRenaming] = useState<string | null>(null);
  const [name, setName] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const tags = useQuery({ queryKey: keys.tags, queryFn: () => data(client.GET("/api/tags")) });
  const rows = tags.data?.tags ?? [];
  const merges = rows.find((one) => one.tag === name.trim() && one.tag !== renaming);
  const change = async (one: Tag, to: string | null) => {
    try {
      const done = await data(client.POST("/api/tags/rename", { body: { tag: one.tag, to } }));
      const kept = done.kept ? ` ${count(done.kept)} that you may only read keep it.` : "";
      const what = to === null ? `Removed the tag ${one.tag}` : `${one.tag} is called ${to} now`;
      tell({ text: `${what}, in ${count(done.lines)} places.${kept}`, action: { label: SAY.undo, run: undo } });
      setRenaming(null);
      await askAgain(queries, "drive", "manifests");
    } catch (error) {
      if (to === null) tell({ text: words(error), bad: true });
      else setProblem(words(error));
    }
  };
  return (
    <main className="main tags-page">
      <h1>Tags</h1>
      <p className={styles.quiet}>A tag gathers documents from everywhere, wherever they are filed.</p>
      {tags.isError && !tags.data ? (
        <Failed what="The list of tags" error={tags.error} onAgain={tags.refetch} />
      ) : tags.isPending ? (
        <Loading />
      ) : rows.length === 0 ? (
        <Nothing title="No document has a tag yet" action={<Link to="/drive">{SAY.goToDrive}</Link>}>
          Choose documents in the drive and press T, or write tags on the slip when they are filed.
        </Nothing>
      ) : (
        <Table
          size="small"
          pagination={false}
          rowKey="tag"
          dataSource={rows}
          columns={[
            {
              title: "Tag",
              rowScope: "row",
              render: (_, one) =>
                renaming === one.tag ? (
                  <form
                    className="tag-form"
                    onSubmit={(event) => {
                      event.preventDefault();
                      void change(one, name);
                    }}
                  >
                    <Input
                      aria-label={`New name of the tag ${one.tag}`}
                      autoFocus
                      value={name}
                      maxLength={100}
                      onChange={(event) => setName(event.target.value)}
                      onKeyDown={(event) => event.key === "Escape" && setRenaming(null)}
                    />
                    <Button htmlType="submit" type="primary">
                      {merges ? `Merge into ${merges.tag}` : "Rename"}
                    </Button>
                    <Button onClick={() => setRenaming(null)}>{SAY.cancel}</Button>
                    {problem && <Problem small>{problem}</Problem>}
                  </form>
                ) : (
                  <Link to={`/find?tag=${encodeURIComponent(one.tag)}`} className="tag">
                    {one.tag}
                  </Link>
                ),
            },
            { title: "Documents", align: "right", render: (_, one) => count(one.documents) },
            { title: "Folders", align: "right", render: (_, one) => (one.folders ? count(one.folders) : "") },
            {
              title: <span className={styles.hidden}>Change</span>,
              key: "act",
              className: "nowrap",
              render: (_, one) =>
                renaming === one.tag ? null : (
                  <Space size={6}>
                    <Button
                      size="small"
                      onClick={() => {
                        setName(one.tag);
                        setProblem(null);
                        setRenaming(one.tag);
                      }}
                    >
                      Rename or merge<span className={styles.hidden}> {one.tag}</span>
                    </Button>
                    <Popconfirm
                      title={`Remove the tag ${one.tag} from ${bearers(one)}?`}
                      description="They stay where they are. It can be undone."
                      okText="Remove it"
                      cancelText={SAY.cancel}
                      onConfirm={() => change(one, null)}
                    >
                      <Button size="small">
                        Remove<span className={styles.hidden}> {one.tag}</span>
                      </Button>
                    </Popconfirm>
                  </Space>
                ),
            },
          ]}
        />
      )}
    </main>
  );
}

/** How many bear a tag: documents, and folders where there are any. */
function bearers(one: Tag): string {
  const documents = several(one.documents, "document");
  return one.folders ? `${documents} and ${several(one.folders, "folder")}` : documents;
}
