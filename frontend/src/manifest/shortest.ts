const BETWEEN = " / ";
/** So many levels are always told. */
const LEAST = 2;

/** Each path by as few of its last levels as tell it from the others, two at least. */
export function shortest(paths: string[]): Map<string, string> {
  const told = new Map<string, string>();
  let open = [...new Set(paths)];
  for (let levels = LEAST; open.length; levels += 1) {
    const ends = new Map<string, string[]>();
    for (const path of open) {
      const end = path.split(BETWEEN).slice(-levels).join(BETWEEN);
      ends.set(end, [...(ends.get(end) ?? []), path]);
    }
    open = [];
    for (const [end, same] of ends)
      for (const path of same)
        if (same.length === 1 || end === path) told.set(path, end);
        else open.push(path);
  }
  return told;
}
