import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Checkbox, Table } from "antd";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { Reasons } from "../parts/reasons/Reasons";
import { Choice } from "../ui/Choice";
import { count, several } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import { words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import { Failed, Loading } from "../ui/states";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { Bar } from "./Bar";
import type { Draft } from "./useDraft";

type On = Schemas["TryRulebookForm"]["on"];
type Show = NonNullable<Schemas["TryRulebookForm"]["show"]>;
type Line = Schemas["TrialLineOut"];

const ON: readonly (readonly [On, string])[] = [
  ["waiting", "what waits"],
  ["filed", "what is filed here"],
  ["month", "the last month"],
];
const NONE: Record<On, string> = {
  waiting: "Nothing waits.",
  filed: "Nothing is filed here.",
  month: "Nothing arrived in the last month.",
};
const DIFFERS = [
  ["new", "more filed"],
  ["otherwise", "filed otherwise"],
  ["no more", "not filed any more"],
] as const;
const BECOMES: Record<string, string> = { files: "is filed", asks: "asks", left: "is left", "no rule": "no rule" };

/** What the draft would do: to what waits, to what is filed here, to last month's arrivals; nothing is changed by it. */
export function TrialPane(props: {
  area: number;
  draft: Draft;
  revision: number;
  /** The chosen rule's name, and what each rule's number is. */
  rule: string | null;
  numbers: Map<string, number>;
  onManifest: (() => void) | null;
}): ReactNode {
  const { draft, area } = props;
  const [on, setOn] = useState<On>("waiting");
  const [show, setShow] = useState<Show | null>(null);
  const [only, setOnly] = useState(false);
  const [asked, setAsked] = useState<Line | null>(null);
  const wrong = draft.settled === draft.text && (draft.checked?.errors.length ?? 0) > 0;
  const body = {
    text: draft.settled,
    revision: null,
    against: null,
    on,
    rule: only ? props.rule : null,
    show,
    limit: 100,
  };
  const tried = useQuery({
    queryKey: keys.tryRules(area, props.revision, body),
    enabled: !!draft.checked?.rules,
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () => data(client.POST("/api/rulebooks/{folder}/try", { params: { path: { folder: area } }, body })),
  });
  const told = tried.data;
  const figure = (what: Show, text: string, of: number | undefined) =>
    of ? (
      <LinkButton aria-pressed={show === what} onClick={() => setShow(show === what ? null : what)}>
        <b>{count(of)}</b> {text}
      </LinkButton>
    ) : (
      <span className={styles.quiet}>none {text}</span>
    );
  return (
    <section className="rules-trial" aria-label="What it would do">
      <div className="rules-head">
        <h2>What it would do to</h2>
        <Choice
          small
          label="Try it on"
          of={ON}
          value={on}
          onChange={(next) => {
            setOn(next);
            setAsked(null);
          }}
        />
      </div>
      <div className={wrong ? "rules-scroll stale" : "rules-scroll"}>
        {wrong && (
          <p className="signal">
            {told ? "The text has errors: this is of the last text without." : "The text has errors."}
          </p>
        )}
        {tried.isError && <Problem small>{words(tried.error)}</Problem>}
        {!told && !tried.isError && <Loading rows={6} />}
        {told && told.documents === 0 && <p className={styles.quiet}>{only ? "None." : NONE[on]}</p>}
        {told && told.documents > 0 && (
          <>
            <Bar
              of={told.documents}
              parts={[
                ["files", told.becomes.files ?? 0],
                ["asks", (told.becomes.asks ?? 0) + (told.becomes.left ?? 0)],
                ["no rule", told.becomes["no rule"] ?? 0],
              ]}
            />
            <p>
              {figure("files", "filed without a person", told.becomes.files)} ·{" "}
              {figure("asks", "ask", told.becomes.asks)}
              {told.becomes.left ? <> · {figure("left", "left", told.becomes.left)}</> : null} ·{" "}
              {figure("no rule", "without a rule", told.becomes["no rule"])} <span className={styles.quiet}>of</span>{" "}
              {several(told.documents, "document")}
              {told.cut && " (the first ones)"}
            </p>
            {props.revision > 0 && (
              <p className={styles.quiet}>
                Against revision {props.revision}:{" "}
                {told.differs["as before"] === told.documents
                  ? "no difference"
                  : DIFFERS.filter(([what]) => told.differs[what]).map(([what, text], n) => (
                      <span key={what}>
                        {n > 0 && ", "}
                        {figure(what, text, told.differs[what])}
                      </span>
                    ))}
                .
              </p>
            )}
          </>
        )}
        {told && props.rule && (
          <Checkbox checked={only} onChange={(event) => setOnly(event.target.checked)}>
            only what “{props.rule}” has to do with
          </Checkbox>
        )}
        {told && told.documents > 0 && (
          <Table<Line>
            size="small"
            className="trial-lines"
            rowKey="document"
            pagination={false}
            dataSource={told.lines}
            rowClassName={(line) => (line.document === asked?.document ? "here" : "")}
            columns={[
              {
                title: "Document",
                ellipsis: true,
                render: (_, line) => (
                  <LinkButton
                    className="mono"
                    title={line.to ?? line.name}
                    onClick={() => setAsked(asked?.document === line.document ? null : line)}
                  >
                    {line.name}
                  </LinkButton>
                ),
              },
              { title: "By", width: 52, render: (_, line) => numbered(line.rules, props.numbers) },
              {
                title: "Change",
                width: 86,
                render: (_, line) =>
                  line.differs === "as before" ? (
                    <span className={styles.quiet}>none</span>
                  ) : (
                    <b>{taken(line) ?? line.differs}</b>
                  ),
              },
              {
                title: <span className={styles.hidden}>What becomes of it</span>,
                width: 70,
                render: (_, line) => (
                  <span className={line.becomes === "files" ? "ok" : "signal"}>{BECOMES[line.becomes]}</span>
                ),
              },
            ]}
          />
        )}
      </div>
      {asked && told && (
        <WhyLine
          key={asked.document}
          area={area}
          text={draft.settled}
          line={asked}
          waits={on === "waiting"}
          onClose={() => setAsked(null)}
        />
      )}
      <footer>
        <span className={styles.quiet}>Nothing is filed by this trial.</span>
        <span className="spring" />
        {on === "filed" && props.onManifest && (
          <LinkButton onClick={props.onManifest}>Make a manifest of it…</LinkButton>
        )}
      </footer>
    </section>
  );
}

/** That a line is taken from another rule. */
function taken(line: Line): string | null {
  const before = line.before[0];
  const now = line.rules[0];
  return before && now && before !== now ? `from “${before}”` : null;
}

function numbered(rules: string[], numbers: Map<string, number>): string {
  const found = rules.map((rule) => numbers.get(rule)).filter((number) => number !== undefined);
  return found.length ? found.join(", ") : "–";
}

function WhyLine(props: { area: number; text: string; line: Line; waits: boolean; onClose: () => void }): ReactNode {
  const { area, text, line } = props;
  const why = useQuery({
    queryKey: keys.whyTried(area, text, line.document),
    retry: false,
    queryFn: () =>
      data(
        client.POST("/api/rulebooks/{folder}/why", {
          params: { path: { folder: area } },
          body: { text, document: line.document },
        }),
      ),
  });
  return (
    <section className="why" aria-label={`Why: ${line.name}`}>
      <h3>
        Why is “{line.name}” {line.becomes === "files" ? "" : "not "}filed?
      </h3>
      {line.to && <p className="mono">{line.to}</p>}
      {why.isError && <Failed what="The reason" error={why.error} onAgain={why.refetch} />}
      {why.data && <Reasons decision={why.data} />}
      <p>
        <Link to={props.waits ? `/arrivals/${line.document}` : `/documents/${line.document}`}>
          {props.waits ? "Open it on Arrivals" : "Open it"}
        </Link>{" "}
        <LinkButton onClick={props.onClose}>{SAY.close}</LinkButton>
      </p>
    </section>
  );
}
