// Who reads a folder, giving access to it, its link, and what rules say of it; of documents that are chosen it is what is done with them.
import { useMemo } from "react";
import { useNavigate } from "react-router";
import type { DocumentActs } from "../acts/documentKeys";
import { KEEPS_NOT } from "../acts/useDocumentActs";
import { useAskRules } from "../parts/plan/askRules";
import { useCopyLink } from "../ui/link";
import { useNotices } from "../ui/notices";
import type { Folder, FolderDoing } from "./folderDoing";

type Reading = Pick<DocumentActs, "give" | "readers" | "link" | "ask">;

/** `folder`: the one that it is done with; null where documents are. */
export function useFolderReading(folder: Folder | null, documents: Reading, doing: FolderDoing): Reading {
  const navigate = useNavigate();
  const copyLink = useCopyLink();
  const askRules = useAskRules();
  const { tell } = useNotices();
  const { begin } = doing;
  return useMemo(() => {
    if (!folder) {
      const { give, readers, link, ask } = documents;
      return { give, readers, link, ask };
    }
    return {
      give: () => (folder.keeps ? begin("give", folder) : tell({ text: KEEPS_NOT, bad: true })),
      readers: () => void navigate(`/readers/folder/${folder.id}`),
      link: () => copyLink(`/drive/${folder.id}`),
      ask: () => askRules({ folder: folder.id }),
    };
  }, [folder, documents, begin, navigate, copyLink, askRules, tell]);
}
