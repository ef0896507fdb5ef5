import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { type ReactNode, useEffect, useRef } from "react";
import { useSearchParams } from "react-router";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { several } from "../ui/format";
import styles from "../ui/text.module.css";
import { Sentence } from "./Sentence";
import type { Rule } from "./tree";

/** Rules from what one filed by hand lately, other than plan and rules have it; one that the address names is taken at once. */
export function Offers(props: {
  kept: Schemas["RulebookOut"];
  rules: Rule[];
  onTake: (rule: Rule) => void;
}): ReactNode {
  const { kept, rules, onTake } = props;
  const [query, setQuery] = useSearchParams();
  const wanted = query.get("offer");
  const offered = useQuery({
    queryKey: keys.ruleOffers(kept.area),
    enabled: kept.keeps,
    queryFn: () => data(client.GET("/api/rulebooks/{folder}/offers", { params: { path: { folder: kept.area } } })),
  });
  const taken = useRef(false);
  const offers = (offered.data?.offers ?? []).filter((one) => !rules.some((rule) => rule.name === one.rule.name));
  const first = offers.find((one) => one.rule.name === wanted);
  useEffect(() => {
    if (!first || taken.current) return;
    taken.current = true;
    setQuery({}, { replace: true });
    onTake(first.rule);
  }, [first, onTake, setQuery]);
  if (!offers.length) return null;
  return (
    <section className="rule-offers" aria-label="From what you did">
      <h3 className="label">From what you did</h3>
      {offers.slice(0, 3).map((one) => (
        <div key={one.rule.name}>
          <p className={styles.quiet}>You filed {several(one.documents.length, "paper")} so:</p>
          <Sentence rule={one.rule} />
          <Button size="small" onClick={() => onTake(one.rule)}>
            Make it a rule
          </Button>
        </div>
      ))}
    </section>
  );
}
