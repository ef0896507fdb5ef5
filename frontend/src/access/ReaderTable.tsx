import { Button, Segmented, Table } from "antd";
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import styles from "../ui/text.module.css";
import { Gauge } from "./Gauge";
import { Until } from "./GiveFields";
import { LEVELS, type Level, type Right, type Wish, type Wishes } from "./wishes";
import { sourceWords } from "./words";

type Reader = Schemas["ReaderOut"];
type Line = { key: string; reader: Reader; under: string | null; children?: Line[] };

/** One list of people and groups, groups with their people below; what was given here is changed in it, and gathered. */
export function ReaderTable(props: {
  told: Schemas["ReadersOut"];
  wishes: Wishes;
  chosen: number | null;
  onWish: (wish: Wish) => void;
  onDrop: (principal: number) => void;
  onChoose: (reader: Reader) => void;
}): ReactNode {
  const { told, wishes } = props;
  const byId = new Map(told.rows.map((row) => [row.id, row]));
  const inGroups = new Set(told.rows.flatMap((row) => row.people));
  const own = (row: Reader) => row.here !== null || row.sources.some((one) => one.group === null);
  const lines: Line[] = told.rows
    .filter((row) => row.kind === "group" || own(row) || !inGroups.has(row.id))
    .map((row) => ({
      key: `${row.id}`,
      reader: row,
      under: null,
      children: row.people.length
        ? row.people.flatMap((id) => {
            const person = byId.get(id);
            return person ? [{ key: `${row.id} ${id}`, reader: person, under: row.name }] : [];
          })
        : undefined,
    }));
  const most = told.document === null ? LEVELS : LEVELS.slice(0, 2);
  const wishOf = (row: Reader) => wishes.given.find((one) => one.principal === row.id);
  const wish = (row: Reader, to: Right | null) =>
    props.onWish({ principal: row.id, name: row.name, had: row.here, to, word: wishOf(row)?.word ?? "" });
  return (
    <Table<Line>
      className="readers"
      size="small"
      rowKey="key"
      pagination={lines.length > 100 ? { pageSize: 100, showSizeChanger: false } : false}
      dataSource={lines}
      expandable={{ defaultExpandAllRows: told.rows.length <= 40, indentSize: 20 }}
      rowClassName={(line) => (line.reader.id === props.chosen ? "here" : "")}
      columns={[
        {
          title: "People and groups",
          rowScope: "row",
          render: (_, line) => (
            <>
              <Button type="text" size="small" onClick={() => props.onChoose(line.reader)}>
                {line.reader.name}
              </Button>{" "}
              <span className={`${styles.quiet} ${styles.small}`}>
                {line.reader.kind === "group" ? `group of ${line.reader.people.length}` : line.reader.login}
              </span>
            </>
          ),
        },
        {
          title: "May",
          className: "nowrap",
          render: (_, { reader, under }) => {
            const mine = wishOf(reader);
            const right = mine ? mine.to : reader.here;
            if (under || (!reader.here && !mine)) return <Gauge level={reader.level} />;
            if (!right) return <s className="bad">{reader.here?.level}</s>;
            return (
              <span className="reader-right">
                <Segmented
                  size="small"
                  aria-label={`What ${reader.name} may do here`}
                  options={most.map((level) => ({ value: level, label: level }))}
                  value={right.level}
                  onChange={(level) => wish(reader, { level: level as Level, until: right.until })}
                />
                <Until
                  small
                  label={`Until when, for ${reader.name}`}
                  until={right.until}
                  onChange={(until) => wish(reader, { level: right.level, until })}
                />
              </span>
            );
          },
        },
        {
          title: "Where it comes from",
          render: (_, { reader, under }) => {
            const mine = wishOf(reader);
            return (
              <>
                {mine && !under && (
                  <b>{mine.to ? (mine.had ? "to be changed; " : "to be given here; ") : "to be taken away; "}</b>
                )}
                {reader.sources.map(sourceWords).join("; ") || (!mine && "over")}
              </>
            );
          },
        },
        {
          title: "",
          align: "right",
          className: "nowrap",
          render: (_, { reader, under }) => {
            if (under) return null;
            const mine = wishOf(reader);
            if (mine)
              return (
                <Button size="small" onClick={() => props.onDrop(reader.id)}>
                  Not this<span className={styles.hidden}> for {reader.name}</span>
                </Button>
              );
            if (reader.here)
              return (
                <Button size="small" onClick={() => wish(reader, null)}>
                  Take away<span className={styles.hidden}> from {reader.name}</span>
                </Button>
              );
            const level = reader.level === null || told.document !== null ? "read" : reader.level;
            return (
              <Button size="small" onClick={() => wish(reader, { level, until: null })}>
                Give here<span className={styles.hidden}> to {reader.name}</span>
              </Button>
            );
          },
        },
      ]}
    />
  );
}
