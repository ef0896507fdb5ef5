import { Button, Dropdown } from "antd";
import { type ChangeEvent, type ReactNode, useRef } from "react";
import { useBringIn } from "../bringing/bringIn";
import type { Dropped } from "../bringing/dropped";
import { useNotices, words } from "../ui/notices";

/* The inputs are our own: the library's Upload is one button that opens one list of files; here the entries of a menu open one each. */

/** The button that brings files of the disk, or a folder with all in it, in for a folder of the drive. */
export function BringIn(props: { folder: number }): ReactNode {
  const { tell } = useNotices();
  const bring = useBringIn();
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const chosen = (event: ChangeEvent<HTMLInputElement>) => {
    const found = [...(event.target.files ?? [])].map(fromDisk);
    // the same may be chosen again
    event.target.value = "";
    if (found.length)
      void bring(Promise.resolve(found), props.folder).catch((error: unknown) =>
        tell({ text: words(error), bad: true }),
      );
  };
  return (
    <>
      <input
        ref={files}
        type="file"
        id="bring-files"
        multiple
        hidden
        aria-label="Files to bring in"
        onChange={chosen}
      />
      <input
        ref={folder}
        type="file"
        hidden
        aria-label="A folder to bring in"
        onChange={chosen}
        {...({ webkitdirectory: "" } as object)}
      />
      <Dropdown
        trigger={["click"]}
        menu={{
          items: [
            { key: "files", label: "Files…", extra: <kbd>Alt+I</kbd>, onClick: () => files.current?.click() },
            { key: "folder", label: "A folder with all in it…", onClick: () => folder.current?.click() },
          ],
        }}
      >
        <Button size="small">Bring in…</Button>
      </Dropdown>
    </>
  );
}

/** A chosen file; one of a chosen folder knows its way there. */
function fromDisk(file: File): Dropped {
  const way = file.webkitRelativePath.split("/").slice(0, -1).join("/");
  return { file, folder: way || null };
}
