// A manifest and its lines, for tests.
import type { Schemas } from "../api/client";
import type { ManifestLine } from "../manifest/Ledger";

export const aLine = (part: Partial<ManifestLine> = {}): ManifestLine => ({
  line: 0,
  kind: "place",
  entry: 100 + (part.line ?? 0),
  document: 100 + (part.line ?? 0),
  from_place: "Office / Letters",
  from_name: `letter ${part.line ?? 0}.pdf`,
  to_place: "Office / Letters",
  to_name: `Letter ${part.line ?? 0}.pdf`,
  state: "ready",
  code: null,
  why: null,
  note: null,
  missing: [],
  holder: null,
  ...part,
});

export const aManifest = (part: Partial<Schemas["ManifestOut"]> = {}): Schemas["ManifestOut"] => ({
  id: 5,
  title: "Rename in Office",
  by: "Imre Falk",
  at: "2026-03-18T09:00:00Z",
  ran_at: null,
  ended_at: null,
  state: "checked",
  lines: 4,
  bytes: null,
  progress: 0,
  progress_bytes: 0,
  phase: null,
  partial: false,
  problem: null,
  mine: true,
  can_undo: false,
  why_not: null,
  taken: "stop",
  counts: { ready: 4 },
  chosen: null,
  way: null,
  where: "Office",
  undo_of: null,
  undone_by: null,
  ...part,
});
