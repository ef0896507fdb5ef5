import { useMutation } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { client, data, type Schemas } from "../api/client";
import { useNotices, words } from "../ui/notices";

/** Plans a manifest of what a text would do to all that is filed in the area, and goes to it. */
export function useManifestOfRules(kept: Schemas["RulebookOut"]): (text: string) => void {
  const navigate = useNavigate();
  const { tell } = useNotices();
  const { mutate, isPending } = useMutation({
    mutationFn: (text: string) =>
      data(
        client.POST("/api/manifests", {
          body: {
            chosen: { folder: kept.area, below: true, entries: [], search: null, order: "name" },
            way: { do: "rules", reads: "", prints: "", placing: true, base: null, remove_emptied: false, rules: text },
            taken: "stop",
            title: null,
          },
        }),
      ),
    onSuccess: (manifest) => void navigate(`/manifests/${manifest.id}`),
    onError: (error) => tell({ text: words(error), bad: true }),
  });
  return (text) => !isPending && mutate(text);
}
