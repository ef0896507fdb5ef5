import { Input, Select } from "antd";
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { useParties } from "../api/queries";
import { BETWEEN, takesOne } from "./tree";

const HINTS: Record<string, string> = {
  person: "Anna Keel",
  date: "2026-03-18, or today - 2 weeks",
  money: "100 GBP",
  size: "5 MB",
  number: "2",
  age: "1 year",
  place: "Accounts/Invoices",
  words: "pro forma",
};
const SPANS = ["is within the last", "is within the next", "is older than"];

/** The values of a test: from a list where they are known, typed where they are not. */
export function ValueField(props: {
  label: string;
  subject: Schemas["SubjectOut"];
  test: string;
  values: string[];
  kinds: readonly string[];
  onChange: (values: string[]) => void;
}): ReactNode {
  const { subject, test, values, onChange } = props;
  const parties = useParties().data?.parties ?? [];
  const hint = SPANS.includes(test) ? "2 weeks" : (HINTS[subject.values] ?? "a text");
  if (test === BETWEEN)
    return (
      <>
        <Typed
          label={props.label}
          value={values[0] ?? ""}
          hint={hint}
          onChange={(v) => onChange([v, values[1] ?? ""])}
        />
        and
        <Typed
          label={`${props.label}, up to`}
          value={values[1] ?? ""}
          hint={hint}
          onChange={(v) => onChange([values[0] ?? "", v])}
        />
      </>
    );
  if (takesOne(test))
    return <Typed label={props.label} value={values[0] ?? ""} hint={hint} onChange={(v) => onChange(v ? [v] : [])} />;
  const known =
    subject.values === "kind"
      ? props.kinds
      : subject.values === "party" && test.startsWith("is")
        ? parties.map((party) => party.name)
        : null;
  return (
    <Select
      mode={known ? "multiple" : "tags"}
      size="small"
      className="values"
      aria-label={props.label}
      popupMatchSelectWidth={false}
      placeholder={known ? "choose" : hint}
      open={known ? undefined : false}
      suffixIcon={null}
      value={values}
      options={(known ?? []).map((value) => ({ value, label: value }))}
      onChange={(chosen: string[]) => onChange(chosen)}
    />
  );
}

function Typed(props: { label: string; value: string; hint: string; onChange: (value: string) => void }): ReactNode {
  return (
    <Input
      size="small"
      className="typed"
      aria-label={props.label}
      placeholder={props.hint}
      value={props.value}
      maxLength={200}
      onChange={(event) => props.onChange(event.target.value)}
    />
  );
}
