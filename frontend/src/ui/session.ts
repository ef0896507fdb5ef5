// Who is logged in, for the screens.
import { createContext, useContext } from "react";
import type { Schemas } from "../api/client";

export type Session = { me: Schemas["Me"]; logOut: () => void };

export const SessionContext = createContext<Session | null>(null);

export function useSession(): Session {
  const session = useContext(SessionContext);
  if (session === null) throw new Error("useSession is used inside the session's provider only");
  return session;
}
