import { Button } from "antd";
import { lazy, type ReactNode, useEffect, useMemo, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { isGone, Trouble } from "../api/client";
import { useCard, useTrail } from "../api/queries";
import { strokeClass } from "../parts/names/SlotText";
import { type Mark, PageView } from "../parts/page/PageView";
import { ReadingNotes } from "../parts/page/ReadingNotes";
import { WhyRules } from "../parts/reasons/WhyRules";
import { FolderChooser } from "../places/FolderChooser";
import { usePut } from "../places/moving";
import { PlaceList } from "../places/PlaceList";
import { type Key, useKeys } from "../ui/keys";
import { Later } from "../ui/Later";
import { useCopyLink } from "../ui/link";
import { useNotices } from "../ui/notices";
import { Sides } from "../ui/Sides";
import { Failed, Loading } from "../ui/states";
import "./document.css";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { useFlip } from "./flip";
import { NextOneDialog } from "./NextOneDialog";
import { TrailList } from "./TrailList";
import { useNewVersion, Versions } from "./Versions";

const GiveDialog = lazy(async () => ({ default: (await import("../access/GiveDialog")).GiveDialog }));

function bare(event: KeyboardEvent, key: string): boolean {
  return event.key === key && !event.altKey && !event.ctrlKey && !event.metaKey && !event.shiftKey;
}

// of the card, in a wide window and in a narrow one
const WIDTH = [380, 340] as const;
const NOWHERE = new Trouble("The address leads nowhere.", 404, "");

export default function DocumentPage(): ReactNode {
  const id = Number(useParams().document);
  const navigate = useNavigate();
  const card = useCard(Number.isFinite(id) ? id : null);
  const trail = useTrail(Number.isFinite(id) ? id : null);
  const [page, setPage] = useState(1);
  const [also, setAlso] = useState(false);
  const [next, setNext] = useState(false);
  const [giving, setGiving] = useState(false);
  const copyLink = useCopyLink();
  const put = usePut();
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
    fact.source.box && fact.editor !== "kind"
      ? [{ field: fact.field, label: fact.label.toLowerCase(), box: fact.source.box }]
      : [],
  );
  const home = shown.places[0];
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
              <h1 className="mono">{shown.name}</h1>
              <p className="document-actions">
                <Button href={`/api/documents/${id}/content?download=true`}>{SAY.download}</Button>
                {home && shown.may_file && <Button onClick={() => setAlso(true)}>{SAY.alsoFile}</Button>}
                {home && <Button onClick={() => setNext(true)}>{SAY.nextInSeries}</Button>}
                {home && <Button onClick={() => void navigate(`/drive/${home.folder}`)}>{SAY.goToFolder}</Button>}
                {shown.keeps && <Button onClick={() => setGiving(true)}>{SAY.give}</Button>}
                <Button onClick={() => void navigate(`/readers/document/${id}`)}>{SAY.whoReads}</Button>
                <Button onClick={() => copyLink(`/documents/${id}`)}>{SAY.copyLink}</Button>
              </p>
              <h2 className="label">{shown.places.length > 1 ? "Places" : "Place"}</h2>
              {shown.places.length > 0 ? (
                <PlaceList places={shown.places} may={shown.may_file} />
              ) : (
                <p className={styles.quiet}>Given to you by itself, without its folder.</p>
              )}
              <ReadingNotes notes={shown.notes} />
              <h2 className="label">Facts</h2>
              <dl className="document-facts">
                {shown.facts.map((fact) => (
                  // biome-ignore lint/a11y/noStaticElementInteractions: pointing shows the spot; the page's marks are buttons of their own
                  <div
                    key={fact.field}
                    onMouseEnter={() => {
                      setFocus(fact.field);
                      if (fact.source.box) setPage(fact.source.box.page);
                    }}
                    onMouseLeave={() => setFocus(null)}
                  >
                    <dt>
                      <span
                        className={
                          fact.source.box && fact.editor !== "kind" ? strokeClass(shown.strokes, fact.field) : ""
                        }
                      >
                        {fact.label}
                      </span>
                    </dt>
                    <dd>{fact.display}</dd>
                    <dd className={`${styles.quiet} ${styles.small}`}>
                      {fact.source.box ? `page ${fact.source.box.page}` : fact.given ? "by hand" : ""}
                    </dd>
                  </div>
                ))}
              </dl>
              {shown.tags.length > 0 && (
                <p>
                  {shown.tags.map((tag) => (
                    <span key={tag} className="tag">
                      {tag}
                    </span>
                  ))}
                </p>
              )}
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
              onMark={setFocus}
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
      {next && <NextOneDialog document={id} name={shown.name} onClose={() => setNext(false)} />}
      {also && home && (
        <FolderChooser
          title={`Also file ${shown.name}`}
          verb="Also file in"
          entries={[home.entry]}
          stays
          near={home.folder}
          onChoose={async (folder, path) => {
            const wrong = await put("also", { entries: [home.entry], name: shown.name }, folder, path);
            if (!wrong) setAlso(false);
            return wrong;
          }}
          onClose={() => setAlso(false)}
        />
      )}
      {giving && (
        <Later onClose={() => setGiving(false)}>
          <GiveDialog
            title={`Give access to ${shown.name}`}
            things={[{ document: id }]}
            single
            onClose={() => setGiving(false)}
          />
        </Later>
      )}
    </main>
  );
}
