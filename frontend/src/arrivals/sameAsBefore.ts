// "Same as the one before": what the last filed slip of this tab had, for what this one does not know for sure.
import type { Schemas } from "../api/client";

type Slip = Schemas["SlipOut"];
const KEY = "waka-last-filed";
type Last = { facts: Record<string, unknown>; area: number | null; place: string | null };

/** Remember what was filed. */
export function remember(slip: Slip): void {
  const facts = Object.fromEntries(
    slip.facts.filter((fact) => fact.repeats && fact.value !== null).map((f) => [f.field, f.value]),
  );
  const place = slip.place_edited ? slip.steps.map((step) => step.name).join("/") : null;
  sessionStorage.setItem(KEY, JSON.stringify({ facts, area: slip.area?.id ?? null, place } satisfies Last));
}

/** The edit that makes a slip the same as the one before, where that knows more; null where there is nothing to take. */
export function likeBefore(slip: Slip): Partial<Schemas["SlipForm"]> | null {
  const kept = sessionStorage.getItem(KEY);
  if (!kept) return null;
  const last = JSON.parse(kept) as Last;
  const shown = new Map(slip.facts.map((fact) => [fact.field, fact]));
  const facts = Object.fromEntries(
    Object.entries(last.facts).filter(([field, value]) => {
      const here = shown.get(field);
      if (here?.given || (here?.sure && here.value !== null)) return false;
      return JSON.stringify(here?.value ?? null) !== JSON.stringify(value);
    }),
  );
  const edit: Partial<Schemas["SlipForm"]> = {};
  if (Object.keys(facts).length) edit.facts = facts;
  if (last.place !== null && last.place !== slip.steps.map((step) => step.name).join("/")) edit.place = last.place;
  if (edit.place !== undefined && last.area !== null && last.area !== slip.area?.id) edit.area = last.area;
  return Object.keys(edit).length ? edit : null;
}
