import { useQuery } from "@tanstack/react-query";
import { Button, Select, Table } from "antd";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { count } from "../ui/format";
import { Failed, Loading } from "../ui/states";
import styles from "../ui/text.module.css";
import { told, usePrincipals } from "./GiveFields";

type Folder = Schemas["AsFolder"];

/** The tree as somebody else sees it, to look only; never more than one reads oneself. They are told. */
export function AsSeen(props: { whom: number | null; onWhom: (person: number) => void }): ReactNode {
  const { whom } = props;
  const people = usePrincipals().filter((one) => one.kind === "person");
  const [path, setPath] = useState<Folder[]>([]);
  const here = path.at(-1)?.id ?? null;
  const seen = useQuery({
    queryKey: keys.asSeen(whom ?? 0, here),
    enabled: whom !== null,
    queryFn: () =>
      data(
        client.GET("/api/access/as/{person}", {
          params: { path: { person: whom ?? 0 }, query: { folder: here ?? undefined } },
        }),
      ),
  });
  return (
    <section className="as-seen" aria-label="As others see it">
      <div className="acts">
        <span>As</span>
        <Select
          className="give-whom"
          aria-label="Whose eyes"
          placeholder="somebody…"
          value={whom}
          showSearch={{ optionFilterProp: "label" }}
          options={people.map((one) => ({ value: one.id, label: told(one) }))}
          onChange={(person: number) => {
            setPath([]);
            props.onWhom(person);
          }}
        />
        <span>sees it now</span>
        <span className={`${styles.quiet} ${styles.small}`}>They are told that you looked.</span>
      </div>
      {whom !== null && (
        <>
          {path.length > 0 && (
            <p>
              <Button size="small" onClick={() => setPath(path.slice(0, -1))}>
                Up
              </Button>{" "}
              {path.map((one) => one.name).join(" / ")}
            </p>
          )}
          {seen.isError && <Failed what="Their view" error={seen.error} onAgain={seen.refetch} />}
          {!seen.data && !seen.isError && <Loading rows={3} />}
          {seen.data && (
            <Table<Folder>
              size="small"
              rowKey="id"
              pagination={false}
              showHeader={false}
              dataSource={seen.data.folders}
              locale={{
                emptyText: path.length ? "No folder in it that you both read." : "Nothing that you read, too.",
              }}
              columns={[
                {
                  render: (_, one) =>
                    one.has_folders ? (
                      <Button type="link" size="small" onClick={() => setPath([...path, one])}>
                        {one.name} /
                      </Button>
                    ) : (
                      <span className="as-leaf">{one.name} /</span>
                    ),
                },
                { align: "right", className: "number", render: (_, one) => (one.below ? count(one.below) : "none") },
                { render: (_, one) => one.level },
              ]}
            />
          )}
        </>
      )}
    </section>
  );
}
