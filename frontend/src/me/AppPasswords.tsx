import { Button, Form, Input, Segmented, Table, Typography } from "antd";
import { type ReactNode, useState } from "react";
import { useAct } from "../accounts/useAct";
import { client, data, type Schemas } from "../api/client";
import { ago, moment } from "../ui/format";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

/** Passwords for programs: shown once, each with what it may do at most, ended one by one. */
export function AppPasswords(props: { passwords: Schemas["AppPasswordOut"][] }): ReactNode {
  const { busy, act } = useAct();
  const [form] = Form.useForm<{ name: string; scope: string }>();
  const [made, setMade] = useState<{ name: string; secret: string } | null>(null);
  const add = async (typed: { name: string; scope: string }) => {
    const got = await act(() => data(client.POST("/api/me/app-passwords", { body: typed })));
    if (!got) return;
    form.resetFields();
    setMade({ name: typed.name, secret: got.secret });
  };
  return (
    <>
      <p className={styles.quiet}>
        For scripts: send one as <span className="mono">Authorization: Bearer …</span>. It does no more than you may,
        and nothing of people or access.
      </p>
      {made && (
        <div className="shown-once" role="status">
          <span>
            The password of <b>{made.name}</b>, shown only now:
          </span>
          <span className="mono">{made.secret}</span>
          <Typography.Text copyable={{ text: made.secret, icon: ["Copy it", "Copied"], tooltips: false }} />
          <span>
            <Button size="small" onClick={() => setMade(null)}>
              {SAY.close}
            </Button>
          </span>
        </div>
      )}
      {props.passwords.length > 0 && (
        <Table<Schemas["AppPasswordOut"]>
          size="small"
          rowKey="id"
          pagination={false}
          dataSource={props.passwords}
          columns={[
            { title: "Program", dataIndex: "name" },
            { title: "May", render: (_, one) => (one.scope === "file" ? "read and file" : "read") },
            { title: "Made", className: "nowrap", render: (_, one) => moment(one.made_at) },
            { title: "Used", className: "nowrap", render: (_, one) => (one.used_at ? ago(one.used_at) : "never") },
            {
              title: "",
              render: (_, one) => (
                <Button
                  size="small"
                  disabled={busy}
                  onClick={() =>
                    void act(
                      () => data(client.DELETE("/api/me/app-passwords/{own}", { params: { path: { own: one.id } } })),
                      `Ended the app password “${one.name}”.`,
                    )
                  }
                >
                  End it<span className={styles.hidden}> {one.name}</span>
                </Button>
              ),
            },
          ]}
        />
      )}
      <Form form={form} layout="inline" requiredMark={false} initialValues={{ scope: "read" }} onFinish={add}>
        <Form.Item name="name" rules={[{ required: true, message: "Name the program." }]}>
          <Input
            aria-label="Name of the program"
            placeholder="Name of the program"
            maxLength={200}
            autoComplete="off"
          />
        </Form.Item>
        <Form.Item name="scope">
          <Segmented
            options={[
              { value: "read", label: "reads" },
              { value: "file", label: "reads and files" },
            ]}
          />
        </Form.Item>
        <Button htmlType="submit" loading={busy}>
          Make an app password
        </Button>
      </Form>
    </>
  );
}
