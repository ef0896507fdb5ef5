import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { count } from "../ui/format";
import styles from "../ui/text.module.css";

type Folder = Schemas["FolderViewOut"];
type Hint = Schemas["HintOut"];

/** Where a level hides records: what is too much or too thin there, and the manifest that mends it. */
export function Hints(props: { folder: Folder }): ReactNode {
  const { folder } = props;
  if (!folder.hints.length) return null;
  return (
    <ul className={`hints ${styles.small}`}>
      {folder.hints.map((hint) => (
        <li key={hint.what}>
          <span className="signal">{told(hint)}</span>{" "}
          {folder.may_file && <Link to={mending(hint, folder)}>{MENDS[hint.what]}</Link>}
        </li>
      ))}
    </ul>
  );
}

const MENDS: Record<Hint["what"], string> = {
  loose: "Place them into folders by their facts",
  thin: "Bring what is in them up to this level",
};

function told(hint: Hint): string {
  if (hint.what === "loose")
    return `${count(hint.count)} documents lie loose in this folder. With more than ${count(hint.most)}, they are hard to find.`;
  const few =
    hint.few === 0 ? "are empty" : `hold ${hint.few === 1 ? "one document" : `${hint.few} documents`} or fewer`;
  return `${count(hint.count)} of ${count(hint.of)} folders here ${few}.`;
}

/** The way to planning a manifest that mends it; nothing is changed by going there. */
function mending(hint: Hint, folder: Folder): string {
  const way: Record<string, string> =
    hint.what === "loose"
      ? { below: "false", do: "place", base: String(folder.id), prints: "<issued yyyy>/<issued MM>" }
      : { below: "true", do: "rewrite", reads: "<from>/<name>", prints: "<name>", emptied: "true" };
  return `/manifests/new?${new URLSearchParams({ folder: String(folder.id), ...way })}`;
}
