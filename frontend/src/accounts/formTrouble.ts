// What the server refused, told at the field of the form that it speaks of; else for the whole form.
import type { FormInstance } from "antd";
import { Trouble } from "../api/client";
import { words } from "../ui/notices";

/** Tell it; what belongs to no field of the form is given back. */
export function tellAtField(form: FormInstance, error: unknown, names: Record<string, string> = {}): string | null {
  const field = error instanceof Trouble && error.field ? (names[error.field] ?? error.field) : null;
  if (field === null || form.getFieldInstance(field) === undefined) return words(error);
  form.setFields([{ name: field, errors: [words(error)] }]);
  form.scrollToField(field, { focus: true });
  return null;
}
