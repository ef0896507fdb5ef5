// Why somebody may read something, in one sentence for each way.
import type { Schemas } from "../api/client";
import { day } from "../ui/format";

type Source = Schemas["GrantSource"];

/** "given here by Imre until 30 Jun 2026", "keeps Office, above", "in Teachers". */
export function sourceWords(source: Source): string {
  const until = source.until ? ` until ${day(source.until)}` : "";
  if (source.root) return `administrator: keeps the whole drive${until}`;
  const group = source.group ? `in ${source.group}: ` : "";
  if (source.here) {
    const by = source.given_by ? ` by ${source.given_by}` : "";
    return `${group}${source.level}, given here${by}${until}`;
  }
  return `${group}${source.level} in ${source.path ?? "a folder above"}${until}`;
}

/** Why, in a sentence: all ways, the one that counts first. */
export function whySentence(who: string, thing: string, sources: readonly Source[]): string {
  if (!sources.length) return `${who} may not read ${thing}.`;
  return `${who} may read ${thing}: ${sources.map(sourceWords).join("; ")}.`;
}
