// Addresses inside Waka, copied to be sent: they stay good when things move or are renamed, and are worth nothing to whom may not read.
import { useCallback } from "react";
import { useNotices } from "./notices";

/** Copies the address of a page of Waka, and says so. */
export function useCopyLink(): (path: string) => void {
  const { tell } = useNotices();
  return useCallback(
    (path) => {
      const address = `${window.location.origin}${path}`;
      navigator.clipboard.writeText(address).then(
        () => tell({ text: "Copied the link. It opens for whoever may read this." }),
        // a browser gives no clipboard to pages without TLS, or asks first
        () => tell({ text: `The browser did not let Waka copy. The link is ${address}`, bad: true }),
      );
    },
    [tell],
  );
}
