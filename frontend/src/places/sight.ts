import { useQuery } from "@tanstack/react-query";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import type { Putting } from "./moving";

/** More at once are not put anywhere by hand: they are a manifest's matter. */
const MOST = 500;

/** Who would see entries besides those who do, and who no longer, once they are put into a folder; null while not known. */
export function useSight(
  entries: number[],
  folder: number | null,
  stays: boolean,
  inside: boolean,
): Schemas["SightOut"] | null {
  const seen = useQuery({
    queryKey: keys.sight(entries, folder, stays, inside),
    enabled: folder !== null && entries.length > 0,
    queryFn: () =>
      data(
        client.POST("/api/entries/sight", {
          body: { entries: entries.slice(0, MOST), folder: folder ?? 0, stays, inside },
        }),
      ),
  });
  return seen.data ?? null;
}

/** As `useSight` asks it for a way of putting: what is copied or filed there too stays where it is. */
export const stays = (how: Putting): boolean => how !== "move";
/** A folder that is copied is made anew there: what lies in it is seen like anything else there. */
export const inside = (how: Putting): boolean => how === "copy";
