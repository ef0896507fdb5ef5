import { useQuery } from "@tanstack/react-query";
import { Button, DatePicker, Form, Input, Popconfirm, Select } from "antd";
import dayjs, { type Dayjs } from "dayjs";
import { type ReactNode, useState } from "react";
import { useAct } from "../accounts/useAct";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { Dialog } from "../ui/Dialog";
import { several } from "../ui/format";
import { useSession } from "../ui/session";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import type { Slip } from "./LinkSlips";

type Person = Schemas["PersonOut"];

/** One person: name, last day, a new link, administrator or not, log-ins ended, left. */
export function PersonDialog(props: {
  person: Person;
  people: Person[];
  onLink: (slip: Slip) => void;
  onClose: () => void;
}): ReactNode {
  const { person } = props;
  const { me } = useSession();
  const { busy, act } = useAct();
  const [leaving, setLeaving] = useState(false);
  const path = { params: { path: { person: person.id } } };
  const save = async (typed: { name: string; ends_on: Dayjs | null }) => {
    const done = await act(
      () =>
        data(
          client.PATCH("/api/people/{person}", {
            ...path,
            body: {
              name: typed.name,
              administrator: null,
              ends_on: typed.ends_on?.format("YYYY-MM-DD") ?? null,
              always: typed.ends_on === null,
            },
          }),
        ).then(() => true),
      `Saved ${typed.name}.`,
    );
    if (done) props.onClose();
  };
  const link = async () => {
    const made = await act(() => data(client.POST("/api/people/{person}/link", path)));
    if (made) props.onLink({ id: person.id, name: person.name, login: person.login, link: made });
  };
  if (!person.active)
    return (
      <Dialog title={person.name} onClose={props.onClose}>
        <p>
          {person.name} ({person.login}) has left. The name stays in trails; the log-in is closed.
        </p>
        <div className="acts">
          <Button onClick={props.onClose}>{SAY.close}</Button>
        </div>
      </Dialog>
    );
  if (leaving)
    return <Leaving person={person} people={props.people} onBack={() => setLeaving(false)} onClose={props.onClose} />;
  return (
    <Dialog title={person.name} onClose={props.onClose}>
      <Form
        layout="vertical"
        requiredMark={false}
        initialValues={{ name: person.name, ends_on: person.ends_on ? dayjs(person.ends_on) : null }}
        onFinish={save}
      >
        <p className={styles.quiet}>
          Logs in as {person.login}. {person.groups.length > 0 && `In ${person.groups.join(", ")}.`}
        </p>
        <Form.Item name="name" label="Name" rules={[{ required: true, message: "Write their name." }]}>
          <Input maxLength={200} autoFocus />
        </Form.Item>
        <Form.Item name="ends_on" label="Last day">
          <DatePicker format="D MMM YYYY" placeholder="no last day" />
        </Form.Item>
        <div className="acts">
          <Button type="primary" htmlType="submit" loading={busy}>
            {SAY.save}
          </Button>
          <Button onClick={props.onClose}>{SAY.cancel}</Button>
        </div>
      </Form>
      <h3 className="label">Log-in</h3>
      <div className="acts">
        <Button disabled={busy} onClick={() => void link()}>
          {person.has_password ? "Make a link for a new password" : "Make a new link"}
        </Button>
        <Popconfirm
          title={`End all log-ins of ${person.name}?`}
          description="The passwords of their programs end, too."
          okText="End them"
          onConfirm={() =>
            void act(
              () => data(client.DELETE("/api/people/{person}/sessions", path)),
              `${person.name} is logged out everywhere.`,
            )
          }
        >
          <Button disabled={busy}>Log out everywhere</Button>
        </Popconfirm>
        <Button
          disabled={busy}
          onClick={() =>
            void act(
              () =>
                data(
                  client.PATCH("/api/people/{person}", {
                    ...path,
                    body: { always: false, administrator: !person.administrator, name: null, ends_on: null },
                  }),
                ),
              person.administrator ? `${person.name} is no longer administrator.` : `${person.name} is administrator.`,
            )
          }
        >
          {person.administrator ? "No longer administrator" : "Make administrator"}
        </Button>
        <Button href={`/api/access/people/${person.id}.csv`}>What they read, as CSV</Button>
        {person.id !== me.id && (
          <Button danger disabled={busy} onClick={() => setLeaving(true)}>
            {person.name} leaves…
          </Button>
        )}
      </div>
    </Dialog>
  );
}

const BEHIND: Record<string, string> = {
  claims: "claimed arrival",
  "in hand": "thing in hand",
  "waiting manifests": "waiting manifest",
  "watched folders": "watched folder",
};

function Leaving(props: { person: Person; people: Person[]; onBack: () => void; onClose: () => void }): ReactNode {
  const { person } = props;
  const { me } = useSession();
  const { busy, act } = useAct();
  const [to, setTo] = useState<number>(me.id);
  const behind = useQuery({
    queryKey: keys.behind(person.id),
    queryFn: () => data(client.GET("/api/people/{person}/behind", { params: { path: { person: person.id } } })),
  });
  const counts = Object.entries(behind.data?.counts ?? {}).filter(([, number]) => number > 0);
  const alone = behind.data?.alone ?? [];
  const heirs = props.people.filter((one) => one.active && one.id !== person.id);
  const leave = async () => {
    const done = await act(
      () => data(client.POST("/api/people/{person}/left", { params: { path: { person: person.id } }, body: { to } })),
      `${person.name} has left. The log-in is closed.`,
    );
    if (done) props.onClose();
  };
  return (
    <Dialog title={`${person.name} leaves`} onClose={props.onClose}>
      <p>
        The log-in is closed at once. Sessions, app passwords, groups and all that was given to {person.name} end. The
        name stays in trails.
      </p>
      {counts.length > 0 && (
        <p>Handed over: {counts.map(([what, number]) => several(number, BEHIND[what] ?? what)).join(", ")}.</p>
      )}
      {alone.length > 0 && (
        <p className="signal">
          Only {person.name} keeps {several(alone.length, "restricted folder")} (
          {alone.map((one) => one.name).join(", ")}
          ): whoever takes over keeps them.
        </p>
      )}
      <div className="acts">
        <label className="label" htmlFor="heir">
          Who takes over
        </label>
        <Select
          id="heir"
          value={to}
          showSearch={{ optionFilterProp: "label" }}
          options={heirs.map((one) => ({ value: one.id, label: `${one.name} (${one.login})` }))}
          onChange={setTo}
        />
      </div>
      <div className="acts">
        <Button type="primary" danger loading={busy} onClick={() => void leave()}>
          Close the log-in and hand over
        </Button>
        <Button onClick={props.onBack}>Back</Button>
      </div>
    </Dialog>
  );
}
