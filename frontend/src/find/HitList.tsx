import { type KeyboardEvent, type ReactNode, useCallback, useEffect, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { SeveralActs } from "../acts/ActButtons";
import { documentKeys } from "../acts/documentKeys";
import { lineActs, moreActs } from "../acts/documentMenu";
import { RenameForm } from "../acts/RenameForm";
import { useDocumentActs } from "../acts/useDocumentActs";
import type { Schemas } from "../api/client";
import { type Marks, NONE, toggled } from "../parts/lines/selection";
import { useChoosing } from "../parts/lines/useChoosing";
import { Dialog } from "../ui/Dialog";
import { several, stemOf } from "../ui/format";
import { useKeys } from "../ui/keys";
import { LinkButton } from "../ui/LinkButton";
import { Menu, type MenuAt } from "../ui/Menu";
import { Hit } from "./Hit";

type Found = Schemas["HitOut"];
const documentOf = (hit: Found): number => hit.document;
const linkOf = (hit: Found | undefined) => document.querySelector<HTMLElement>(`[data-hit="${hit?.document}"]`);
const READS_ONLY = "Among these are some that you may read, but not change.";

/** What was found: chosen and acted on like the lines of a folder. */
export function HitList(props: { hits: Found[] }): ReactNode {
  const { hits } = props;
  const navigate = useNavigate();
  const [at, setAt] = useState<number | null>(null);
  const [marks, setMarks] = useState<Marks>(NONE);
  const [menu, setMenu] = useState<MenuAt | null>(null);
  const list = useChoosing<Found>({
    lines: hits,
    id: documentOf,
    chosen: at,
    onChoose: setAt,
    marks,
    onMarks: setMarks,
    onAll: () => setMarks(new Set(hits.map(documentOf))),
    show: (place) => linkOf(hits[place])?.focus(),
  });
  // what is found no more is not chosen any more
  useEffect(() => {
    const here = new Set(hits.map(documentOf));
    setMarks((had) =>
      [...had].every((one) => here.has(one)) ? had : new Set([...had].filter((one) => here.has(one))),
    );
    setAt((had) => (had !== null && here.has(had) ? had : null));
  }, [hits]);
  const chosen = useMemo(
    () => hits.filter((hit) => (marks.size ? marks.has(hit.document) : hit.document === at)),
    [hits, marks, at],
  );
  const placed = useMemo(() => chosen.flatMap((hit) => (hit.entry === null ? [] : [hit.entry])), [chosen]);
  const one = chosen.length === 1 ? (chosen[0] ?? null) : null;
  const may = placed.length > 0 && chosen.every((hit) => hit.may_file && hit.entry !== null);
  const keeps = chosen.length > 0 && chosen.every((hit) => hit.keeps);
  const told = one?.name ?? several(chosen.length, "document");
  const { acts, renaming, endRenaming, node } = useDocumentActs({
    one,
    things: useMemo(() => ({ entries: placed, name: one?.name ?? "", told }), [placed, one, told]),
    shared: useMemo(() => chosen.map((hit) => ({ document: hit.document })), [chosen]),
    locked: may ? null : READS_ONLY,
    keeps,
    near: one?.folder ?? null,
    onDone: useCallback(() => setMarks(NONE), []),
  });
  useKeys(useMemo(() => documentKeys(acts), [acts]));
  const where = { many: chosen.length > 1, may, keeps, folder: null, brings: false };
  const go = (folder: number) => void navigate(`/drive/${folder}`);
  const press = (event: KeyboardEvent) => {
    if (event.key === "ArrowUp" && list.at <= 0 && !event.shiftKey) document.getElementById("find-box")?.focus();
    else if (!list.press(event, { ArrowDown: list.at + 1, ArrowUp: list.at - 1, Home: 0, End: hits.length - 1 }))
      return;
    event.preventDefault();
  };
  return (
    <>
      {/* biome-ignore lint/a11y/useSemanticElements: results that can be chosen are no table */}
      <div className="hits" role="grid" aria-label="Results" aria-multiselectable onKeyDown={press}>
        {hits.map((hit) => (
          <Hit
            key={hit.document}
            hit={hit}
            among={hits}
            marked={marks.has(hit.document)}
            onFocus={() => setAt(hit.document)}
            onMark={(held) => list.click(hit.document, held)}
            onCheck={() => setMarks((had) => toggled(had, hit.document))}
            onMenu={(left, top) => {
              if (!marks.has(hit.document)) {
                setMarks(NONE);
                setAt(hit.document);
              }
              setMenu({ left, top, title: hit.name, acts: [] });
            }}
          />
        ))}
      </div>
      {chosen.length > 0 && (
        <section className="hits-acts" aria-label="What is chosen">
          <span className={one ? "mono hits-told" : "hits-told"}>{marks.size > 1 ? `${told} chosen` : told}</span>
          <SeveralActs may={may} acts={acts} more={moreActs(one, where, acts, go)} onMenu={setMenu} />
          {marks.size > 0 && <LinkButton onClick={() => setMarks(NONE)}>Choose none</LinkButton>}
        </section>
      )}
      {node}
      {renaming !== null && one && (
        <Dialog title={<>Rename {one.name}</>} onClose={endRenaming}>
          <RenameForm
            label="New name"
            entry={renaming}
            start={stemOf(one.name)}
            ending={one.name.slice(stemOf(one.name).length + 1)}
            onClose={endRenaming}
          />
        </Dialog>
      )}
      {menu && (
        <Menu
          at={
            // what is done is done with what is chosen by the time the menu shows
            menu.acts.length || !chosen[0]
              ? menu
              : {
                  ...menu,
                  title: told,
                  acts: lineActs(chosen[0], where, acts, () => one && void navigate(`/documents/${one.document}`), go),
                }
          }
          onClose={() => setMenu(null)}
        />
      )}
    </>
  );
}
