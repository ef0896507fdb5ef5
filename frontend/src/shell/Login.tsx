import { Alert, Button, Form, Input } from "antd";
import { type ReactNode, useState } from "react";
import { CodeForm } from "../accounts/CodeForm";
import { client, data, type Schemas, Trouble } from "../api/client";
import { Brand } from "../ui/Brand";
import { words } from "../ui/notices";
import "../accounts/login.css";
import styles from "../ui/text.module.css";

type Props = {
  onEnter: (me: Schemas["Me"]) => void;
  problem: string | null;
  /** Who was logged in, where a session has ended while their page was open. */
  ended?: string;
};

export function Login(props: Props): ReactNode {
  const [problem, setProblem] = useState(props.problem);
  const [busy, setBusy] = useState(false);
  const [half, setHalf] = useState(false);
  const enter = (body: Schemas["Login"]) => {
    setBusy(true);
    setProblem(null);
    data(client.POST("/api/session", { body }))
      .then(props.onEnter, (error: unknown) => {
        if (error instanceof Trouble && error.code === "second-factor") setHalf(true);
        else setProblem(words(error));
      })
      .finally(() => setBusy(false));
  };
  if (half)
    return (
      <main className="login">
        <CodeForm onEnter={props.onEnter} onBack={() => setHalf(false)} />
      </main>
    );
  return (
    <main className="login">
      <Form layout="vertical" requiredMark={false} onFinish={enter}>
        <h1 className="brand">
          <Brand />
          waka
        </h1>
        {props.ended ? (
          <p role="status">
            Your session has ended. {props.ended}, log in again, and your page is there as you left it.
          </p>
        ) : (
          <p className={styles.quiet}>The common drive, its arrivals and its records.</p>
        )}
        <Form.Item name="login" label="Name" rules={[{ required: true, message: "Write your name." }]}>
          <Input autoFocus autoComplete="username" maxLength={200} />
        </Form.Item>
        <Form.Item name="password" label="Password" rules={[{ required: true, message: "Write your password." }]}>
          <Input type="password" autoComplete="current-password" maxLength={1000} />
        </Form.Item>
        {problem && <Alert type="error" title={problem} />}
        <Button type="primary" htmlType="submit" loading={busy} block>
          Log in
        </Button>
      </Form>
    </main>
  );
}
