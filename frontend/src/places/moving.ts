// Putting entries somewhere: one call each, told and undone the same way from every screen.
import { client, data } from "../api/client";
import { words } from "../app/notices";

export type Putting = "move" | "also";

/** Put entries into a folder; null when it is done, else what went wrong. */
export async function put(how: Putting, entries: number[], folder: number): Promise<string | null> {
  try {
    if (how === "move") await data(client.POST("/api/entries/move", { body: { entries, folder } }));
    else await data(client.POST("/api/entries/also", { body: { entries, folder, name: null } }));
    return null;
  } catch (error) {
    return words(error);
  }
}

/** What was done, for the notice. */
export function done(how: Putting, name: string, entries: number, path: string): string {
  const what = entries === 1 ? name : `${entries} documents`;
  return how === "move" ? `Moved ${what} to ${path}` : `Also filed ${what} in ${path}`;
}
