import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input, Select, Table } from "antd";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { useAct } from "../accounts/useAct";
import { client, data, type Schemas } from "../api/client";
import { askAllAgain, keys } from "../api/keys";
import { Dialog } from "../ui/Dialog";
import { count } from "../ui/format";
import { useUndoAction } from "../ui/keys";
import { useNotices } from "../ui/notices";
import { Failed, Loading, Nothing } from "../ui/states";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { NewAreas } from "./NewAreas";

type Area = Schemas["OfficeAreaOut"];

/** The areas in the office's order: what belongs there, who answers for each. */
export function AreasPanel(): ReactNode {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const { busy, act } = useAct();
  const [making, setMaking] = useState(false);
  const [chosen, setChosen] = useState<Area | null>(null);
  const areas = useQuery({ queryKey: keys.officeAreas, queryFn: () => data(client.GET("/api/areas")) });
  if (areas.isError && !areas.data) return <Failed what="The areas" error={areas.error} onAgain={areas.refetch} />;
  if (!areas.data) return <Loading rows={6} />;
  const rows = areas.data.areas;
  const made = (names: string[]) => {
    setMaking(false);
    tell({ text: `Made ${names.join(", ")}.`, action: { label: SAY.undo, run: undo } });
    void askAllAgain(queries);
  };
  const move = (at: number, by: number) => {
    const order = rows.map((one) => one.id);
    const [one] = order.splice(at, 1);
    if (one !== undefined) order.splice(at + by, 0, one);
    void act(() => data(client.PUT("/api/areas/order", { body: { areas: order } })));
  };
  if (making)
    return (
      <NewAreas
        onMade={(_, names) => made(names)}
        foot={<Button onClick={() => setMaking(false)}>{SAY.cancel}</Button>}
      />
    );
  const add = (
    <Button type="primary" onClick={() => setMaking(true)}>
      Make areas…
    </Button>
  );
  if (!rows.length)
    return (
      <Nothing title="No area yet" action={add}>
        An area is a part of the drive with a plan of its own. Nothing can be filed before there is one.
      </Nothing>
    );
  return (
    <>
      <div className="acts">{add}</div>
      <Table<Area>
        size="small"
        rowKey="id"
        pagination={false}
        dataSource={rows}
        columns={[
          {
            title: "Area",
            rowScope: "row",
            render: (_, one) => (
              <>
                <Link to={`/drive/${one.id}`}>{one.name}</Link>
                {one.restricted && <span className={styles.quiet}> · restricted</span>}
              </>
            ),
          },
          { title: "What belongs there", dataIndex: "purpose" },
          {
            title: "Who answers for it",
            render: (_, one) => one.answers_name ?? <span className={styles.quiet}>nobody</span>,
          },
          {
            title: "Documents",
            align: "right",
            className: "number",
            render: (_, one) => (one.below ? count(one.below) : "none"),
          },
          {
            title: "",
            className: "nowrap",
            render: (_, one, at) => (
              <span className="acts">
                <Button
                  size="small"
                  disabled={busy || at === 0}
                  aria-label={`Move ${one.name} up`}
                  onClick={() => move(at, -1)}
                >
                  ↑
                </Button>
                <Button
                  size="small"
                  disabled={busy || at === rows.length - 1}
                  aria-label={`Move ${one.name} down`}
                  onClick={() => move(at, 1)}
                >
                  ↓
                </Button>
                <Button size="small" onClick={() => setChosen(one)}>
                  Change…<span className={styles.hidden}> {one.name}</span>
                </Button>
              </span>
            ),
          },
        ]}
      />
      {chosen && <ChangeArea area={chosen} onClose={() => setChosen(null)} />}
    </>
  );
}

function ChangeArea(props: { area: Area; onClose: () => void }): ReactNode {
  const { area } = props;
  const { busy, act } = useAct();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const [name, setName] = useState(area.name);
  const [purpose, setPurpose] = useState(area.purpose);
  const [answers, setAnswers] = useState<number | null>(area.answers);
  const people = useQuery({ queryKey: keys.people, queryFn: () => data(client.GET("/api/people")) });
  const save = async () => {
    const done = await act(async () => {
      // the name first: it can be refused, and then nothing was changed
      if (name !== area.name)
        await data(
          client.PATCH("/api/entries/{entry}", {
            params: { path: { entry: area.entry } },
            body: { name, parent: null },
          }),
        );
      await data(
        client.PATCH("/api/areas/{folder}", {
          params: { path: { folder: area.id } },
          body: { purpose, answers, nobody: answers === null },
        }),
      );
      return true;
    }, `Saved ${name}.`);
    if (done) props.onClose();
  };
  const remove = async () => {
    const done = await act(() =>
      data(client.DELETE("/api/areas/{folder}", { params: { path: { folder: area.id } } })).then(() => true),
    );
    if (!done) return;
    tell({ text: `Removed the area ${area.name}.`, action: { label: SAY.undo, run: undo } });
    props.onClose();
  };
  return (
    <Dialog title={`Change ${area.name}`} onClose={props.onClose}>
      <form
        className="office-panel"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <label className="label" htmlFor="change-name">
          Name
        </label>
        <Input
          id="change-name"
          autoFocus
          value={name}
          maxLength={120}
          onChange={(event) => setName(event.target.value)}
        />
        <label className="label" htmlFor="change-purpose">
          What belongs there
        </label>
        <Input
          id="change-purpose"
          value={purpose}
          maxLength={500}
          onChange={(event) => setPurpose(event.target.value)}
        />
        <label className="label" htmlFor="change-answers">
          Who answers for it
        </label>
        <Select
          id="change-answers"
          allowClear
          placeholder="nobody"
          value={answers}
          showSearch={{ optionFilterProp: "label" }}
          options={(people.data?.people ?? [])
            .filter((one) => one.active)
            .map((one) => ({ value: one.id, label: `${one.name} (${one.login})` }))}
          onChange={(id?: number) => setAnswers(id ?? null)}
        />
        <div className="acts">
          <Button type="primary" htmlType="submit" loading={busy} disabled={!name.trim()}>
            {SAY.save}
          </Button>
          <Button onClick={props.onClose}>{SAY.cancel}</Button>
          {area.below === 0 && (
            <Button disabled={busy} onClick={() => void remove()}>
              Remove the empty area
            </Button>
          )}
        </div>
      </form>
    </Dialog>
  );
}
