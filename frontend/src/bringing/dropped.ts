// What was dropped on the screen: files, and folders with all that is in them. A file from a folder knows its way there.
export type Dropped = { file: File; folder: string | null };

/** The files of a drop. The entries must be taken while the drop is handled: they are gone afterwards. */
export function droppedFiles(transfer: DataTransfer): Promise<Dropped[]> {
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry());
  if (!entries.some((entry) => entry?.isDirectory))
    return Promise.resolve([...transfer.files].map((file) => ({ file, folder: null })));
  return Promise.all(entries.map((entry) => (entry ? inside(entry, []) : []))).then((lists) => lists.flat());
}

async function inside(entry: FileSystemEntry, way: string[]): Promise<Dropped[]> {
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
    return [{ file, folder: way.join("/") || null }];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const found: Dropped[] = [];
  // a reader gives some entries at a time, and none at the end
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (!some.length) return found;
    for (const one of some) found.push(...(await inside(one, [...way, entry.name])));
  }
}
