import { Button } from "antd";
import { type ReactNode, useEffect, useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import { isGone, Trouble } from "../api/client";
import { useCard, useTrail } from "../api/queries";
import { goToFact } from "../parts/facts/FactLine";
import { type Mark, PageView } from "../parts/page/PageView";
import { ReadingNotes } from "../parts/page/ReadingNotes";
import { WhyRules } from "../parts/reasons/WhyRules";
import { PlaceList } from "../places/PlaceList";
import { type Key, useKeys } from "../ui/keys";
import { useNotices } from "../ui/notices";
import { Sides } from "../ui/Sides";
import { Failed, Loading } from "../ui/states";
import "./document.css";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { DocumentFacts } from "./DocumentFacts";
import { DocumentHead } from "./DocumentHead";
import { useFlip } from "./flip";
import { TrailList } from "./TrailList";
import { useNewVersion, Versions } from "./Versions";

function bare(event: KeyboardEvent, key: string): boolean {
  return event.key === key && !event.altKey && !event.ctrlKey && !event.metaKey && !event.shiftKey;
}

// of the card, in a wide window and in a narrow one
const WIDTH = [380, 340] as const;
const NOWHERE = new Trouble("The address leads nowhere.", 404, "");

export default function DocumentPage(): ReactNode {
  const id = Number(useParams().document);
  const card = useCard(Number.isFinite(id) ? id : null);
  const trail = useTrail(Number.isFinite(id) ? id : null);
  const [page, setPage] = useState(1);
  const fresh = useNewVersion(id, card.data?.name ?? "");
  const [over, setOver] = useState(false);
  const flip = useFlip(id);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another document begins at its first page
  useEffect(() => setPage(1), [id]);
  const flipKeys = useMemo<Key[]>(
    () =>
      flip
        ? [
            { keys: "→", what: "The next document", match: (e) => bare(e, "ArrowRight"), run: () => flip.go(1) },
            { keys: "←", what: "The previous document", match: (e) => bare(e, "ArrowLeft"), run: () => flip.go(-1) },
          ]
        : [],
    [flip],
  );
  useKeys(flipKeys);
  const [focus, setFocus] = useState<string | null>(null);
  const { tell } = useNotices();
  const shown = card.data;
  if (!Number.isFinite(id) || (card.isError && (!shown || isGone(card.error))))
    return (
      <main className="main">
        <Failed what="The document" error={card.error ?? NOWHERE} onAgain={card.refetch}>
          <Link to="/drive">{SAY.goToDrive}</Link>, <Link to="/find">find another one</Link>, or ask an administrator
          about this address.
        </Failed>
      </main>
    );
  if (!shown)
    return (
      <main className="document main">
        <Sides name="document" end={{ width: WIDTH, content: <Loading /> }}>
          <section className="page-pane" />
        </Sides>
      </main>
    );
  const marks: Mark[] = shown.facts.flatMap((fact) =>
    fact.source.box && fact.value !== null && fact.editor !== "kind"
      ? [{ field: fact.field, label: fact.label.toLowerCase(), box: fact.source.box }]
      : [],
  );
  const look = (field: string | null) => {
    setFocus(field);
    const at = shown.facts.find((fact) => fact.field === field)?.source.box;
    if (at) setPage(at.page);
  };
  return (
    <main
      className={`document main${over ? " over" : ""}`}
      onDragOver={(event) => {
        if (!shown.may_file || !event.dataTransfer.types.includes("Files")) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(false);
      }}
      onDrop={(event) => {
        setOver(false);
        if (!shown.may_file || !event.dataTransfer.types.includes("Files")) return;
        event.preventDefault();
        const file = event.dataTransfer.files[0];
        if (event.dataTransfer.files.length > 1)
          tell({ text: "A document takes one file as its new version; drop them one by one.", bad: true });
        else if (file) fresh.bring(file);
      }}
    >
      <Sides
        name="document"
        end={{
          width: WIDTH,
          content: (
            <aside className="document-card" aria-label="Card">
              {over && <p role="status">Drop it to make it version {(shown.versions[0]?.number ?? 1) + 1}</p>}
              {flip && (
                <p className={`flip ${styles.small}`}>
                  <Button disabled={flip.at === 0} onClick={() => flip.go(-1)}>
                    Previous <kbd>←</kbd>
                  </Button>
                  <span className="nowrap">
                    {flip.at + 1} of {flip.of}
                  </span>
                  <Button disabled={flip.at + 1 === flip.of} onClick={() => flip.go(1)}>
                    Next <kbd>→</kbd>
                  </Button>
                </p>
              )}
              <DocumentHead key={id} card={shown} />
              <h2 className="label">{shown.places.length > 1 ? "Places" : "Place"}</h2>
              {shown.places.length > 0 ? (
                <PlaceList places={shown.places} may={shown.may_file} />
              ) : (
                <p className={styles.quiet}>Given to you by itself, without its folder.</p>
              )}
              <ReadingNotes notes={shown.notes} />
              <h2 className="label">Facts</h2>
              <DocumentFacts key={`facts ${id}`} card={shown} focus={focus} onFocus={look} />
              {shown.made_from.length > 0 && (
                <>
                  <h2 className="label">Made of</h2>
                  <ul>
                    {shown.made_from.map((from) => (
                      <li key={from.arrival}>
                        {from.pages.includes("-") || from.pages.includes(",") ? "pages" : "page"} {from.pages} of{" "}
                        <a href={`/api/documents/${from.arrival}/content`} target="_blank" rel="noreferrer">
                          {from.name}
                        </a>
                      </li>
                    ))}
                  </ul>
                </>
              )}
              <WhyRules document={id} />
              <Versions card={shown} {...fresh} />
              <h2 className="label">Trail</h2>
              <TrailList lines={trail.data?.lines ?? []} />
            </aside>
          ),
        }}
      >
        <section className="page-pane" aria-label="The page">
          {shown.pages.length ? (
            <PageView
              document={id}
              pages={shown.pages}
              version={shown.versions[0]?.number}
              marks={marks}
              strokes={shown.strokes}
              focus={focus}
              page={page}
              keyed
              onPage={setPage}
              onMark={(field) => {
                look(field);
                goToFact(field);
              }}
            />
          ) : (
            <div className="well-empty">
              <p>
                {shown.problem ??
                  (shown.reading ? "It is being read." : "It has no pages to show. It can be downloaded.")}
              </p>
            </div>
          )}
        </section>
      </Sides>
    </main>
  );
}
