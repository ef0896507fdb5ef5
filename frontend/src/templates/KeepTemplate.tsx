import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { moment } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import { useNotices, words } from "../ui/notices";
import { PickOne } from "../ui/PickOne";
import { Problem } from "../ui/Problem";
import styles from "../ui/text.module.css";

type Template = Schemas["TemplateOut"];
type Props = {
  from: Template | null;
  text: string;
  /** The folder that one looks at: its area gets new templates first. */
  near: number;
  onKept: (template: Template | null) => void;
};

/** The lines kept as a template: a new one, another revision of one, an earlier revision again, or taken out. */
export function KeepTemplate(props: Props): ReactNode {
  const { from, text } = props;
  const queries = useQueryClient();
  const { tell } = useNotices();
  const [name, setName] = useState(from?.name ?? "");
  const [problem, setProblem] = useState<string | null>(null);
  const areas = useQuery({ queryKey: keys.areas, queryFn: () => data(client.GET("/api/plans")) });
  const path = useQuery({
    queryKey: keys.areaOf(props.near),
    queryFn: () => data(client.GET("/api/folders/{folder}", { params: { path: { folder: props.near } } })),
  });
  const kept = areas.data?.areas.filter((one) => one.keeps) ?? [];
  const here = path.data?.path[0]?.id;
  const [chosen, setChosen] = useState<number | null>(null);
  const area = chosen ?? kept.find((one) => one.id === here)?.id ?? kept[0]?.id ?? null;
  const lines = text.split("\n");
  const same =
    from !== null && name.trim() === from.name && lines.filter((l) => l.trim()).join("\n") === from.lines.join("\n");

  const done = async (what: string, template: number | null) => {
    tell({ text: what });
    const fresh = await queries.fetchQuery({
      queryKey: keys.templates,
      queryFn: async () => (await data(client.GET("/api/templates"))).templates,
    });
    props.onKept(fresh.find((one) => one.id === template) ?? null);
  };
  const run = async (work: () => Promise<void>) => {
    setProblem(null);
    try {
      await work();
    } catch (error) {
      setProblem(words(error));
    }
  };
  const keepNew = () =>
    run(async () => {
      if (area === null) return;
      const made = await data(client.POST("/api/templates", { body: { area, name, lines } }));
      await done(`Saved the template ${name}`, made.template);
    });
  const change = (back_to: number | null) =>
    run(async () => {
      if (!from) return;
      const params = { path: { template: from.id } };
      await data(
        client.PUT("/api/templates/{template}", { params, body: { revision: from.revision, name, lines, back_to } }),
      );
      await done(`Saved revision ${from.revision + 1} of the template`, from.id);
    });
  const remove = () =>
    run(async () => {
      if (!from) return;
      const params = { path: { template: from.id }, query: { revision: from.revision } };
      await data(client.DELETE("/api/templates/{template}", { params }));
      await done(`Removed the template ${from.name}; what was made from it stays`, null);
    });
  if (!kept.length && !from?.changes) return null;
  return (
    <div className={`keep-template ${styles.small}`}>
      <Input
        aria-label="Name of the template"
        placeholder="name, to save it as a template"
        value={name}
        maxLength={100}
        onChange={(event) => setName(event.target.value)}
      />
      {kept.length > 1 && !from?.changes && (
        <PickOne
          aria-label="Area of the template"
          of={kept.map((one) => [one.id, `for ${one.name}`] as const)}
          value={area ?? null}
          onChange={setChosen}
        />
      )}
      {from?.changes ? (
        <>
          <Button size="small" disabled={same || !name.trim()} onClick={() => void change(null)}>
            Save the change
          </Button>
          <LinkButton onClick={() => void remove()}>Remove it</LinkButton>
        </>
      ) : (
        <Button size="small" disabled={!name.trim() || area === null} onClick={() => void keepNew()}>
          Save it
        </Button>
      )}
      {from?.changes && from.revisions.length > 1 && (
        <span className={styles.quiet}>
          earlier:{" "}
          {from.revisions.slice(1, 4).map((one) => (
            <LinkButton key={one.revision} onClick={() => void change(one.revision)}>
              {one.revision} ({moment(one.at)})
            </LinkButton>
          ))}
        </span>
      )}
      {problem && <Problem small>{problem}</Problem>}
    </div>
  );
}
