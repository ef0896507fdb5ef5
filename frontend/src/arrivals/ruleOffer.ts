import { useCallback } from "react";
import { useNavigate } from "react-router";
import { client, data, type Schemas } from "../api/client";
import { count } from "../ui/format";
import { type Notice, useNotices } from "../ui/notices";

/** After a paper was filed otherwise than the plan has it: where it was the second one, a rule is offered with the notice. */
export function useRuleOffer(): (filed: Schemas["SlipOut"], told: Notice) => Promise<void> {
  const navigate = useNavigate();
  const { tell } = useNotices();
  return useCallback(
    async (filed, told) => {
      const area = filed.area?.id;
      if (area === undefined || !(filed.place_edited || filed.tags.length > 0)) return;
      const found = await data(
        client.GET("/api/rulebooks/{folder}/offers", { params: { path: { folder: area } } }),
      ).catch(() => null); // an offer is no duty: what was filed is filed
      const offer = found?.offers.find((one) => one.documents.includes(filed.id));
      if (!offer) return;
      const run = () => void navigate(`/plan/${area}/rules?offer=${encodeURIComponent(offer.rule.name)}`);
      const text = `${told.text}. You filed ${count(offer.documents.length)} like that, not as the plan has it`;
      tell({ ...told, text, more: { label: "Make it a rule…", run } });
    },
    [navigate, tell],
  );
}
