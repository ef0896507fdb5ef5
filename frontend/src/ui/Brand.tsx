import type { ReactNode } from "react";

export function Brand(): ReactNode {
  return (
    <svg viewBox="0 0 26 12" width="26" height="12" aria-hidden="true">
      <path
        d="M1 1c0 6 5 9.5 12 9.5S25 7 25 1"
        fill="none"
        stroke="currentColor"
        strokeWidth="2.2"
        strokeLinecap="round"
      />
    </svg>
  );
}
