import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { Dialog } from "../ui/Dialog";
import { size } from "../ui/format";
import { Failed, Loading } from "../ui/states";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

type Props = { document: number; first: number; second: number; onClose: () => void };

/** Two versions beside each other: their pages, and what went and what came in their texts. */
export default function CompareDialog(props: Props): ReactNode {
  const [page, setPage] = useState(1);
  const { document, first, second } = props;
  const told = useQuery({
    queryKey: keys.compare(document, first, second),
    queryFn: () =>
      data(
        client.GET("/api/documents/{document}/compare", { params: { path: { document }, query: { first, second } } }),
      ),
    refetchInterval: (query) => (query.state.data?.first.reading || query.state.data?.second.reading ? 1000 : false),
  });
  const pages = Math.max(told.data?.first.pages.length ?? 0, told.data?.second.pages.length ?? 0);
  const cut = told.data?.first.cut || told.data?.second.cut;
  return (
    <Dialog
      title={
        <>
          Version {first} and version {second}
        </>
      }
      className="compare"
      width={1240}
      onKeyDown={(event) => {
        if (event.key === "PageDown" && page < pages) setPage(page + 1);
        if (event.key === "PageUp" && page > 1) setPage(page - 1);
      }}
      onClose={props.onClose}
    >
      {told.isPending && <Loading />}
      {told.isError && !told.data && <Failed what="The comparison" error={told.error} onAgain={told.refetch} />}
      {told.data && (
        <div className="compare-body">
          <Page side={told.data.first} document={document} page={page} />
          <Page side={told.data.second} document={document} page={page} />
          {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a scrolled area must be reachable by keyboard (WCAG 2.1.1) */}
          <section aria-label="The texts compared" tabIndex={0}>
            <h3 className="label">The texts</h3>
            {told.data.same ? (
              <p>Both files are the same.</p>
            ) : told.data.pieces.some((piece) => piece.what !== "same") ? (
              <div className="compare-text mono">
                {told.data.pieces.map((piece, index) =>
                  piece.what === "gone" ? (
                    // biome-ignore lint/suspicious/noArrayIndexKey: drawn once
                    <del key={index}>{piece.text}</del>
                  ) : piece.what === "new" ? (
                    // biome-ignore lint/suspicious/noArrayIndexKey: drawn once
                    <ins key={index}>{piece.text}</ins>
                  ) : (
                    // biome-ignore lint/suspicious/noArrayIndexKey: drawn once
                    <span key={index}>{piece.text}</span>
                  ),
                )}
              </div>
            ) : (
              <p>
                {told.data.first.reading || told.data.second.reading
                  ? "It is still being read."
                  : told.data.pieces.length
                    ? "The texts are the same; the files differ otherwise."
                    : "No text was read in either; compare the pages."}
              </p>
            )}
            {cut && <p className={`signal ${styles.small}`}>Only the beginning of a long text is compared.</p>}
          </section>
        </div>
      )}
      <footer>
        {pages > 1 && (
          <>
            <Button disabled={page <= 1} onClick={() => setPage(page - 1)}>
              Previous page <kbd>Page up</kbd>
            </Button>{" "}
            <span>
              page {page} of {pages}
            </span>{" "}
            <Button disabled={page >= pages} onClick={() => setPage(page + 1)}>
              Next page <kbd>Page down</kbd>
            </Button>{" "}
          </>
        )}
        <Button onClick={props.onClose}>{SAY.close}</Button>
      </footer>
    </Dialog>
  );
}

function Page(props: { side: Schemas["SideOut"]; document: number; page: number }): ReactNode {
  const { side, page } = props;
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: see above
    <section aria-label={`Version ${side.number}`} tabIndex={0}>
      <h3 className="label">
        {side.number}. {side.name} <span className={styles.quiet}>{size(side.size)}</span>
      </h3>
      {page <= side.pages.length ? (
        <img
          src={`/api/documents/${props.document}/pages/${page}?version=${side.number}`}
          alt={`Page ${page} of version ${side.number}`}
        />
      ) : (
        <p className={styles.quiet}>{side.pages.length ? `It has no page ${page}.` : "It has no pages to show."}</p>
      )}
    </section>
  );
}
