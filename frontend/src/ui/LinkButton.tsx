import { Button, type ButtonProps } from "antd";
import type { ReactNode } from "react";
import "./linkButton.css";

/** A button that stands in a sentence, and looks like a link there. */
export function LinkButton(props: Omit<ButtonProps, "type" | "size">): ReactNode {
  return <Button {...props} type="link" className={props.className ? `in-text ${props.className}` : "in-text"} />;
}
