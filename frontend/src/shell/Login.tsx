import { Button } from "antd";
import { type FormEvent, type ReactNode, useEffect, useRef, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { words } from "../ui/notices";
import { Brand } from "./Brand";

type Props = {
  onEnter: (me: Schemas["Me"]) => void;
  problem: string | null;
  /** Who was logged in, where a session has ended while their page was open. */
  ended?: string;
};

export function Login(props: Props): ReactNode {
  const [problem, setProblem] = useState(props.problem);
  const [busy, setBusy] = useState(false);
  const first = useRef<HTMLInputElement>(null);
  useEffect(() => first.current?.focus(), []);
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    setBusy(true);
    setProblem(null);
    data(
      client.POST("/api/session", {
        body: { login: String(form.get("login")), password: String(form.get("password")) },
      }),
    )
      .then(props.onEnter, (error: unknown) => setProblem(words(error)))
      .finally(() => setBusy(false));
  };
  return (
    <main className="login">
      <form onSubmit={submit}>
        <h1 className="brand">
          <Brand />
          waka
        </h1>
        {props.ended ? (
          <p role="status">
            Your session has ended. {props.ended}, log in again, and your page is there as you left it.
          </p>
        ) : (
          <p className="quiet">The common drive, its arrivals and its records.</p>
        )}
        <label>
          Name
          <input ref={first} className="text-input" name="login" autoComplete="username" required maxLength={200} />
        </label>
        <label>
          Password
          <input
            className="text-input"
            name="password"
            type="password"
            autoComplete="current-password"
            required
            maxLength={1000}
          />
        </label>
        {problem && (
          <p className="problem" role="alert">
            {problem}
          </p>
        )}
        <Button type="primary" htmlType="submit" disabled={busy}>
          Log in
        </Button>
      </form>
    </main>
  );
}
