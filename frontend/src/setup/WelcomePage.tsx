import { useQuery } from "@tanstack/react-query";
import { Button, Form, Input } from "antd";
import { type ReactNode, useState } from "react";
import { useNavigate } from "react-router";
import { CodeForm } from "../accounts/CodeForm";
import { tellAtField } from "../accounts/formTrouble";
import { PasswordField } from "../accounts/PasswordField";
import { client, data, isGone, setCsrf, Trouble } from "../api/client";
import { keys } from "../api/keys";
import { Brand } from "../ui/Brand";
import { day } from "../ui/format";
import { Problem } from "../ui/Problem";
import { Failed, Loading, Nothing } from "../ui/states";
import styles from "../ui/text.module.css";
import "../accounts/login.css";
import "./setup.css";

/** Where a one-time link leads: a password is chosen, and one is in. */
export default function WelcomePage(): ReactNode {
  const navigate = useNavigate();
  const [form] = Form.useForm<{ password: string }>();
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [half, setHalf] = useState(false);
  const key = window.location.hash.slice(1);
  const look = useQuery({
    queryKey: keys.link,
    retry: false,
    refetchOnWindowFocus: false,
    queryFn: () => data(client.POST("/api/links/look", { body: { key } })),
  });
  if (look.isError && isGone(look.error))
    return (
      <main className="main">
        <Nothing title="This link is not good any more" action={<Button href="/">Go to the log-in</Button>}>
          It was used, has ended, or was replaced by a newer one. Ask an administrator for a new link.
        </Nothing>
      </main>
    );
  if (look.isError)
    return (
      <main className="main">
        <Failed what="The link" error={look.error} onAgain={look.refetch} />
      </main>
    );
  if (!look.data)
    return (
      <main className="main">
        <Loading rows={4} />
      </main>
    );
  const { name, login, office, purpose, ends_at } = look.data;
  const enter = (csrf: string) => {
    setCsrf(csrf);
    void navigate("/", { replace: true });
  };
  const use = ({ password }: { password: string }) => {
    setBusy(true);
    setProblem(null);
    data(client.POST("/api/links/use", { body: { key, password } }))
      .then(
        (me) => enter(me.csrf),
        (error: unknown) => {
          if (error instanceof Trouble && error.code === "second-factor") setHalf(true);
          else setProblem(tellAtField(form, error));
        },
      )
      .finally(() => setBusy(false));
  };
  return (
    <main className="login">
      {half ? (
        <CodeForm onEnter={(me) => enter(me.csrf)} />
      ) : (
        <Form form={form} layout="vertical" requiredMark={false} onFinish={use}>
          <h1 className="brand">
            <Brand />
            waka
          </h1>
          <p>
            {purpose === "invitation" ? "Welcome" : "A new password for you"}, {name}.{" "}
            <span className={styles.quiet}>
              {office && `${office}. `}This link is good once, until {day(ends_at)}.
            </span>
          </p>
          <Form.Item label="The name that you log in with">
            {/* so that browsers keep it with the password */}
            <Input value={login} readOnly autoComplete="username" />
          </Form.Item>
          <PasswordField
            name="password"
            label="Choose a password"
            autoFocus
            judge={(password) => data(client.POST("/api/links/password", { body: { key, password, words: [] } }))}
          />
          {problem && <Problem>{problem}</Problem>}
          <Button type="primary" htmlType="submit" loading={busy} block>
            Keep the password and log in
          </Button>
        </Form>
      )}
    </main>
  );
}
