import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas, Trouble } from "../api/client";
import { FolderChooser } from "../places/FolderChooser";
import { count, moment } from "../ui/format";
import { useUndoAction } from "../ui/keys";
import { LinkButton } from "../ui/LinkButton";
import { useNotices, words } from "../ui/notices";
import "./discards.css";

type Discard = Schemas["DiscardOut"];

/** What was discarded, by whom and from where; each is brought back to its place, or to another. */
export default function DiscardsPage(): ReactNode {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const [choosing, setChoosing] = useState<Discard | null>(null);
  const [clash, setClash] = useState<{ one: Discard; folder: number | null; told: string } | null>(null);
  const pages = useInfiniteQuery({
    queryKey: ["discards"],
    initialPageParam: null as string | null,
    queryFn: ({ pageParam }) =>
      data(client.GET("/api/discards", { params: { query: { before: pageParam ?? undefined } } })),
    getNextPageParam: (page) => page.next ?? null,
  });
  const rows = pages.data?.pages.flatMap((page) => page.discards) ?? [];

  const restore = async (
    one: Discard,
    folder: number | null,
    taken: "stop" | "both" = "stop",
  ): Promise<string | null> => {
    try {
      await data(
        client.POST("/api/discards/{entry}/restore", {
          params: { path: { entry: one.entry } },
          body: { folder, taken },
        }),
      );
      tell({ text: `Restored ${one.name}`, action: { label: "Undo", run: undo } });
      setChoosing(null);
      setClash(null);
      await queries.invalidateQueries();
      return null;
    } catch (error) {
      if (error instanceof Trouble && error.code === "taken") {
        setChoosing(null);
        setClash({ one, folder, told: error.message });
        return null;
      }
      return words(error);
    }
  };
  const folders =
    useQuery({ queryKey: ["discards", "folders"], queryFn: () => data(client.GET("/api/discards/folders")) }).data
      ?.folders ?? [];
  const whole = async (one: Schemas["DiscardedFolderOut"]) => {
    try {
      const params = { path: { manifest: one.manifest } };
      await data(client.POST("/api/discards/folders/{manifest}/restore", { params }));
      tell({ text: `Restored the folder ${one.name}`, action: { label: "Undo", run: undo } });
      await queries.invalidateQueries();
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
  };
  const back = (one: Discard) => void restore(one, null).then((wrong) => wrong && tell({ text: wrong, bad: true }));

  return (
    <main className="main discards">
      <h1>Discards</h1>
      <p className="quiet">What was discarded is kept here, whole, until it is brought back.</p>
      {clash && (
        <div className="ask" role="alert">
          {clash.told}{" "}
          <LinkButton onClick={() => void restore(clash.one, clash.folder, "both")}>
            Keep both, this one with a number
          </LinkButton>{" "}
          <LinkButton onClick={() => setChoosing(clash.one)}>Choose another place</LinkButton>
        </div>
      )}
      {folders.length > 0 && (
        <section aria-label="Folders that were discarded whole">
          <h2 className="label">Folders</h2>
          <table>
            <tbody>
              {folders.map((one) => (
                <tr key={one.manifest}>
                  <td>
                    <b>{one.name}</b>{" "}
                    <span className="quiet">
                      {one.documents === 1 ? "1 document" : `${count(one.documents)} documents`}
                    </span>
                  </td>
                  <td>{one.path}</td>
                  <td className="nowrap">{moment(one.at)}</td>
                  <td className="nowrap">{one.by}</td>
                  <td className="nowrap">
                    <Button size="small" onClick={() => void whole(one)}>
                      Restore the whole folder<span className="hidden"> {one.name}</span>
                    </Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <h2 className="label documents-label">Documents</h2>
        </section>
      )}
      {rows.length === 0 && folders.length === 0 && !pages.isPending ? (
        <div className="empty">
          <h2>Nothing is discarded</h2>
          <p>Documents that are discarded in the drive come here, with who did it and from where.</p>
        </div>
      ) : (
        <table>
          <thead>
            <tr>
              <th scope="col">Name</th>
              <th scope="col">From</th>
              <th scope="col">Discarded</th>
              <th scope="col">By</th>
              <th scope="col">
                <span className="hidden">Bring back</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((one) => (
              <tr key={one.entry}>
                <td className="mono">{one.name}</td>
                <td>{one.path ?? <span className="signal">a folder that is gone</span>}</td>
                <td className="nowrap">{moment(one.at)}</td>
                <td className="nowrap">{one.by}</td>
                <td className="nowrap">
                  {one.path !== null && (
                    <Button size="small" onClick={() => back(one)}>
                      Restore<span className="hidden"> {one.name}</span>
                    </Button>
                  )}{" "}
                  <Button size="small" onClick={() => setChoosing(one)}>
                    Restore to…<span className="hidden"> {one.name}</span>
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {pages.hasNextPage && (
        <p>
          <Button onClick={() => void pages.fetchNextPage()}>Show earlier ones</Button>
        </p>
      )}
      {choosing && (
        <FolderChooser
          title={`Restore ${choosing.name}`}
          verb="Restore to"
          entries={[]}
          stays={false}
          near={null}
          onChoose={(folder) => restore(choosing, folder)}
          onClose={() => setChoosing(null)}
        />
      )}
    </main>
  );
}
