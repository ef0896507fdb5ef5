/** What may be wrong with names, in words. */
export const NAMES = { empty: "names that say nothing", shared: "names that several have" };

/** What may be wrong with names, where the address asks for such. */
export function namesOf(query: URLSearchParams): "empty" | "shared" | undefined {
  const asked = query.get("names");
  return asked === "empty" || asked === "shared" ? asked : undefined;
}
