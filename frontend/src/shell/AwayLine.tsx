import { useQueryClient } from "@tanstack/react-query";
import { Alert } from "antd";
import { type ReactNode, useEffect, useRef } from "react";
import { askAllAgain } from "../api/keys";
import { useAway } from "../api/reach";

/** While the server does not answer, a line says so; when it is back, all that is shown is asked for anew. */
export function AwayLine(): ReactNode {
  const queries = useQueryClient();
  const away = useAway();
  const was = useRef(away);
  useEffect(() => {
    if (was.current && !away) void askAllAgain(queries);
    was.current = away;
  }, [away, queries]);
  return (
    <div role="status">
      {away && (
        <Alert
          className="away"
          role="presentation"
          banner
          showIcon={false}
          type="warning"
          title="Waka does not answer. What you typed stays here, and the page goes on by itself when Waka is back."
        />
      )}
    </div>
  );
}
