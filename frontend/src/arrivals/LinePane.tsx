import type { ReactNode, RefObject } from "react";
import { Link } from "react-router";
import type { useWaiting } from "../api/queries";
import { FileButton } from "../bringing/FileButton";
import { UploadList, useUploads } from "../bringing/uploads";
import type { Marks } from "../parts/lines/selection";
import { Failed, Loading } from "../ui/states";
import styles from "../ui/text.module.css";
import { usePhone } from "../ui/window";
import { WaitingLine } from "./WaitingLine";
import { WatchedFolders } from "./WatchedFolders";

type Props = {
  waiting: ReturnType<typeof useWaiting>;
  chosen: number | null;
  onChoose: (id: number) => void;
  marks: Marks;
  onMarks: (marks: Marks) => void;
  onSkim: () => void;
  line: RefObject<HTMLDivElement | null>;
};

/** What is brought in, and what waits to be filed. */
export function LinePane(props: Props): ReactNode {
  const { waiting, ...line } = props;
  const uploads = useUploads();
  const phone = usePhone();
  const bring = (files: File[]) =>
    uploads.add(
      files.map((file) => ({ file, folder: null })),
      null,
    );
  return (
    <section className="line-pane" aria-label="Waiting">
      <div className="bring">
        <FileButton name="Choose files to bring in" size="small" multiple onFiles={bring}>
          Bring in…
        </FileButton>
        {phone ? (
          <FileButton name="Photograph a paper" size="small" accept="image/*" camera onFiles={bring}>
            Photograph…
          </FileButton>
        ) : (
          <>
            <span className={`${styles.quiet} ${styles.small}`}>or drop files here</span>
            <WatchedFolders />
          </>
        )}
        <Link to="/discards" className={styles.small}>
          What was put away
        </Link>
      </div>
      <UploadList />
      {waiting.isError && !waiting.data ? (
        <Failed what="The list of arrivals" error={waiting.error} onAgain={waiting.refetch} />
      ) : waiting.isPending ? (
        <Loading />
      ) : (
        <WaitingLine arrivals={waiting.arrivals} {...line} />
      )}
    </section>
  );
}
