import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { askAgain } from "../api/keys";
import { FileButton } from "../bringing/FileButton";
import { Dialog } from "../ui/Dialog";
import { count } from "../ui/format";
import { useNotices, words } from "../ui/notices";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

type Told = Schemas["TableOut"];
const SHOWN = 200;

/** The register as a table: taken away as CSV, or brought in from one, each line told before anything is kept. */
export function Table(): ReactNode {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const [file, setFile] = useState<File | null>(null);
  const [told, setTold] = useState<Told | null>(null);
  const [busy, setBusy] = useState(false);
  const send = async (table: File, keep: boolean) => {
    setBusy(true);
    try {
      const answer = await data(
        client.POST("/api/register/table", {
          params: { query: { keep } },
          body: table as never,
          bodySerializer: (raw: unknown) => raw as Blob,
          headers: { "Content-Type": "text/csv" },
        }),
      );
      if (keep) {
        tell({ text: `Brought in ${table.name}: ${summary(answer)}` });
        setTold(null);
        await askAgain(queries, "register", "arrivals", "drive");
      } else setTold(answer);
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
    setBusy(false);
  };
  return (
    <>
      <Button href="/api/register/table" download="parties.csv">
        Save as CSV
      </Button>
      <FileButton
        name="A table of parties"
        accept=".csv,text/csv"
        onFiles={([chosen]) => {
          if (!chosen) return;
          setFile(chosen);
          void send(chosen, false);
        }}
      >
        Bring in a CSV
      </FileButton>
      {told && file && (
        <Before
          told={told}
          name={file.name}
          busy={busy}
          onDo={() => void send(file, true)}
          onClose={() => setTold(null)}
        />
      )}
    </>
  );
}

/** What a table would do, line by line; nothing was kept yet. */
function Before(props: { told: Told; name: string; busy: boolean; onDo: () => void; onClose: () => void }): ReactNode {
  const { told } = props;
  const does = told.lines.filter((line) => line.does === "enters" || line.does === "changes").length;
  const telling = told.lines.filter((line) => line.does !== "same");
  return (
    <Dialog title={<>What {props.name} would do</>} onClose={props.onClose}>
      <p>{summary(told)}</p>
      <ul className="table-lines">
        {telling.slice(0, SHOWN).map((line) => (
          <li key={line.line}>
            <span className={`${styles.quiet} number`}>line {line.line}</span> <b>{line.name}</b>{" "}
            {line.does === "refused" ? (
              <span className="problem">is left out: {line.why}</span>
            ) : line.does === "enters" ? (
              "is new"
            ) : (
              `gets another ${line.changed.join(", ")}`
            )}
          </li>
        ))}
      </ul>
      {telling.length > SHOWN && (
        <p className={`${styles.small} ${styles.quiet}`}>and {count(telling.length - SHOWN)} more lines</p>
      )}
      <footer className="choices">
        <Button type="primary" disabled={does === 0 || props.busy} onClick={props.onDo}>
          Do it: {count(does)} {does === 1 ? "line" : "lines"}
        </Button>
        <Button onClick={props.onClose}>{SAY.cancel}</Button>
      </footer>
    </Dialog>
  );
}

function summary(told: Told): string {
  const by = (does: string) => told.lines.filter((line) => line.does === does).length;
  const parts = [
    [by("enters"), "new"],
    [by("changes"), "changed"],
    [by("same"), "as they are"],
    [by("refused"), "left out"],
  ] as const;
  const said = parts.filter(([n]) => n > 0).map(([n, what]) => `${count(n)} ${what}`);
  return said.length ? said.join(" · ") : "There is no line in it.";
}
