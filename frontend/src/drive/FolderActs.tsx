import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { useUndoAction } from "../app/keys";
import { useNotices, words } from "../app/notices";
import { FolderChooser } from "../places/FolderChooser";
import { put } from "../places/moving";

type Props = { folder: Schemas["FolderViewOut"]; above: number | null; onGo: (folder: number) => void };

/** What is done to the folder itself: rename it, move it, remove it when it is empty. */
export function FolderActs(props: Props): ReactNode {
  const { folder, above } = props;
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const [renaming, setRenaming] = useState(false);
  const [moving, setMoving] = useState(false);
  const [name, setName] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const { entry } = folder;
  if (entry === null || above === null) return null;
  const empty = folder.below === 0 && folder.folders.length === 0;
  const told = (text: string) => tell({ text, action: { label: "Undo", run: undo } });

  const rename = async () => {
    try {
      await data(client.PATCH("/api/entries/{entry}", { params: { path: { entry } }, body: { name, parent: null } }));
      told(`Renamed ${folder.name} to ${name}`);
      setRenaming(false);
      await queries.invalidateQueries();
    } catch (error) {
      setProblem(words(error));
    }
  };
  const remove = async () => {
    try {
      await data(client.DELETE("/api/folders/{folder}", { params: { path: { folder: folder.id } } }));
      told(`Removed the folder ${folder.name}`);
      props.onGo(above);
      await queries.invalidateQueries();
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
  };
  if (renaming)
    return (
      <form
        className="new-folder"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim() && name !== folder.name) void rename();
          else setRenaming(false);
        }}
      >
        <label htmlFor="folder-name" className="label">
          New name of the folder
        </label>
        <input
          id="folder-name"
          className="text-input"
          // biome-ignore lint/a11y/noAutofocus: the person just asked for it
          autoFocus
          value={name}
          maxLength={250}
          onFocus={(event) => event.target.select()}
          onChange={(event) => setName(event.target.value)}
          onKeyDown={(event) => event.key === "Escape" && setRenaming(false)}
        />
        <button type="submit" className="button primary">
          Rename
        </button>
        <button type="button" className="button" onClick={() => setRenaming(false)}>
          Leave it
        </button>
        {problem && (
          <p className="problem small" role="alert">
            {problem}
          </p>
        )}
      </form>
    );
  return (
    <div className="folder-acts small">
      <span className="quiet">This folder:</span>{" "}
      <button
        type="button"
        className="link"
        onClick={() => {
          setName(folder.name);
          setProblem(null);
          setRenaming(true);
        }}
      >
        rename
      </button>{" "}
      <button type="button" className="link" onClick={() => setMoving(true)}>
        move…
      </button>{" "}
      {empty && (
        <button type="button" className="link" onClick={() => void remove()}>
          remove
        </button>
      )}
      {moving && (
        <FolderChooser
          title={`Move the folder ${folder.name}`}
          verb="Move to"
          entries={[entry]}
          stays={false}
          near={above}
          onChoose={async (to, path) => {
            const wrong = await put("move", [entry], to);
            if (wrong) return wrong;
            told(`Moved the folder ${folder.name} to ${path}`);
            setMoving(false);
            await queries.invalidateQueries();
            return null;
          }}
          onClose={() => setMoving(false)}
        />
      )}
    </div>
  );
}
