import { useQuery } from "@tanstack/react-query";
import { Button, Table } from "antd";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { Choice } from "../ui/Choice";
import { Dialog } from "../ui/Dialog";
import { count, moment } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import { PickOne } from "../ui/PickOne";
import { Failed, Loading } from "../ui/states";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { useKeepRules } from "./useKeepRules";

type Revision = Schemas["RulebookRevisionOut"];
type On = Schemas["TryRulebookForm"]["on"];
const BECAME: Record<string, string> = {
  new: "is new",
  "taken out": "is taken out",
  renamed: "is renamed",
  changed: "is changed",
  moved: "is moved",
  paused: "is paused",
  "goes on": "goes on",
};

/** The revisions of an area's rules: two compared line by line and by what would be filed otherwise; one gone back to. */
export function RevisionsDialog(props: {
  kept: Schemas["RulebookOut"];
  onKept: (text: string) => void;
  onClose: () => void;
}): ReactNode {
  const { kept } = props;
  const [pair, setPair] = useState<[number, number]>([Math.max(0, kept.revision - 1), kept.revision]);
  const { busy, keep } = useKeepRules(kept);
  const numbers = [...kept.revisions.map((one) => one.revision), 0];
  const of = numbers.map((number) => [number, number ? `revision ${number}` : "no rules"] as const);
  const back = (one: Revision) =>
    keep({
      change: { back_to: one.revision },
      text: (now) => `The rules are as in revision ${one.revision} again; that is revision ${now.revision} now.`,
      after: (now) => {
        props.onKept(now.text);
        setPair([now.revision - 1, now.revision]);
      },
    });
  return (
    <Dialog title={`Revisions of the rules of ${kept.name}`} width={960} onClose={props.onClose}>
      <Table<Revision>
        size="small"
        rowKey="revision"
        pagination={false}
        scroll={{ y: 150 }}
        dataSource={kept.revisions}
        columns={[
          { title: "No.", width: 50, render: (_, one) => <b>{one.revision}</b> },
          { title: "When", width: 140, render: (_, one) => moment(one.at) },
          { title: "Who", width: 150, render: (_, one) => one.by ?? "set up" },
          { title: "Why", render: (_, one) => one.why },
          { title: "How", width: 120, render: (_, one) => (one.by_itself ? "files by itself" : "proposes") },
          {
            title: <span className={styles.hidden}>Go back</span>,
            width: 110,
            render: (_, one) =>
              kept.keeps &&
              one.revision !== kept.revision && (
                <LinkButton disabled={busy} onClick={() => back(one)}>
                  Go back to it
                </LinkButton>
              ),
          },
        ]}
      />
      {numbers.length > 1 && (
        <>
          <p className="compare-head">
            Compare{" "}
            <PickOne
              size="small"
              aria-label="The older one"
              of={of}
              value={pair[0]}
              onChange={(n) => setPair([n, pair[1]])}
            />{" "}
            with{" "}
            <PickOne
              size="small"
              aria-label="The newer one"
              of={of}
              value={pair[1]}
              onChange={(n) => setPair([pair[0], n])}
            />
          </p>
          <Compared area={kept.area} old={pair[0]} now={pair[1]} />
        </>
      )}
      <footer>
        <Button onClick={props.onClose}>{SAY.close}</Button>
      </footer>
    </Dialog>
  );
}

function Compared(props: { area: number; old: number; now: number }): ReactNode {
  const { area, old, now } = props;
  const found = useQuery({
    queryKey: keys.comparedRules(area, old, now),
    queryFn: () =>
      data(
        client.GET("/api/rulebooks/{folder}/compare", {
          params: { path: { folder: area }, query: { old, new: now } },
        }),
      ),
  });
  if (found.isError) return <Failed what="The comparison" error={found.error} onAgain={found.refetch} />;
  if (!found.data) return <Loading rows={4} />;
  return (
    <>
      <p>
        {found.data.rules.length === 0
          ? "No rule differs."
          : found.data.rules.map((one, index) => (
              <span key={`${one.rule} ${one.became}`}>
                {index > 0 && ", "}
                {one.was ? `“${one.was}” is “${one.rule}” now` : `“${one.rule}” ${BECAME[one.became] ?? one.became}`}
              </span>
            ))}
      </p>
      <ol className="compared mono" aria-label="Line by line">
        {found.data.lines.map((line) => (
          <li
            key={`${line.old} ${line.new}`}
            className={line.old === null ? "added" : line.new === null ? "gone" : undefined}
          >
            <span className="at">{line.old ?? ""}</span>
            <span className="at">{line.new ?? ""}</span>
            <span className="mark">{line.old === null ? "+" : line.new === null ? "−" : " "}</span>
            {line.text}
          </li>
        ))}
      </ol>
      <Otherwise area={area} old={old} now={now} />
    </>
  );
}

/** What would be filed otherwise by one revision than by the other. */
function Otherwise(props: { area: number; old: number; now: number }): ReactNode {
  const [on, setOn] = useState<On>("month");
  const body = { text: null, revision: props.now, against: props.old, on, rule: null, show: null, limit: 200 };
  const enabled = props.now > 0;
  const tried = useQuery({
    queryKey: keys.tryRules(props.area, props.now, body),
    enabled,
    queryFn: () => data(client.POST("/api/rulebooks/{folder}/try", { params: { path: { folder: props.area } }, body })),
  });
  const told = tried.data;
  if (!enabled) return null;
  const lines = told?.lines.filter((line) => line.differs !== "as before") ?? [];
  return (
    <section aria-label="What would be filed otherwise">
      <p>
        Filed otherwise, of{" "}
        <Choice
          small
          label="Of which documents"
          of={[
            ["month", "the last month's arrivals"],
            ["waiting", "what waits"],
            ["filed", "what is filed here"],
          ]}
          value={on}
          onChange={setOn}
        />
      </p>
      {!told && <Loading rows={2} />}
      {told && (
        <p>
          <b>{count(told.differs.new ?? 0)}</b> more are filed, <b>{count(told.differs.otherwise ?? 0)}</b> otherwise,{" "}
          <b>{count(told.differs["no more"] ?? 0)}</b> not any more{" "}
          <span className={styles.quiet}>of {count(told.documents)}</span>
        </p>
      )}
      <ul className={styles.small}>
        {lines.slice(0, 8).map((line) => (
          <li key={line.document}>
            <span className="mono">{line.name}</span> {line.differs}: {line.before.join(", ") || "no rule"} →{" "}
            {line.rules.join(", ") || "no rule"} <span className="mono">{line.to}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
