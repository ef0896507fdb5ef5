import { useQueryClient } from "@tanstack/react-query";
import { lazy, type ReactNode, useCallback, useState } from "react";
import { NEW_VERSION } from "../acts/documentMenu";
import { client, data, type Schemas } from "../api/client";
import { askAgain } from "../api/keys";
import { FileButton } from "../bringing/FileButton";
import { usePutVersion } from "../bringing/newVersion";
import { moment, size } from "../ui/format";
import { useUndoAction } from "../ui/keys";
import { Later } from "../ui/Later";
import { LinkButton } from "../ui/LinkButton";
import { useNotices, words } from "../ui/notices";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

const CompareDialog = lazy(() => import("./CompareDialog"));
type Card = Schemas["CardOut"];

/** New content put on the document of a page: how much of it is sent, or null where none is. */
export function useNewVersion(document: number, name: string): { bring: (file: File) => void; sent: number | null } {
  const put = usePutVersion();
  const [sent, setSent] = useState<number | null>(null);
  const bring = useCallback(
    (file: File) => {
      setSent(0);
      void put({ document, name }, file, setSent).finally(() => setSent(null));
    },
    [document, name, put],
  );
  return { bring, sent };
}

/** The versions of a document: looked at, compared, gone back to; new content put on it. */
export function Versions(props: { card: Card; bring: (file: File) => void; sent: number | null }): ReactNode {
  const { card } = props;
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const [compared, setCompared] = useState<[number, number] | null>(null);
  const newest = card.versions[0]?.number ?? 1;
  const back = async (version: number) => {
    try {
      const params = { path: { document: card.id } };
      await data(client.POST("/api/documents/{document}/back", { params, body: { version } }));
      tell({ text: `${card.name} is as in version ${version} again`, action: { label: SAY.undo, run: undo } });
      await askAgain(queries, "drive", "manifests");
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
  };
  return (
    <>
      <h2 className="label">Versions</h2>
      <ul className="versions">
        {card.versions.map((version) => (
          <li key={version.number}>
            <a href={`/api/documents/${card.id}/content?version=${version.number}&download=true`}>
              {version.number}. {version.original_name}
            </a>{" "}
            <span className={`${styles.quiet} ${styles.small} nowrap`}>
              {size(version.size)}, {moment(version.at)}
              {version.by && `, ${version.by}`}
            </span>
            {version.number !== newest && (
              <span className={`${styles.small} version-acts`}>
                <LinkButton onClick={() => setCompared([version.number, newest])}>
                  compare<span className={styles.hidden}> version {version.number} with the newest</span>
                </LinkButton>
                {card.may_file && (
                  <LinkButton onClick={() => void back(version.number)}>
                    Restore it<span className={styles.hidden}>, version {version.number}</span>
                  </LinkButton>
                )}
              </span>
            )}
          </li>
        ))}
      </ul>
      {card.may_file && (
        <p className={styles.small}>
          {props.sent === null ? (
            <FileButton
              id={NEW_VERSION}
              name="New version"
              type="link"
              size="small"
              onFiles={([file]) => file && props.bring(file)}
            >
              {SAY.newVersion}
            </FileButton>
          ) : (
            <span>{size(props.sent)} sent</span>
          )}{" "}
          <span className={styles.quiet}>or drop a file on the page</span>
        </p>
      )}
      {compared && (
        <Later onClose={() => setCompared(null)}>
          <CompareDialog
            document={card.id}
            first={compared[0]}
            second={compared[1]}
            onClose={() => setCompared(null)}
          />
        </Later>
      )}
    </>
  );
}
