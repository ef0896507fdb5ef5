// Where the focus goes when what had it is gone.
import { useCallback, useEffect, useState } from "react";

/** What had the focus before this component was there has it again when it goes, or at once by what is given. */
export function useFocusBack(): () => void {
  const [before] = useState(() => document.activeElement);
  const back = useCallback(() => {
    if (before instanceof HTMLElement && before.isConnected) before.focus({ preventScroll: true });
  }, [before]);
  useEffect(
    () => () => {
      if (document.activeElement === null || document.activeElement === document.body) back();
    },
    [back],
  );
  return back;
}

/** It has the focus, or something in it. Where what had it goes, or cannot be used any more, the box itself has it: its keys go on. */
export function useFocusInside(box: HTMLElement | null): void {
  useEffect(() => {
    if (!box) return;
    if (!box.contains(document.activeElement)) box.focus({ preventScroll: true });
    const stays = new MutationObserver(() => {
      const at = document.activeElement;
      if (at === null || at === document.body || at.matches(":disabled")) box.focus({ preventScroll: true });
    });
    stays.observe(box, { childList: true, subtree: true, attributeFilter: ["disabled"] });
    return () => stays.disconnect();
  }, [box]);
}
