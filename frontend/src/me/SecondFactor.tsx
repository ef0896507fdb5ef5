import { Button, Form, Input, Popconfirm, Typography } from "antd";
import { type ReactNode, useState } from "react";
import { useAct } from "../accounts/useAct";
import { client, data, type Schemas } from "../api/client";
import { several } from "../ui/format";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

/** A code by an authenticator besides the password; recovery codes for the day that it is lost. */
export function SecondFactor(props: { on: boolean; left: number }): ReactNode {
  const { busy, act } = useAct();
  const [begun, setBegun] = useState<Schemas["SecondFactorOut"] | null>(null);
  const [codes, setCodes] = useState<string[] | null>(null);
  const begin = async () => setBegun((await act(() => data(client.POST("/api/me/second-factor")))) ?? null);
  const confirm = async ({ code }: { code: string }) => {
    const got = await act(
      () => data(client.PUT("/api/me/second-factor", { body: { code } })),
      "The second factor is on.",
    );
    if (!got) return;
    setBegun(null);
    setCodes(got.codes);
  };
  if (codes)
    return (
      <div className="my-codes">
        <p>
          <b>Recovery codes.</b> They are shown only now. Each opens Waka once, with your password, when you have no
          authenticator at hand. Print them, or write them down.
        </p>
        <ul className="mono">
          {codes.map((code) => (
            <li key={code}>{code}</li>
          ))}
        </ul>
        <div className="acts">
          <Typography.Text copyable={{ text: codes.join("\n"), icon: ["Copy all", "Copied"], tooltips: false }} />
          <Button onClick={() => setCodes(null)}>I have kept them</Button>
        </div>
      </div>
    );
  if (begun)
    return (
      <Form layout="vertical" requiredMark={false} onFinish={confirm}>
        <p>Point your authenticator at this picture, or type the key into it. Then write the code that it shows.</p>
        <div className="my-factor">
          <img alt="The key as a QR code" src={`data:image/svg+xml;utf8,${encodeURIComponent(begun.picture)}`} />
          <div>
            <p className="mono">{begun.secret.replace(/(.{4})/g, "$1 ")}</p>
            <Form.Item
              name="code"
              label="The code that it shows"
              rules={[{ required: true, message: "Write the code." }]}
            >
              <Input className="mono" autoFocus maxLength={10} autoComplete="one-time-code" />
            </Form.Item>
            <div className="acts">
              <Button type="primary" htmlType="submit" loading={busy}>
                Switch it on
              </Button>
              <Button onClick={() => setBegun(null)}>{SAY.cancel}</Button>
            </div>
          </div>
        </div>
      </Form>
    );
  if (!props.on)
    return (
      <>
        <p className={styles.quiet}>
          Off. With it, a log-in asks for a code of your telephone, too: a password alone opens nothing.
        </p>
        <Button loading={busy} onClick={() => void begin()}>
          Switch it on…
        </Button>
      </>
    );
  return (
    <>
      <p>On. {several(props.left, "recovery code")} left.</p>
      <div className="acts">
        <Button
          disabled={busy}
          onClick={() =>
            void act(() => data(client.POST("/api/me/recovery-codes"))).then((got) => got && setCodes(got.codes))
          }
        >
          Make new recovery codes
        </Button>
        <Popconfirm
          title="Switch the second factor off?"
          okText="Switch it off"
          onConfirm={() => void act(() => data(client.DELETE("/api/me/second-factor")), "The second factor is off.")}
        >
          <Button disabled={busy}>Switch it off</Button>
        </Popconfirm>
      </div>
    </>
  );
}
