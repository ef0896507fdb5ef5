import { Button, type ButtonProps } from "antd";
import { type ReactNode, useRef } from "react";

type Props = {
  /** What the file is for, as screen readers say it. */
  name: string;
  id?: string;
  type?: ButtonProps["type"];
  size?: ButtonProps["size"];
  disabled?: boolean;
  /** Which files are offered; all where it is not said. */
  accept?: string;
  onFile: (file: File) => void;
  children: ReactNode;
};

/** A button that lets one choose a file of the disk. */
export function FileButton(props: Props): ReactNode {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        hidden
        accept={props.accept}
        aria-label={props.name}
        onChange={(event) => {
          const file = event.target.files?.[0];
          // the same file may be chosen again
          event.target.value = "";
          if (file) props.onFile(file);
        }}
      />
      <Button
        id={props.id}
        type={props.type}
        size={props.size}
        disabled={props.disabled}
        onClick={() => input.current?.click()}
      >
        {props.children}
      </Button>
    </>
  );
}
