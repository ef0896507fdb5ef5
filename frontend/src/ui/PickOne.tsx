import { Select, type SelectProps } from "antd";
import type { ReactNode } from "react";

type Value = string | number;
type Props<T extends Value> = Pick<
  SelectProps<T>,
  "id" | "aria-label" | "aria-invalid" | "aria-describedby" | "disabled" | "className" | "placeholder" | "size"
> & {
  /** [value, its words]. */
  of: readonly (readonly [T, string])[];
  /** None where nothing is chosen yet. */
  value: T | null;
  onChange: (value: T) => void;
  /** What no choice is called: it can be taken again, as null. */
  none?: string;
  onNone?: () => void;
};

/** One of some, from a list that opens; long lists can be searched by typing. */
export function PickOne<T extends Value>(props: Props<T>): ReactNode {
  const { of, value, none, onChange, onNone, ...rest } = props;
  const options = of.map(([one, label]) => ({ value: one as Value, label }));
  return (
    <Select<Value>
      {...rest}
      popupMatchSelectWidth={false}
      showSearch={of.length > 8 ? { optionFilterProp: "label" } : undefined}
      options={none === undefined ? options : [{ value: "", label: none }, ...options]}
      value={value ?? (none === undefined ? undefined : "")}
      onChange={(chosen) => {
        const found = of.find(([one]) => one === chosen);
        if (found) onChange(found[0]);
        else onNone?.();
      }}
    />
  );
}
