// What lies over the page: dialogs and menus. While one is open, the keys of the screen behind it rest.
import { useLayoutEffect } from "react";

let open = 0;

/** This component lies over the page for as long as it is there. */
export function useLayer(): void {
  useLayoutEffect(() => {
    open++;
    return () => {
      open--;
    };
  }, []);
}

/** Whether anything lies over the page. */
export function covered(): boolean {
  return open > 0;
}
