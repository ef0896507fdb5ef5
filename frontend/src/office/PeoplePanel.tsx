import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input, Table, Tag } from "antd";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { askAllAgain, keys } from "../api/keys";
import { Dialog } from "../ui/Dialog";
import { ago, count, day, moment } from "../ui/format";
import { Failed, Loading } from "../ui/states";
import styles from "../ui/text.module.css";
import { AddPerson } from "./AddPerson";
import { LinkSlips, type Slip } from "./LinkSlips";
import { PeopleTable } from "./PeopleTable";
import { PersonDialog } from "./PersonDialog";

type Person = Schemas["PersonOut"];

/** Everybody: who they are, whether they can log in, when they were here last. */
export function PeoplePanel(): ReactNode {
  const queries = useQueryClient();
  const people = useQuery({ queryKey: keys.people, queryFn: () => data(client.GET("/api/people")) });
  const [sought, setSought] = useState("");
  const [adding, setAdding] = useState<"one" | "several" | null>(null);
  const [slips, setSlips] = useState<Slip[]>([]);
  const [chosen, setChosen] = useState<number | null>(null);
  if (people.isError && !people.data)
    return <Failed what="The list of people" error={people.error} onAgain={people.refetch} />;
  if (!people.data) return <Loading rows={8} />;
  const words = sought.toLowerCase();
  const rows = people.data.people.filter((one) =>
    `${one.name} ${one.login} ${one.groups.join(" ")}`.toLowerCase().includes(words),
  );
  const one = people.data.people.find((person) => person.id === chosen);
  const added = (made: Slip[]) => {
    setAdding(null);
    setSlips(made);
    void askAllAgain(queries);
  };
  if (slips.length) return <LinkSlips slips={slips} onClose={() => setSlips([])} />;
  return (
    <>
      <div className="acts">
        <Button type="primary" onClick={() => setAdding("one")}>
          Add a person…
        </Button>
        <Button onClick={() => setAdding("several")}>Add several by a table…</Button>
        <Input
          className="office-find"
          allowClear
          aria-label="Find a person"
          placeholder="Find a person…"
          value={sought}
          onChange={(event) => setSought(event.target.value)}
        />
        <span className={styles.quiet}>
          {count(rows.length)} of {count(people.data.people.length)}
        </span>
      </div>
      <p className={`${styles.small} ${styles.quiet}`}>
        Administrators keep the whole drive, so they read all that is not restricted.
      </p>
      <Table<Person>
        size="small"
        rowKey="id"
        dataSource={rows}
        pagination={rows.length > 100 ? { pageSize: 100, showSizeChanger: false } : false}
        columns={[
          {
            title: "Name",
            rowScope: "row",
            render: (_, person) => (
              <>
                <Button type="link" size="small" onClick={() => setChosen(person.id)}>
                  {person.name}
                </Button>{" "}
                {person.administrator && <Tag>administrator</Tag>}
              </>
            ),
          },
          { title: "Logs in as", dataIndex: "login" },
          { title: "Groups", render: (_, person) => person.groups.join(", ") },
          {
            title: "Seen last",
            className: "nowrap",
            render: (_, person) => (person.seen_at ? ago(person.seen_at) : "never"),
          },
          { title: "", render: (_, person) => <State person={person} /> },
        ]}
      />
      {adding === "one" && (
        <Dialog title="Add a person" width={520} onClose={() => setAdding(null)}>
          <AddPerson onAdded={added} />
        </Dialog>
      )}
      {adding === "several" && (
        <Dialog title="Add several by a table" width={860} onClose={() => setAdding(null)}>
          <PeopleTable onAdded={added} />
        </Dialog>
      )}
      {one && (
        <PersonDialog
          key={one.id}
          person={one}
          people={people.data.people}
          onLink={(slip) => {
            setChosen(null);
            setSlips([slip]);
          }}
          onClose={() => setChosen(null)}
        />
      )}
    </>
  );
}

function State(props: { person: Person }): ReactNode {
  const { person } = props;
  if (!person.active) return <span className={styles.quiet}>has left</span>;
  if (person.link && !person.has_password)
    return person.link.ended ? (
      <span className="signal">their link has ended: make a new one</span>
    ) : (
      <span>waits: link until {moment(person.link.ends_at)}</span>
    );
  if (!person.has_password) return <span className="signal">has no password and no link</span>;
  const told = [
    person.ends_on ? `last day ${day(person.ends_on)}` : "",
    person.link && !person.link.ended ? `link for a new password until ${moment(person.link.ends_at)}` : "",
    person.second_factor ? "second factor on" : "",
  ].filter(Boolean);
  return <span className={styles.quiet}>{told.join(" · ")}</span>;
}
