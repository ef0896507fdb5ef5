// The screen of a manifest, once its lines are there.
import { screen, waitFor } from "@testing-library/react";
import type { UserEvent } from "@testing-library/user-event";
import { expect } from "vitest";
import type { Schemas } from "../api/client";
import ManifestPage from "../manifest/ManifestPage";
import { aLine, aManifest } from "./manifests";
import { show } from "./page";
import { serve } from "./server";

export const CHECK = "POST /api/manifests/5/check";
export const RUN = "POST /api/manifests/5/run";
export const UNDO = "POST /api/manifests/5/undo";

const reason = (state: string, why: string, lines: number) => ({ state, why, lines, gap: null });
const REASONS: Schemas["LineReasons"] = {
  reasons: [reason("blocked", "taken by “…”", 40), reason("failed", "“rib.pdf” is elsewhere now.", 1)],
  others: { failed: 2 },
};

/** The screen of a manifest of four lines, once they are there. */
export async function opened(
  manifest: Partial<Schemas["ManifestOut"]> = {},
  lines = [0, 1, 2, 3].map((line) => aLine({ line, state: manifest.ran_at ? "done" : "ready" })),
): Promise<UserEvent> {
  serve({
    "GET /api/manifests/5": aManifest(manifest),
    "GET /api/manifests/5/lines": { lines, next: null },
    "GET /api/manifests/5/sums": { folders: [], renamed: 0 },
    "GET /api/manifests/5/reasons": REASONS,
    [CHECK]: {},
  });
  const user = show(<ManifestPage />, "/manifests/5", "/manifests/:manifest");
  await waitFor(() => expect(screen.getAllByRole("row")).toHaveLength(lines.length + 1));
  return user;
}

export const row = (n: number) => screen.getAllByRole("row")[n + 1] as HTMLElement;
export const button = (name: string | RegExp) => screen.getByRole("button", { name }) as HTMLButtonElement;
