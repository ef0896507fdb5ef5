// Where the focus goes when what had it is gone.
import { type RefObject, useEffect, useState } from "react";

/** What had the focus before this component was there has it again when it goes. */
export function useFocusBack(): void {
  const [before] = useState(() => document.activeElement);
  useEffect(
    () => () => {
      const lost = document.activeElement === null || document.activeElement === document.body;
      if (lost && before instanceof HTMLElement && before.isConnected) before.focus({ preventScroll: true });
    },
    [before],
  );
}

/** Where what had the focus goes, or cannot be used any more, the box itself has it: its keys go on working. */
export function useFocusInside(box: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const shown = box.current;
    if (!shown) return;
    const keep = () => {
      const at = document.activeElement;
      if (at === null || at === document.body || at.matches(":disabled")) shown.focus({ preventScroll: true });
    };
    keep();
    const stays = new MutationObserver(keep);
    stays.observe(shown, { childList: true, subtree: true, attributeFilter: ["disabled"] });
    return () => stays.disconnect();
  }, [box]);
}
