// A fact as a person types it, as the API takes it: by the field's editor, never by its name.
import type { Schemas } from "../../api/client";
import { parseAmount, parseDay } from "../../ui/format";

type Party = Schemas["PartyOut"];
export type Editor = Schemas["FactOut"]["editor"];
export type FactJson = Schemas["FactForm"]["value"];
/** What a text is read with: the register, and the currency of an amount that names none. */
export type Known = { parties?: readonly Party[]; currency?: string };

/** The value that a typed text means; an Error that says what is wrong with it. */
export function factValue(editor: Editor, text: string, known: Known = {}): FactJson {
  const typed = text.trim();
  switch (editor) {
    case "party":
      return partyOf(typed, known.parties ?? []);
    case "person":
      return personOf(typed);
    case "date": {
      const day = parseDay(typed);
      if (!day) throw new Error(`“${typed}” is no date; write it as 18.3.2026 or 2026-03-18`);
      return day;
    }
    case "money": {
      const match = /^(.*?)\s*([A-Za-z]{3})?$/.exec(typed);
      const value = parseAmount(match?.[1] ?? "");
      if (!value) throw new Error(`“${typed}” is no amount; write it as 994.80 GBP`);
      return { value, currency: (match?.[2] ?? known.currency ?? "GBP").toUpperCase() };
    }
    case "number":
      if (!/^[0-9]{1,6}$/.test(typed)) throw new Error(`“${typed}” is no whole number`);
      return Number(typed);
    case "kind":
      return typed.toLowerCase();
    default:
      return typed;
  }
}

function partyOf(typed: string, parties: readonly Party[]): FactJson {
  const lower = typed.toLowerCase();
  const found = parties.filter((p) => [p.name, p.short, p.code].some((n) => n.toLowerCase() === lower));
  if (found.length !== 1) throw new Error(`“${typed}” is no party of the register, by name, short name or code`);
  return { party: found[0]?.id };
}

/** “Ada Fenn”, or “van der Meer, Ada” where the family name has more than one word. */
function personOf(typed: string): FactJson {
  const [family, given, ...more] = typed.split(",").map((part) => part.trim());
  if (given !== undefined) {
    if (!family || !given || more.length) throw new Error("Write a person as Family, Given");
    return { family, given };
  }
  const names = typed.split(/\s+/);
  const last = names.pop();
  if (!last || !names.length) throw new Error("Write a given name and a family name, or Family, Given");
  return { given: names.join(" "), family: last };
}

/** A kept value as one would type it: read again, it is the same. */
export function typedFact(editor: Editor, value: unknown, display: string): string {
  if (value === null || value === undefined) return "";
  if (editor === "person") {
    const { given, family } = value as { given: string; family: string };
    return given && !/\s/.test(family) ? `${given} ${family}` : `${family}, ${given}`;
  }
  if (editor === "money") {
    const money = value as { value: string; currency: string };
    return `${money.value} ${money.currency}`;
  }
  return editor === "party" ? display : String(value);
}
