import { type RefObject, useEffect, useRef } from "react";

/**
 * A dialog that is open as long as it is there. Focus stays in it: where what had it goes, or cannot be used any more, the
 * dialog itself has it, so that its keys go on working.
 */
export function useModal(): RefObject<HTMLDialogElement | null> {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    const shown = dialog.current;
    if (!shown) return;
    shown.tabIndex = -1;
    shown.showModal();
    const stays = new MutationObserver(() => {
      const at = document.activeElement;
      if (shown.open && (at === null || at === document.body || at.matches(":disabled"))) shown.focus();
    });
    stays.observe(shown, { childList: true, subtree: true, attributeFilter: ["disabled"] });
    return () => stays.disconnect();
  }, []);
  return dialog;
}
