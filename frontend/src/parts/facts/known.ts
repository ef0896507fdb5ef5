// What is offered while one types: values of other documents, folders that are there. What is meant is found whatever the order
// of the words, so that "Esker Tavi" is known as "Tavi Esker".
import { useQuery } from "@tanstack/react-query";
import { client, data } from "../../api/client";
import { keys } from "../../api/keys";
import { typedFact } from "../typing/factText";

/** So many are offered at once. */
export const MOST = 8;

function folded(text: string): string[] {
  return text
    .normalize("NFKD")
    .replaceAll(/\p{M}/gu, "")
    .toLowerCase()
    .split(/[\s,/-]+/)
    .filter(Boolean);
}

/** Those of ``all`` of which every typed word begins a word, each another; those that are the very words come first. */
export function matching(all: string[], typed: string): string[] {
  const words = folded(typed);
  if (!words.length) return [];
  const found = all.filter((one) => {
    const left = folded(one);
    return words.every((word) => {
      const at = left.findIndex((other) => other.startsWith(word));
      if (at >= 0) left.splice(at, 1);
      return at >= 0;
    });
  });
  const exact = (one: string) => Number(folded(one).length === words.length);
  return found.sort((one, other) => exact(other) - exact(one)).slice(0, MOST);
}

/** The texts that stand for a fact in other documents; none for facts that do not recur. */
export function useValuesUsed(field: { field: string; editor: string; recurs: boolean }, wanted: boolean): string[] {
  const used = useQuery({
    queryKey: keys.valuesUsed(field.field),
    enabled: field.recurs && wanted,
    staleTime: 60_000,
    queryFn: () => data(client.GET("/api/fact-values", { params: { query: { field: field.field } } })),
  });
  return [...new Set((used.data?.values ?? []).map((value) => typedFact(field.editor as never, value as never, "")))];
}

/** Folders below an area that are like what is typed, as paths below it. */
export function useFoldersLike(area: string, typed: string | null): string[] {
  const words = typed?.replaceAll("/", " ").trim() ?? "";
  const found = useQuery({
    queryKey: keys.targets(`${area} ${words}`, undefined),
    enabled: words.length > 0,
    queryFn: () => data(client.GET("/api/targets", { params: { query: { q: `${area} ${words}` } } })),
    placeholderData: (had) => had,
  });
  const start = `${area} / `;
  const below = (found.data?.targets ?? [])
    .filter((one) => one.path.startsWith(start))
    .map((one) => one.path.slice(start.length).replaceAll(" / ", "/"));
  return words ? matching(below, words) : [];
}
