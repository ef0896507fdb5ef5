// A context menu: opened by the right button, Shift+F10 or the menu key.
import { Dropdown } from "antd";
import { type KeyboardEvent, type ReactNode, useMemo } from "react";
import "./menu.css";
import { useFocusBack } from "./focus";
import { useLayer } from "./layers";

/** What a menu offers; one that is `off` is left out: nobody is offered what they may not do. */
export type Act = { label: string; keys?: string; run: () => void; off?: boolean } | "line";
export type MenuAt = { left: number; top: number; title: string; acts: Act[] };

/** What can be done, without lines that part nothing. */
function offered(acts: Act[]): Act[] {
  const can = acts.filter((act) => act === "line" || !act.off);
  return can.filter(
    (act, index) => act !== "line" || (index > 0 && index < can.length - 1 && can[index - 1] !== "line"),
  );
}

/** A menu at a place of the screen; focus goes into it, and back to where it was when it closes. */
export function Menu(props: { at: MenuAt; onClose: () => void }): ReactNode {
  const { at, onClose } = props;
  useLayer();
  const back = useFocusBack();
  const items = useMemo(
    () =>
      offered(at.acts).map((act, index) =>
        act === "line"
          ? { type: "divider" as const, key: `line ${index}` }
          : {
              key: act.label,
              label: act.label,
              extra: act.keys && <kbd>{act.keys}</kbd>,
              onClick: () => {
                onClose();
                // a dialog that the act opens gives the focus back to where the menu was opened
                back();
                act.run();
              },
            },
      ),
    [at, onClose, back],
  );
  const press = (event: KeyboardEvent) => {
    if (event.key !== "Escape") event.stopPropagation();
    if (event.key.length !== 1 || event.key === " " || event.ctrlKey || event.metaKey) return;
    // a letter goes to the next act that begins with it (the ARIA menu pattern; the library has no such key)
    const acts = [...document.querySelectorAll<HTMLElement>('.menu-acts [role="menuitem"]')];
    const here = acts.indexOf(document.activeElement as HTMLElement);
    const next = [...acts.slice(here + 1), ...acts.slice(0, here + 1)];
    next.find((act) => act.textContent?.toLowerCase().startsWith(event.key.toLowerCase()))?.focus();
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: it keeps the menu's keys from the screen behind
    <span className="menu-place" style={{ left: at.left, top: at.top }} onKeyDown={press}>
      <Dropdown
        open
        autoFocus
        trigger={["click"]}
        placement="bottomLeft"
        menu={{ items, "aria-label": at.title, className: "menu-acts" }}
        // an act closes it by itself, before it is done
        onOpenChange={(open, { source }) => !open && source === "trigger" && onClose()}
      >
        <span />
      </Dropdown>
    </span>
  );
}
