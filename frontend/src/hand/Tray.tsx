import { Checkbox } from "antd";
import { type ReactNode, useMemo, useRef, useState } from "react";
import { useLocation } from "react-router";
import { useFolder } from "../api/queries";
import { FolderChooser, type Target } from "../places/FolderChooser";
import { POLICIES, type Putting, VERBS } from "../places/moving";
import { changesSight, SightTold } from "../places/SightTold";
import { inside, stays, useSight } from "../places/sight";
import { count, cut } from "../ui/format";
import { type Key, useKeys } from "../ui/keys";
import { useNotices } from "../ui/notices";
import "./hand.css";
import { SAY } from "../ui/wording";
import { type Held, useHand, useHandActs } from "./useHand";

const SHOWN = 40;
/** The ways of putting down, before who would see it then. */
const HERE: Record<Putting, string> = { move: "Put down here", copy: "Copied here", also: "Filed here too" };

/** At the foot of every screen while something is in hand: what it is, and what can be done with it here. */
export function Tray(): ReactNode {
  const held = useHand();
  return held.length ? <Carried held={held} /> : null;
}

function Carried(props: { held: Held[] }): ReactNode {
  const { held } = props;
  const { letGo, putDown } = useHandActs();
  const { tell } = useNotices();
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  // where it is put down by what is chosen in a dialog; at a folder where names are taken
  const [elsewhere, setElsewhere] = useState<{ how: Putting; at?: Target } | null>(null);
  const at = /^\/drive\/(\d+)/.exec(useLocation().pathname)?.[1];
  const here = useFolder(at ? Number(at) : null, false).data;
  const some = held.filter((one) => chosen.has(one.entry));
  const what = some.length ? some : held;
  const named = what.length === 1 ? cut(what[0]?.name ?? "", 34) : count(what.length);
  const path = here?.path.map((step) => step.name).join(" / ") ?? "";
  const may = here?.may_file === true;
  // who would see it is told for the way that one points at, else for the first
  const [meant, setMeant] = useState<Putting>("move");
  const first = () => setMeant("move");
  const pointed = (how: Putting) => ({
    onPointerEnter: () => setMeant(how),
    onFocus: () => setMeant(how),
    onPointerLeave: first,
    onBlur: first,
  });
  const entries = what.map((one) => one.entry);
  const sight = useSight(entries, may && here ? here.id : null, stays(meant), inside(meant));
  const put = async (how: Putting) => {
    if (!here) return;
    const wrong = await putDown(what, how, here.id, path, null, () =>
      setElsewhere({ how, at: { folder: here.id, path } }),
    );
    if (wrong) tell({ text: wrong, bad: true });
    else setChosen(new Set());
  };
  // the keys stay registered while what they put down changes
  const latest = useRef(put);
  latest.current = put;
  const keys = useMemo<Key[]>(
    () => [
      {
        keys: "Ctrl+V",
        what: "Put what is in hand here",
        match: (e) => (e.ctrlKey || e.metaKey) && !e.shiftKey && e.key === "v",
        run: () => void latest.current("move"),
      },
      {
        keys: "Ctrl+Shift+V",
        what: "Copy what is in hand here",
        match: (e) => (e.ctrlKey || e.metaKey) && e.shiftKey && e.key.toLowerCase() === "v",
        run: () => void latest.current("copy"),
      },
    ],
    [],
  );
  useKeys(keys);
  return (
    <aside className="tray" aria-label="In hand">
      {/* above the buttons, which stay where they are when it comes and goes */}
      <div role="status">
        {changesSight(sight) && (
          <p className="tray-sight">
            {HERE[meant]}: <SightTold sight={sight} />
          </p>
        )}
      </div>
      <div className="tray-row">
        <button type="button" className="plain" aria-expanded={open} onClick={() => setOpen(!open)}>
          <b>{count(held.length)} in hand</b> {open ? "▾" : "▴"}
        </button>
        <span className="tray-names">
          {held
            .slice(0, 3)
            .map((one) => cut(one.name, 34))
            .join(", ")}
          {held.length > 3 && " …"}
        </span>
        {may ? (
          <>
            <button type="button" className="tray-act first" {...pointed("move")} onClick={() => void put("move")}>
              Put {named} down here <kbd>Ctrl+V</kbd>
            </button>
            <button type="button" className="tray-act" {...pointed("copy")} onClick={() => void put("copy")}>
              Copy here
            </button>
            <button type="button" className="tray-act" {...pointed("also")} onClick={() => void put("also")}>
              File here too
            </button>
          </>
        ) : (
          here && <span>You may not file in {here.name}.</span>
        )}
        <button type="button" className="tray-act" onClick={() => setElsewhere({ how: "move" })}>
          Put down in…
        </button>
        <button
          type="button"
          className="tray-act"
          onClick={() => void letGo(some.length ? some.map((one) => one.entry) : null)}
        >
          {SAY.cancel}
        </button>
      </div>
      {open && (
        <ul className="tray-list" aria-label="What is in hand">
          {held.slice(0, SHOWN).map((one) => (
            <li key={one.entry}>
              <Checkbox
                checked={chosen.has(one.entry)}
                onChange={(event) => {
                  const next = new Set(chosen);
                  if (event.target.checked) next.add(one.entry);
                  else next.delete(one.entry);
                  setChosen(next);
                }}
              >
                <span className="mono">{one.name}</span> <span>{one.path}</span>
              </Checkbox>
            </li>
          ))}
          {held.length > SHOWN && <li>and {count(held.length - SHOWN)} more</li>}
        </ul>
      )}
      {elsewhere && (
        <FolderChooser
          title={`Put down ${named === count(what.length) ? `${named} documents` : named}`}
          verb={VERBS[elsewhere.how]}
          entries={entries}
          without={what.flatMap((one) => one.folder ?? []).slice(0, 100)}
          stays={stays(elsewhere.how)}
          inside={inside(elsewhere.how)}
          near={here?.id ?? null}
          at={elsewhere.at}
          policies={POLICIES[elsewhere.how]}
          onChoose={async (folder, to, taken) => {
            const wrong = await putDown(what, elsewhere.how, folder, to, taken);
            if (!wrong) setElsewhere(null);
            return wrong;
          }}
          onClose={() => setElsewhere(null)}
        />
      )}
    </aside>
  );
}
