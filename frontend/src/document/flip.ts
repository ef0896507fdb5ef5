// Flipping through: one document after another, in the order of the list that one came from.
import { useLocation, useNavigate } from "react-router";

// what a browser keeps with a page is small
const MOST = 2000;
type Kept = { flip?: unknown };

/** What goes with the way to a document so that one can flip through the list. */
export function flipping(documents: number[]): { flip: number[] } {
  return { flip: documents.slice(0, MOST) };
}

export type Flip = { at: number; of: number; go: (step: number) => void } | null;

/** Where a document stands in the list that one came from; null where one came from none. */
export function useFlip(document: number): Flip {
  const kept = (useLocation().state as Kept | null)?.flip;
  const navigate = useNavigate();
  if (!Array.isArray(kept)) return null;
  const documents = kept.filter((one): one is number => typeof one === "number");
  const at = documents.indexOf(document);
  if (at < 0 || documents.length < 2) return null;
  return {
    at,
    of: documents.length,
    go: (step) => {
      const next = documents[at + step];
      if (next !== undefined) void navigate(`/documents/${next}`, { state: { flip: documents }, replace: true });
    },
  };
}
