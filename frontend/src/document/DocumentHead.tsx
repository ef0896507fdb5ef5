import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { ActButton, MoreButton, moreAt } from "../acts/ActButtons";
import { documentKeys } from "../acts/documentKeys";
import { moreActs } from "../acts/documentMenu";
import { RenameForm } from "../acts/RenameForm";
import { useDocumentActs } from "../acts/useDocumentActs";
import { client, data, type Schemas } from "../api/client";
import { askAgain } from "../api/keys";
import { stemOf } from "../ui/format";
import { plainKey, useKeys, useUndoAction } from "../ui/keys";
import { LinkButton } from "../ui/LinkButton";
import { Menu, type MenuAt } from "../ui/Menu";
import { useNotices, words } from "../ui/notices";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

const READS_ONLY = "You may read this document, but not change it. Ask a keeper of its folder.";

/** A document's name and all that can be done with it: the same as in its folder. */
export function DocumentHead(props: { card: Schemas["CardOut"] }): ReactNode {
  const { card } = props;
  const navigate = useNavigate();
  const [menu, setMenu] = useState<MenuAt | null>(null);
  const home = card.places[0];
  const one = useMemo(
    () => ({ document: card.id, name: card.name, entry: home?.entry ?? null, folder: home?.folder ?? null }),
    [card.id, card.name, home],
  );
  const { acts, renaming, endRenaming, node } = useDocumentActs({
    one,
    things: useMemo(() => ({ entries: home ? [home.entry] : [], name: card.name }), [home, card.name]),
    // the document itself is discarded here, wherever it lies
    places: useMemo(() => card.places.map((place) => place.entry), [card.places]),
    shared: useMemo(() => [{ document: card.id }], [card.id]),
    locked: card.may_file ? null : READS_ONLY,
    keeps: card.keeps,
    tags: card.tags,
    near: home?.folder ?? null,
    onDone: (how) => how === "discarded" && home && void navigate(`/drive/${home.folder}`),
  });
  useKeys(useMemo(() => documentKeys(acts, { what: "the document", letter: plainKey }), [acts]));
  const may = card.may_file && home !== undefined;
  const more = moreActs(one, { many: false, may, keeps: card.keeps, folder: null, brings: true }, acts, (folder) =>
    navigate(`/drive/${folder}`),
  );
  const stem = stemOf(card.name);
  return (
    <>
      <h1 className="mono">{card.name}</h1>
      {renaming !== null && home ? (
        <RenameForm
          label="New name"
          entry={home.entry}
          start={stem}
          ending={card.name.slice(stem.length + 1)}
          onClose={endRenaming}
        />
      ) : (
        <>
          {may && card.planned_name && <Planned entry={home.entry} name={card.planned_name} />}
          <p className="document-actions">
            {may && <ActButton label={SAY.rename} keys="F2" onClick={acts.rename} />}
            {may && <ActButton label={SAY.move} keys="M" onClick={acts.move} />}
            {may && <ActButton label={SAY.pickUp} keys="Ctrl+X" onClick={acts.pickUp} />}
            <MoreButton onMenu={(left, top) => setMenu(moreAt(left, top, more))} />
          </p>
        </>
      )}
      {(may || card.tags.length > 0) && (
        <p className="document-tags">
          <span className="label">Tags</span>
          {card.tags.map((tag) => (
            <span key={tag} className="tag">
              {tag}
            </span>
          ))}
          {may && <LinkButton onClick={acts.tag}>{card.tags.length ? "Change them…" : "Add tags…"}</LinkButton>}
        </p>
      )}
      {node}
      {menu && <Menu at={menu} onClose={() => setMenu(null)} />}
    </>
  );
}

/** The name that the plan has for the document by its facts, where it is called otherwise. */
function Planned(props: { entry: number; name: string }): ReactNode {
  const { entry, name } = props;
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const rename = async () => {
    try {
      const params = { path: { entry } };
      const done = await data(client.PATCH("/api/entries/{entry}", { params, body: { name, parent: null } }));
      tell({ text: done.title, action: { label: SAY.undo, run: undo } });
      await askAgain(queries, "drive", "manifests");
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
  };
  return (
    <p className={`planned-name ${styles.small}`}>
      By its facts the plan calls it <span className="mono">{name}</span>.{" "}
      <LinkButton onClick={() => void rename()}>Rename it so</LinkButton>
    </p>
  );
}
