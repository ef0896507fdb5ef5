import { Modal } from "antd";
import { type KeyboardEvent, type ReactNode, type RefObject, useRef } from "react";
import "./dialog.css";
import { useFocusBack, useFocusInside } from "./focus";
import { useLayer } from "./layers";

type Props = {
  title: ReactNode;
  /** In CSS pixels; never wider than the window. */
  width?: number;
  className?: string;
  /** Its content, for who looks for something in it. */
  body?: RefObject<HTMLDivElement | null>;
  onKeyDown?: (event: KeyboardEvent) => void;
  onClose: () => void;
  children: ReactNode;
};

/** A dialog that is open as long as it is there: Esc closes it, focus stays in it and goes back where it came from. */
export function Dialog(props: Props): ReactNode {
  const own = useRef<HTMLDivElement>(null);
  const body = props.body ?? own;
  useLayer();
  useFocusBack();
  useFocusInside(body);
  return (
    <Modal
      open
      title={props.title}
      className={props.className}
      width={`min(${props.width ?? 560}px, 96vw)`}
      centered
      footer={null}
      closable={false}
      mask={{ closable: false }}
      // it would write a style without the page's nonce; the page behind does not scroll anyway
      scrollLock={false}
      onCancel={props.onClose}
      wrapProps={{
        onKeyDown: (event: KeyboardEvent) => {
          props.onKeyDown?.(event);
          // the library hears Esc at the window
          if (event.key !== "Escape") event.stopPropagation();
        },
      }}
    >
      <div ref={body} className="dialog-body" tabIndex={-1}>
        {props.children}
      </div>
    </Modal>
  );
}
