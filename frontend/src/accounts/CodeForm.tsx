import { Alert, Button, Form, Input } from "antd";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { words } from "../ui/notices";

/** The second step of a log-in: the code that the authenticator shows, or a recovery code. */
export function CodeForm(props: { onEnter: (me: Schemas["Me"]) => void; onBack?: () => void }): ReactNode {
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const give = ({ code }: { code: string }) => {
    setBusy(true);
    setProblem(null);
    data(client.POST("/api/session/code", { body: { code } }))
      .then(props.onEnter, (error: unknown) => setProblem(words(error)))
      .finally(() => setBusy(false));
  };
  return (
    <Form layout="vertical" requiredMark={false} onFinish={give}>
      <h1>Second factor</h1>
      <Form.Item
        name="code"
        label="The code that your authenticator shows"
        extra="Without it, one of your recovery codes."
        rules={[{ required: true, message: "Write the code." }]}
      >
        <Input className="mono" autoFocus autoComplete="one-time-code" maxLength={40} />
      </Form.Item>
      {problem && <Alert type="error" title={problem} />}
      <Button type="primary" htmlType="submit" loading={busy} block>
        Log in
      </Button>
      {props.onBack && (
        <Button type="link" onClick={props.onBack}>
          Log in as somebody else
        </Button>
      )}
    </Form>
  );
}
