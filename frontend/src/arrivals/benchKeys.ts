import type { Key } from "../ui/keys";

type Acts = {
  file: () => void;
  step: (by: number) => void;
  skim: () => void;
  park: () => void;
  arrange: () => void;
  enter: () => void;
  inLine: () => boolean;
  turn: (by: number) => void;
};

/** The keys of the bench. */
export function benchKeys(act: Acts): Key[] {
  return [
    {
      keys: "Ctrl+Enter",
      what: "File it, from anywhere",
      anywhere: true,
      match: (e) => (e.ctrlKey || e.metaKey) && !e.shiftKey && e.key === "Enter",
      run: act.file,
    },
    {
      keys: "Alt+↓ Alt+↑",
      what: "Next and previous arrival",
      anywhere: true,
      match: (e) => e.altKey && (e.key === "ArrowDown" || e.key === "ArrowUp"),
      run: (e) => act.step(e.key === "ArrowDown" ? 1 : -1),
    },
    {
      keys: "F2",
      what: "Edit the name",
      anywhere: true,
      match: (e) => e.key === "F2",
      run: () => document.getElementById("slip-name")?.click(),
    },
    {
      keys: "F4",
      what: "Edit the place",
      anywhere: true,
      match: (e) => e.key === "F4" && !e.altKey,
      run: () => document.getElementById("slip-place")?.click(),
    },
    {
      keys: "Enter",
      what: "In the waiting line: file it when nothing is doubtful; in a field: to the next doubtful fact",
      match: (e) => e.key === "Enter" && !e.ctrlKey && !e.metaKey && act.inLine(),
      run: act.enter,
    },
    {
      keys: "Ctrl+Shift+Enter",
      what: "Skim what is ready, and file it at once",
      anywhere: true,
      match: (e) => (e.ctrlKey || e.metaKey) && e.shiftKey && e.key === "Enter",
      run: act.skim,
    },
    {
      keys: "F7",
      what: "Same as the one before",
      anywhere: true,
      match: (e) => e.key === "F7",
      run: () => document.getElementById("same-as-before")?.click(),
    },
    {
      keys: "F8",
      what: "Put off until a day",
      anywhere: true,
      match: (e) => e.key === "F8",
      run: act.park,
    },
    {
      keys: "F9",
      what: "Split, join, turn pages",
      anywhere: true,
      match: (e) => e.key === "F9",
      run: act.arrange,
    },
    {
      keys: "Page ↓ Page ↑",
      what: "Turn the page",
      match: (e) => e.key === "PageDown" || e.key === "PageUp",
      run: (e) => act.turn(e.key === "PageDown" ? 1 : -1),
    },
  ];
}
