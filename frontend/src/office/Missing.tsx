import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { client, data } from "../api/client";
import { keys } from "../api/keys";
import { ago, count, day } from "../ui/format";
import { Failed, Loading } from "../ui/states";
import styles from "../ui/text.module.css";
import "../ui/acts.css";
import "./office.css";

const STALE_DAYS = 7;
const TOLD_DAYS = 14;
const DAY_MS = 86_400_000;

/** What is still missing for everyday work, and how to mend each. */
export function Missing(): ReactNode {
  const missing = useQuery({ queryKey: keys.missing, queryFn: () => data(client.GET("/api/office/missing")) });
  if (missing.isError) return <Failed what="What is missing" error={missing.error} onAgain={missing.refetch} />;
  if (!missing.data) return <Loading rows={4} />;
  const { without_password, administrators, backup_at, reachable, areas, certificate_ends } = missing.data;
  const stale = !backup_at || Date.now() - Date.parse(backup_at) > STALE_DAYS * DAY_MS;
  const lines: [string, ReactNode, ReactNode][] = [];
  if (!areas)
    lines.push([
      "No area yet",
      "Nothing can be filed before there is one.",
      <Link key="to" to="/office/areas">
        Make areas
      </Link>,
    ]);
  if (without_password.length)
    lines.push([
      `${count(without_password.length)} without a password`,
      `${without_password.slice(0, 5).join(", ")}: send the link, or make a new one.`,
      <Link key="to" to="/office/people">
        Go to People
      </Link>,
    ]);
  if (administrators < 2)
    lines.push([
      "No second administrator",
      "If you cannot log in one day, nobody can add people. Make somebody else administrator, too.",
      <Link key="to" to="/office/people">
        Go to People
      </Link>,
    ]);
  if (stale)
    lines.push([
      backup_at ? `The last backup was made ${ago(backup_at)}` : "No backup was made yet",
      <>
        On the machine that runs Waka: <span className="mono">./waka backup FOLDER</span>, on another disk, every night.
      </>,
      null,
    ]);
  if (!reachable)
    lines.push([
      "Not reachable from other machines",
      <>
        Start Waka with <span className="mono">--tls CERT KEY</span>, or behind a proxy that speaks TLS: docs/running.md
        says how.
      </>,
      null,
    ]);
  if (certificate_ends && Date.parse(certificate_ends) - Date.now() < TOLD_DAYS * DAY_MS)
    lines.push([
      `The certificate ends on ${day(certificate_ends.slice(0, 10))}`,
      "Put a new one in its place on the machine that runs Waka, and send SIGHUP: docs/running.md says how.",
      null,
    ]);
  if (!lines.length) return <p className="ok">Nothing is missing.</p>;
  return (
    <ul className="missing-list">
      {lines.map(([title, told, act]) => (
        <li key={title}>
          <div>
            <b>{title}</b>
            <p className={styles.quiet}>{told}</p>
          </div>
          {act}
        </li>
      ))}
    </ul>
  );
}
