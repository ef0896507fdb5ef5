import { Button, Input } from "antd";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { Link, Outlet, useLocation, useNavigate, useSearchParams } from "react-router";
import { usePulse } from "../api/queries";
import { UploadNote, UploadsProvider } from "../bringing/uploads";
import { Tray } from "../hand/Tray";
import { DropNote } from "../places/dragging";
import { Brand } from "../ui/Brand";
import { useKeyList } from "../ui/keys";
import { useSession } from "../ui/session";
import { AwayLine } from "./AwayLine";
import { ToldLine } from "./ToldLine";

const TYPING_MS = 160;

export function Shell(): ReactNode {
  const waiting = usePulse();
  const { me, logOut } = useSession();
  const showKeys = useKeyList();
  return (
    <UploadsProvider>
      <div className="shell">
        <header className="bar">
          <Link to="/" className="brand" aria-label="Waka">
            <Brand />
            waka
          </Link>
          <nav aria-label="Main">
            <Tab to="/arrivals" label="Arrivals" count={waiting} />
            <Tab
              to="/drive"
              label="Drive"
              also={["/documents", "/lately", "/tags", "/discards", "/readers", "/shared"]}
            />
            <Tab to="/find" label="Find" />
            <Tab to="/plan" label="Plan" />
            <Tab to="/manifests" label="Manifests" />
            <Tab to="/parties" label="Parties" />
            {me.administrator && <Tab to="/office" label="Office" />}
          </nav>
          <span className="spread" />
          <UploadNote />
          <FindBox />
          <div className="who">
            <Link to="/me" className="nowrap" title="Your name, password and sessions">
              {me.name}
            </Link>
            <Button type="text" size="small" onClick={showKeys}>
              Keys
            </Button>
            <Button type="text" size="small" onClick={logOut}>
              Log out
            </Button>
          </div>
        </header>
        <AwayLine />
        <ToldLine />
        <Outlet />
        <Tray />
        <DropNote />
      </div>
    </UploadsProvider>
  );
}

function Tab(props: { to: string; label: string; count?: number; also?: string[] }): ReactNode {
  const here = useLocation().pathname;
  const current = [props.to, ...(props.also ?? [])].some((path) => here.startsWith(path));
  return (
    <Link to={props.to} className="tab" aria-current={current ? "page" : undefined}>
      {props.label}
      {props.count ? <span className="count">{props.count}</span> : null}
    </Link>
  );
}

/** The box that finds as one types; it is the same as the address of the Find screen. */
function FindBox(): ReactNode {
  const navigate = useNavigate();
  const onFind = useLocation().pathname.startsWith("/find");
  const [parameters] = useSearchParams();
  const asked = onFind ? (parameters.get("q") ?? "") : "";
  const [text, setText] = useState(asked);
  const timer = useRef(0);
  const typed = useRef(false);
  useEffect(() => {
    if (!typed.current) setText(asked);
    typed.current = false;
  }, [asked]);
  const go = (query: string, replace: boolean) => {
    const next = new URLSearchParams(onFind ? parameters : undefined);
    next.set("q", query);
    void navigate(`/find?${next}`, { replace });
  };
  return (
    <search className="findbox">
      <Input
        id="find-box"
        value={text}
        placeholder="Find a record…"
        aria-label="Find a record"
        maxLength={300}
        onChange={(event) => {
          const next = event.target.value;
          setText(next);
          window.clearTimeout(timer.current);
          timer.current = window.setTimeout(() => {
            typed.current = true;
            go(next, onFind);
          }, TYPING_MS);
        }}
        onKeyDown={(event) => {
          if (event.key === "Escape") event.currentTarget.blur();
          if (event.key === "ArrowDown" || event.key === "Enter") {
            if (event.nativeEvent.isComposing) return;
            document.querySelector<HTMLElement>("[data-hit]")?.focus();
          }
        }}
      />
      <kbd>/</kbd>
    </search>
  );
}
