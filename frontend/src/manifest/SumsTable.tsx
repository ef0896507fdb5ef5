import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { client, data } from "../api/client";
import { keys } from "../api/queries";
import { count } from "../parts/format";
import { shortest } from "./shortest";

const SHOWN = 12;

/** What is in each folder before, what leaves and arrives, and what should be there after. */
export function SumsTable(props: { manifest: number; state: string }): ReactNode {
  const sums = useQuery({
    queryKey: [...keys.manifestSums(props.manifest), props.state],
    queryFn: () =>
      data(client.GET("/api/manifests/{manifest}/sums", { params: { path: { manifest: props.manifest } } })),
  });
  const folders = sums.data?.folders ?? [];
  if (!folders.length) return null;
  const types: Record<string, number> = {};
  for (const folder of folders)
    for (const [type, flow] of Object.entries(folder.types)) types[type] = (types[type] ?? 0) + Number(flow[1] ?? 0);
  const kept = folders.filter((one) => one.arriving > 0 && one.before > one.leaving);
  const short = shortest(folders.map((one) => one.place));
  return (
    <section className="sums">
      <h2 className="label">What should be there after</h2>
      <table>
        <thead>
          <tr>
            <th scope="col">documents in</th>
            <th scope="col">before</th>
            <th scope="col">leave</th>
            <th scope="col">come</th>
            <th scope="col">after</th>
          </tr>
        </thead>
        <tbody>
          {folders.slice(0, SHOWN).map((one) => (
            <tr key={one.place}>
              <th scope="row" title={one.place}>
                {short.get(one.place)}
              </th>
              <td>{count(one.before)}</td>
              <td>{one.leaving ? count(one.leaving) : ""}</td>
              <td>{one.arriving ? count(one.arriving) : ""}</td>
              <td>
                <b>{count(one.after)}</b>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="small quiet">
        {folders.length > SHOWN && `${count(folders.length - SHOWN)} folders more. `}
        {Object.entries(types)
          .map(([type, n]) => `${count(n)} ${type}`)
          .join(", ")}
        {kept.length > 0 &&
          `. ${kept
            .slice(0, 3)
            .map((one) => `${count(one.before - one.leaving)} are in ${short.get(one.place)} already`)
            .join("; ")}: that is why what is there after is more than what comes.`}
      </p>
    </section>
  );
}
