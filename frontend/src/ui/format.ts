// Dates, sizes and counts as people read them.
/** The names of months, January first. British English writes “Sept”; the server, like most of the world, “Sep”. */
function monthNames(style: "short" | "long"): string[] {
  const named = new Intl.DateTimeFormat("en", { month: style, timeZone: "UTC" });
  return Array.from({ length: 12 }, (_, month) => named.format(Date.UTC(2000, month, 1)));
}

export const MONTHS = monthNames("short");
const LONG_MONTHS = monthNames("long").map((name) => name.toLowerCase());
const CLOCK = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit" });
const NUMBER = new Intl.NumberFormat("en-GB");
const MONEY = new Intl.NumberFormat("en-GB", { minimumFractionDigits: 2 });

/** `2026-03-18` as `18 Mar 2026`. */
export function day(iso: string): string {
  const match = /^(\d{4})-(\d{2})-(\d{2})$/.exec(iso);
  return match ? `${Number(match[3])} ${MONTHS[Number(match[2]) - 1]} ${match[1]}` : iso;
}

/** The hour of a moment, in local time: `09:05`. */
export function clock(iso: string): string {
  return CLOCK.format(new Date(iso));
}

/** A moment in local time: today's hour, else the day. */
export function moment(iso: string | null | undefined, now: Date = new Date()): string {
  if (!iso) return "";
  const at = new Date(iso);
  if (at.toDateString() === now.toDateString()) return `today ${clock(iso)}`;
  const date = `${at.getDate()} ${MONTHS[at.getMonth()]}`;
  return at.getFullYear() === now.getFullYear() ? date : `${date} ${at.getFullYear()}`;
}

/** How long ago, roughly. */
export function ago(iso: string, now: Date = new Date()): string {
  const minutes = Math.max(0, Math.round((now.getTime() - new Date(iso).getTime()) / 60_000));
  if (minutes < 1) return "now";
  if (minutes < 60) return `${minutes} min`;
  if (minutes < 24 * 60) return `${Math.round(minutes / 60)} h`;
  const days = Math.round(minutes / (24 * 60));
  return days === 1 ? "yesterday" : `${days} d`;
}

// made once: lines that scroll tell many sizes
const FIXED = [0, 1, 2].map(
  (digits) => new Intl.NumberFormat("en-GB", { minimumFractionDigits: digits, maximumFractionDigits: digits }),
);

/** A number with so many digits after the point. */
function fixed(number: number, digits: 0 | 1 | 2): string {
  return FIXED[digits]?.format(number) ?? "";
}

/** Bytes in decimal units. */
export function size(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  if (bytes < 1_000_000) return `${fixed(bytes / 1000, bytes < 10_000 ? 1 : 0)} kB`;
  if (bytes < 1_000_000_000) return `${fixed(bytes / 1_000_000, 1)} MB`;
  return `${fixed(bytes / 1_000_000_000, 2)} GB`;
}

/** `12345` as `12,345`. */
export function count(number: number): string {
  return NUMBER.format(number);
}

/** An amount of money as the server tells it, `"1234.5"`, as `1,234.50`. */
export function money(amount: string): string {
  return MONEY.format(Number(amount));
}

/** So many of something, in words: "1 line", "1,200 lines". */
export function several(number: number, one: string): string {
  return `${count(number)} ${one}${number === 1 ? "" : "s"}`;
}

/** A long name cut in the middle; its end stays. */
export function cut(name: string, most: number): string {
  if (name.length <= most) return name;
  const tail = Math.min(18, Math.floor(most / 2));
  return `${name.slice(0, most - tail - 1)}…${name.slice(-tail)}`;
}

/** A date as a person types it, as ISO 8601; day before month. `undefined` where it is no date. */
export function parseDay(typed: string): string | undefined {
  const text = typed.trim().toLowerCase();
  const iso = /^(\d{4})[-./](\d{1,2})[-./](\d{1,2})$/.exec(text);
  const short = /^(\d{1,2})[-./ ](\d{1,2})[-./ ](\d{2}|\d{4})$/.exec(text);
  const named = /^(\d{1,2})\.? ?([a-z]{3,9})\.?,? ?(\d{2}|\d{4})$/.exec(text);
  let parts: [number, number, number] | undefined;
  if (iso) parts = [Number(iso[1]), Number(iso[2]), Number(iso[3])];
  else if (short) parts = [fullYear(short[3] ?? ""), Number(short[2]), Number(short[1])];
  else if (named)
    parts = [
      fullYear(named[3] ?? ""),
      LONG_MONTHS.findIndex((m) => m.startsWith(named[2] ?? "-")) + 1,
      Number(named[1]),
    ];
  if (!parts) return undefined;
  const [year, month, date] = parts;
  const made = new Date(Date.UTC(year, month - 1, date));
  if (made.getUTCFullYear() !== year || made.getUTCMonth() !== month - 1 || made.getUTCDate() !== date)
    return undefined;
  return made.toISOString().slice(0, 10);
}

/** The days that a typed date can mean: both, where day and month cannot be told apart; the usual reading first. */
export function readingsOfDay(typed: string): string[] {
  const short = /^(\d{1,2})([-./ ])(\d{1,2})([-./ ])(\d{2}|\d{4})$/.exec(typed.trim());
  const turned = short ? `${short[3]}${short[2]}${short[1]}${short[4]}${short[5]}` : "";
  return [...new Set([parseDay(typed), parseDay(turned)].filter((day) => day !== undefined))];
}

function fullYear(text: string): number {
  return text.length === 2 ? 2000 + Number(text) : Number(text);
}

/** An amount as a person types it, with either decimal mark, as `1234.50`. `undefined` where it is none. */
export function parseAmount(typed: string): string | undefined {
  const text = typed.replace(/[\s']/g, "");
  const match = /^(-?)(\d{1,3}(?:([.,])\d{3})(?:\3\d{3})*|\d+)(?:([.,])(\d{1,2}))?$/.exec(text);
  if (!match || (match[3] && match[3] === match[4])) return undefined;
  return `${match[1]}${(match[2] ?? "").replace(/[.,]/g, "")}.${(match[5] ?? "").padEnd(2, "0")}`;
}

/** A document's name without its extension. */
export function stemOf(name: string): string {
  const dot = name.lastIndexOf(".");
  return dot > 0 ? name.slice(0, dot) : name;
}
