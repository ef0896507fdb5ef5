/** What may be wrong with names, in words. */
export const NAMES = { empty: "meaningless names", shared: "repeated names" };

/** What may be wrong with names, where the address asks for such. */
export function namesOf(query: URLSearchParams): "empty" | "shared" | undefined {
  const asked = query.get("names");
  return asked === "empty" || asked === "shared" ? asked : undefined;
}
