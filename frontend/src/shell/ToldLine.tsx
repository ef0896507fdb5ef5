import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Alert, Button } from "antd";
import type { ReactNode } from "react";
import { client, data } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { moment } from "../ui/format";

/** What one is told until one has put it away: a password set by a link, access that somebody took. One at a time. */
export function ToldLine(): ReactNode {
  const queries = useQueryClient();
  const told = useQuery({ queryKey: keys.told, staleTime: 60_000, queryFn: () => data(client.GET("/api/me/told")) });
  const list = told.data?.told ?? [];
  const first = list[0];
  if (!first) return null;
  const seen = () =>
    void data(client.DELETE("/api/me/told/{own}", { params: { path: { own: first.id } } })).finally(() =>
      askAgain(queries, "me"),
    );
  return (
    <div role="status">
      <Alert
        className="away"
        role="presentation"
        banner
        showIcon={false}
        type="info"
        title={`${first.text} (${moment(first.at)})`}
        action={
          <Button size="small" onClick={seen}>
            {list.length > 1 ? `Put away, ${list.length - 1} more` : "Put away"}
          </Button>
        }
      />
    </div>
  );
}
