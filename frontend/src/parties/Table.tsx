import { useQueryClient } from "@tanstack/react-query";
import { Modal } from "antd";
import { type ReactNode, useRef, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { Controls } from "../app/controls";
import { useNotices, words } from "../app/notices";
import { count } from "../parts/format";

type Told = Schemas["TableOut"];
const SHOWN = 200;

/** The register as a table: taken away as CSV, or brought in from one, each line told before anything is kept. */
export function Table(): ReactNode {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const chooser = useRef<HTMLInputElement>(null);
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
        await queries.invalidateQueries();
      } else setTold(answer);
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
    setBusy(false);
  };
  const does = told?.lines.filter((line) => line.does === "enters" || line.does === "changes").length ?? 0;
  return (
    <>
      <a className="button" href="/api/register/table" download="parties.csv">
        Save as CSV
      </a>
      <button type="button" className="button" onClick={() => chooser.current?.click()}>
        Bring in a CSV
      </button>
      <input
        ref={chooser}
        type="file"
        hidden
        accept=".csv,text/csv"
        aria-label="A table of parties"
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          event.target.value = "";
          if (!chosen) return;
          setFile(chosen);
          void send(chosen, false);
        }}
      />
      <Controls>
        <Modal
          open={told !== null}
          title={`What ${file?.name ?? "the table"} would do`}
          okText={`Do it: ${count(does)} ${does === 1 ? "line" : "lines"}`}
          okButtonProps={{ disabled: does === 0 || busy }}
          cancelText="Leave it"
          width={720}
          onOk={() => file && void send(file, true)}
          onCancel={() => setTold(null)}
        >
          {told && (
            <>
              <p>{summary(told)}</p>
              <ul className="table-lines">
                {told.lines
                  .filter((line) => line.does !== "same")
                  .slice(0, SHOWN)
                  .map((line) => (
                    <li key={line.line}>
                      <span className="quiet number">line {line.line}</span> <b>{line.name}</b>{" "}
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
            </>
          )}
        </Modal>
      </Controls>
    </>
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
