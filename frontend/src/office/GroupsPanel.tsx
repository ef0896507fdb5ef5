import { useQuery } from "@tanstack/react-query";
import { Button, Form, Input, Popconfirm, Select, Table } from "antd";
import { type ReactNode, useState } from "react";
import { useAct } from "../accounts/useAct";
import { client, data } from "../api/client";
import { keys } from "../api/keys";
import { count } from "../ui/format";
import { Failed, Loading, Nothing } from "../ui/states";
import styles from "../ui/text.module.css";

/** Groups of people, and of other groups: what is given to a group is given to all in it. */
export function GroupsPanel(): ReactNode {
  const { busy, act } = useAct();
  const [form] = Form.useForm<{ name: string }>();
  const groups = useQuery({ queryKey: keys.groups, queryFn: () => data(client.GET("/api/groups")) });
  const [chosen, setChosen] = useState<number | null>(null);
  if (groups.isError && !groups.data) return <Failed what="The groups" error={groups.error} onAgain={groups.refetch} />;
  if (!groups.data) return <Loading rows={6} />;
  const make = async ({ name }: { name: string }) => {
    const made = await act(() => data(client.POST("/api/groups", { body: { name } })), `Made the group ${name}.`);
    if (!made) return;
    form.resetFields();
    setChosen(made.id);
  };
  return (
    <>
      <Form form={form} layout="inline" requiredMark={false} onFinish={make}>
        <Form.Item name="name" rules={[{ required: true, message: "Write a name." }]}>
          <Input
            aria-label="Name of a new group"
            placeholder="Name of a new group"
            maxLength={200}
            autoComplete="off"
          />
        </Form.Item>
        <Button type="primary" htmlType="submit" loading={busy}>
          Make a group
        </Button>
      </Form>
      {!groups.data.groups.length && (
        <Nothing title="No group yet">Give access to a group once, and everybody who comes into it has it.</Nothing>
      )}
      {groups.data.groups.length > 0 && (
        <Table
          size="small"
          rowKey="id"
          pagination={groups.data.groups.length > 100 ? { pageSize: 100, showSizeChanger: false } : false}
          dataSource={groups.data.groups}
          expandable={{
            expandedRowKeys: chosen === null ? [] : [chosen],
            onExpand: (open, one) => setChosen(open ? one.id : null),
            expandedRowRender: (one) => <GroupCard group={one.id} />,
          }}
          columns={[
            { title: "Group", dataIndex: "name", rowScope: "row" },
            {
              title: "People in it",
              align: "right",
              className: "number",
              render: (_, one) => (one.people ? count(one.people) : "none"),
            },
          ]}
        />
      )}
    </>
  );
}

function GroupCard(props: { group: number }): ReactNode {
  const { act } = useAct();
  const [putting, setPutting] = useState<number | null>(null);
  const path = { params: { path: { group: props.group } } };
  const card = useQuery({
    queryKey: keys.group(props.group),
    queryFn: () => data(client.GET("/api/groups/{group}", path)),
  });
  const people = useQuery({ queryKey: keys.people, queryFn: () => data(client.GET("/api/people")) });
  const groups = useQuery({ queryKey: keys.groups, queryFn: () => data(client.GET("/api/groups")) });
  if (!card.data)
    return card.isError ? <Failed what="The group" error={card.error} onAgain={card.refetch} /> : <Loading rows={2} />;
  const { name, members, within, opens } = card.data;
  const there = new Set(members.map((one) => one.id));
  const others = [
    ...(groups.data?.groups ?? [])
      .filter((one) => one.id !== props.group)
      .map((one) => [one.id, `${one.name} (group)`] as const),
    ...(people.data?.people ?? [])
      .filter((one) => one.active)
      .map((one) => [one.id, `${one.name} (${one.login})`] as const),
  ].filter(([id]) => !there.has(id));
  const member = (id: number) => ({ params: { path: { group: props.group, member: id } } });
  const putIn = async (id: number) => {
    setPutting(id);
    await act(() => data(client.PUT("/api/groups/{group}/members/{member}", member(id))));
    setPutting(null);
  };
  return (
    <div className="office-panel">
      {within.length > 0 && <p className={styles.quiet}>Is in {within.map((one) => one.name).join(", ")}.</p>}
      {opens.length > 0 && (
        <p className="signal">
          Whoever is in it may read restricted folders: {opens.map((one) => one.name).join(", ")}. Their keepers are
          told.
        </p>
      )}
      <Table
        size="small"
        rowKey="id"
        showHeader={false}
        pagination={members.length > 50 ? { pageSize: 50, showSizeChanger: false } : false}
        dataSource={members}
        locale={{ emptyText: "Nobody is in it yet." }}
        columns={[
          { render: (_, one) => <b>{one.name}</b> },
          { render: (_, one) => <span className={styles.quiet}>{one.login ?? "group"}</span> },
          {
            align: "right",
            render: (_, one) => (
              <Button
                size="small"
                onClick={() =>
                  void act(() => data(client.DELETE("/api/groups/{group}/members/{member}", member(one.id))))
                }
              >
                Take out<span className={styles.hidden}> {one.name}</span>
              </Button>
            ),
          },
        ]}
      />
      <div className="acts">
        <Select
          className="office-find"
          aria-label={`Put somebody into ${name}`}
          placeholder="Put in…"
          value={putting}
          showSearch={{ optionFilterProp: "label" }}
          options={others.map(([value, label]) => ({ value, label }))}
          onChange={(id: number) => void putIn(id)}
        />
        <Popconfirm
          title={`Remove the group ${name}?`}
          okText="Remove"
          onConfirm={() =>
            void act(() => data(client.DELETE("/api/groups/{group}", path)), `Removed the group ${name}.`)
          }
        >
          <Button>Remove the group</Button>
        </Popconfirm>
      </div>
    </div>
  );
}
