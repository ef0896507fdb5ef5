import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { type ReactNode, useState } from "react";
import { client, data } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { useNotices, words } from "../ui/notices";

/** The name at the head of this arrival that no party has yet: one press puts it into the register, and the slip knows it. */
export function NewParty(props: { document: number }): ReactNode {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const [busy, setBusy] = useState(false);
  const unknown = useQuery({ queryKey: keys.unknown, queryFn: () => data(client.GET("/api/register/unknown")) });
  const register = useQuery({ queryKey: keys.register, queryFn: () => data(client.GET("/api/register")) });
  const mayEnter = register.data?.common || (register.data?.enter.length ?? 0) > 0;
  // for all areas, where one may; else for one's own
  const area = register.data?.common ? null : (register.data?.enter[0]?.id ?? null);
  const found = unknown.data?.unknown.find((one) =>
    one.arrivals.some((arrival) => arrival.document === props.document),
  );
  if (!found || !mayEnter) return null;
  const enter = () => {
    setBusy(true);
    const { name, short, code, numbers } = found;
    data(client.POST("/api/register", { body: { name, short, code, numbers, aliases: [], area } }))
      .then(
        () => tell({ text: `Added ${name} to the parties. Arrivals are checked again for it.` }),
        (error: unknown) => tell({ text: words(error), bad: true }),
      )
      .finally(() => {
        setBusy(false);
        void askAgain(queries, "arrivals", "register");
      });
  };
  return (
    <Button size="small" loading={busy} onClick={enter}>
      Add “{found.name}” to the parties
    </Button>
  );
}
