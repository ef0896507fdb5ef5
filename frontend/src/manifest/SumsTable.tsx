import { useQuery } from "@tanstack/react-query";
import { Table } from "antd";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { Choice } from "../ui/Choice";
import { count } from "../ui/format";
import styles from "../ui/text.module.css";
import { shortest } from "./shortest";

const SHOWN = 12;
const RAN = new Set(["done", "partly done", "partly undone"]);

type Sum = {
  key: string;
  label: string;
  title: string;
  before: number;
  leaving: number;
  arriving: number;
  after: number;
};

/** What is there before, what leaves and comes, and what should be there after: by folder, or by type where documents come to. */
export function SumsTable(props: { manifest: number; state: string }): ReactNode {
  const { manifest, state } = props;
  const [byType, setByType] = useState(false);
  const sums = useQuery({
    queryKey: keys.manifestSums(manifest, state),
    queryFn: () => data(client.GET("/api/manifests/{manifest}/sums", { params: { path: { manifest } } })),
  });
  const types = useQuery({
    queryKey: keys.manifestTypes(manifest, state),
    enabled: byType,
    queryFn: () => data(client.GET("/api/manifests/{manifest}/sums/types", { params: { path: { manifest } } })),
  });
  const ran = RAN.has(state);
  const folders = sums.data?.folders ?? [];
  if (!folders.length) return null;
  const renamed = sums.data?.renamed ?? 0;
  const moving = folders.filter((one) => one.leaving > 0 || one.arriving > 0);
  const inside = (types.data?.types ?? []).reduce((sum, one) => sum + one.inside, 0);
  const coming = moving.some((one) => one.arriving > 0);
  return (
    <section className="sums">
      {moving.length > 0 && (
        <h2 className="label">{ran ? "What was there before and after" : "What should be there after"}</h2>
      )}
      {coming && (
        <Choice
          label="Added up"
          of={[
            [false, "by folder"],
            [true, "by type"],
          ]}
          value={byType}
          small
          onChange={setByType}
        />
      )}
      {moving.length > 0 &&
        (byType && coming ? (
          <>
            <Sums what="type" of="types" sums={(types.data?.types ?? []).map(typeSum)} />
            {inside > 0 && (
              <p className={`${styles.small} ${styles.quiet}`}>
                {count(inside)} more {inside === 1 ? "goes" : "go"} from one of these folders to another.
              </p>
            )}
          </>
        ) : (
          <Sums what="documents in" of="folders" sums={folderSums(moving)} />
        ))}
      {renamed > 0 && (
        <p className={`${styles.small} ${styles.quiet}`}>
          {renamed === 1
            ? `1 ${ran ? "was" : "is"} renamed in its folder.`
            : `${count(renamed)} ${ran ? "were" : "are"} renamed in their folders.`}
        </p>
      )}
    </section>
  );
}

function folderSums(folders: Schemas["SumOut"][]): Sum[] {
  const short = shortest(folders.map((one) => one.place));
  return folders.map((one) => ({ ...one, key: one.place, label: short.get(one.place) ?? one.place, title: one.place }));
}

const typeSum = (one: Schemas["TypeSum"]): Sum => {
  const label = one.type || "none";
  return { ...one, key: one.type, label, title: label };
};

function Sums(props: { what: string; of: string; sums: Sum[] }): ReactNode {
  const { what, of, sums } = props;
  return (
    <>
      <Table
        size="small"
        pagination={false}
        rowKey="key"
        dataSource={sums.slice(0, SHOWN)}
        columns={[
          { title: what, rowScope: "row", render: (_, one) => <span title={one.title}>{one.label}</span> },
          { title: "before", align: "right", render: (_, one) => count(one.before) },
          { title: "leave", align: "right", render: (_, one) => (one.leaving ? count(one.leaving) : "") },
          { title: "come", align: "right", render: (_, one) => (one.arriving ? count(one.arriving) : "") },
          { title: "after", align: "right", render: (_, one) => <b>{count(one.after)}</b> },
        ]}
      />
      <p className={`${styles.small} ${styles.quiet}`}>
        {sums.length > SHOWN && `${count(sums.length - SHOWN)} ${of} more. `}
        {already(sums, of === "types" ? "" : "in ")}
      </p>
    </>
  );
}

/** Why there is more after than comes: some were there and stay. */
function already(sums: Sum[], within: string): string {
  const there = sums
    .map((one) => ({ ...one, stay: one.before - one.leaving }))
    .filter((one) => one.arriving > 0 && one.stay > 0)
    .slice(0, 3);
  if (!there.length) return "";
  const told = there.map((one) => `${count(one.stay)} ${within}${one.label}`).join(", ");
  const verb = there.length === 1 && there[0]?.stay === 1 ? "is" : "are";
  return `${told} ${verb} there already: that is why what is there after is more than what comes.`;
}
