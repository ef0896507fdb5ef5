import { Button, type ButtonProps, Upload } from "antd";
import type { ReactNode } from "react";

type Props = {
  /** What the files are for, as screen readers say it. */
  name: string;
  id?: string;
  type?: ButtonProps["type"];
  size?: ButtonProps["size"];
  disabled?: boolean;
  /** Which files are offered; all where it is not said. */
  accept?: string;
  multiple?: boolean;
  /** A telephone takes them with its camera. */
  camera?: boolean;
  /** At least one; one only where not several may be chosen. */
  onFiles: (files: File[]) => void;
  children: ReactNode;
};

/** A button that lets one choose files of the disk. They are sent by who asks for them, not by the library. */
export function FileButton(props: Props): ReactNode {
  return (
    <Upload
      aria-label={props.name}
      accept={props.accept}
      multiple={props.multiple}
      capture={props.camera ? "environment" : undefined}
      disabled={props.disabled}
      fileList={[]}
      showUploadList={false}
      beforeUpload={(file, files) => {
        // told once for each of them
        if (file === files[0]) props.onFiles(files);
        return false;
      }}
    >
      <Button id={props.id} type={props.type} size={props.size} disabled={props.disabled}>
        {props.children}
      </Button>
    </Upload>
  );
}
