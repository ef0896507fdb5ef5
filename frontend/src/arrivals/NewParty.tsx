import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { useNotices, words } from "../ui/notices";
import type { Edit } from "./edits";

/**
 * The name at the head of this arrival that no party has yet: one press puts it into the register and on the slip. Where a party of
 * another area has it, one press puts that on the slip.
 */
export function NewParty(props: { slip: Schemas["SlipOut"]; onEdit: Edit }): ReactNode {
  const { slip, onEdit } = props;
  const queries = useQueryClient();
  const { tell } = useNotices();
  const [busy, setBusy] = useState(false);
  const unknown = useQuery({ queryKey: keys.unknown, queryFn: () => data(client.GET("/api/register/unknown")) });
  const register = useQuery({ queryKey: keys.register, queryFn: () => data(client.GET("/api/register")) });
  const found = unknown.data?.unknown.find((one) => one.arrivals.some((arrival) => arrival.document === slip.id));
  const mine = register.data?.enter ?? [];
  if (!found || !(found.party !== null || register.data?.common || mine.length)) return null;
  // for all areas, where one may; else for the one that it goes to, where that is one's own
  const area = register.data?.common ? null : ((mine.find(({ id }) => id === slip.area?.id) ?? mine[0])?.id ?? null);
  const enter = async () => {
    const { name, short, code, numbers } = found;
    const entered = await data(
      client.POST("/api/register", { body: { name, short, code, numbers, aliases: [], area } }),
    );
    tell({ text: `Added ${name} to the parties.` });
    return entered.card.id;
  };
  const take = async () => {
    setBusy(true);
    try {
      await onEdit({ facts: { party: { party: found.party ?? (await enter()) } } });
    } catch (error) {
      tell({ text: words(error), bad: true });
    } finally {
      setBusy(false);
      void askAgain(queries, "arrivals", "register");
    }
  };
  return (
    <Button size="small" loading={busy} onClick={() => void take()}>
      {found.party === null ? `Add “${found.name}” to the parties` : `It is from ${found.name}`}
    </Button>
  );
}
