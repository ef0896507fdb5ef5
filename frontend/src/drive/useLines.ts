// The lines of a folder as they are asked for: here or with all below, sorted, of one group only.
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";

const PAGE = 200;
export const GROUPS = ["kind", "party", "person", "month", "year", "type"] as const;
export type GroupBy = (typeof GROUPS)[number];
export type Sort = "name" | "issued" | "size" | "filed" | "kind" | "type" | "party" | "by" | "amount";

export type Asked = {
  folder: number | null;
  below: boolean;
  sort: Sort;
  descending: boolean;
  by: GroupBy | null;
  /** The chosen group; null for all of them. */
  group: string | null;
};

/** The address of a folder: here or with all below, as lines or pages, as one looks at folders now. */
export function wayTo(folder: number, below: boolean, pages: boolean): string {
  const query = new URLSearchParams();
  if (below) query.set("below", "true");
  if (pages) query.set("view", "pages");
  const text = query.toString();
  return `/drive/${folder}${text && `?${text}`}`;
}

function groupOf(asked: Asked) {
  return asked.by && asked.group !== null ? { by: asked.by, group: asked.group } : {};
}

export function useLines(asked: Asked) {
  const { folder, below, sort, descending } = asked;
  const pages = useInfiniteQuery({
    queryKey: keys.lines(folder ?? 0, below, sort, descending, groupOf(asked)),
    enabled: folder !== null,
    initialPageParam: null as string | null,
    queryFn: ({ pageParam }) =>
      data(
        client.GET("/api/folders/{folder}/lines", {
          params: {
            path: { folder: folder ?? 0 },
            query: { below, sort, descending, after: pageParam ?? undefined, limit: PAGE, ...groupOf(asked) },
          },
        }),
      ),
    getNextPageParam: (page) => page.next ?? null,
  });
  const lines = useMemo(() => pages.data?.pages.flatMap((page) => page.lines) ?? [], [pages.data]);
  return { pages, lines };
}

export function useGroups(asked: Asked) {
  const { folder, below, by } = asked;
  return useQuery({
    queryKey: keys.groupsOf(folder, below, by),
    enabled: folder !== null && by !== null,
    queryFn: () =>
      data(
        client.GET("/api/folders/{folder}/groups", {
          params: { path: { folder: folder ?? 0 }, query: { by: by ?? "kind", below } },
        }),
      ),
  });
}

/** The documents by month of issue: ``all`` of them, or those of the chosen group. */
export function useMonths(asked: Asked, all: Schemas["Month"][] | undefined): Schemas["Month"][] {
  const { folder, below, by, group } = asked;
  const chosen = by !== null && by !== "month" && group !== null;
  const months = useQuery({
    queryKey: keys.monthsOf(folder, below, by, group),
    enabled: folder !== null && chosen,
    queryFn: () =>
      data(
        client.GET("/api/folders/{folder}/groups", {
          params: {
            path: { folder: folder ?? 0 },
            query: { by: "month", below, of: by ?? undefined, group: group ?? "" },
          },
        }),
      ),
  });
  if (!chosen) return all ?? [];
  return (months.data?.groups ?? [])
    .filter((one) => one.value)
    .map((one) => ({ month: one.value, documents: one.documents }));
}

/** The places of all that is listed, loaded or not; of those whose names read as a pattern, where one is given. */
export async function allEntries(asked: Asked, pattern: string | null): Promise<number[]> {
  const got = await data(
    client.GET("/api/folders/{folder}/entries", {
      params: {
        path: { folder: asked.folder ?? 0 },
        query: { below: asked.below, pattern: pattern ?? undefined, ...groupOf(asked) },
      },
    }),
  );
  return got.entries;
}

export function useSums(entries: number[]) {
  return useQuery({
    queryKey: keys.sums(entries),
    enabled: entries.length > 1,
    queryFn: (): Promise<Schemas["ChosenSums"]> => data(client.POST("/api/entries/sums", { body: { entries } })),
  });
}
