import { Modal } from "antd";
import { type KeyboardEvent, type ReactNode, type RefObject, useCallback, useState } from "react";
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
  // the library draws it a moment later than this
  const [box, setBox] = useState<HTMLDivElement | null>(null);
  const { body } = props;
  const drawn = useCallback(
    (node: HTMLDivElement | null) => {
      setBox(node);
      if (body) body.current = node;
    },
    [body],
  );
  useLayer();
  useFocusBack();
  useFocusInside(box);
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
      <div ref={drawn} className="dialog-body" tabIndex={-1}>
        {props.children}
      </div>
    </Modal>
  );
}
