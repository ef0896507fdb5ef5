// Files brought in for a folder, dropped on it or chosen from the disk: they come by Arrivals, where the folder is offered.
import { useCallback } from "react";
import { useNavigate } from "react-router";
import { client, data } from "../api/client";
import { count } from "../ui/format";
import { useNotices } from "../ui/notices";
import { SAY } from "../ui/wording";
import type { Dropped } from "./dropped";
import { useUploads } from "./uploads";

export function useBringIn(): (files: Promise<Dropped[]>, into: number) => Promise<void> {
  const { tell } = useNotices();
  const navigate = useNavigate();
  const uploads = useUploads();
  return useCallback(
    async (found, into) => {
      const shown = await data(client.GET("/api/folders/{folder}", { params: { path: { folder: into } } }));
      const [area, ...steps] = shown.path;
      if (!shown.may_file || !area) {
        tell({ text: `You may read ${shown.name} but not file there; ask a keeper of the area.`, bad: true });
        return;
      }
      const files = await found;
      const way = steps.map((step) => step.name);
      uploads.add(
        files.map((one) => ({ file: one.file, folder: [...way, one.folder].filter(Boolean).join("/") || null })),
        area.id,
      );
      tell({
        text: `${files.length === 1 ? `${files[0]?.file.name} comes` : `${count(files.length)} files come`} in by Arrivals, where ${shown.name} is offered as the place.`,
        action: { label: SAY.goToArrivals, run: () => void navigate("/arrivals") },
      });
    },
    [tell, uploads, navigate],
  );
}
