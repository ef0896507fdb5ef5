// What screens ask for, with its keys; the pulse tells when to ask again.
import {
  type InfiniteData,
  keepPreviousData,
  queryOptions,
  useInfiniteQuery,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef } from "react";
import { client, data, type Schemas } from "./client";
import { askAllAgain, keys } from "./keys";

const PULSE_MS = 2500;

/** Ask the pulse while the tab is visible; everything shown is asked anew when its stamp changes. */
export function usePulse(): number {
  const queries = useQueryClient();
  const pulse = useQuery({
    queryKey: keys.pulse,
    queryFn: () => data(client.GET("/api/pulse")),
    refetchInterval: PULSE_MS,
    refetchIntervalInBackground: false,
    // it is asked again soon anyway
    retry: false,
  });
  const before = useRef<string | undefined>(undefined);
  const stamp = pulse.data?.stamp;
  useEffect(() => {
    if (stamp !== undefined && before.current !== undefined && before.current !== stamp) {
      void askAllAgain(queries);
    }
    before.current = stamp ?? before.current;
  }, [stamp, queries]);
  return pulse.data?.arrivals ?? 0;
}

export function useVocabulary() {
  return useQuery({
    queryKey: keys.vocabulary,
    queryFn: () => data(client.GET("/api/vocabulary")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** What the registry of fields knows of one: how it is called and edited. */
export function useField(): (field: string) => Schemas["FieldOut"] {
  const fields = useVocabulary().data?.fields;
  return useCallback((field) => fields?.find((one) => one.field === field) ?? ownField(field), [fields]);
}

/** A field of a person's own: of patterns only. */
export const ownField = (field: string): Schemas["FieldOut"] => ({
  field,
  label: field,
  editor: "text",
  built_in: false,
  recurs: false,
  shapes: [],
});

export function useParties() {
  return useQuery({ queryKey: keys.parties, queryFn: () => data(client.GET("/api/parties")), staleTime: 60_000 });
}

type WaitingPages = InfiniteData<Schemas["Waiting"], number | null>;

/** All that waits: the first page as soon as it is there, the further ones after it. */
export function useWaiting() {
  const got = useInfiniteQuery({
    queryKey: keys.waiting,
    queryFn: ({ pageParam }) => data(client.GET("/api/arrivals", { params: { query: { after: pageParam } } })),
    initialPageParam: null as number | null,
    getNextPageParam: (last) => last.next,
  });
  const { hasNextPage, isFetching, isError, fetchNextPage } = got;
  useEffect(() => {
    if (hasNextPage && !isFetching && !isError) void fetchNextPage();
  }, [hasNextPage, isFetching, isError, fetchNextPage]);
  const arrivals = useMemo(() => got.data?.pages.flatMap((page) => page.arrivals) ?? [], [got.data]);
  // named one by one: whoever asks is drawn anew for these only
  return { arrivals, data: got.data, error: got.error, isPending: got.isPending, isError, refetch: got.refetch };
}

/** One that is no longer among what waits, before the list is asked for anew. */
export function withoutArrival(had: WaitingPages | undefined, gone: number): WaitingPages | undefined {
  return (
    had && {
      ...had,
      pages: had.pages.map((page) => ({ ...page, arrivals: page.arrivals.filter((a) => a.id !== gone) })),
    }
  );
}

export function useSlip(id: number | null) {
  return useQuery({
    queryKey: keys.slip(id ?? 0),
    // to open it is to take it in hand, unless somebody else has it
    queryFn: () =>
      data(
        client.POST("/api/arrivals/{arrival}/claim", { params: { path: { arrival: id ?? 0 } }, body: { take: false } }),
      ),
    enabled: id !== null,
  });
}

/** What asks for the folders in a folder; those of null are the areas. */
export function foldersOf(id: number | null) {
  return queryOptions({
    queryKey: keys.folders(id),
    queryFn: async (): Promise<Schemas["FolderOut"][]> => {
      const got =
        id === null
          ? await data(client.GET("/api/folders"))
          : await data(client.GET("/api/folders/{folder}/folders", { params: { path: { folder: id } } }));
      return got.folders;
    },
  });
}

export function useFolders(id: number | null, enabled = true) {
  return useQuery({ ...foldersOf(id), enabled });
}

/** What stands beside each folder in one, or at the top; it comes after the folders themselves. */
export function useFigures(id: number | null, enabled = true) {
  return useQuery({
    queryKey: keys.figures(id),
    enabled,
    queryFn: async (): Promise<Map<number, Schemas["FolderFigures"]>> => {
      const got =
        id === null
          ? await data(client.GET("/api/folder-figures"))
          : await data(client.GET("/api/folders/{folder}/figures", { params: { path: { folder: id } } }));
      return new Map(got.folders.map((one) => [one.folder, one]));
    },
  });
}

export function useFolder(id: number | null, below: boolean) {
  return useQuery({
    queryKey: keys.folder(id ?? 0, below),
    enabled: id !== null,
    placeholderData: keepPreviousData,
    queryFn: () =>
      data(client.GET("/api/folders/{folder}", { params: { path: { folder: id ?? 0 }, query: { below } } })),
  });
}

export function useCard(id: number | null) {
  return useQuery({
    queryKey: keys.card(id ?? 0),
    enabled: id !== null,
    queryFn: () => data(client.GET("/api/documents/{document}", { params: { path: { document: id ?? 0 } } })),
    refetchInterval: (query) => (query.state.data?.reading ? 1000 : false),
  });
}

export function useTrail(id: number | null) {
  return useQuery({
    queryKey: keys.trail(id ?? 0),
    enabled: id !== null,
    queryFn: () => data(client.GET("/api/documents/{document}/trail", { params: { path: { document: id ?? 0 } } })),
  });
}
