import { AutoComplete, type AutoCompleteProps } from "antd";
import type { ReactNode } from "react";

type Props = Pick<AutoCompleteProps, "id" | "aria-label" | "autoFocus" | "placeholder" | "status" | "className"> & {
  /** What is there already and like what is typed. */
  offered: string[];
  /** What is being typed; null where nothing is. */
  typed: string | null;
  /** What stands in the field. */
  shown: string;
  onType: (text: string) => void;
  onTake: (text: string) => void;
  onKey: AutoCompleteProps["onInputKeyDown"];
  onFocus?: () => void;
  onBlur: () => void;
};

/** No text that anybody types: the library takes the entry that begins like what is typed for the one that is meant. */
const AS_TYPED = "\0";

/** A text field with what is there already below it: Enter takes the first, an arrow key another; what was typed stands last, to be
 * taken as it is. */
export function Suggested(props: Props): ReactNode {
  const { offered, typed, shown, onType, onTake, onKey, ...rest } = props;
  const options = offered.length
    ? [
        ...offered.map((one) => ({ value: one, label: one })),
        ...(typed?.trim() ? [{ value: AS_TYPED, label: `“${typed.trim()}”, as typed` }] : []),
      ]
    : [];
  return (
    <AutoComplete
      {...rest}
      size="small"
      variant="borderless"
      popupMatchSelectWidth={false}
      defaultActiveFirstOption
      filterOption={false}
      value={shown}
      open={options.length > 0}
      options={options}
      onSearch={onType}
      onSelect={(value: string) => onTake(value === AS_TYPED ? (typed ?? "") : value)}
      onInputKeyDown={onKey}
    />
  );
}
