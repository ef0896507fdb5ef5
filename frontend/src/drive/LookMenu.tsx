import { Button, Checkbox, Dropdown, Popover } from "antd";
import { type ReactNode, useState } from "react";
import { useNavigate } from "react-router";
import type { Schemas } from "../api/client";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { COLUMNS } from "./columns";

/** What only looks: where else to look in this folder, and which columns its lines have. */
export function LookMenu(props: {
  folder: Schemas["FolderViewOut"];
  /** Null where there are no columns. */
  columns: string[] | null;
  onColumns: (columns: string[]) => void;
}): ReactNode {
  const { folder, columns } = props;
  const navigate = useNavigate();
  const [choosing, setChoosing] = useState(false);
  const find = `/find?in=${folder.id}`;
  const to = (address: string) => () => void navigate(address);
  return (
    <Popover
      open={choosing && columns !== null}
      trigger="click"
      placement="bottomRight"
      onOpenChange={(open) => !open && setChoosing(false)}
      content={columns && <Columns chosen={columns} onChoose={props.onColumns} />}
    >
      <span>
        <Dropdown
          trigger={["click"]}
          disabled={choosing}
          menu={{
            items: [
              { key: "find", label: "Find in this folder", onClick: to(find) },
              { key: "empty", label: SAY.meaningless, onClick: to(`${find}&names=empty`) },
              { key: "shared", label: SAY.repeated, onClick: to(`${find}&names=shared`) },
              { key: "readers", label: SAY.whoReads, onClick: to(`/readers/folder/${folder.id}`) },
              ...(columns ? [{ key: "columns", label: "Choose columns…", onClick: () => setChoosing(true) }] : []),
            ],
          }}
        >
          <Button size="small" type="text">
            More views ▾
          </Button>
        </Dropdown>
      </span>
    </Popover>
  );
}

function Columns(props: { chosen: string[]; onChoose: (columns: string[]) => void }): ReactNode {
  return (
    <fieldset className="columns">
      <legend className={styles.hidden}>Columns</legend>
      {COLUMNS.map((one) => (
        <Checkbox
          key={one.key}
          checked={props.chosen.includes(one.key)}
          onChange={(event) =>
            props.onChoose(
              COLUMNS.map((c) => c.key).filter((key) =>
                key === one.key ? event.target.checked : props.chosen.includes(key),
              ),
            )
          }
        >
          {one.label}
        </Checkbox>
      ))}
    </fieldset>
  );
}
