import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas, Trouble } from "../api/client";
import { askAgain } from "../api/keys";
import { type FactEdit, FactLine } from "../parts/facts/FactLine";
import { strokeClass } from "../parts/names/SlotText";
import { Loupe } from "../parts/page/PageView";
import { useUndoAction } from "../ui/keys";
import { useNotices, words } from "../ui/notices";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

type Props = {
  card: Schemas["CardOut"];
  focus: string | null;
  onFocus: (field: string | null) => void;
};

/** The facts of a filed document, corrected where they stand; the spot of the one in focus is enlarged above them. */
export function DocumentFacts(props: Props): ReactNode {
  const { card, focus, onFocus } = props;
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const [problem, setProblem] = useState<{ field: string; text: string } | null>(null);
  const edit: FactEdit = async ({ facts = {} }) => {
    for (const [field, value] of Object.entries(facts)) {
      try {
        const params = { path: { document: card.id } };
        await data(client.PATCH("/api/documents/{document}/facts", { params, body: { field, value } }));
        setProblem(null);
        const label = card.facts.find((fact) => fact.field === field)?.label ?? field;
        tell({
          text: value === null ? `${label} taken away` : `${label} changed`,
          action: { label: SAY.undo, run: undo },
        });
      } catch (error) {
        if (!(error instanceof Trouble && error.code === "same")) {
          setProblem({ field, text: words(error) });
          return false;
        }
      }
    }
    await askAgain(queries, "drive", "manifests");
    return true;
  };
  const looked = card.facts.find((fact) => fact.field === focus);
  const box = looked?.source.box ?? null;
  return (
    <>
      {card.pages.length > 0 && (
        <Loupe
          document={card.id}
          version={card.versions[0]?.number}
          box={box}
          size={box ? card.pages[box.page - 1] : undefined}
          none={
            !looked
              ? "The spot of a fact is shown here, enlarged."
              : looked.given
                ? `${looked.label} was written by hand.`
                : undefined
          }
          label={looked?.label.toLowerCase() ?? ""}
        />
      )}
      {/* biome-ignore lint/a11y/noStaticElementInteractions: it only follows where the focus and the mouse are */}
      <div
        className="facts"
        onBlur={(event) => !event.currentTarget.contains(event.relatedTarget as Node | null) && onFocus(null)}
      >
        {card.facts.map((fact) =>
          card.may_file ? (
            <FactLine
              key={fact.field}
              fact={fact}
              strokes={card.strokes}
              focused={focus === fact.field}
              problem={problem?.field === fact.field ? problem.text : null}
              onFocus={onFocus}
              onEdit={edit}
            />
          ) : (
            fact.value !== null && <Shown key={fact.field} fact={fact} strokes={card.strokes} onFocus={onFocus} />
          ),
        )}
      </div>
    </>
  );
}

/** A fact that one may only read; pointing at it shows its spot. */
function Shown(props: {
  fact: Schemas["FactOut"];
  strokes: Record<string, number>;
  onFocus: (field: string | null) => void;
}): ReactNode {
  const { fact } = props;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: pointing shows the spot; the page's marks are buttons of their own
    <div className="fact" onMouseEnter={() => props.onFocus(fact.field)} onMouseLeave={() => props.onFocus(null)}>
      <span className={styles.quiet}>
        <span className={strokeClass(props.strokes, fact.field)}>{fact.label}</span>
      </span>
      <span className="fact-shown">{fact.display}</span>
      <span className={`fact-source ${styles.quiet} ${styles.small}`}>
        {fact.source.box ? `page ${fact.source.box.page}` : fact.given ? "by hand" : ""}
      </span>
    </div>
  );
}
