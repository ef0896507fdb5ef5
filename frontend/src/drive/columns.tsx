import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import type { Column } from "../parts/lines/DocGrid";
import { CutName } from "../parts/names/CutName";
import { SlotText, strokeClass } from "../parts/names/SlotText";
import { day, moment, size } from "../ui/format";
import styles from "../ui/text.module.css";
import { type Item, isFolder, type Line } from "./items";

type Field = Schemas["FieldOut"];

const WIDTHS: Partial<Record<Field["editor"], string>> = { date: "118px", code: "minmax(84px, 1.2fr)" };

const EXTRA: Record<string, Column<Line>> = {
  where: {
    key: "where",
    label: "Where",
    width: "minmax(90px, 1fr)",
    cell: (line) => <span className={styles.quiet}>{line.folder_path.split(" / ").slice(-2).join(" / ")}</span>,
  },
  kind: { key: "kind", label: "Kind", width: "84px", sort: "kind", cell: (line) => line.kind ?? "" },
  party: { key: "party", label: "Party", width: "minmax(90px, 1fr)", sort: "party", cell: (line) => line.party ?? "" },
  person: { key: "person", label: "Person", width: "minmax(90px, 1fr)", cell: (line) => line.person ?? "" },
  issued: {
    key: "issued",
    label: "Issued",
    width: "96px",
    sort: "issued",
    cell: (line) => (line.issued ? day(line.issued) : ""),
  },
  amount: {
    key: "amount",
    label: "Amount",
    width: "96px",
    sort: "amount",
    right: true,
    cell: (line) => line.amount ?? "",
  },
  type: { key: "type", label: "Type", width: "58px", sort: "type", cell: (line) => line.type.toUpperCase() },
  size: { key: "size", label: "Size", width: "66px", sort: "size", right: true, cell: (line) => size(line.size) },
  filed: { key: "filed", label: "Filed", width: "92px", sort: "filed", cell: (line) => moment(line.filed_at) },
  by: { key: "by", label: "By", width: "74px", sort: "by", cell: (line) => line.filed_by?.split(" ")[0] ?? "" },
};

/** The columns that one can have beside those of the name, with their labels; `where` shows with all below only. */
export const COLUMNS = Object.entries(EXTRA).map(([key, column]) => ({ key, label: String(column.label) }));
const USUAL = ["where", "type", "size", "filed", "by"];
const KEPT = "waka.columns";

/** The columns that the person keeps; what browsers hold may be from another time, or broken. */
export function keptColumns(): string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEPT) ?? "null");
    if (Array.isArray(kept)) return COLUMNS.map((one) => one.key).filter((key) => kept.includes(key));
  } catch {
    // the usual ones, then
  }
  return USUAL;
}

export function keepColumns(columns: string[]): void {
  localStorage.setItem(KEPT, JSON.stringify(columns));
}

/** The columns of a folder's lines: the parts of its names by the plan, then those that the person chose. */
export function columnsOf(
  fields: string[],
  strokes: Record<string, number>,
  below: boolean,
  chosen: string[],
  known: (field: string) => Field,
): Column<Item>[] {
  const parts: Column<Line>[] = fields.length
    ? fields.map((field, index) => ({
        key: `${field}-${index}`,
        label: known(field).label,
        width: WIDTHS[known(field).editor] ?? "minmax(104px, 1.9fr)",
        sort: index === 0 ? "name" : field === "issued" || field === "party" ? field : undefined,
        cell: (line) => {
          const piece = line.pieces?.filter((p) => p.field !== null)[index];
          return (
            <span className={`mono ${strokes[field] === undefined ? "" : strokeClass({}, field)}`}>
              {piece?.text ?? ""}
            </span>
          );
        },
      }))
    : [
        {
          key: "name",
          label: "Name",
          width: "minmax(200px, 3fr)",
          sort: "name",
          cell: (line) => <CutName name={line.name} />,
        },
      ];
  const extra = chosen.filter((key) => key !== "where" || below).flatMap((key) => EXTRA[key] ?? []);
  // a folder's line is told across all of them
  return [...parts, ...extra].map(({ cell, ...column }) => ({
    ...column,
    cell: (item) => (isFolder(item) ? null : cell(item)),
  }));
}

/** What is told of a document across all columns of the name: how it reads by another kind's pattern, or why it fits none. */
export function acrossOf(kind: string | undefined): (line: Line) => ReactNode | undefined {
  return (line) => {
    if (line.pieces && line.kind === kind) return undefined;
    if (line.pieces) return <SlotText pieces={line.pieces} strokes={{}} ending={`.${line.type}`} />;
    return (
      <span className="misfit-name">
        <CutName name={line.name} />
        {line.misfit && <span className="signal"> — {line.misfit}</span>}
      </span>
    );
  };
}
