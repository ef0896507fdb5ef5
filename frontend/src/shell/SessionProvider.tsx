// Who is logged in; without a session there is only the log-in. Where a session ends while a page is open, the page waits behind it
// as it is: what was being typed is there again, with the focus in it, when the same person is back.

import { onlineManager, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { client, data, type Schemas, setCsrf, Trouble } from "../api/client";
import { askAllAgain } from "../api/keys";
import { belongTo } from "../parts/typing/drafts";
import { words } from "../ui/notices";
import { SessionContext } from "../ui/session";
import { Login } from "./Login";

/** Lets nobody see or reach a page until its person is back. */
function Aside(props: { aside: boolean; children: ReactNode }): ReactNode {
  const focused = useRef<HTMLElement | null>(null);
  const before = useRef(props.aside);
  if (props.aside && !before.current)
    focused.current = document.activeElement instanceof HTMLElement ? document.activeElement : null;
  before.current = props.aside;
  useEffect(() => {
    if (!props.aside) focused.current?.focus();
  }, [props.aside]);
  return (
    <div className="session" hidden={props.aside} inert={props.aside}>
      {props.children}
    </div>
  );
}

export function SessionProvider(props: { children: ReactNode }): ReactNode {
  const queries = useQueryClient();
  const [me, setMe] = useState<Schemas["Me"] | null | undefined>(undefined);
  const [ended, setEnded] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const last = useRef<number | null>(null);

  const enter = useCallback(
    (who: Schemas["Me"]) => {
      setCsrf(who.csrf);
      belongTo(who.id);
      setProblem(null);
      // what was asked for by somebody else is not theirs to see
      if (last.current !== null && last.current !== who.id) queries.clear();
      else void askAllAgain(queries);
      last.current = who.id;
      setMe(who);
      setEnded(false);
    },
    [queries],
  );

  useEffect(() => {
    data(client.GET("/api/session")).then(enter, (error: unknown) => {
      if (!(error instanceof Trouble && error.status === 401)) setProblem(words(error));
      setMe(null);
    });
  }, [enter]);

  // a session that ends while a page is open leads back to the log-in, at the same address
  useEffect(
    () =>
      queries.getQueryCache().subscribe((event) => {
        // an error of before is still there while a query is asked anew
        const error = event.type === "updated" && event.action.type === "error" ? event.action.error : null;
        if (error instanceof Trouble && error.code === "log-in") setEnded(true);
      }),
    [queries],
  );

  // nothing is asked for meanwhile: it would only be refused
  useEffect(() => {
    onlineManager.setOnline(!ended);
  }, [ended]);

  const logOut = useCallback(() => {
    data(client.DELETE("/api/session")).finally(() => {
      queries.clear();
      belongTo(null);
      last.current = null;
      setMe(null);
      setEnded(false);
    });
  }, [queries]);

  const value = useMemo(() => (me ? { me, logOut } : null), [me, logOut]);
  if (me === undefined) return <div aria-busy="true" />;
  if (value === null) return <Login onEnter={enter} problem={problem} />;
  return (
    <>
      {ended && <Login onEnter={enter} problem={problem} ended={value.me.name} />}
      <Aside key={value.me.id} aside={ended}>
        <SessionContext value={value}>{props.children}</SessionContext>
      </Aside>
    </>
  );
}
