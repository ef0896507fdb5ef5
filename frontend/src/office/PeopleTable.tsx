import { Button, Input, Table } from "antd";
import { type ReactNode, useState } from "react";
import { LetBe, useProven } from "../accounts/proof";
import { client, data, type Schemas } from "../api/client";
import { FileButton } from "../bringing/FileButton";
import { day, several } from "../ui/format";
import { words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import styles from "../ui/text.module.css";
import type { Slip } from "./LinkSlips";

const SHOWN = 200;

/** People by a table in CSV: looked at whole, and added only where every line can be taken. */
export function PeopleTable(props: { onAdded: (slips: Slip[]) => void }): ReactNode {
  const proven = useProven();
  const [text, setText] = useState("");
  const [told, setTold] = useState<Schemas["PeopleTableOut"] | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const doing = <T,>(what: Promise<T>, then: (got: T) => void) => {
    setBusy(true);
    setProblem(null);
    what
      .then(then, (error: unknown) => {
        if (!(error instanceof LetBe)) setProblem(words(error));
      })
      .finally(() => setBusy(false));
  };
  const look = (table: string) => {
    setText(table);
    doing(data(client.POST("/api/people/table", { body: { table } })), setTold);
  };
  const add = () =>
    doing(
      proven(() => data(client.POST("/api/people/several", { body: { table: text } }))),
      (added) => props.onAdded(added.people),
    );
  const wrong = told?.lines.filter((line) => line.problems.length).length ?? 0;
  return (
    <div className="office-panel">
      <p>
        One person a line. The first line names the columns: <span className="mono">name</span>,{" "}
        <span className="mono">login</span>, and where you like <span className="mono">groups</span> (with ; between)
        and <span className="mono">last day</span> (as 2026-09-30).
      </p>
      <Input.TextArea
        aria-label="The table"
        className="mono"
        rows={5}
        spellCheck={false}
        value={text}
        placeholder={"name,login,groups\nRobin Marlow,robin,Yard"}
        onChange={(event) => {
          setText(event.target.value);
          setTold(null);
        }}
      />
      <div className="acts">
        <FileButton
          name="A table of people"
          accept=".csv,text/csv"
          onFiles={(files) => void files[0]?.text().then(look)}
        >
          Choose a file…
        </FileButton>
        <Button disabled={!text.trim()} loading={busy} onClick={() => look(text)}>
          Look at it
        </Button>
        <Button type="primary" disabled={!told?.ready} loading={busy} onClick={add}>
          {told?.ready ? `Add ${several(told.lines.length, "person").replace("persons", "people")}` : "Add them"}
        </Button>
      </div>
      {(problem ?? told?.problem) && <Problem>{problem ?? told?.problem}</Problem>}
      {told && !told.problem && (
        <>
          <p role="status" className={wrong ? "signal" : "ok"}>
            {wrong
              ? `${several(wrong, "line")} cannot be taken. Mend the table; nobody was added.`
              : "Every line can be taken."}
          </p>
          <Table
            size="small"
            rowKey="line"
            pagination={told.lines.length > SHOWN ? { pageSize: SHOWN, showSizeChanger: false } : false}
            dataSource={[...told.lines].sort((a, b) => Number(b.problems.length > 0) - Number(a.problems.length > 0))}
            columns={[
              { title: "Line", dataIndex: "line", align: "right" },
              { title: "Name", dataIndex: "name" },
              { title: "Logs in as", dataIndex: "login" },
              { title: "Groups", render: (_, line) => line.groups.join(", ") },
              { title: "Last day", render: (_, line) => line.ends_on && day(line.ends_on) },
              {
                title: "",
                render: (_, line) =>
                  line.problems.length ? (
                    <span className="signal">{line.problems.join("; ")}</span>
                  ) : (
                    <span className={styles.quiet}>can be taken</span>
                  ),
              },
            ]}
          />
        </>
      )}
    </div>
  );
}
