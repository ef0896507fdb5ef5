// Dragging entries to folders (rows, tree, steps of the path) and to tags. What a drop will do is said before it is done.
import { type DragEvent, type ReactNode, useCallback, useSyncExternalStore } from "react";
import { useNotices } from "../ui/notices";
import styles from "../ui/text.module.css";
import { FolderChooser } from "./FolderChooser";
import { called, POLICIES, type Putting, type Things, usePut, usePutTag, VERBS } from "./moving";
import { changesSight, SightTold } from "./SightTold";
import { inside, stays, useSight } from "./sight";

type Over = { folder: number; path: string; how: Putting } | { tag: string };
/** What was dropped where a name of it is taken: it is asked what to do with it. */
type Asked = { how: Putting; things: Things; folder: number; path: string };
type State = { things: Things | null; over: Over | null; asked: Asked | null };

let state: State = { things: null, over: null, asked: null };
const listeners = new Set<() => void>();

function change(next: State): void {
  state = next;
  for (const listener of listeners) listener();
}

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** What a row or a folder needs to be dragged. */
export function dragging(things: () => Things | null) {
  return {
    draggable: true,
    onDragStart: (event: DragEvent) => {
      event.stopPropagation();
      const held = things();
      if (!held?.entries.length) {
        event.preventDefault();
        return;
      }
      event.dataTransfer.effectAllowed = "all";
      event.dataTransfer.setData("text/plain", called(held));
      change({ things: held, over: null, asked: null });
    },
    onDragEnd: () => change({ ...state, things: null, over: null }),
  };
}

function howOf(event: DragEvent): Putting {
  if (event.ctrlKey || event.metaKey) return "copy";
  return event.shiftKey || event.altKey ? "also" : "move";
}

const EFFECT = { move: "move", copy: "copy", also: "link" } as const;

function keyOf(over: Over | null): string | null {
  return over === null ? null : "tag" in over ? `tag ${over.tag}` : `folder ${over.folder}`;
}

type Target = { over: (event: DragEvent) => Over; drop: (event: DragEvent, things: Things) => Promise<string | null> };
export type Dropping = {
  onto: (folder: number, path: string) => Record<string, unknown>;
  ontoTag: (tag: string) => Record<string, unknown>;
};

/** What folders and tags need to be dropped on: handlers, and whether it is the one under the pointer. */
export function useDropping(): Dropping {
  const put = usePut();
  const putTag = usePutTag();
  const { tell } = useNotices();
  const under = useSyncExternalStore(subscribe, () => keyOf(state.over));
  const handlers = useCallback(
    (key: string, target: Target) => ({
      "data-drop": under === key ? "here" : undefined,
      onDragOver: (event: DragEvent) => {
        if (!state.things) return;
        event.preventDefault();
        event.stopPropagation();
        const over = target.over(event);
        event.dataTransfer.dropEffect = "tag" in over ? "link" : EFFECT[over.how];
        const same = keyOf(state.over) === key && ("tag" in over || howIn(state.over) === over.how);
        if (!same) change({ ...state, over });
      },
      onDragLeave: (event: DragEvent) => {
        if (event.currentTarget.contains(event.relatedTarget as Node | null)) return;
        if (keyOf(state.over) === key) change({ ...state, over: null });
      },
      onDrop: (event: DragEvent) => {
        const { things } = state;
        if (!things) return;
        event.preventDefault();
        event.stopPropagation();
        change({ ...state, things: null, over: null });
        void target.drop(event, things).then((wrong) => wrong && tell({ text: wrong, bad: true }));
      },
    }),
    [under, tell],
  );
  const onto = useCallback(
    (folder: number, path: string) => ({
      "data-folder": folder,
      ...handlers(`folder ${folder}`, {
        over: (event) => ({ folder, path, how: howOf(event) }),
        drop: (event, things) => {
          const how = howOf(event);
          return put(how, things, folder, path, null, () => change({ ...state, asked: { how, things, folder, path } }));
        },
      }),
    }),
    [handlers, put],
  );
  const ontoTag = useCallback(
    (tag: string) => handlers(`tag ${tag}`, { over: () => ({ tag }), drop: (_, things) => putTag(things, [tag], []) }),
    [handlers, putTag],
  );
  return { onto, ontoTag };
}

function howIn(over: Over | null): Putting | null {
  return over === null || "tag" in over ? null : over.how;
}

/** At the foot while one drags: what a drop here would do, and who would see it then. */
export function DropNote(): ReactNode {
  const { things, over: target, asked } = useSyncExternalStore(subscribe, () => state);
  const over = target && "folder" in target ? target : null;
  const how = over?.how ?? "move";
  const sight = useSight(things?.entries ?? [], over?.folder ?? null, stays(how), inside(how));
  if (asked) return <AskTaken {...asked} onClose={() => change({ ...state, asked: null })} />;
  if (!things) return null;
  return (
    <div className="drop-note" role="status">
      {over ? (
        <>
          <b>
            {VERBS[over.how].replace(/ (to|in)$/, "")} {called(things)} {over.how === "also" ? "in" : "to"} {over.path}
          </b>
          {changesSight(sight) && (
            <span>
              {" "}
              · <SightTold sight={sight} />
            </span>
          )}
        </>
      ) : target && "tag" in target ? (
        <b>
          Tag {called(things)} {target.tag}
        </b>
      ) : (
        <span>Drop {called(things)} on a folder or a tag</span>
      )}
      {!(target && "tag" in target) && <span className={styles.quiet}> Ctrl: copy · Shift: also file</span>}
    </div>
  );
}

/** What was dropped where a name is taken: the folder stands chosen, and it is said what to do with the name. */
function AskTaken(props: Asked & { onClose: () => void }): ReactNode {
  const { how, things, folder, path, onClose } = props;
  const put = usePut();
  return (
    <FolderChooser
      title={`${VERBS[how].replace(/ (to|in)$/, "")} ${called(things)}`}
      verb={VERBS[how]}
      entries={things.entries}
      without={things.folder === undefined ? [] : [things.folder]}
      stays={stays(how)}
      near={folder}
      at={{ folder, path }}
      policies={POLICIES[how]}
      onChoose={async (to, where, taken) => {
        const wrong = await put(how, things, to, where, taken);
        if (!wrong) onClose();
        return wrong;
      }}
      onClose={onClose}
    />
  );
}
