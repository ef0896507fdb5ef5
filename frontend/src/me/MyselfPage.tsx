import { useQuery } from "@tanstack/react-query";
import { Button, Form, Input, Popconfirm, Table } from "antd";
import type { ReactNode } from "react";
import { PasswordField } from "../accounts/PasswordField";
import { useAct } from "../accounts/useAct";
import { client, data, type Schemas, setCsrf } from "../api/client";
import { keys } from "../api/keys";
import { ago, moment } from "../ui/format";
import { useSession } from "../ui/session";
import { Failed, Loading } from "../ui/states";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { AppPasswords } from "./AppPasswords";
import { SecondFactor } from "./SecondFactor";
import "../ui/acts.css";
import "../setup/setup.css";
import "./me.css";

/** What everybody has for themselves: name, password, second factor, sessions, passwords of programs. */
export default function MyselfPage(): ReactNode {
  const mine = useQuery({ queryKey: keys.me, queryFn: () => data(client.GET("/api/me")) });
  const { logOut } = useSession();
  if (mine.isError && !mine.data)
    return (
      <main className="main">
        <Failed what="Your page" error={mine.error} onAgain={mine.refetch} />
      </main>
    );
  if (!mine.data)
    return (
      <main className="main">
        <Loading rows={8} />
      </main>
    );
  return (
    <main className="myself">
      <div className="acts">
        <h1>{mine.data.name}</h1>
        <span className={styles.quiet}>logs in as {mine.data.login}</span>
        <Button onClick={logOut}>Log out</Button>
      </div>
      <section aria-labelledby="my-name">
        <h2 id="my-name">Name</h2>
        <Name name={mine.data.name} />
      </section>
      <section aria-labelledby="my-password">
        <h2 id="my-password">Password</h2>
        <Password />
      </section>
      <section aria-labelledby="my-factor">
        <h2 id="my-factor">Second factor</h2>
        <SecondFactor on={mine.data.second_factor} left={mine.data.recovery_codes} />
      </section>
      <section aria-labelledby="my-sessions">
        <h2 id="my-sessions">Where you are logged in</h2>
        <Sessions sessions={mine.data.sessions} />
      </section>
      <section aria-labelledby="my-programs">
        <h2 id="my-programs">App passwords</h2>
        <AppPasswords passwords={mine.data.app_passwords} />
      </section>
    </main>
  );
}

function Name(props: { name: string }): ReactNode {
  const { busy, act } = useAct();
  return (
    <Form
      layout="inline"
      requiredMark={false}
      initialValues={props}
      onFinish={({ name }) => void act(() => data(client.PATCH("/api/me", { body: { name } })), "Saved your name.")}
    >
      <Form.Item name="name" rules={[{ required: true, message: "Write your name." }]}>
        <Input aria-label="Your name" maxLength={200} autoComplete="name" />
      </Form.Item>
      <Button htmlType="submit" loading={busy}>
        {SAY.save}
      </Button>
    </Form>
  );
}

function Password(): ReactNode {
  const { busy, act } = useAct();
  const [form] = Form.useForm<{ old: string; new: string }>();
  const change = async (body: { old: string; new: string }) => {
    const me = await act(
      () => data(client.POST("/api/me/password", { body })),
      "Your password is changed. You are logged out everywhere else.",
    );
    if (!me) return;
    setCsrf(me.csrf);
    form.resetFields();
  };
  return (
    <Form form={form} className="one-column" layout="vertical" requiredMark={false} onFinish={change}>
      <Form.Item name="old" label="The one that you have now" rules={[{ required: true, message: "Write it." }]}>
        <Input.Password autoComplete="current-password" maxLength={1000} />
      </Form.Item>
      <PasswordField
        name="new"
        label="A new one"
        judge={(password) => data(client.POST("/api/me/password/strength", { body: { password, words: [] } }))}
      />
      <Button htmlType="submit" loading={busy}>
        Change the password
      </Button>
    </Form>
  );
}

function Sessions(props: { sessions: Schemas["SessionOut"][] }): ReactNode {
  const { busy, act } = useAct();
  return (
    <>
      <Table<Schemas["SessionOut"]>
        size="small"
        rowKey="id"
        pagination={false}
        dataSource={props.sessions}
        columns={[
          { title: "Since", className: "nowrap", render: (_, one) => moment(one.created_at) },
          { title: "Used", className: "nowrap", render: (_, one) => (one.here ? "now, here" : ago(one.seen_at)) },
          { title: "From", dataIndex: "address", className: "nowrap" },
          { title: "Browser", render: (_, one) => <span className={styles.small}>{one.browser || "not known"}</span> },
          {
            title: "",
            render: (_, one) =>
              !one.here && (
                <Button
                  size="small"
                  disabled={busy}
                  onClick={() =>
                    void act(() => data(client.DELETE("/api/me/sessions/{own}", { params: { path: { own: one.id } } })))
                  }
                >
                  Log out there
                </Button>
              ),
          },
        ]}
      />
      {props.sessions.length > 1 && (
        <Popconfirm
          title="Log out everywhere but here?"
          okText="Log out"
          onConfirm={() =>
            void act(() => data(client.DELETE("/api/me/sessions")), "You are logged out everywhere else.")
          }
        >
          <Button disabled={busy}>Log out everywhere else</Button>
        </Popconfirm>
      )}
    </>
  );
}
