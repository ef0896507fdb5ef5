// The menu of a result: what can be done with a document wherever it is met.
import type { NavigateFunction } from "react-router";
import type { Schemas } from "../api/client";
import type { Act } from "../ui/Menu";
import { SAY } from "../ui/wording";

export function hitActs(
  hit: Pick<Schemas["HitOut"], "document" | "folder">,
  navigate: NavigateFunction,
  copyLink: (address: string) => void,
): Act[] {
  const { document, folder } = hit;
  return [
    { label: SAY.open, keys: "Enter", run: () => void navigate(`/documents/${document}`) },
    { label: SAY.goToFolder, run: () => void navigate(`/drive/${folder}`), off: folder === null },
    "line",
    { label: SAY.whoReads, run: () => void navigate(`/readers/document/${document}`) },
    { label: SAY.copyLink, run: () => copyLink(`/documents/${document}`) },
    {
      label: SAY.download,
      run: () => window.location.assign(`/api/documents/${document}/content?download=true`),
    },
  ];
}
