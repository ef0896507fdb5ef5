/** What may be wrong with names, in words. */
export const NAMES = { empty: "names that say nothing", shared: "names that several have" };
