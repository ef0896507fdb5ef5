import { useSyncExternalStore } from "react";
import { dark, light } from "./theme";

const scheme = window.matchMedia("(prefers-color-scheme: dark)");

/** The system's colour scheme, followed while the page is open. */
export function useScheme() {
  const isDark = useSyncExternalStore(
    (changed) => {
      scheme.addEventListener("change", changed);
      return () => scheme.removeEventListener("change", changed);
    },
    () => scheme.matches,
  );
  return isDark ? dark : light;
}
