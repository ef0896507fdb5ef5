// Who is logged in; without a session there is only the log-in.
import { useQueryClient } from "@tanstack/react-query";
import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useState } from "react";
import { client, data, type Schemas, setCsrf, Trouble } from "../api/client";
import { belongTo } from "../parts/drafts";
import { Login } from "./Login";
import { words } from "./notices";

type Session = { me: Schemas["Me"]; logOut: () => void };

const Context = createContext<Session | null>(null);

export function SessionProvider(props: { children: ReactNode }): ReactNode {
  const queries = useQueryClient();
  const [me, setMe] = useState<Schemas["Me"] | null | undefined>(undefined);
  const [problem, setProblem] = useState<string | null>(null);

  const enter = useCallback((who: Schemas["Me"]) => {
    setCsrf(who.csrf);
    belongTo(who.id);
    setProblem(null);
    setMe(who);
  }, []);

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
        const error = event.query.state.error;
        if (error instanceof Trouble && error.code === "log-in") setMe(null);
      }),
    [queries],
  );

  const logOut = useCallback(() => {
    data(client.DELETE("/api/session")).finally(() => {
      queries.clear();
      belongTo(null);
      setMe(null);
    });
  }, [queries]);

  const value = useMemo(() => (me ? { me, logOut } : null), [me, logOut]);
  if (me === undefined) return <div aria-busy="true" />;
  if (value === null) return <Login onEnter={enter} problem={problem} />;
  return <Context value={value}>{props.children}</Context>;
}

export function useSession(): Session {
  const session = useContext(Context);
  if (session === null) throw new Error("useSession is used inside SessionProvider only");
  return session;
}
