import type { Schemas } from "../api/client";
import type { Column } from "../parts/DocGrid";
import { moment, size } from "../parts/format";
import { strokeClass } from "../parts/SlotText";

type Line = Schemas["LineOut"];

const FIELD_LABELS: Record<string, string> = {
  issued: "Issued",
  party: "Party",
  ref: "Reference",
  subject: "Subject",
  kind: "Kind",
  person: "Person",
};

/** The columns of a folder's lines: the parts of its names by the plan, then what every document has. */
export function columnsOf(fields: string[], strokes: Record<string, number>, below: boolean): Column<Line>[] {
  const parts: Column<Line>[] = fields.length
    ? fields.map((field, index) => ({
        key: `${field}-${index}`,
        label: FIELD_LABELS[field] ?? field,
        width: field === "issued" ? "118px" : field === "ref" ? "minmax(84px, 1.2fr)" : "minmax(104px, 1.9fr)",
        sort: index === 0 ? "name" : field === "issued" ? "issued" : undefined,
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
          cell: (line) => <span className="mono">{line.name}</span>,
        },
      ];
  return [
    ...parts,
    ...(below
      ? [
          {
            key: "where",
            label: "Where",
            width: "minmax(90px, 1fr)",
            cell: (line: Line) => <span className="quiet">{line.folder_path.split(" / ").slice(-2).join(" / ")}</span>,
          },
        ]
      : []),
    { key: "type", label: "Type", width: "54px", cell: (line) => line.type.toUpperCase() },
    { key: "size", label: "Size", width: "66px", sort: "size", right: true, cell: (line) => size(line.size) },
    { key: "filed", label: "Filed", width: "92px", sort: "filed", cell: (line) => moment(line.filed_at) },
    { key: "by", label: "By", width: "74px", cell: (line) => line.filed_by?.split(" ")[0] ?? "" },
  ];
}
