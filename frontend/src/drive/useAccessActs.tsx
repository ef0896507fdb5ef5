// Who reads what is chosen in the drive, giving access to it, its link, and what rules say of it: of the chosen document or documents,
// else of the folder.
import { lazy, type ReactNode, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import type { Schemas } from "../api/client";
import { useAskRules } from "../parts/plan/askRules";
import { Later } from "../ui/Later";
import { useCopyLink } from "../ui/link";
import { useNotices } from "../ui/notices";
import type { Folder, FolderDoing } from "./folderDoing";

const GiveDialog = lazy(async () => ({ default: (await import("../access/GiveDialog")).GiveDialog }));
const KEEPS_NOT = "You do not keep this folder, so you cannot give access to it. Press W to see who keeps it.";

type Asked = {
  line: Schemas["LineOut"] | null;
  /** The chosen documents, or several things; a folder that is chosen alone is ``folder``. */
  entries: number[];
  things: { entry?: number; folder?: number }[];
  /** Whether documents are among them. */
  single: boolean;
  /** Whether one keeps every folder among them; of documents the folder that one looks at says it. */
  keeps: boolean;
  /** What the chosen ones are called. */
  called: string;
  folder: Folder | null;
  doing: FolderDoing;
};

export function useAccessActs(asked: Asked): {
  acts: { give: () => void; readers: () => void; link: () => void; ask: () => void };
  node: ReactNode;
} {
  const { line, entries, things, single, keeps, called, folder, doing } = asked;
  const navigate = useNavigate();
  const copyLink = useCopyLink();
  const askRules = useAskRules();
  const { tell } = useNotices();
  const [giving, setGiving] = useState(false);
  const { begin } = doing;
  const acts = useMemo(
    () => ({
      give: () => {
        if (!folder?.keeps && !keeps) tell({ text: KEEPS_NOT, bad: true });
        else if (entries.length) setGiving(true);
        else if (folder) begin("give", folder);
      },
      readers: () => {
        if (line) void navigate(`/readers/document/${line.document}`);
        else if (folder) void navigate(`/readers/folder/${folder.id}`);
      },
      link: () => {
        if (line) copyLink(`/documents/${line.document}`);
        else if (folder) copyLink(`/drive/${folder.id}`);
      },
      ask: () => askRules(entries.length ? { entries } : { folder: folder?.id }),
    }),
    [line, entries, keeps, folder, begin, navigate, copyLink, askRules, tell],
  );
  const node = giving && (
    <Later onClose={() => setGiving(false)}>
      <GiveDialog title={`Give access to ${called}`} things={things} single={single} onClose={() => setGiving(false)} />
    </Later>
  );
  return { acts, node };
}
