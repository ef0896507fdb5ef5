import { useQuery } from "@tanstack/react-query";
import { Button, Checkbox, Input } from "antd";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import { Failed, Loading } from "../ui/states";
import styles from "../ui/text.module.css";
import { asked, type Draft, draftsOf, lacking, ownDraft } from "./areaDrafts";
import { OutlineKind } from "./OutlineKind";
import "../ui/acts.css";
import "./office.css";

/** Areas to make: chosen from outlines, each changed as one likes, with what its patterns make of a made-up paper. */
export function NewAreas(props: {
  onMade: (made: Schemas["MadeAreas"], names: string[]) => void;
  foot?: ReactNode;
}): ReactNode {
  const outlines = useQuery({ queryKey: keys.outlines, queryFn: () => data(client.GET("/api/outlines")) });
  if (outlines.isError) return <Failed what="The outlines" error={outlines.error} onAgain={outlines.refetch} />;
  if (!outlines.data) return <Loading rows={8} />;
  return <Choosing {...props} start={draftsOf(outlines.data.outlines)} />;
}

function Choosing(props: {
  start: Draft[];
  onMade: (made: Schemas["MadeAreas"], names: string[]) => void;
  foot?: ReactNode;
}): ReactNode {
  const [drafts, setDrafts] = useState(props.start);
  const [shown, setShown] = useState(props.start[0]?.key ?? "");
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const change = (key: string, part: Partial<Draft>) => {
    setProblem(null);
    setDrafts((all) => all.map((one) => (one.key === key ? { ...one, ...part } : one)));
  };
  const one = drafts.find((draft) => draft.key === shown);
  const chosen = drafts.filter((draft) => draft.chosen);
  const why = lacking(drafts);
  const make = () => {
    if (why) return setProblem(why);
    setBusy(true);
    const areas = asked(drafts);
    data(client.POST("/api/areas", { body: { areas } }))
      .then(
        (made) =>
          props.onMade(
            made,
            areas.map((area) => area.name),
          ),
        (error: unknown) => setProblem(words(error)),
      )
      .finally(() => setBusy(false));
  };
  return (
    <form
      className="new-areas"
      onSubmit={(event) => {
        event.preventDefault();
        make();
      }}
    >
      <div className="outlines">
        <ul aria-label="Outlines of areas">
          {drafts.map((draft, at) => (
            <li key={draft.key} className={draft.key === shown ? "here" : ""}>
              <Checkbox
                autoFocus={at === 0}
                checked={draft.chosen}
                onChange={(event) => {
                  change(draft.key, { chosen: event.target.checked });
                  setShown(draft.key);
                }}
              >
                {draft.name || "(no name yet)"}
              </Checkbox>
              <Button
                type="link"
                size="small"
                aria-pressed={draft.key === shown}
                aria-label={`Look at ${draft.name}`}
                onClick={() => setShown(draft.key)}
              >
                Look
              </Button>
            </li>
          ))}
        </ul>
        <Button
          onClick={() => {
            const own = ownDraft(drafts.length);
            setDrafts([...drafts, own]);
            setShown(own.key);
          }}
        >
          An area of your own…
        </Button>
      </div>
      {one && <Outline key={one.key} draft={one} onChange={(part) => change(one.key, part)} />}
      <div className="new-areas-foot">
        {problem && <Problem>{problem}</Problem>}
        <span className={styles.quiet}>{chosen.map((draft) => draft.name).join(", ") || "Nothing chosen yet"}</span>
        {props.foot}
        <Button type="primary" htmlType="submit" loading={busy} disabled={!chosen.length}>
          {chosen.length > 1 ? `Make ${chosen.length} areas` : "Make the area"}
        </Button>
      </div>
    </form>
  );
}

function Outline(props: { draft: Draft; onChange: (part: Partial<Draft>) => void }): ReactNode {
  const { draft, onChange } = props;
  return (
    <section className="outline" aria-label={draft.name || "An area of your own"}>
      <label className="label" htmlFor="area-name">
        Name
      </label>
      <Input
        id="area-name"
        value={draft.name}
        maxLength={120}
        autoFocus={draft.key.startsWith("own")}
        onChange={(event) => onChange({ name: event.target.value })}
      />
      <label className="label" htmlFor="area-purpose">
        What belongs there
      </label>
      <Input
        id="area-purpose"
        value={draft.purpose}
        maxLength={500}
        onChange={(event) => onChange({ purpose: event.target.value })}
      />
      <Checkbox checked={draft.restricted} onChange={(event) => onChange({ restricted: event.target.checked })}>
        Restricted: only you, and whom you give access to it, read it
      </Checkbox>
      {draft.kinds.map((kind) => (
        <OutlineKind
          key={kind.kind}
          area={draft.name}
          kind={kind}
          onChange={(part) =>
            onChange({ kinds: draft.kinds.map((one) => (one.kind === kind.kind ? { ...one, ...part } : one)) })
          }
        />
      ))}
      <p className={`${styles.small} ${styles.quiet}`}>More kinds, and the facts that they ask for, are under Plan.</p>
    </section>
  );
}
