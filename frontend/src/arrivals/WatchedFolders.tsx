import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { Dialog } from "../ui/Dialog";
import { LinkButton } from "../ui/LinkButton";
import { words } from "../ui/notices";
import { PickOne } from "../ui/PickOne";
import { Problem } from "../ui/Problem";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

type WatchedArea = Schemas["WatchedOut"];

/** The folders that are watched for areas: a link that says when something could not be taken, and a dialog with all. */
export function WatchedFolders(): ReactNode {
  const [open, setOpen] = useState(false);
  const watched = useQuery({
    queryKey: keys.watched,
    queryFn: () => data(client.GET("/api/watched")),
    refetchInterval: 10_000,
  });
  const areas = watched.data?.areas ?? [];
  const left = areas.flatMap((area) => area.problems.map((problem) => ({ ...problem, area: area.name })));
  if (!areas.some((area) => area.path || area.keeps)) return null;
  return (
    <>
      <LinkButton onClick={() => setOpen(true)}>
        Watched folders{left.length > 0 && `: ${left.length} not taken`}
      </LinkButton>
      {open && <Watched areas={areas} onClose={() => setOpen(false)} />}
    </>
  );
}

const AFTER = [
  ["off", "Not watched"],
  ["done", "go into “done” beside them"],
  ["remove", "are removed from there"],
] as const;

function Watched(props: { areas: WatchedArea[]; onClose: () => void }): ReactNode {
  const [problem, setProblem] = useState<string | null>(null);
  const queries = useQueryClient();
  const set = async (area: number, after: string) => {
    setProblem(null);
    const path = { params: { path: { folder: area } } };
    try {
      if (after === "off") await data(client.DELETE("/api/watched/{folder}", path));
      else await data(client.PUT("/api/watched/{folder}", { ...path, body: { after: after as "done" | "remove" } }));
      await queries.invalidateQueries({ queryKey: keys.watched });
    } catch (error) {
      setProblem(words(error));
    }
  };
  return (
    <Dialog title="Watched folders" className="watched" onClose={props.onClose}>
      <p className={`${styles.quiet} ${styles.small}`}>
        What a scanner or a program puts into such a folder arrives here by itself, once it has been written to its end.
      </p>
      {props.areas
        .filter((area) => area.path || area.keeps)
        .map((area) => (
          <section key={area.area} aria-label={area.name}>
            <h3>{area.name}</h3>
            {area.keeps ? (
              <p>
                Taken files{" "}
                <PickOne
                  size="small"
                  aria-label={`What becomes of files taken for ${area.name}`}
                  of={AFTER}
                  value={area.after ?? "off"}
                  onChange={(after) => void set(area.area, after)}
                />
              </p>
            ) : (
              <p className={styles.small}>
                {area.after === "done"
                  ? "Taken files go into “done” beside them."
                  : "Taken files are removed from there."}
              </p>
            )}
            {area.path && <p className={`mono ${styles.small} path`}>{area.path}</p>}
            {area.problems.length > 0 && (
              <ul className={styles.small}>
                {area.problems.map((one) => (
                  <li key={one.name}>
                    <b>{one.name}</b> was not taken: {one.problem}
                  </li>
                ))}
              </ul>
            )}
          </section>
        ))}
      {problem && <Problem>{problem}</Problem>}
      <footer className="choices">
        <Button onClick={props.onClose}>{SAY.close}</Button>
      </footer>
    </Dialog>
  );
}
