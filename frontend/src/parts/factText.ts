// A fact as a person types it, as the API takes it.
import type { Schemas } from "../api/client";
import { parseDay } from "./format";

type Party = Schemas["PartyOut"];
export type FactJson = Schemas["FactForm"]["value"];
const DATES = ["issued", "due", "received"];

/** The value of a field that is typed in full; an Error that says what is wrong with it. */
export function factValue(field: string, text: string, parties: readonly Party[]): FactJson {
  const typed = text.trim();
  const lower = typed.toLowerCase();
  if (field === "party") {
    const found = parties.filter((p) => [p.name, p.short, p.code].some((n) => n.toLowerCase() === lower));
    if (found.length !== 1) throw new Error(`“${text}” is no party of the register, by name, short name or code`);
    return { party: found[0]?.id };
  }
  if (field === "person") {
    const [family, given] = typed.split(",").map((part) => part.trim());
    if (!family || !given) throw new Error("write a person as Family, Given");
    return { family, given };
  }
  if (DATES.includes(field)) {
    const day = parseDay(typed);
    if (!day) throw new Error(`“${text}” is no date; write it as 18.3.2026 or 2026-03-18`);
    return day;
  }
  if (field === "kind") return lower;
  if (field !== "attempt") return typed;
  if (!/^[0-9]+$/.test(lower)) throw new Error(`“${text}” is no whole number`);
  return Number(lower);
}

/** A kept value as one would type it. */
export function typedFact(field: string, value: unknown, display: string): string {
  if (value === null || value === undefined) return "";
  if (DATES.includes(field)) return String(value);
  if (field === "person" && typeof value === "object" && "family" in value && "given" in value)
    return `${value.family}, ${value.given}`;
  return field === "kind" ? String(value) : display;
}
