import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { Trouble } from "../api/client";
import { useCard, useTrail } from "../api/queries";
import { useUndoAction } from "../app/keys";
import { useNotices } from "../app/notices";
import { moment, size } from "../parts/format";
import { type Mark, PageView } from "../parts/PageView";
import { strokeClass } from "../parts/SlotText";
import { FolderChooser } from "../places/FolderChooser";
import { done, put } from "../places/moving";
import { PlaceList } from "../places/PlaceList";
import "./document.css";
import { TrailList } from "./TrailList";

export default function DocumentPage(): ReactNode {
  const id = Number(useParams().document);
  const navigate = useNavigate();
  const card = useCard(Number.isFinite(id) ? id : null);
  const trail = useTrail(Number.isFinite(id) ? id : null);
  const [page, setPage] = useState(1);
  const [also, setAlso] = useState(false);
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const [focus, setFocus] = useState<string | null>(null);
  if (card.error instanceof Trouble || !Number.isFinite(id)) {
    return (
      <main className="empty">
        <h1>The document cannot be shown</h1>
        <p>{card.error instanceof Trouble ? card.error.message : "The address leads nowhere."}</p>
      </main>
    );
  }
  const shown = card.data;
  if (!shown) return <main className="main" aria-busy="true" />;
  const marks: Mark[] = shown.facts.flatMap((fact) =>
    fact.source.box && fact.field !== "kind"
      ? [{ field: fact.field, label: fact.label.toLowerCase(), box: fact.source.box }]
      : [],
  );
  const home = shown.places[0];
  return (
    <main className="document main">
      <section className="page-pane" aria-label="The page">
        {shown.pages.length ? (
          <PageView
            document={id}
            pages={shown.pages}
            marks={marks}
            strokes={shown.strokes}
            focus={focus}
            page={page}
            onPage={setPage}
            onMark={setFocus}
          />
        ) : (
          <div className="well-empty">
            <p>{shown.problem ?? "It has no pages to show. It can be downloaded."}</p>
          </div>
        )}
      </section>
      <aside className="document-card" aria-label="Card">
        <h1 className="mono">{shown.name}</h1>
        <p className="document-actions">
          <a className="button" href={`/api/documents/${id}/content?download=true`}>
            Download
          </a>
          {home && shown.may_file && (
            <button type="button" className="button" onClick={() => setAlso(true)}>
              Also file…
            </button>
          )}
          {home && (
            <button type="button" className="button" onClick={() => void navigate(`/drive/${home.folder}`)}>
              Go to its folder
            </button>
          )}
        </p>
        <h2 className="label">{shown.places.length > 1 ? "Places" : "Place"}</h2>
        <PlaceList places={shown.places} may={shown.may_file} />
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
                  className={fact.source.box && fact.field !== "kind" ? strokeClass(shown.strokes, fact.field) : ""}
                >
                  {fact.label}
                </span>
              </dt>
              <dd>{fact.display}</dd>
              <dd className="quiet small">
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
        <h2 className="label">Versions</h2>
        <ul className="versions">
          {shown.versions.map((version) => (
            <li key={version.number}>
              <a href={`/api/documents/${id}/content?version=${version.number}&download=true`}>
                {version.number}. {version.original_name}
              </a>{" "}
              <span className="quiet small nowrap">
                {size(version.size)}, {moment(version.at)}
                {version.by && `, ${version.by}`}
              </span>
            </li>
          ))}
        </ul>
        <h2 className="label">Trail</h2>
        <TrailList lines={trail.data?.lines ?? []} />
      </aside>
      {also && home && (
        <FolderChooser
          title={`Also file ${shown.name}`}
          verb="Also file in"
          entries={[home.entry]}
          stays
          near={home.folder}
          onChoose={async (folder, path) => {
            const wrong = await put("also", [home.entry], folder);
            if (wrong) return wrong;
            tell({ text: done("also", shown.name, 1, path), action: { label: "Undo", run: undo } });
            setAlso(false);
            await queries.invalidateQueries();
            return null;
          }}
          onClose={() => setAlso(false)}
        />
      )}
    </main>
  );
}
