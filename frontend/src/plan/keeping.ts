import { useIsMutating, useMutation, useQueryClient } from "@tanstack/react-query";
import { client, data, type Schemas } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { useNotices, words } from "../ui/notices";

/** What a change of a plan leaves as it is. */
const AS_IT_IS = { kinds: {}, month_first: null, limits: null, composing: null, back_to: null };

type Plan = Schemas["PlanOut"];

/** A change, what is said of it once it is kept, and what is done with the plan as it is then. */
type Asked = {
  change: Partial<Omit<Schemas["ChangePlanForm"], "revision">>;
  text: string;
  after?: (kept: Plan) => void;
};

/** Keeps changes of an area's plan as its next revision, one at a time: all parts of the screen are `busy` until it shows that. */
export function useKeeping(plan: Plan): { busy: boolean; keep: (asked: Asked) => void } {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const mutationKey = ["keep plan", plan.area];
  const busy = useIsMutating({ mutationKey }) > 0;
  const { mutate } = useMutation({
    mutationKey,
    mutationFn: ({ change }: Asked) =>
      data(
        client.PUT("/api/plans/{folder}", {
          params: { path: { folder: plan.area } },
          body: { ...AS_IT_IS, revision: plan.revision, ...change },
        }),
      ),
    onSuccess: (kept, { text, after }) => {
      queries.setQueryData(keys.plan(plan.area), kept);
      after?.(kept);
      tell({ text });
    },
    onError: (error) => tell({ text: words(error), bad: true }),
    onSettled: () => askAgain(queries, "plans", "drive", "arrivals"),
  });
  return { busy, keep: (asked) => !busy && mutate(asked) };
}

/** Where what is typed over a kind's patterns is remembered. */
export function kindPlace(area: number, kind: string): string {
  return `plan ${area} kind ${kind}`;
}
