// For what is not to be done by whoever finds a screen unlocked, the password is asked for anew; then what was asked for is done.
import { Button, Form, Input } from "antd";
import { createContext, type ReactNode, useCallback, useContext, useMemo, useRef, useState } from "react";
import { client, data, Trouble } from "../api/client";
import "../ui/acts.css";
import { Dialog } from "../ui/Dialog";
import { words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import { SAY } from "../ui/wording";

type Proven = <T>(act: () => Promise<T>) => Promise<T>;

const Context = createContext<Proven>((act) => act());

/** Not done: whoever was asked for the password let it be. */
export class LetBe extends Error {}

export function ProofProvider(props: { children: ReactNode }): ReactNode {
  const [asking, setAsking] = useState(false);
  const answer = useRef<(shown: boolean) => void>(() => {});
  const ask = useCallback(
    () =>
      new Promise<boolean>((resolve) => {
        answer.current = resolve;
        setAsking(true);
      }),
    [],
  );
  const proven: Proven = useCallback(
    async (act) => {
      try {
        return await act();
      } catch (error) {
        if (!(error instanceof Trouble && error.code === "prove")) throw error;
        if (!(await ask())) throw new LetBe("Nothing was changed.");
        return act();
      }
    },
    [ask],
  );
  const value = useMemo(() => proven, [proven]);
  const end = (shown: boolean) => {
    setAsking(false);
    answer.current(shown);
  };
  return (
    <Context value={value}>
      {props.children}
      {asking && <Proof onShown={() => end(true)} onClose={() => end(false)} />}
    </Context>
  );
}

/** Does something, asking for the password where that is needed. Rejects with LetBe where it was not given. */
export function useProven(): Proven {
  return useContext(Context);
}

function Proof(props: { onShown: () => void; onClose: () => void }): ReactNode {
  const [problem, setProblem] = useState<string | null>(null);
  const [needsCode, setNeedsCode] = useState(false);
  const [busy, setBusy] = useState(false);
  const show = (typed: { password: string; code?: string }) => {
    setBusy(true);
    setProblem(null);
    data(client.POST("/api/session/proof", { body: { password: typed.password, code: typed.code ?? null } }))
      .then(props.onShown, (error: unknown) => {
        if (error instanceof Trouble && error.field === "code" && !needsCode) setNeedsCode(true);
        else setProblem(words(error));
      })
      .finally(() => setBusy(false));
  };
  return (
    <Dialog title="Your password, please" width={400} onClose={props.onClose}>
      <Form layout="vertical" requiredMark={false} onFinish={show}>
        <p>For this Waka asks again who you are. It holds for ten minutes.</p>
        <Form.Item name="password" label="Password" rules={[{ required: true, message: "Write your password." }]}>
          <Input.Password autoFocus autoComplete="current-password" maxLength={1000} />
        </Form.Item>
        {needsCode && (
          <Form.Item name="code" label="The code that your authenticator shows, or a recovery code">
            <Input className="mono" autoFocus autoComplete="one-time-code" maxLength={40} />
          </Form.Item>
        )}
        {problem && <Problem>{problem}</Problem>}
        <div className="acts">
          <Button type="primary" htmlType="submit" loading={busy}>
            Go on
          </Button>
          <Button onClick={props.onClose}>{SAY.cancel}</Button>
        </div>
      </Form>
    </Dialog>
  );
}
