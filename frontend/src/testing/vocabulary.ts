// What GET /api/vocabulary answers in tests: some fields of the registry, each of another editor.
import type { Schemas } from "../api/client";

type Field = Schemas["FieldOut"];
const field = (name: string, label: string, editor: Field["editor"]): Field => ({
  field: name,
  label,
  editor,
  built_in: false,
  recurs: false,
  shapes: editor === "money" ? [] : ["plain"],
});

export const VOCABULARY: Schemas["Vocabulary"] = {
  kinds: [{ key: "invoice", label: "Invoice", expects: [] }],
  fields: [
    field("kind", "Kind", "kind"),
    field("subject", "Subject", "text"),
    field("ref", "Reference", "code"),
    field("issued", "Issued", "date"),
    field("due", "Due", "date"),
    field("party", "Party", "party"),
    field("person", "Person", "person"),
    field("attempt", "Attempt", "number"),
    field("amount", "Amount", "money"),
    { ...field("name", "Name", "text"), built_in: true },
  ],
  currencies: ["EUR", "GBP"],
};
