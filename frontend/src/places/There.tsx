import { useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { type ReactNode, useState } from "react";
import { client, data } from "../api/client";
import { askAgain } from "../api/keys";
import { useFolder } from "../api/queries";
import { count } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import { words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { changesSight, SightTold } from "./SightTold";
import { useSight } from "./sight";

// of the folders in it; the tree has all
const SHOWN = 8;

/** What lies in a folder already; and a new folder in it, made at once. */
export function There(props: {
  folder: number;
  onGo: (folder: number, name: string) => void;
  onMade: (folder: number, name: string) => void;
}): ReactNode {
  const view = useFolder(props.folder, false);
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const make = async () => {
    if (!name.trim()) return;
    try {
      const done = await data(client.POST("/api/folders", { body: { parent: props.folder, name } }));
      void askAgain(queries, "drive");
      props.onMade(done.folder, name.trim());
    } catch (error) {
      setProblem(words(error));
    }
  };
  if (!view.data) return null;
  return (
    <>
      <div className="label">There already</div>
      <p className={styles.small}>
        {count(view.data.here)} document{view.data.here === 1 ? "" : "s"} here, {count(view.data.below)} with all below
        {view.data.restricted && "; restricted"}
      </p>
      <ul className={styles.small}>
        {view.data.folders.slice(0, SHOWN).map((sub) => (
          <li key={sub.id}>
            <LinkButton onClick={() => props.onGo(sub.id, sub.name)}>{sub.name}</LinkButton>{" "}
            <span className={styles.quiet}>{sub.below ? count(sub.below) : "empty"}</span>
          </li>
        ))}
        {view.data.folders.length > SHOWN && (
          <li className={styles.quiet}>and {count(view.data.folders.length - SHOWN)} more</li>
        )}
      </ul>
      {view.data.may_file && (
        <p className="new-in">
          <Input
            aria-label={`New folder in ${view.data.name}`}
            placeholder="new folder in it"
            value={name}
            maxLength={300}
            onChange={(event) => setName(event.target.value)}
            onKeyDown={(event) => {
              // Esc on an empty field closes the chooser
              if (event.key !== "Escape" || name) event.stopPropagation();
              if (event.key === "Escape" && name) {
                // first the name goes, then the chooser
                event.preventDefault();
                setName("");
              }
              if (event.key !== "Enter") return;
              event.preventDefault();
              void make();
            }}
          />
          <Button disabled={!name.trim()} onClick={() => void make()}>
            {SAY.makeFolder}
          </Button>
        </p>
      )}
      {problem && <Problem small>{problem}</Problem>}
    </>
  );
}

/** Who will see it besides those who do, and who no longer. */
export function Sight(props: { entries: number[]; folder: number; stays: boolean; inside: boolean }): ReactNode {
  const seen = useSight(props.entries, props.folder, props.stays, props.inside);
  return changesSight(seen) ? (
    <div className={`ask ${styles.small}`}>
      <SightTold sight={seen} />
    </div>
  ) : null;
}
