import { useMutation } from "@tanstack/react-query";
import { useCallback } from "react";
import { useNavigate } from "react-router";
import { client, data } from "../../api/client";
import { useNotices, words } from "../../ui/notices";

/** Documents one by one, or all below a folder. */
type About = { folder?: number; entries?: number[] };

/**
 * Plans a manifest of what filing rules say of documents, and goes to it: of a text of rules, or without one of the running rules that are
 * asked by hand.
 */
export function useAskRules(): (about: About, rules?: string) => void {
  const navigate = useNavigate();
  const { tell } = useNotices();
  const { mutate, isPending } = useMutation({
    mutationFn: ({ about, rules }: { about: About; rules: string }) => {
      const entries = about.entries ?? [];
      const folder = entries.length ? null : (about.folder ?? null);
      return data(
        client.POST("/api/manifests", {
          body: {
            chosen: { folder, below: folder !== null, entries, search: null, order: "name" },
            way: {
              do: "rules",
              reads: "",
              prints: "",
              placing: true,
              base: null,
              remove_emptied: false,
              rules,
              borrow: null,
            },
            taken: "stop",
            title: null,
          },
        }),
      );
    },
    onSuccess: (manifest) => void navigate(`/manifests/${manifest.id}`),
    onError: (error) => tell({ text: words(error), bad: true }),
  });
  return useCallback(
    (about, rules = "") => {
      if (!isPending) mutate({ about, rules });
    },
    [mutate, isPending],
  );
}
