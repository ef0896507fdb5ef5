import { Button } from "antd";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { several } from "../ui/format";
import { PickOne } from "../ui/PickOne";
import styles from "../ui/text.module.css";

type Card = Schemas["PartyCardOut"];

/** Two entries are one party: choose the one that stays, see what becomes of this one, merge. */
export function Merge(props: {
  card: Card;
  parties: Card[];
  busy: boolean;
  act: (what: () => Promise<string>) => Promise<void>;
  onDone: (party: number) => void;
}): ReactNode {
  const { card } = props;
  const [into, setInto] = useState<number | null>(null);
  const others = props.parties.filter((one) => one.id !== card.id && !one.removed && one.changes);
  const target = others.find((one) => one.id === into);
  const merge = () =>
    props.act(async () => {
      await data(
        client.POST("/api/register/{party}/merge", {
          params: { path: { party: card.id } },
          body: { revision: card.revision, into: into ?? 0 },
        }),
      );
      props.onDone(into ?? 0);
      return `${card.name} is ${target?.name ?? "the other"} now.`;
    });
  return (
    <div className="merge">
      <label className="label" htmlFor="merge-into">
        It is the same party as
      </label>
      <div className="line-actions">
        <PickOne
          id="merge-into"
          placeholder="choose the entry that stays"
          of={others.map((one) => [one.id, one.name] as const)}
          value={into}
          onChange={setInto}
        />
        <Button disabled={!target || props.busy} onClick={() => void merge()}>
          Merge
        </Button>
      </div>
      {target && (
        <p className={`${styles.small} ${styles.quiet}`}>
          “{card.name}” becomes another name of {target.name}, with its numbers;{" "}
          {card.documents
            ? `its ${several(card.documents, "document")} ${card.documents === 1 ? "is" : "are"} then of ${target.name}`
            : "it has no documents"}
          . It can be taken back.
        </p>
      )}
    </div>
  );
}
