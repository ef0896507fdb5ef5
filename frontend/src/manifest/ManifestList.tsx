import { useInfiniteQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { client, data } from "../api/client";
import { keys } from "../api/queries";
import { count, moment } from "../parts/format";
import { STATE_WORDS } from "./ManifestPage";
import "../parts/grid.css";
import "./manifest.css";

const LIVE = ["queued", "running", "undoing"];
const TROUBLED = ["failed", "partly done", "partly undone", "stopped"];

/** Every manifest that one may see, the newest first: what runs, what failed, what was done, what is planned. */
export default function ManifestList(): ReactNode {
  const [mine, setMine] = useState(false);
  const pages = useInfiniteQuery({
    queryKey: keys.manifests(mine),
    initialPageParam: null as number | null,
    queryFn: ({ pageParam }) =>
      data(client.GET("/api/manifests", { params: { query: { mine, before: pageParam ?? undefined } } })),
    getNextPageParam: (page) => page.next ?? null,
    refetchInterval: (query) =>
      query.state.data?.pages.some((page) => page.manifests.some((one) => LIVE.includes(one.state))) ? 1500 : false,
  });
  const list = pages.data?.pages.flatMap((page) => page.manifests) ?? [];
  return (
    <main className="manifest-list">
      <div className="ledger-head">
        <h1>Manifests</h1>
        <fieldset className="switch">
          <legend className="hidden">Whose</legend>
          {[false, true].map((only) => (
            <button
              key={String(only)}
              type="button"
              className="plain"
              aria-pressed={mine === only}
              onClick={() => setMine(only)}
            >
              {only ? "mine" : "all that I may see"}
            </button>
          ))}
        </fieldset>
      </div>
      <p className="quiet small">
        Every change of the drive is a manifest. To rename or move many documents, open their folder in{" "}
        <Link to="/drive">Drive</Link> and choose “Rename or move many”.
      </p>
      {list.length === 0 && !pages.isPending ? (
        <div className="empty">
          <h2>No manifest yet</h2>
          <p>What is filed, renamed, moved or planned from now on is listed here.</p>
        </div>
      ) : (
        <table className="manifests">
          <thead>
            <tr>
              <th scope="col">#</th>
              <th scope="col">What</th>
              <th scope="col">Lines</th>
              <th scope="col">State</th>
              <th scope="col">Who</th>
              <th scope="col">When</th>
            </tr>
          </thead>
          <tbody>
            {list.map((one) => (
              <tr key={one.id}>
                <td className="number">{one.id}</td>
                <td>
                  <Link to={`/manifests/${one.id}`}>{one.title}</Link>
                </td>
                <td className="number">{count(one.lines)}</td>
                <td
                  className={
                    TROUBLED.includes(one.state)
                      ? "signal"
                      : one.state === "checked" || LIVE.includes(one.state)
                        ? ""
                        : "quiet"
                  }
                >
                  {STATE_WORDS[one.state] ?? one.state}
                  {LIVE.includes(one.state) && one.partial && ` ${count(one.progress)} of ${count(one.lines)}`}
                  {one.problem && one.problem !== "tried" && <span className="small">: {one.problem}</span>}
                </td>
                <td>{one.mine ? "me" : one.by}</td>
                <td className="nowrap quiet">{moment(one.ran_at ?? one.at)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {pages.hasNextPage && (
        <button type="button" className="button" onClick={() => void pages.fetchNextPage()}>
          Show older ones
        </button>
      )}
    </main>
  );
}
