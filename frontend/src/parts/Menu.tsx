// A context menu: opened by the right button, Shift+F10 or the menu key; arrow keys by the ARIA menu pattern.
import { type KeyboardEvent, type ReactNode, useEffect, useLayoutEffect, useRef } from "react";
import "./menu.css";

export type Act = { label: string; keys?: string; run: () => void; off?: boolean } | "line";
export type MenuAt = { left: number; top: number; title: string; acts: Act[] };

/** A menu at a place of the screen; focus goes into it, and back to where it was when it closes. */
export function Menu(props: { at: MenuAt; onClose: () => void }): ReactNode {
  const { at, onClose } = props;
  const box = useRef<HTMLDivElement>(null);
  const before = useRef<HTMLElement | null>(null);
  useLayoutEffect(() => {
    const menu = box.current;
    if (!menu) return;
    before.current = document.activeElement as HTMLElement | null;
    menu.style.left = `${Math.max(Math.min(at.left, window.innerWidth - menu.offsetWidth - 8), 8)}px`;
    menu.style.top = `${Math.max(Math.min(at.top, window.innerHeight - menu.offsetHeight - 8), 8)}px`;
    menu.querySelector<HTMLElement>('[role="menuitem"]:not([aria-disabled])')?.focus();
  }, [at]);
  useEffect(() => {
    const outside = (event: Event) => {
      if (!box.current?.contains(event.target as Node)) onClose();
    };
    window.addEventListener("pointerdown", outside, true);
    window.addEventListener("blur", onClose);
    return () => {
      window.removeEventListener("pointerdown", outside, true);
      window.removeEventListener("blur", onClose);
    };
  }, [onClose]);
  const close = () => {
    onClose();
    before.current?.focus();
  };
  const press = (event: KeyboardEvent) => {
    event.stopPropagation();
    const items = [...(box.current?.querySelectorAll<HTMLElement>('[role="menuitem"]:not([aria-disabled])') ?? [])];
    const here = items.indexOf(document.activeElement as HTMLElement);
    if (event.key === "Escape" || event.key === "Tab") close();
    else if (event.key === "ArrowDown") items[(here + 1) % items.length]?.focus();
    else if (event.key === "ArrowUp") items[(here - 1 + items.length) % items.length]?.focus();
    else if (event.key === "Home") items[0]?.focus();
    else if (event.key === "End") items.at(-1)?.focus();
    else if (event.key === "Enter" || event.key === " ") (document.activeElement as HTMLElement | null)?.click();
    else if (event.key.length === 1) {
      const next = [...items.slice(here + 1), ...items.slice(0, here + 1)];
      next.find((item) => item.textContent?.toLowerCase().startsWith(event.key.toLowerCase()))?.focus();
    } else return;
    event.preventDefault();
  };
  return (
    <div ref={box} className="menu" role="menu" tabIndex={-1} aria-label={at.title} onKeyDown={press}>
      {at.acts.map((act, index) =>
        act === "line" ? (
          // biome-ignore lint/suspicious/noArrayIndexKey: a menu is drawn once
          <hr key={index} />
        ) : (
          // biome-ignore lint/a11y/useKeyWithClickEvents: the menu takes the keys
          <div
            key={act.label}
            role="menuitem"
            tabIndex={-1}
            aria-disabled={act.off ? true : undefined}
            onClick={() => {
              if (act.off) return;
              close();
              act.run();
            }}
          >
            <span>{act.label}</span>
            {act.keys && <kbd>{act.keys}</kbd>}
          </div>
        ),
      )}
    </div>
  );
}
