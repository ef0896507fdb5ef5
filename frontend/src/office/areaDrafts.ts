// Areas to be made: as their outlines have them, and as they were changed.
import type { Schemas } from "../api/client";

export type Kind = { kind: string; label: string; name: string; place: string };
export type Draft = { key: string; name: string; purpose: string; restricted: boolean; kinds: Kind[]; chosen: boolean };

export function draftsOf(outlines: readonly Schemas["OutlineOut"][]): Draft[] {
  return outlines.map((one) => ({ ...one, kinds: one.kinds.map((kind) => ({ ...kind })), chosen: false }));
}

/** An area of one's own, with one kind that takes everything. */
export function ownDraft(number: number): Draft {
  const other = { kind: "other", label: "Other", name: "<issued yyyy-MM-dd>_<subject hyphen>", place: "<issued yyyy>" };
  return { key: `own ${number}`, name: "", purpose: "", restricted: false, kinds: [other], chosen: true };
}

/** What is asked for: the chosen ones, with kinds that have both patterns. */
export function asked(drafts: readonly Draft[]): Schemas["NewArea"][] {
  return drafts
    .filter((one) => one.chosen)
    .map(({ name, purpose, restricted, kinds }) => ({
      name: name.trim(),
      purpose: purpose.trim(),
      restricted,
      kinds: Object.fromEntries(
        kinds.filter((one) => one.name && one.place).map(({ kind, name, place }) => [kind, { name, place }]),
      ),
    }));
}

/** Why these cannot be made yet; null where they can. */
export function lacking(drafts: readonly Draft[]): string | null {
  const chosen = drafts.filter((one) => one.chosen);
  if (!chosen.length) return "Choose an area.";
  if (chosen.some((one) => !one.name.trim())) return "One of the areas has no name.";
  const half = chosen.find((one) => one.kinds.some((kind) => (kind.name === "") !== (kind.place === "")));
  return half ? `In ${half.name}, a kind needs both patterns, or none.` : null;
}
