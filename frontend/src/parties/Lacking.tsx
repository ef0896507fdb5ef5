import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { count } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import styles from "../ui/text.module.css";

type Found = Pick<Schemas["PartyCardForm"], "name" | "short" | "code" | "numbers">;

/** Names at the head of what waits that no entry bears, offered with what is known of them. */
export function Lacking(props: { mayEnter: boolean; onEnter: (found: Found) => void }): ReactNode {
  const unknown = useQuery({ queryKey: keys.unknown, queryFn: () => data(client.GET("/api/register/unknown")) });
  const found = unknown.data?.unknown.filter((one) => one.party === null) ?? [];
  if (!found.length) return null;
  return (
    <section className="lacking-parties" aria-label="Not in the register">
      <h2 className="label">On arrivals, and not in the register</h2>
      <ul>
        {found.slice(0, 6).map((one) => (
          <li key={one.name}>
            <b>{one.name}</b>
            {one.numbers.length > 0 && <span className={styles.quiet}> {one.numbers.join(", ")}</span>}{" "}
            <Link className={styles.small} to={`/arrivals/${one.arrivals[0]?.document ?? ""}`}>
              {one.arrivals.length === 1 ? one.arrivals[0]?.name : `${count(one.arrivals.length)} arrivals`}
            </Link>{" "}
            {props.mayEnter && (
              <LinkButton
                onClick={() =>
                  props.onEnter({ name: one.name, short: one.short, code: one.code, numbers: one.numbers })
                }
              >
                Add to the register
              </LinkButton>
            )}
          </li>
        ))}
      </ul>
      {found.length > 6 && <p className={`${styles.small} ${styles.quiet}`}>and {count(found.length - 6)} more</p>}
    </section>
  );
}
