import { describe, expect, it } from "vitest";
import { droppedFiles } from "./dropped";

type Entry = Pick<FileSystemEntry, "isFile" | "isDirectory" | "name">;

const file = (name: string): Entry =>
  ({
    isFile: true,
    isDirectory: false,
    name,
    file: (give: (file: File) => void) => give(new File(["x"], name)),
  }) as unknown as Entry;

/** A folder whose reader gives two entries at a time, as browsers give a hundred. */
const folder = (name: string, inside: Entry[]): Entry =>
  ({
    isFile: false,
    isDirectory: true,
    name,
    createReader: () => {
      const left = [...inside];
      return { readEntries: (give: (entries: Entry[]) => void) => give(left.splice(0, 2)) };
    },
  }) as unknown as Entry;

const broken = (name: string): Entry =>
  ({
    isFile: true,
    isDirectory: false,
    name,
    file: (_: unknown, refuse: (why: Error) => void) => refuse(new Error(`${name} cannot be read`)),
  }) as unknown as Entry;

const drop = (...entries: Entry[]) =>
  ({
    items: entries.map((entry) => ({ webkitGetAsEntry: () => entry })),
    files: entries.filter((entry) => entry.isFile).map((entry) => new File(["x"], entry.name)),
  }) as unknown as DataTransfer;

const told = async (transfer: DataTransfer) =>
  (await droppedFiles(transfer)).map((one) => [one.file.name, one.folder] as const);

describe("what is dropped", () => {
  it("is files, which know no folder", async () => {
    expect(await told(drop(file("a.pdf"), file("b.pdf")))).toEqual([
      ["a.pdf", null],
      ["b.pdf", null],
    ]);
  });

  it("is a folder with all that is in it, each with its way", async () => {
    const bills = folder("Bills", [
      file("1.pdf"),
      folder("2026", [file("2.pdf"), folder("03", [file("3.pdf")])]),
      folder("empty", []),
      file("4.pdf"),
      file("5.pdf"),
    ]);
    expect(await told(drop(bills, file("loose.pdf")))).toEqual([
      ["1.pdf", "Bills"],
      ["2.pdf", "Bills/2026"],
      ["3.pdf", "Bills/2026/03"],
      ["4.pdf", "Bills"],
      ["5.pdf", "Bills"],
      ["loose.pdf", null],
    ]);
  });

  it("fails as a whole where one of it cannot be read: nothing is left out unseen", async () => {
    await expect(droppedFiles(drop(folder("Bills", [file("1.pdf"), broken("2.pdf")])))).rejects.toThrow(
      "2.pdf cannot be read",
    );
  });
});
