import { useMutation, useQueryClient } from "@tanstack/react-query";
import { client, data, type Schemas } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { useNotices, words } from "../ui/notices";

type Kept = Schemas["RulebookOut"];
type Asked = {
  change: Partial<Omit<Schemas["KeepRulebookForm"], "revision">>;
  text: (kept: Kept) => string;
  after?: (kept: Kept) => void;
};

/** Keeps a new revision of an area's rules and runs it. */
export function useKeepRules(had: Kept): { busy: boolean; keep: (asked: Asked) => void } {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const { mutate, isPending } = useMutation({
    mutationFn: ({ change }: Asked) =>
      data(
        client.PUT("/api/rulebooks/{folder}", {
          params: { path: { folder: had.area } },
          body: { text: "", why: "", by_itself: null, back_to: null, revision: had.revision, ...change },
        }),
      ),
    onSuccess: (kept, { text, after }) => {
      queries.setQueryData(keys.rulebook(had.area), kept);
      after?.(kept);
      tell({ text: text(kept) });
    },
    onError: (error) => tell({ text: words(error), bad: true }),
    onSettled: () => askAgain(queries, "plans", "arrivals"),
  });
  return { busy: isPending, keep: (asked) => !isPending && mutate(asked) };
}
