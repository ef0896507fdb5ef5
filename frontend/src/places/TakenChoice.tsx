import { useQuery } from "@tanstack/react-query";
import { Radio } from "antd";
import type { ReactNode } from "react";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { count } from "../ui/format";
import styles from "../ui/text.module.css";

/** What is done with a name that is taken. */
export type Policy = "both" | "version" | "skip";
export type Taken = Schemas["TakenOut"];

// what is put somewhere in one request
const MOST = 500;
const SHOWN = 3;

/** Which of the chosen have a name that is taken in a folder; undefined until it is known. */
export function useTaken(entries: number[], folder: number | null, asked: boolean): Taken[] | undefined {
  const found = useQuery({
    queryKey: keys.taken(entries, folder),
    enabled: asked && folder !== null && entries.length > 0,
    queryFn: () =>
      data(client.POST("/api/entries/taken", { body: { entries: entries.slice(0, MOST), folder: folder ?? 0 } })),
  });
  // where it cannot be asked, what is put there is answered as before
  return asked && !found.isError ? found.data?.names : [];
}

/** The names that are taken there, and what is to be done with them. */
export function TakenChoice(props: {
  taken: Taken[];
  /** How many are chosen. */
  of: number;
  policies: Policy[];
  chosen: Policy | null;
  onChoose: (policy: Policy) => void;
}): ReactNode {
  const { taken, of, policies } = props;
  const one = taken.length === 1;
  const versions = taken.every((name) => name.version);
  const told = {
    both: one ? "Keep both" : "Keep both of each",
    version: one ? "Make it a new version" : "Make each a new version",
    skip: one ? "Leave that one" : `Leave those ${count(taken.length)}`,
  };
  return (
    <fieldset className={`ask choice ${styles.small}`} id="taken-there">
      <legend className="label">
        {one ? "1 name is taken there" : `${count(taken.length)} names are taken there`}
      </legend>
      <ul>
        {taken.slice(0, SHOWN).map((name) => (
          <li key={name.entry} className="mono">
            {name.name}
          </li>
        ))}
        {taken.length > SHOWN && <li>and {count(taken.length - SHOWN)} more</li>}
      </ul>
      {/* where all of them are taken, leaving them is not to do it */}
      {policies
        .filter((policy) => policy !== "skip" || of > taken.length)
        .map((policy) => (
          <Radio
            key={policy}
            name="taken-there"
            disabled={policy === "version" && !versions}
            checked={props.chosen === policy}
            onChange={() => props.onChoose(policy)}
          >
            {told[policy]}
          </Radio>
        ))}
    </fieldset>
  );
}
