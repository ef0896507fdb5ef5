// The window's width, as far as a layout differs by it.
import { useSyncExternalStore } from "react";

const NARROW = "(max-width: 1150px)";
const PHONE = "(max-width: 640px)";

const watch = (media: string) => (tell: () => void) => {
  const query = window.matchMedia(media);
  query.addEventListener("change", tell);
  return () => query.removeEventListener("change", tell);
};
const watchNarrow = watch(NARROW);
const watchPhone = watch(PHONE);

/** Whether the window is so narrow that what is seldom looked at gives way. */
export function useNarrow(): boolean {
  return useSyncExternalStore(watchNarrow, () => window.matchMedia(NARROW).matches);
}

/** Whether it is as narrow as a telephone: what stands side by side stands one below the other. */
export function usePhone(): boolean {
  return useSyncExternalStore(watchPhone, () => window.matchMedia(PHONE).matches);
}
